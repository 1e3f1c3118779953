import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Piece } from './attention';
import { settled } from './segments';

const MINUTE = 60_000;

/** Pieces that follow one another, each so many minutes long, after a break of so many. */
function piecesOf(lengths: readonly { minutes: number; apart: number }[]): Piece[] {
  let at = 0;
  return lengths.map(({ minutes, apart }) => {
    const start = at + apart * MINUTE;
    at = start + minutes * MINUTE;
    return { start, end: at, subject: 0, hands: -1, beside: null, decided: null };
  });
}

interface Given {
  minutes: number;
  apart: number;
  strand: number;
  hold: number;
}

const CHANGE = 1.5 * MINUTE;
const GAP = 20 * MINUTE;
const settle = (given: readonly Given[], ruled: readonly boolean[] = []) => [
  ...settled(
    piecesOf(given),
    { of: Int32Array.from(given, (each) => each.strand), hold: Float64Array.from(given, (each) => each.hold), ruled },
    CHANGE,
    GAP,
  ),
];

/** What it costs that pieces go to these strands. */
function costOf(given: readonly Given[], to: readonly number[], ruled: readonly boolean[]): number {
  return given.reduce((sum, { strand, hold, minutes, apart }, at) => {
    const changes = at > 0 && to[at] !== to[at - 1] && apart * MINUTE <= GAP ? CHANGE : 0;
    const isRuled = ruled[strand] || ruled[to[at]!];
    const wrong = to[at] === strand ? 0 : isRuled ? Infinity : hold * minutes * MINUTE;
    return sum + changes + wrong;
  }, 0);
}

function allWays(length: number, strands: number): number[][] {
  if (length === 0) return [[]];
  return allWays(length - 1, strands).flatMap((way) => Array.from({ length: strands }, (_, last) => [...way, last]));
}

const firm = (strand: number, minutes: number): Given => ({ strand, minutes, apart: 0, hold: 1 });
const lookUp = (strand: number, minutes: number): Given => ({ strand, minutes, apart: 0, hold: 0.4 });

describe('where the pieces of a day go', () => {
  it('leaves a short look-up, or a glance at something else, with the work around it', () => {
    expect(settle([firm(0, 10), lookUp(1, 4), firm(0, 10)])).toEqual([0, 0, 0]);
    expect(settle([firm(0, 10), firm(1, 2), firm(0, 10)])).toEqual([0, 0, 0]);
    expect(settle([firm(0, 10), firm(1, 4), firm(0, 10)])).toEqual([0, 1, 0]);
    expect(settle([firm(0, 10), lookUp(1, 9), firm(0, 10)])).toEqual([0, 1, 0]);
  });

  it('gives a look-up between two works to one of them, and keeps what is alone', () => {
    expect(new Set(settle([firm(0, 10), lookUp(1, 2), firm(2, 10)]))).toEqual(new Set([0, 2]));
    expect(settle([lookUp(1, 1)])).toEqual([1]);
    expect(settle([])).toEqual([]);
  });

  it('never mixes what a rule placed with anything else, however short', () => {
    expect(settle([firm(0, 10), firm(1, 1), firm(0, 10)], [false, true])).toEqual([0, 1, 0]);
    expect(settle([firm(0, 10), firm(1, 1), firm(0, 10)], [true, false])).toEqual([0, 1, 0]);
  });

  it('costs nothing to change after a long break', () => {
    const rest: Given = { strand: 1, minutes: 1, apart: 30, hold: 0.4 };
    expect(settle([firm(0, 10), rest])).toEqual([0, 1]);
  });

  it('costs no more than any other way in which each strand begins with a piece of its own', () => {
    const given = fc.record({
      strand: fc.integer({ min: 0, max: 2 }),
      minutes: fc.integer({ min: 1, max: 8 }),
      apart: fc.constantFrom(0, 0, 0, 5, 25),
      hold: fc.constantFrom(0.4, 1),
    });
    fc.assert(
      fc.property(
        fc.array(given, { minLength: 1, maxLength: 6 }),
        fc.tuple(fc.boolean(), fc.constant(false), fc.constant(false)),
        (list, ruled) => {
          const own = costOf(list, settle(list, ruled), ruled);
          for (const way of allWays(list.length, 3)) {
            const begins = way.every((to, at) => to === way[at - 1] || to === list[at]!.strand);
            if (begins && costOf(list, way, ruled) < own - 1e-6) return false;
          }
          return Number.isFinite(own);
        },
      ),
      { numRuns: 150 },
    );
  });
});
