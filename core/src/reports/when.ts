import * as z from 'zod';
import { Fault } from '../faults/fault';
import { day } from '../model/fields';
import { addDays, daysBetween, firstOfMonth, lastOfMonth, type Day } from '../time/day';
import { periodOf, weekPeriodOf, type PeriodRule } from '../time/periods';

/** Days of a report, both ends included; null where all days count. */
export interface Range {
  from: Day;
  to: Day;
}

/** What moves with the day a report is run on, with its words. */
export const movings = {
  'this week': 'This week',
  'last week': 'Last week',
  'this month': 'This month',
  'last month': 'Last month',
  'this quarter': 'This quarter',
  'last quarter': 'Last quarter',
  'this year': 'This year',
  'last year': 'Last year',
  'billing period': 'This billing period',
  'last billing period': 'Last billing period',
  'last 30 days': 'The last 30 days',
  'last 12 months': 'The last 12 months',
} as const;
export type Moving = keyof typeof movings;

const moving = z.enum(Object.keys(movings) as [Moving, ...Moving[]]);

/** The days that a report is of. */
export const whenSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('all') }),
  z.strictObject({ kind: z.literal('fixed'), from: day, to: day }),
  z.strictObject({ kind: z.literal('moving'), name: moving }),
]);
export type When = z.infer<typeof whenSchema>;

export interface Calendar {
  periods: PeriodRule;
  cutOff: number;
}

const quarterOf = (day: Day, quarters = 0): Range => {
  const into = (Number(day.slice(5, 7)) - 1) % 3;
  const from = firstOfMonth(day, quarters * 3 - into);
  return { from, to: lastOfMonth(firstOfMonth(from, 2)) };
};

const yearOf = (day: Day, years = 0): Range => {
  const year = String(Number(day.slice(0, 4)) + years).padStart(4, '0');
  return { from: `${year}-01-01`, to: `${year}-12-31` };
};

const monthOf = (day: Day, months = 0): Range => {
  const from = firstOfMonth(day, months);
  return { from, to: lastOfMonth(from) };
};

/**
 * The days of a report when it is run.
 *
 * @throws Fault when it ends before it starts, or when no billing period holds the day
 */
export function rangeOf(when: When, runOn: Day, { periods, cutOff }: Calendar): Range | null {
  switch (when.kind) {
    case 'all':
      return null;
    case 'fixed':
      if (when.to < when.from) {
        throw new Fault('end-before-start', 'The period ends before it starts.', 'when.to', {
          from: when.from,
          to: when.to,
        });
      }
      return { from: when.from, to: when.to };
    case 'moving':
      return movingRange(when.name, runOn, { periods, cutOff });
  }
}

function movingRange(name: Moving, runOn: Day, { periods, cutOff }: Calendar): Range {
  const week = weekPeriodOf(runOn, cutOff);
  const billing = (day: Day): Range => {
    const period = periodOf(periods, day);
    if (!period)
      throw new Fault('no-period', 'No billing period holds that day. Set them up in Setup → Recording.', 'when', {
        day,
      });
    return { from: period.from, to: period.to };
  };
  switch (name) {
    case 'this week':
      return { from: week.from, to: week.to };
    case 'last week':
      return { from: addDays(week.from, -7), to: addDays(week.to, -7) };
    case 'this month':
      return monthOf(runOn);
    case 'last month':
      return monthOf(runOn, -1);
    case 'this quarter':
      return quarterOf(runOn);
    case 'last quarter':
      return quarterOf(runOn, -1);
    case 'this year':
      return yearOf(runOn);
    case 'last year':
      return yearOf(runOn, -1);
    case 'billing period':
      return billing(runOn);
    case 'last billing period':
      return billing(addDays(billing(runOn).from, -1));
    case 'last 30 days':
      return { from: addDays(runOn, -29), to: runOn };
    case 'last 12 months':
      return { from: firstOfMonth(runOn, -11), to: lastOfMonth(runOn) };
  }
}

/** Whole months from its first to its last day? Then it is compared with whole months too. */
const wholeMonths = ({ from, to }: Range): number | null => {
  if (!from.endsWith('-01') || lastOfMonth(to) !== to) return null;
  return (
    (Number(to.slice(0, 4)) - Number(from.slice(0, 4))) * 12 + Number(to.slice(5, 7)) - Number(from.slice(5, 7)) + 1
  );
};

/** As long a time just before; whole months for whole months. */
export function rangeBefore(range: Range): Range {
  const months = wholeMonths(range);
  if (months !== null) return { from: firstOfMonth(range.from, -months), to: addDays(range.from, -1) };
  return { from: addDays(range.from, -daysBetween(range.from, range.to) - 1), to: addDays(range.from, -1) };
}

/** The same days of the year before; the last of February where there is no 29th. */
export function rangeYearBefore({ from, to }: Range): Range {
  const back = (day: Day): Day => {
    const first = firstOfMonth(day, -12);
    const last = lastOfMonth(first);
    const same = `${first.slice(0, 8)}${day.slice(8)}`;
    return day === lastOfMonth(day) || same > last ? last : same;
  };
  return { from: back(from), to: back(to) };
}
