import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { freePort, scratchPostgres } from '../../relay/src/testing/postgres';
import { chanceOf } from './chance';
import { RelayProcess } from './relay-process';
import { runShared, type Mortal, type Shared } from './shared';

// npm run torture:relay -- --commands 10000: devices that share a book through a relay that is killed, on PGlite and on PostgreSQL.

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

function show(where: string, { done, refused, kills, rows, listed, wrong }: Shared): number {
  console.log(
    `${where}: ${done} done, ${refused} refused at once, ${listed} refused in their turn; ${rows} rows in the log; ${kills} kills; ${wrong.length} wrong`,
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
console.log(wrong === 0 ? 'Nothing lost, nothing doubled.' : `${wrong} findings`);
process.exit(wrong === 0 ? 0 : 1);
