import ICAL from 'ical.js';
import { Fault } from '../faults/fault';
import { derivedId } from '../model/derived-id';
import type { Id } from '../model/ids';
import type { Repeat } from '../model/records';
import { addDays, type Day } from '../time/day';

/** The rules that most agreements go by, with what each is called. */
export const usualRules = [
  ['FREQ=MONTHLY;BYMONTHDAY=-1', 'at the end of each month'],
  ['FREQ=MONTHLY;BYMONTHDAY=1', 'on the first of each month'],
  ['FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=-1', 'at the end of every third month'],
  ['FREQ=WEEKLY', 'every week'],
  ['FREQ=WEEKLY;INTERVAL=2', 'every second week'],
  ['FREQ=YEARLY', 'every year'],
] as const;

/** More days than this are not gone through at once: a rule that comes every day for years is a slip. */
const MOST = 1000;

/**
 * Whether a recurrence rule can be read (RFC 5545, 3.3.10).
 *
 * @throws Fault that says what is wrong with it
 */
export function readRule(text: string): ICAL.Recur {
  const rule = text.trim().replace(/^RRULE:/i, '');
  try {
    const recur = ICAL.Recur.fromString(rule);
    if (!/^(DAILY|WEEKLY|MONTHLY|YEARLY)$/.test(recur.freq)) throw new Error(recur.freq);
    return recur;
  } catch {
    throw new Fault(
      'unreadable',
      `“${text.slice(0, 60)}” is not a rule that comes by days, such as FREQ=MONTHLY;BYMONTHDAY=-1.`,
      'rule',
    );
  }
}

/**
 * The days on which an agreement comes, up to a day.
 *
 * @throws Fault where its rule cannot be read
 */
export function occurrences({ rule, from, until }: Pick<Repeat, 'rule' | 'from' | 'until'>, to: Day): Day[] {
  const last = until !== null && until < to ? until : to;
  const recur = readRule(rule);
  // What is not said is taken from the first day (RFC 5545): each 29 February is in leap years alone.
  if (recur.freq === 'YEARLY' && Object.keys(recur.parts).length === 0) {
    recur.setComponent('BYMONTH', [Number(from.slice(5, 7))]);
    recur.setComponent('BYMONTHDAY', [Number(from.slice(8, 10))]);
  }
  const days: Day[] = [];
  const steps = recur.iterator(ICAL.Time.fromDateString(from));
  for (let count = 0; count < MOST; count++) {
    const next = steps.next() as ICAL.Time | null;
    const day = next?.toString().slice(0, 10);
    if (day === undefined || day > last) break;
    // A rule need not hold on the day it begins with.
    if (day >= from) days.push(day);
  }
  return [...new Set(days)];
}

/** Days that a draft is to be prepared for now. */
export const dueDays = (repeat: Repeat, today: Day): Day[] =>
  repeat.paused ? [] : occurrences(repeat, today).filter((day) => !repeat.prepared.includes(day));

/** The next day on which it comes, within two years; null where none is to come. */
export function nextDay(repeat: Repeat, today: Day): Day | null {
  if (repeat.paused) return null;
  return occurrences(repeat, addDays(today, 731)).find((day) => day > today) ?? null;
}

/** The id of the draft of an agreement and a day: the same wherever it is made, so that two devices make one draft. */
export const draftIdOf = (repeatId: Id, day: Day): Id =>
  derivedId(`${repeatId} ${day}`, Date.parse(`${day}T00:00:00Z`));
