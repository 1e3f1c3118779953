import { executorContract } from '../testing/contract';
import { MemoryExecutor } from './executor';
import { MemoryStore } from '../engine/memory';

executorContract('memory', async (test) => {
  const store = new MemoryStore();
  return { executor: new MemoryExecutor(store, test.context), reader: store, journal: async () => store.journal };
});
