import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sweptActivities, sweptPlacings, type KeptActivity, type Placing } from '.';
import { covered, gaps, union } from '../time/interval';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const at = (minute: number) => NINE + minute * 60_000;
const span = (from: number, to: number) => ({ start: at(from), end: at(to) });
const window = (seq: number, from: number, to: number, more: Partial<KeptActivity> = {}): KeptActivity => ({
  kind: 'window',
  device: 'd',
  seq,
  from: at(from),
  to: at(to),
  program: 'Writing pad',
  ...more,
});
let names = 0;
const nameOf = () => ({ device: 'cut', seq: ++names });
const minutes = (list: readonly KeptActivity[]) =>
  list.map((each) => [each.device, (each.from - NINE) / 60_000, (each.to - NINE) / 60_000]);

describe('sweeping activities away', () => {
  it('takes the times out, and keeps what reaches beyond them', () => {
    const all = [
      window(1, 0, 10),
      window(2, 10, 70, { hands: 600_000 }),
      window(3, 25, 25),
      window(4, 30, 30),
      window(5, 70, 80),
    ];
    const { gone, changed } = sweptActivities(all, { spans: [span(20, 30)], only: null }, nameOf);
    expect(gone.map((each) => each.seq)).toEqual([2, 3]);
    expect(minutes(changed)).toEqual([
      ['d', 10, 20],
      ['cut', 30, 70],
    ]);
    expect(changed.map((each) => each.hands)).toEqual([100_000, 400_000]);
  });

  it('takes only some programs and sites, with all that belongs to neither left', () => {
    const all = [
      window(1, 0, 10, { program: 'Chess' }),
      window(2, 0, 10, { program: 'Chromium', address: 'https://www.news.example/a' }),
      window(3, 0, 10),
      window(4, 50, 60, { program: 'Chess' }),
    ];
    const only = { programs: ['Chess'], sites: ['news.example'] };
    const { gone, changed } = sweptActivities(all, { spans: [span(0, 30)], only }, nameOf);
    expect([gone.map((each) => each.seq), changed]).toEqual([[1, 2], []]);
  });

  it('leaves nothing within, and everything without, whatever overlaps', () => {
    const some = fc
      .tuple(fc.nat(100), fc.integer({ min: 1, max: 60 }))
      .map(([from, length]) => span(from, from + length));
    fc.assert(
      fc.property(fc.array(some, { maxLength: 12 }), fc.array(some, { minLength: 1, maxLength: 4 }), (seen, spans) => {
        const all = seen.map(({ start, end }, index) => ({ ...window(index + 1, 0, 1), from: start, to: end }));
        const { gone, changed } = sweptActivities(all, { spans, only: null }, nameOf);
        const left = [...all.filter((each) => !gone.includes(each)), ...changed];
        const out = union(spans);
        for (const each of left)
          expect(gaps(out, { start: each.from, end: each.to })).toEqual([{ start: each.from, end: each.to }]);
        const lengthOf = (list: readonly KeptActivity[]) => list.reduce((sum, each) => sum + each.to - each.from, 0);
        const wanted = all.reduce((sum, each) => sum + covered(gaps(out, { start: each.from, end: each.to })), 0);
        expect(lengthOf(left)).toBe(wanted);
        expect(new Set(left.map((each) => `${each.device} ${each.seq}`)).size).toBe(left.length);
      }),
    );
  });
});

describe('what was said of it', () => {
  const placing = (id: string, ...spans: Placing['spans']): Placing => ({
    id,
    day: '2026-11-12',
    spans,
    outcome: { act: 'not work' },
    note: '',
    billableSeconds: 60,
    features: ['word secret'],
    at: NINE,
  });

  it('goes with it; of what reaches beyond, the rest stays and nothing that was learned', () => {
    const all = [placing('in', span(10, 20)), placing('out', span(40, 50)), placing('both', span(0, 12), span(18, 30))];
    const { gone, changed } = sweptPlacings(all, [span(10, 20)]);
    expect(gone.map((each) => each.id)).toEqual(['in']);
    expect(changed).toEqual([{ ...all[2], spans: [span(0, 10), span(20, 30)], features: [], billableSeconds: null }]);
  });
});
