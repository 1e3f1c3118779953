import type { Id } from '../model/ids';
import type { Markup } from '../model/records';
import { SCALE, fromScaled, toScaled, type Decimal } from '../money/decimal';
import { divideRounded } from '../money/rational';
import type { Day } from '../time/day';
import type { WorkTree } from './tree';

const PLACES_OF_MARGIN = 2;

/** What is added to costs of a type on a project: the narrowest where, of several dates the latest not after the day. */
export function markupOn(
  markups: readonly Markup[],
  tree: WorkTree,
  question: { projectId: Id; costType: Markup['costType']; day: Day },
): Markup | null {
  const places = tree.placesOf(question.projectId, null);
  const placeOf = (row: Markup) => places.indexOf(row.projectId ?? row.contractId ?? row.clientId);
  let best: Markup | null = null;
  for (const row of markups) {
    if (row.costType !== question.costType || row.from > question.day || placeOf(row) < 0) continue;
    if (!best || placeOf(row) < placeOf(best) || (placeOf(row) === placeOf(best) && row.from > best.from)) best = row;
  }
  return best;
}

/**
 * The margin that a markup comes to, in percent to two places: markup ÷ (1 + markup).
 *
 * @param markup percent added to cost
 * @returns null for a markup of −100 %, where there is no price to have a margin of
 * @example marginOf('35') // → '25.93'
 */
export function marginOf(markup: Decimal): Decimal | null {
  const scaled = toScaled(markup);
  const whole = 100 * SCALE;
  if (scaled <= -whole) return null;
  const hundredths = divideRounded(BigInt(scaled) * 10_000n, BigInt(whole + scaled), 'half away from zero');
  return fromScaled(hundredths * 10 ** (4 - PLACES_OF_MARGIN));
}
