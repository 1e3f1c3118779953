import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Fault } from '../faults/fault';
import { runs } from '../testing/runs';
import { shareOut, shareSigned } from '.';
import { fault } from '../testing/fault';

// Who gets which share: largest remainder, by the book and by whole numbers of any size.

/** The same by another route: whole parts first, then one each to the largest remainders, all in big integers and by plain sorting. */
function byTheBook(total: bigint, weights: readonly bigint[]): bigint[] {
  const sum = weights.reduce((all, each) => all + each, 0n);
  const floor = (a: bigint, b: bigint) => (a % b === 0n || a < 0n === b < 0n ? a / b : a / b - 1n);
  const parts = weights.map((weight) => floor(total * weight, sum));
  const rests = weights.map((weight, index) => total * weight - parts[index]! * sum);
  const size = (value: bigint) => (value < 0n ? -value : value);
  const places = weights.map((_, index) => index);
  places.sort((a, b) => (size(rests[a]!) === size(rests[b]!) ? a - b : size(rests[a]!) > size(rests[b]!) ? -1 : 1));
  const left = Number(total - parts.reduce((all, each) => all + each, 0n));
  for (const place of places.slice(0, left)) parts[place]! += 1n;
  return parts;
}

const big = (values: readonly number[]) => values.map(BigInt);

describe('a whole number shared out', () => {
  it.each([
    [1000, [1, 1, 1], [334, 333, 333]],
    [-1000, [1, 1, 1], [-334, -333, -333]],
    [2, [1, 1, 1], [1, 1, 0]],
    [1, [1, 2], [0, 1]],
    [100, [0, 0], [50, 50]],
    [101, [0, 0, 0], [34, 34, 33]],
    [7, [5], [7]],
    [-7, [0], [-7]],
    [0, [3, 4], [0, 0]],
    [10, [0, 1], [0, 10]],
    [5, [1, 1, 2], [1, 1, 3]],
    // Remainders of 2, 1 and 1 sixths: the first takes what is left.
    [8, [2, 1, 3], [3, 1, 4]],
  ])('%i over %j is %j', (total, weights, parts) => {
    expect(shareOut(total, weights)).toEqual(parts);
  });

  it('is by the book, whatever the size', () => {
    const weights = fc.array(fc.integer({ min: 0, max: 1e9 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), weights, (total, list) => {
        fc.pre(list.some((each) => each > 0));
        const sign = total < 0 ? -1n : 1n;
        const ours = shareOut(total, list);
        expect(big(ours).map((part) => part * sign)).toEqual(byTheBook(BigInt(Math.abs(total)), big(list)));
        expect(ours.every((part) => !Object.is(part, -0))).toBe(true);
      }),
      { numRuns: runs(400) },
    );
  });

  it('asks for weights that are weights', () => {
    expect(() => shareOut(1, [])).toThrow(fault('nothing-to-share'));
    expect(() => shareOut(1, [1, -1])).toThrow(Fault);
    expect(() => shareOut(1, [1, 0.5])).toThrow(fault('negative'));
    expect(() => shareOut(1, [Number.MAX_SAFE_INTEGER + 1])).toThrow(fault('negative'));
    // What no number can hold exactly is shared exactly all the same.
    expect(shareOut(2 ** 52, [2 ** 30, 2 ** 30 + 1]).reduce((sum, part) => sum + part, 0)).toBe(2 ** 52);
  });
});

describe('a whole number shared out over weights of either sign', () => {
  it.each([
    [84, [850, -10], [85, -1]],
    [-84, [850, -10], [-85, 1]],
    [84, [-850, 10], [85, -1]],
    [10, [3, 3, 3], [4, 3, 3]],
    [-10, [-3, -3, -3], [-4, -3, -3]],
    [865, [850, 20, -5], [850, 20, -5]],
    [0, [5, -2], [0, 0]],
    [1, [2, -1], [2, -1]],
    [1, [3, -2, 0], [3, -2, 0]],
    [5, [7, -3, 1], [7, -3, 1]],
  ])('%i over %j is %j', (total, weights, parts) => {
    expect(shareSigned(total, weights)).toEqual(parts);
  });

  it('comes to the whole, each part within one of its exact share and by the book', () => {
    const weights = fc.array(fc.integer({ min: -1e6, max: 1e6 }), { minLength: 2, maxLength: 10 });
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), weights, (total, list) => {
        const sum = list.reduce((all, each) => all + each, 0);
        fc.pre(sum !== 0);
        const ours = shareSigned(total, list);
        expect(ours.reduce((all, each) => all + each, 0)).toBe(total);
        ours.forEach((part, index) => {
          const off = BigInt(part) * BigInt(sum) - BigInt(total) * BigInt(list[index]!);
          expect(off < 0n ? -off : off).toBeLessThan(Math.abs(sum));
          if (list[index] === 0) expect(part).toBe(0);
        });
        const [size, whole] = [BigInt(Math.abs(total)), sum < 0 ? list.map((each) => -each) : list];
        expect(big(ours)).toEqual(byTheBook(size, big(whole)).map((part) => (total < 0 ? -part : part)));
      }),
      { numRuns: runs(400) },
    );
  });

  it('has no proportion where the weights come to nothing', () => {
    expect(() => shareSigned(5, [3, -3])).toThrow('come to 0');
    expect(() => shareSigned(5, [])).toThrow('come to 0');
  });
});
