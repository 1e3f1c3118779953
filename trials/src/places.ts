import 'fake-indexeddb/auto';
import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { WorkspaceDatabase } from '../../web/src/data/database';
import { DexieExecutor, DexieReader } from '../../web/src/data/executor';
import type { Place } from './commands';
import type { TestContext } from '@half-penny/core/testing';

let count = 0;

export function memoryPlace(test: TestContext): Promise<Place> {
  const store = new MemoryStore();
  return Promise.resolve({
    executor: new MemoryExecutor(store, test.context),
    reader: store,
    journal: () => Promise.resolve([...store.journal]),
    close: () => undefined,
  });
}

/** The browser's own executor, on a stand-in for the browser's database. */
export async function browserPlace(test: TestContext): Promise<Place> {
  const database = new WorkspaceDatabase(`trial-${++count}`);
  await database.open();
  return {
    executor: new DexieExecutor(database, test.context),
    reader: new DexieReader(database),
    journal: () => database.journal.toArray(),
    close: () => database.delete(),
  };
}
