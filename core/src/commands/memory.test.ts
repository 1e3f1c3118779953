import { executorContract } from '../testing/contract';
import { MemoryExecutor, MemoryStore } from './memory';

executorContract('memory', async (test) => {
  const store = new MemoryStore();
  return { executor: new MemoryExecutor(store, test.envelope), reader: store, journal: async () => store.journal };
});
