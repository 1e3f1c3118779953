import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { freePort, scratchPostgres } from '../../relay/src/testing/postgres';
import { chanceOf } from './chance';
import { RelayProcess } from './relay-process';
import { runShared, type Mortal, type Shared } from './shared';
import { SmallDisk } from './small-disk';

// npm run torture:relay -- --commands 10000: devices that share a book through a relay that is killed, on PGlite and on PostgreSQL;
// and through one whose disk is full now and then, where whoever asks may mount one.

const { values } = parseArgs({
  options: {
    commands: { type: 'string', default: '2000' },
    devices: { type: 'string', default: '4' },
    seed: { type: 'string', default: String(Date.now() % 1_000_000) },
  },
});
const count = Number(values.commands);
const options = { devices: Number(values.devices), count, killEvery: Math.max(20, Math.round(count / 25)) };
console.log(`Seed ${values.seed}`);

const again = (relay: RelayProcess): Mortal => ({
  async die() {
    await relay.end('SIGKILL');
    await relay.start();
  },
});

function show(where: string, { done, refused, kills, unreached, rows, listed, wrong }: Shared): number {
  console.log(
    `${where}: ${done} done, ${refused} refused at once, ${listed} refused in their turn; ${rows} rows in the log; ${kills} times ended or full, ${unreached} times not reached; ${wrong.length} wrong`,
  );
  for (const line of [...new Set(wrong)].slice(0, 20)) console.log(`  ${line}`);
  return wrong.length;
}

let wrong = 0;
const folder = mkdtempSync(join(tmpdir(), 'half-penny-relay-'));
const onPglite = new RelayProcess(await freePort(), { RELAY_DATA: folder });
await onPglite.start();
wrong += show(
  'On PGlite',
  await runShared(onPglite.address, options, chanceOf(Number(values.seed)), [again(onPglite)]),
);
await onPglite.end('SIGTERM');
rmSync(folder, { recursive: true, force: true });

const postgres = await scratchPostgres();
const onPostgres = new RelayProcess(await freePort(), { RELAY_DATABASE_URL: postgres.url });
await onPostgres.start();
const restarted: Mortal = {
  async die() {
    await postgres.kill();
    await postgres.start();
  },
};
wrong += show(
  'On PostgreSQL',
  await runShared(onPostgres.address, options, chanceOf(Number(values.seed) + 1), [again(onPostgres), restarted]),
);
await onPostgres.end('SIGTERM');
await postgres.stop();

/** For some seconds nothing can be kept; once there is room again it goes on by itself. */
const full = (disk: SmallDisk): Mortal => ({
  async die() {
    disk.fill();
    await new Promise((resolve) => setTimeout(resolve, 5000));
    disk.empty();
  },
});

async function onFullDisk(where: 'PGlite' | 'PostgreSQL', disk: SmallDisk): Promise<number> {
  const inside = where === 'PostgreSQL' ? await scratchPostgres(disk.folder) : null;
  const relay = new RelayProcess(
    await freePort(),
    inside ? { RELAY_DATABASE_URL: inside.url } : { RELAY_DATA: join(disk.folder, 'relay') },
  );
  await relay.start();
  // The disk is small: what fits on it is fewer, and it is full more often.
  const few = { ...options, count: Math.min(count, 1000), killEvery: 100 };
  const ran = await runShared(relay.address, few, chanceOf(Number(values.seed) + 2), [full(disk)]);
  if (ran.kills > 0 && ran.unreached === 0) ran.wrong.push('It was never too full to keep anything');
  await relay.end('SIGTERM');
  await inside?.stop();
  return show(`On ${where}, full now and then`, ran);
}

for (const where of ['PGlite', 'PostgreSQL'] as const) {
  const disk = SmallDisk.make(200);
  if (!disk) {
    console.log(`On ${where}, full now and then: left out, since only root may mount a disk`);
    continue;
  }
  try {
    wrong += await onFullDisk(where, disk);
  } finally {
    disk.remove();
  }
}
console.log(wrong === 0 ? 'Nothing lost, nothing doubled.' : `${wrong} findings`);
process.exit(wrong === 0 ? 0 : 1);
