import fc from 'fast-check';
import { expect, it } from 'vitest';
import { SLICE, sortedInSlices } from './slices';
import { runs } from '../testing/runs';

const all = <T>(work: Generator<void, T>): { value: T; pauses: number } => {
  for (let pauses = 0; ; pauses++) {
    const step = work.next();
    if (step.done) return { value: step.value, pauses };
  }
};

it('sorts as at once, what is alike in its order, with pauses in between', () => {
  const row = fc.record({ key: fc.integer({ min: 0, max: 9 }) });
  fc.assert(
    fc.property(fc.array(row, { maxLength: 60 }), fc.integer({ min: 0, max: 3 }), (rows, times) => {
      const list = Array.from({ length: rows.length * (1 + times * 80) }, (_, at) => ({
        ...rows[at % rows.length]!,
        at,
      }));
      const compare = (a: { key: number }, b: { key: number }) => a.key - b.key;
      const { value, pauses } = all(sortedInSlices(list, compare));
      expect(value).toEqual(list.toSorted(compare));
      if (value !== list) expect(pauses).toBeGreaterThanOrEqual(Math.floor(list.length / (4 * SLICE)));
    }),
    { numRuns: runs(40) },
  );
});
