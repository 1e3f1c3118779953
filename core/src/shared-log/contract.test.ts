import { engine, type Executor } from '../commands';
import { MemoryStore } from '../engine';
import { executorContract } from '../testing/contract';
import { MemoryDevice, MemoryRelay } from '../testing/shared-log';
import type { TestContext } from '../testing/studio';

/** One device of a shared workspace that meets the log after everything it does: nobody should notice. */
function deviceThatMeetsTheLog(test: TestContext) {
  const relay = new MemoryRelay();
  const device = new MemoryDevice(1, test.now, test.device);
  device.begin(new MemoryStore());
  // A device and the log are brought together one at a time.
  let last: Promise<unknown> = Promise.resolve();
  const done = (doing: () => ReturnType<MemoryDevice['run']>) => {
    const turn = last.then(() => doneInTurn(doing));
    last = turn.catch(() => undefined);
    return turn;
  };
  const doneInTurn = async (doing: () => ReturnType<MemoryDevice['run']>) => {
    device.now = test.now;
    device.memberId = test.memberId;
    const { row } = await doing();
    await device.settle(relay);
    return row ?? device.store.journal.at(-1)!;
  };
  const executor: Executor = {
    run: (name, input) => done(() => device.run(name, input)),
    undo: (seq) => done(() => device.undo(seq)),
    redo: () => done(() => device.redo()),
    standing: () => engine.standing(device.store, device.device),
  };
  return Promise.resolve({
    executor,
    reader: device.store,
    journal: () => Promise.resolve([...device.store.journal]),
  });
}

executorContract('A shared workspace', deviceThatMeetsTheLog);
