import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHUNK, FactTable } from '../column-store/fact-table';
import { Aggregator } from '../column-store/aggregator';

const sumOf = (table: FactTable) => {
  const tally = new Aggregator([{ dimension: 'client', map: null, size: 10 }], [], ['recorded', 'worth']);
  for (const _ of tally.addAll(table));
  const sums: Record<string, number[]> = {};
  for (let group = 0; group < tally.count; group++) {
    if (tally.facts[group])
      sums[tally.codesOf(group)[0]!] = [tally.facts[group]!, tally.sums[0]![group]!, tally.sums[1]![group]!];
  }
  return sums;
};

describe('facts in columns', () => {
  it('hold what was put in and not taken out, in any order', () => {
    const step = fc.record({
      source: fc.integer({ min: 1, max: 12 }),
      client: fc.nat(3),
      recorded: fc.nat(5),
      out: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 80 }), (steps) => {
        const table = new FactTable();
        const model = new Map<number, { client: number; recorded: number }[]>();
        for (const { source, client, recorded, out } of steps) {
          if (out) {
            table.remove(source);
            model.delete(source);
          } else {
            table.add({ source, client, recorded, worth: recorded * 100 });
            model.set(source, [...(model.get(source) ?? []), { client, recorded }]);
          }
        }
        const expected: Record<string, number[]> = {};
        for (const { client, recorded } of [...model.values()].flat()) {
          const own = (expected[client] ??= [0, 0, 0]);
          own[0]!++;
          own[1]! += recorded;
          own[2]! += recorded * 100;
        }
        expect(sumOf(table)).toEqual(expected);
        for (const [source, rows] of model) expect(table.rowsOf(source)).toHaveLength(rows.length);
      }),
    );
  });

  it('go over into another chunk, and back', () => {
    const table = new FactTable();
    for (let i = 0; i < CHUNK + 10; i++) table.add({ source: i + 1, client: 1, recorded: 1, worth: 2 });
    expect(sumOf(table)).toEqual({ 1: [CHUNK + 10, CHUNK + 10, 2 * CHUNK + 20] });
    for (let i = 0; i < 20; i++) table.remove(i + 1);
    expect(table.chunks).toHaveLength(1);
    expect(sumOf(table)).toEqual({ 1: [CHUNK - 10, CHUNK - 10, 2 * CHUNK - 20] });
  });
});

describe('a tally', () => {
  const table = new FactTable();
  for (let i = 0; i < 5000; i++)
    table.add({ client: i % 7, service: i % 1000, member: i % 900, day: 1 + (i % 950), recorded: i });

  it('tells groups apart by their keys whether these are few or very many', () => {
    const levels = (sizes: number[]) =>
      (['client', 'service', 'member', 'day'] as const).map((dimension, index) => ({
        dimension,
        map: null,
        size: sizes[index]!,
      }));
    // Few keys are looked up, more are hashed, most are told apart in two stages.
    const counts = [
      [7, 1000],
      [7, 1000, 1000, 1000],
      [1e6, 1e6, 1e6, 1e6],
    ].map((sizes) => {
      const tally = new Aggregator(levels(sizes).slice(0, sizes.length), [], ['recorded']);
      for (const _ of tally.addAll(table));
      let sum = 0;
      for (let group = 0; group < tally.count; group++) sum += tally.sums[0]![group]!;
      const distinct = new Set(Array.from({ length: tally.count }, (_, group) => tally.codesOf(group).join()));
      expect(distinct.size).toBe(tally.count);
      return [tally.count, sum];
    });
    const whole = (4999 * 5000) / 2;
    const distinct = new Set(Array.from({ length: 5000 }, (_, i) => `${i % 7} ${i % 1000}`)).size;
    expect(counts).toEqual([
      [distinct, whole],
      [5000, whole],
      [5000, whole],
    ]);
  });

  it('takes off what it added', () => {
    const tally = new Aggregator([{ dimension: 'client', map: null, size: 7 }], [], ['recorded']);
    for (const _ of tally.addAll(table));
    tally.addRows(table, [0, 7, 14], -1);
    const zero = Array.from({ length: tally.count }, (_, group) => group).find(
      (group) => tally.codesOf(group)[0] === 0,
    )!;
    const own = Array.from({ length: 5000 }, (_, i) => i).filter((i) => i % 7 === 0);
    expect(tally.sums[0]![zero]).toBe(own.reduce((sum, i) => sum + i, 0) - 21);
    expect(tally.facts[zero]).toBe(own.length - 3);
  });
});
