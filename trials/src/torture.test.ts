import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { describe, expect, it } from 'vitest';
import { chanceOf } from './chance';
import { runCommands } from './commands';
import { browserPlace, memoryPlace } from './places';

describe('random commands', () => {
  it('lose and double nothing in memory', async () => {
    const ran = await runCommands(memoryPlace, 3000, chanceOf(1));
    expect(ran.wrong).toEqual([]);
    expect(ran.done).toBeGreaterThan(1500);
  });

  it('lose and double nothing through the browser’s executor', async () => {
    const ran = await runCommands(browserPlace, 450, chanceOf(2));
    expect(ran.wrong).toEqual([]);
    expect(ran.done).toBeGreaterThan(200);
  });

  it('are looked at: a change that is not kept is found', async () => {
    const { wrong } = await runCommands(
      (test) => {
        const store = new MemoryStore();
        const executor = new MemoryExecutor(store, test.context);
        return Promise.resolve({
          executor,
          reader: store,
          // The last change never reached the disk.
          journal: () => Promise.resolve(store.journal.slice(0, store.journal.length > 60 ? -1 : undefined)),
          close: () => undefined,
        });
      },
      300,
      chanceOf(3),
    );
    expect(wrong.join('\n')).toMatch(/1 rows of history are lost/);
    expect(wrong.join('\n')).toMatch(/the history was cut|not what change|missing/);
  });
});
