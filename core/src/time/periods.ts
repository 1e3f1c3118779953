import {
  addDays,
  daysBetween,
  firstOfMonth,
  isoWeekOf,
  lastOfMonth,
  MONTH_NAMES,
  showDayShort,
  startOfWeek,
} from './day';
import type { Day } from './day';

/** A stretch of days, both ends included, and what people call it. */
export interface Period {
  from: Day;
  to: Day;
  name: string;
}

/** The studio's own calendar, as the workspace keeps it. */
export type PeriodRule =
  | { kind: 'monthly'; startsOn: number }
  | { kind: 'fortnightly'; from: Day }
  | { kind: '4-4-5'; from: Day }
  | { kind: 'own'; starts: readonly { from: Day; name: string }[] };

const FORTNIGHT = 14;
const QUARTER = 13 * 7;
/** First day of each part of a 4-4-5 quarter, and the first of the next one. */
const PARTS = [0, 4 * 7, 8 * 7, QUARTER] as const;

/**
 * The billing period a day lies in; null before the first of an own list.
 *
 * 4-4-5: quarters of thirteen weeks cut into four, four and five, counted on from the first day (practice; no leap week is put in).
 */
export function periodOf(rule: PeriodRule, day: Day): Period | null {
  switch (rule.kind) {
    case 'monthly':
      return monthly(rule.startsOn, day);
    case 'fortnightly': {
      const from = addDays(rule.from, Math.floor(daysBetween(rule.from, day) / FORTNIGHT) * FORTNIGHT);
      return named(from, addDays(from, FORTNIGHT - 1), 'Fortnight');
    }
    case '4-4-5': {
      const quarters = Math.floor(daysBetween(rule.from, day) / QUARTER);
      const first = addDays(rule.from, quarters * QUARTER);
      const into = daysBetween(first, day);
      const part = into < PARTS[1] ? 0 : into < PARTS[2] ? 1 : 2;
      const number = (((quarters % 4) + 4) % 4) * 3 + part + 1;
      return named(addDays(first, PARTS[part]), addDays(first, PARTS[part + 1]! - 1), `Period ${number}`);
    }
    case 'own': {
      const starts = rule.starts.toSorted((a, b) => (a.from < b.from ? -1 : 1));
      const index = starts.findLastIndex((start) => start.from <= day);
      if (index < 0) return null;
      const { from, name } = starts[index]!;
      const next = starts[index + 1];
      // The last of the list has no end yet; a year is longer than any billing period.
      return named(from, next ? addDays(next.from, -1) : addDays(from, 365), name || 'Period');
    }
  }
}

function monthly(startsOn: number, day: Day): Period {
  const own = addDays(firstOfMonth(day), startsOn - 1);
  const from = own <= day ? own : addDays(firstOfMonth(day, -1), startsOn - 1);
  const to = addDays(addDays(firstOfMonth(from, 1), startsOn - 1), -1);
  if (startsOn > 1) return named(from, to, 'Billing month');
  return { from, to, name: `${MONTH_NAMES[Number(from.slice(5, 7)) - 1]} ${from.slice(0, 4)}` };
}

const named = (from: Day, to: Day, name: string): Period => ({
  from,
  to,
  name: `${name}, ${showDayShort(from)} – ${showDayShort(to)}`,
});

/** The studio's week that a day lies in: seven days that end on the cut-off weekday. */
export function weekPeriodOf(day: Day, cutOff: number): Period {
  const from = startOfWeek(day, cutOff);
  const to = addDays(from, 6);
  const name = cutOff === 7 ? `Week ${isoWeekOf(day).week}` : 'Week';
  return named(from, to, name);
}

/** What is offered wherever a period is chosen: this and the last week, billing period and calendar month. */
export function offeredPeriods(
  rule: PeriodRule,
  cutOff: number,
  today: Day,
): (Period & { key: string; label: string })[] {
  const week = weekPeriodOf(today, cutOff);
  const lastWeek = weekPeriodOf(addDays(week.from, -1), cutOff);
  const period = periodOf(rule, today);
  const lastPeriod = period && periodOf(rule, addDays(period.from, -1));
  const month = { from: firstOfMonth(today), to: lastOfMonth(today), name: '' };
  const lastMonth = { from: firstOfMonth(today, -1), to: lastOfMonth(firstOfMonth(today, -1)), name: '' };
  const plainMonths = rule.kind === 'monthly' && rule.startsOn === 1;
  return [
    { ...week, key: 'week', label: 'This week' },
    { ...lastWeek, key: 'last-week', label: 'Last week' },
    ...(period ? [{ ...period, key: 'period', label: 'This billing period' }] : []),
    ...(lastPeriod ? [{ ...lastPeriod, key: 'last-period', label: 'Last billing period' }] : []),
    ...(plainMonths
      ? []
      : [
          { ...month, key: 'month', label: 'This month' },
          { ...lastMonth, key: 'last-month', label: 'Last month' },
        ]),
  ];
}

/** The last so many months: the present one up to today, and whole ones before it. */
export const lastMonths = (today: Day, months: number): { from: Day; to: Day } => ({
  from: firstOfMonth(today, 1 - months),
  to: today,
});
