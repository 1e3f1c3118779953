import { Fault } from '../faults/fault';
import type { Change } from '../model/change';
import { FIRST_DAY, LAST_DAY } from '../time/day';

const FIRST_INSTANT = Date.parse(`${FIRST_DAY}T00:00:00Z`);
const LAST_INSTANT = Date.parse(`${LAST_DAY}T24:00:00Z`);

/** Fields that hold a day, in whatever table. */
const DAYS = new Set([
  'day',
  'from',
  'to',
  'dueDay',
  'paidBackOn',
  'agreedOn',
  'taxPoint',
  'retentionDue',
  'owesFrom',
  'until',
]);

/**
 * Whatever is written down lies between 1970 and 2200: a slip of the year would otherwise put it where nobody looks, or make a period of
 * centuries. What was written before this was asked stays as it is, unless it is changed.
 */
export function checkMoments(changes: readonly Change[]): void {
  for (const { before, after } of changes) {
    if (!after) continue;
    const was: Readonly<Record<string, unknown>> = before ?? {};
    for (const [field, value] of Object.entries(after)) {
      if (was[field] === value) continue;
      if (typeof value === 'string' && DAYS.has(field) && (value < FIRST_DAY || value > LAST_DAY)) {
        throw new Fault(
          'out-of-range',
          `${value} is no day that anything can be on: days lie between 1970 and 2200.`,
          field,
        );
      }
      if (field === 'spans') refuseFarSpans(value as readonly { start: number; end: number }[]);
    }
  }
}

/** @throws Fault when times lie where nothing can be */
export function refuseFarSpans(spans: readonly { start: number; end: number }[]): void {
  for (const { start, end } of spans) {
    if (start < FIRST_INSTANT || end > LAST_INSTANT) {
      throw new Fault('out-of-range', 'These times lie outside 1970 to 2200. Look at the year.', 'spans');
    }
  }
}
