import { closingOn } from '@half-penny/core/checking';
import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { idSource, tableNames, type Entry } from '@half-penny/core/model';
import { makeDemo } from '@half-penny/demo';
import { randomFillSync } from 'node:crypto';
import { compare, count, median } from './measure';

const MANY = count(20_000, 400);
const FEW = 20;
const RUNS = count(7, 2);

/**
 * A command on 20,000 entries against the same on 20, in one workspace of that size: what each row costs must not grow with how many there
 * are. Checked, recorded in the history and hashed as always.
 */
export async function benchCommands(): Promise<void> {
  const now = Date.parse('2026-11-12T15:00:00Z');
  const demo = await makeDemo({ now });
  const newId = idSource(
    () => now,
    (bytes) => randomFillSync(bytes),
  );
  // On closed days nothing changes.
  const closings = demo.rows('closings');
  const own = demo
    .rows('entries')
    .filter((entry) => entry.stretchIds.length === 0 && !closingOn(closings, entry.memberId, entry.day));
  const entries = Array.from({ length: MANY }, (_, index): Entry => ({
    ...own[index % own.length]!,
    id: newId(),
    planId: null,
  }));
  const [device, memberId] = [newId(), demo.rows('members')[0]!.id];
  // Each run begins from the same store, so that the history of those before it is in nobody's way.
  const executorOn = () => {
    const store = new MemoryStore().load({ ...everyTable(demo), entries: [...demo.rows('entries'), ...entries] }, []);
    return new MemoryExecutor(store, () => ({ now, memberId, newId, device }));
  };
  const perRow = async (ids: string[]) => {
    const executor = executorOn();
    let turn = 0;
    const time = await median(RUNS, async () => {
      turn++;
      await executor.run('entry.tag', {
        ids,
        add: [turn % 2 === 0 ? 'even' : 'odd'],
        remove: [turn % 2 === 0 ? 'odd' : 'even'],
      });
    });
    return time / ids.length;
  };
  const ids = entries.map((entry) => entry.id);
  const few = await perRow(ids.slice(0, FEW));
  const many = await perRow(ids);
  const micro = (value: number) => `${Math.round(value * 1000)} µs`;
  compare({
    what: `A command on ${MANY.toLocaleString('en-GB')} entries, each`,
    own: micro(many),
    peer: `on ${FEW}`,
    other: micro(few),
    ratio: many / few,
    aim: 2,
  });
}

/** The rows of the demo by table. */
function everyTable(store: MemoryStore): Parameters<MemoryStore['load']>[0] {
  return Object.fromEntries(tableNames.map((table) => [table, store.rows(table)]));
}
