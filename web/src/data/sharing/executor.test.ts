import 'fake-indexeddb/auto';
import { engine } from '@half-penny/core/commands';
import { beginning, LOG_START, SharedWorkspace } from '@half-penny/core/shared-log';
import { executorContract, MemoryRelay, openedOf, rowsFrom, setUp, TestContext, work } from '@half-penny/core/testing';
import { expect, it } from 'vitest';
import { WorkspaceDatabase } from '../database';
import { DexieExecutor, DexieReader, DexieTransaction, waits } from '../executor';
import { makeUnsettled } from '../unsettled';

let count = 0;

/** A shared workspace in the browser's database, with a relay in memory that is met when it is asked to. */
async function shared(test: TestContext) {
  const database = new WorkspaceDatabase(`shared-${++count}`);
  await database.open();
  await makeUnsettled(database, new DexieReader(database));
  const relay = new MemoryRelay();
  const { device } = test.context();
  const book = test.context().newId();
  await database.share.put(beginning(book, device, LOG_START));
  const workspace = new SharedWorkspace(engine);
  const here = () => ({ now: test.now, memberId: test.memberId });
  const transact = <T>(task: (tx: DexieTransaction) => Promise<T>) =>
    database.transaction('rw', database.tables, (tx) => task(new DexieTransaction(tx))) as Promise<T>;
  const meet = async () => {
    for (;;) {
      const out = await transact((tx) => workspace.outgoing(tx, here()));
      if (!out) return;
      const rows = rowsFrom(out.after, out.bodies, device);
      expect(relay.append(out.after, rows).taken).toBe(true);
      await transact((tx) => workspace.hear(tx, openedOf(out.after, rows), here()));
    }
  };
  return {
    database,
    relay,
    meet,
    executor: new DexieExecutor(database, test.context),
    reader: new DexieReader(database),
  };
}

executorContract('Dexie, shared', async (test) => {
  const { database, meet, executor, reader } = await shared(test);
  let last: Promise<unknown> = Promise.resolve();
  const met = <T>(doing: () => Promise<T>) => {
    const turn = last.then(async () => {
      const done = await doing();
      await meet();
      return done;
    });
    last = turn.catch(() => undefined);
    return turn;
  };
  const newest = async (row: Awaited<ReturnType<typeof executor.run>>) =>
    waits(row) ? (await database.journal.orderBy('[device+seq]').last())! : row;
  return {
    executor: {
      run: async (name, input) => newest(await met(() => executor.run(name, input))),
      undo: (seq) => met(() => executor.undo(seq)),
      redo: () => met(() => executor.redo()),
      standing: () => executor.standing(),
    },
    reader,
    journal: () => database.journal.toArray(),
  };
});

it('gives every row its place in the log, and lets what others see wait until the log is met', async () => {
  const test = new TestContext();
  const { database, relay, meet, executor, reader } = await shared(test);
  const at = await setUp(executor, test);
  await executor.run('entry.add', work(at.rig, 3600));
  await meet();
  const row = await executor.run('period.close', {
    from: '2026-10-01',
    to: '2026-10-31',
    memberId: null,
    anyway: true,
  });
  expect(waits(row)).toBe(true);
  expect(await reader.all('closings')).toEqual([]);
  await meet();
  expect(await reader.all('closings')).toHaveLength(1);
  const journal = await database.journal.toArray();
  expect(journal.map((each) => each.place)).toEqual(journal.map((_, index) => index + 1));
  expect(relay.head.number).toBe(journal.length);
});
