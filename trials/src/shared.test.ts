import type { AddressInfo } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { makeRelay } from '../../relay/src/app';
import { openDatabase } from '../../relay/src/sql';
import { scratchPostgres } from '../../relay/src/testing/postgres';
import { chanceOf } from './chance';
import { runShared, type Mortal } from './shared';

const ends: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function relayOn(at: Parameters<typeof openDatabase>[0]): Promise<string> {
  const relay = await makeRelay(await openDatabase(at), { requestsAMinute: 1_000_000 });
  await relay.listen({ host: '127.0.0.1', port: 0 });
  ends.push(() => relay.close());
  return `http://127.0.0.1:${(relay.server.address() as AddressInfo).port}`;
}

it('loses and doubles nothing of what three devices do through a relay on PGlite', async () => {
  const address = await relayOn({ folder: undefined });
  const ran = await runShared(address, { devices: 3, count: 200, killEvery: 1 }, chanceOf(11), []);
  expect(ran.wrong).toEqual([]);
  expect(ran.rows).toBeGreaterThan(80);
  expect(ran.listed).toBeGreaterThan(0);
});

it('loses and doubles nothing of what devices do through a relay on a PostgreSQL that is killed', async () => {
  const postgres = await scratchPostgres();
  ends.push(() => postgres.stop());
  const address = await relayOn({ address: postgres.url });
  const killed: Mortal = {
    async die() {
      await postgres.kill();
      await postgres.start();
    },
  };
  const ran = await runShared(address, { devices: 3, count: 200, killEvery: 40 }, chanceOf(12), [killed]);
  expect(ran.wrong).toEqual([]);
  expect(ran.kills).toBeGreaterThan(1);
  expect(ran.rows).toBeGreaterThan(80);
});
