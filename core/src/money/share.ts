import { Fault } from '../model/fault';

/**
 * Shares a whole number out in proportion to weights, by largest remainder: each gets the whole part of its share, and what is
 * left goes one by one to the largest remainders (the earlier one first where they are equal). The parts always sum to `total`.
 * Weights that are all zero share equally.
 *
 * @param total whole number, may be negative
 * @param weights whole numbers of zero or more, at least one
 * @throws Fault for an empty or negative weight list
 */
export function shareOut(total: number, weights: readonly number[]): number[] {
  if (weights.length === 0) throw new Fault('There is nothing to share over.', '', { total });
  let sum = 0;
  for (const weight of weights) {
    if (!Number.isSafeInteger(weight) || weight < 0)
      throw new Fault('A share needs weights of zero or more.', '', { weight });
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
    const order = weights.map((_, index) => index);
    order.sort((a, b) => (remainders[a]! > remainders[b]! ? -1 : remainders[a]! < remainders[b]! ? 1 : a - b));
    for (const index of order) {
      if (left-- === 0) break;
      parts[index]! += 1;
    }
  }
  return sign < 0 ? parts.map((part) => -part || 0) : parts;
}
