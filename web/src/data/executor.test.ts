import 'fake-indexeddb/auto';
import { executorContract, setUp, TestContext, work } from '@half-penny/core/testing';
import Dexie from 'dexie';
import { expect, it } from 'vitest';
import { WorkspaceDatabase } from './database';
import { DexieExecutor, DexieReader } from './executor';

let count = 0;

executorContract('Dexie', async (test) => {
  const database = new WorkspaceDatabase(`contract-${++count}`);
  await database.open();
  return {
    executor: new DexieExecutor(database, test.context),
    reader: new DexieReader(database),
    journal: () => database.journal.toArray(),
  };
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
