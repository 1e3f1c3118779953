import 'fake-indexeddb/auto';
import { executorContract, setUp, TestContext, work } from '@half-penny/core/testing';
import Dexie from 'dexie';
import { afterEach, expect, it } from 'vitest';
import { WorkspaceDatabase } from './database';
import { DexieExecutor, DexieReader } from './executor';
import { dropUnsettled, makeUnsettled } from './unsettled';

let count = 0;
let database: WorkspaceDatabase | null = null;

/** The index as it stands, and as it would be made again. */
async function unsettled(of: WorkspaceDatabase): Promise<[kept: string[], made: string[]]> {
  const ids = async () => (await of.unsettled.toArray()).map((row) => `${row.id} ${row.projectId}`).sort();
  const kept = await ids();
  await dropUnsettled(of);
  await makeUnsettled(of, new DexieReader(of));
  return [kept, await ids()];
}

/** How many entries were left in the index by all tests of the contract. */
let indexed = 0;

afterEach(async () => {
  if (!database) return;
  const [kept, made] = await unsettled(database);
  expect(kept).toEqual(made);
  indexed += made.length - 1;
  database.close();
  database = null;
});

executorContract('Dexie', async (test) => {
  const own = (database = new WorkspaceDatabase(`contract-${++count}`));
  await own.open();
  await makeUnsettled(own, new DexieReader(own));
  return {
    executor: new DexieExecutor(own, test.context),
    reader: new DexieReader(own),
    journal: () => own.journal.toArray(),
  };
});

it('had entries in the index of what is not settled while the contract was tried', () =>
  expect(indexed).toBeGreaterThan(5));

it('knows what is not settled through drafting, issuing, voiding, giving up and undoing', async () => {
  const test = new TestContext();
  const own = new WorkspaceDatabase('settling');
  await makeUnsettled(own, new DexieReader(own));
  const executor = new DexieExecutor(own, test.context);
  const at = await setUp(executor, test);
  const add = async (...args: Parameters<typeof work>) =>
    (await executor.run('entry.add', work(...args))).changes[0]!.id;
  const [billed, partly, never] = [await add(at.rig, 3600), await add(at.rig, 7200), await add(at.rig, 1800)];
  await add(null, 900);
  await add(at.rig, 600, { billableSeconds: 0 });
  const open = async () => {
    const [kept, made] = await unsettled(own);
    expect(kept).toEqual(made);
    return kept.map((row) => row.split(' ')[0]).filter((id) => id !== 'complete');
  };
  expect(await open()).toEqual([billed, partly, never].sort());
  const { changes } = await executor.run('invoice.draft', {
    clientId: at.playhouse,
    entryIds: [billed, partly],
    parts: { [partly]: 3600 },
  });
  const id = changes.find((change) => change.table === 'invoices')!.id;
  expect(await open()).toEqual([billed, partly, never].sort());
  await executor.run('invoice.issue', { id });
  expect(await open()).toEqual([partly, never].sort());
  await executor.run('bill.adjust', { entryIds: [never], kind: 'never billed', reason: 'Goodwill' });
  expect(await open()).toEqual([partly]);
  await executor.undo();
  expect(await open()).toEqual([partly, never].sort());
  await executor.run('entry.remove', { ids: [never] });
  expect(await open()).toEqual([partly]);
  own.close();
});

it('has an index in the database for each one the model names', async () => {
  const database = new WorkspaceDatabase('indexes');
  await database.open();
  const keys = database.table('entries').schema.indexes.map((index) => index.name);
  expect(keys).toEqual(expect.arrayContaining(['day', '[memberId+day]', '[projectId+day]']));
});

it('brings the rows of an older database forward as it opens', async () => {
  const old = new WorkspaceDatabase('older', []);
  const executor = new DexieExecutor(old, new TestContext().context);
  const at = await setUp(executor, new TestContext());
  old.close();
  const steps = [1, 2].map((from) => ({
    from,
    row: (table: string, row: Record<string, unknown>) =>
      table === 'services' ? { ...row, name: `${row.name as string} ${from}` } : row,
  }));
  const current = new WorkspaceDatabase('older', steps);
  expect((await current.rows('services').get(at.design))?.name).toBe('Lighting design 1 2');
  expect(await current.rows('clients').count()).toBe(2);
  current.close();
});

it('gives a database of before reports were kept a table for them', async () => {
  const old = new Dexie('before');
  old.version(1).stores({ services: 'id', journal: '[device+seq]' });
  await old.table('services').add({ id: 'design' });
  old.close();
  const current = new WorkspaceDatabase('before');
  expect(await current.rows('reports').count()).toBe(0);
  expect(await current.rows('services').count()).toBe(1);
  current.close();
});

it('leaves nothing half done when the journal cannot be written', async () => {
  const test = new TestContext();
  const database = new WorkspaceDatabase('half');
  const executor = new DexieExecutor(database, test.context);
  const at = await setUp(executor, test);
  const fail = () => {
    throw new Error('no room');
  };
  database.journal.hook('creating', fail);
  await expect(executor.run('entry.add', work(at.rig, 60))).rejects.toThrow('no room');
  database.journal.hook('creating').unsubscribe(fail);
  expect(await database.rows('entries').count()).toBe(0);
  await executor.run('entry.add', work(at.rig, 60));
  expect(await database.rows('entries').count()).toBe(1);
});
