import { Fault } from '../faults/fault';

/**
 * Shares a whole number out in proportion to weights, by largest remainder: each gets the whole part of its share, and what is
 * left goes one by one to the largest remainders (the earlier one first where they are equal). The parts always sum to `total`.
 * Weights that are all zero share equally.
 *
 * @param total whole number, may be negative
 * @param weights whole numbers of zero or more, at least one
 * @throws Fault for an empty or negative weight list
 * @example shareOut(100, [1, 1, 1]) // → [34, 33, 33]
 */
export function shareOut(total: number, weights: readonly number[]): number[] {
  if (weights.length === 0) throw new Fault('nothing-to-share', 'There is nothing to share over.', '', { total });
  let sum = 0;
  for (const weight of weights) {
    if (!Number.isSafeInteger(weight) || weight < 0)
      throw new Fault('negative', 'A share needs weights of zero or more.', '', { weight });
    sum += weight;
  }
  if (weights.length === 1) return [total];
  if (sum === 0)
    return shareOut(
      total,
      weights.map(() => 1),
    );
  const sign = total < 0 ? -1 : 1;
  const magnitude = Math.abs(total);
  const parts: number[] = [];
  const remainders: (number | bigint)[] = [];
  let given = 0;
  for (const weight of weights) {
    const quick = magnitude * weight;
    let part: number;
    if (Number.isSafeInteger(quick)) {
      const rest = quick % sum;
      part = (quick - rest) / sum;
      remainders.push(rest);
    } else {
      const exact = BigInt(magnitude) * BigInt(weight);
      part = Number(exact / BigInt(sum));
      remainders.push(exact % BigInt(sum));
    }
    parts.push(part);
    given += part;
  }
  let left = magnitude - given;
  if (left > 0) {
    for (const index of byRemainder(remainders)) {
      if (left-- === 0) break;
      parts[index]! += 1;
    }
  }
  return sign < 0 ? parts.map((part) => -part || 0) : parts;
}

/**
 * Shares a whole number out in proportion to weights of either sign, by largest remainder: each part has its weight's own sign as long as
 * `total` has that of their sum, so that the same percentage comes off each. The parts always sum to `total`.
 *
 * @param total whole number, may be negative
 * @param weights whole numbers that do not come to 0 together
 * @throws Fault when the weights come to 0, as nothing can be in proportion to that
 * @example shareSigned(84, [850, -10]) // → [85, -1]
 */
export function shareSigned(total: number, weights: readonly number[]): number[] {
  const sum = weights.reduce((all, each) => all + each, 0);
  if (sum === 0)
    throw new Fault('nothing-to-share', 'Nothing can be shared in proportion to weights that come to 0.', '', {
      total,
    });
  if (weights.every((weight) => weight * sum >= 0)) {
    return shareOut(
      total,
      weights.map((weight) => Math.abs(weight)),
    );
  }
  const sign = total < 0 ? -1 : 1;
  const [magnitude, whole] = [BigInt(Math.abs(total)), BigInt(Math.abs(sum))];
  const parts = weights.map((weight) => {
    const exact = magnitude * BigInt(sum < 0 ? -weight : weight);
    const rest = ((exact % whole) + whole) % whole;
    return { part: Number((exact - rest) / whole), rest };
  });
  let left = Math.abs(total) - parts.reduce((all, { part }) => all + part, 0);
  for (const index of byRemainder(parts.map(({ rest }) => rest))) {
    if (left-- <= 0) break;
    parts[index]!.part += 1;
  }
  return parts.map(({ part }) => part * sign || 0);
}

/** Places by the size of their remainders, the largest first; sorting is stable, so of equal ones the earlier stays before. */
const byRemainder = (remainders: readonly (number | bigint)[]): number[] =>
  [...remainders.keys()].sort((a, b) => {
    if (remainders[a]! > remainders[b]!) return -1;
    return remainders[a]! < remainders[b]! ? 1 : 0;
  });
