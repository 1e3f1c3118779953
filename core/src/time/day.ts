import { Temporal } from './temporal';
import { Fault } from '../faults/fault';
import type { Instant, Interval } from './interval';

/** A calendar day, "2026-11-12". */
export type Day = string;
/** An IANA time zone, "Europe/London". */
export type Zone = string;

/** The form of a day, as ISO 8601 writes it; whether there is such a day is another question. */
export const dayPattern = /^\d{4}-\d{2}-\d{2}$/;
const DAY_MS = 86_400_000;

/** Nothing is written down of a day before this one … */
export const FIRST_DAY = '1970-01-01';
/** … or after this one. */
export const LAST_DAY = '2200-12-31';

/**
 * Whether the text is a day that exists.
 *
 * @example isDay('2026-02-29') // → false
 */
export function isDay(text: string): boolean {
  if (!dayPattern.test(text)) return false;
  const [year, month, day] = text.split('-').map(Number) as [number, number, number];
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
}

/** Whether the text names a time zone that is known here. */
export function isZone(text: string): boolean {
  if (text === knownZone) return true;
  try {
    new Intl.DateTimeFormat('en', { timeZone: text });
    knownZone = text;
    return true;
  } catch {
    return false;
  }
}

// Nearly always the same one is asked for, and asking takes long.
let knownZone = '';

/**
 * The moments of a calendar day in a zone: 23, 24 or 25 hours, or what the zone's history says.
 *
 * @throws Fault for a day or zone that does not exist
 * @example (({ start, end }) => (end - start) / 3_600_000)(boundsOfDay('2026-03-29', 'Europe/London')) // → 23
 */
export function boundsOfDay(day: Day, zone: Zone): Interval {
  const key = `${zone} ${day}`;
  const known = boundsCache.get(key);
  if (known) return known;
  if (!isDay(day))
    throw new Fault('not-a-day', `“${day.slice(0, 40)}” is not a day. Write it as 2026-11-12.`, 'day', { day });
  if (!isZone(zone)) throw new Fault('not-a-zone', `“${zone.slice(0, 40)}” is not a time zone.`, 'zone', { zone });
  const date = Temporal.PlainDate.from(day);
  const bounds = {
    start: date.toZonedDateTime(zone).epochMilliseconds,
    end: date.add({ days: 1 }).toZonedDateTime(zone).epochMilliseconds,
  };
  if (boundsCache.size > 5000) boundsCache.clear();
  boundsCache.set(key, bounds);
  return bounds;
}
// Conversions through Temporal are slow and the same few days are asked for over and over.
const boundsCache = new Map<string, Interval>();

/**
 * The calendar day of an instant in a zone.
 *
 * @example dayOf(Date.UTC(2026, 10, 12, 23, 30), 'Europe/Berlin') // → '2026-11-13'
 */
export function dayOf(instant: Instant, zone: Zone): Day {
  const utcDay = fromEpochDay(Math.floor(instant / DAY_MS));
  // A zone is at most a day away from UTC, so the day is this one or a neighbour.
  for (const shift of [0, 1, -1]) {
    const day = addDays(utcDay, shift);
    const bounds = boundsOfDay(day, zone);
    if (instant >= bounds.start && instant < bounds.end) return day;
  }
  // Reached only where a zone skipped a whole day.
  return Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone).toPlainDate().toString();
}

/**
 * The instant of a wall-clock time; one that a spring change skips moves forward, one that occurs twice is the first.
 *
 * @example new Date(instantAt('2026-07-01', 570, 'Europe/London')).toISOString() // → '2026-07-01T08:30:00.000Z'
 */
export function instantAt(day: Day, minute: number, zone: Zone): Instant {
  if (minute >= 1440)
    return minute === 1440 ? boundsOfDay(day, zone).end : instantAt(addDays(day, 1), minute - 1440, zone);
  return Temporal.PlainDate.from(day).toZonedDateTime({
    timeZone: zone,
    plainTime: Temporal.PlainTime.from({ hour: Math.floor(minute / 60), minute: minute % 60 }),
  }).epochMilliseconds;
}

/**
 * The instants at which clocks show a time of a day: one; none where a spring change skips it; two where an autumn change repeats it.
 *
 * @example momentsAt('2026-03-29', 90, 'Europe/London').length // → 0
 */
export function momentsAt(day: Day, minute: number, zone: Zone): Instant[] {
  if (minute >= 1440) return momentsAt(addDays(day, 1), minute - 1440, zone);
  const at = Temporal.PlainDate.from(day).toPlainDateTime({ hour: Math.floor(minute / 60), minute: minute % 60 });
  const moments = (['earlier', 'later'] as const).map(
    (disambiguation) => at.toZonedDateTime(zone, { disambiguation }).epochMilliseconds,
  );
  return [...new Set(moments)].filter((moment) => minuteOf(moment, zone) === minute && dayOf(moment, zone) === day);
}

/**
 * Wall-clock minutes after midnight of an instant.
 *
 * @example minuteOf(Date.UTC(2026, 6, 1, 8, 30), 'Europe/London') // → 570
 */
export function minuteOf(instant: Instant, zone: Zone): number {
  const time = Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);
  return time.hour * 60 + time.minute;
}

/**
 * The day that many days later; earlier for fewer than none.
 *
 * @example addDays('2028-02-28', 2) // → '2028-03-01'
 */
export const addDays = (day: Day, days: number): Day => fromEpochDay(toEpochDay(day) + days);

/**
 * Days from `a` to `b`.
 *
 * @example daysBetween('2026-11-12', '2026-12-01') // → 19
 */
export const daysBetween = (a: Day, b: Day): number => toEpochDay(b) - toEpochDay(a);

/**
 * 1 = Monday … 7 = Sunday (ISO 8601).
 *
 * @example weekdayOf('2026-11-12') // → 4
 */
export const weekdayOf = (day: Day): number => ((((toEpochDay(day) + 3) % 7) + 7) % 7) + 1;

/**
 * The Monday of the day's ISO week.
 *
 * @example mondayOf('2026-11-15') // → '2026-11-09'
 */
export const mondayOf = (day: Day): Day => addDays(day, 1 - weekdayOf(day));

/**
 * The ISO 8601 week that a day is in, with the year that the week counts to.
 *
 * @example isoWeekOf('2027-01-03') // → { year: 2026, week: 53 }
 */
export function isoWeekOf(day: Day): { year: number; week: number } {
  const thursday = addDays(mondayOf(day), 3);
  const year = Number(thursday.slice(0, 4));
  return { year, week: Math.floor(daysBetween(`${thursday.slice(0, 4)}-01-01`, thursday) / 7) + 1 };
}

const toEpochDay = (day: Day): number => {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return Date.UTC(year, month - 1, date) / DAY_MS;
};

const fromEpochDay = (epochDay: number): Day => new Date(epochDay * DAY_MS).toISOString().slice(0, 10);

/** Names that days are written and read with. */
export const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;
/** Weekdays in the order of ISO 8601. */
export const WEEKDAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

/** The day from which something holds that always did: before any work. */
export const ALWAYS: Day = '2000-01-01';

/** "from 12 Nov 2026", "always". */
export const showFrom = (day: Day): string => (day <= ALWAYS ? 'always' : `from ${showDayShort(day)}`);

/**
 * "12 Nov 2026".
 *
 * @example showDayShort('2026-11-12') // → '12 Nov 2026'
 */
export function showDayShort(day: Day): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return `${date} ${MONTH_NAMES[month - 1]!.slice(0, 3)} ${year}`;
}

/**
 * The first day of the month that lies `months` away from the day's own.
 *
 * @example firstOfMonth('2026-11-12', 2) // → '2027-01-01'
 */
export function firstOfMonth(day: Day, months = 0): Day {
  const [year, month] = day.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, month - 1 + months, 1)).toISOString().slice(0, 10);
}

/**
 * The last day of the day's month.
 *
 * @example lastOfMonth('2028-02-10') // → '2028-02-29'
 */
export const lastOfMonth = (day: Day): Day => addDays(firstOfMonth(day, 1), -1);

/**
 * The first day of the week that ends on a weekday: 7 = Sunday makes ISO weeks.
 *
 * @example startOfWeek('2026-11-12', 5) // → '2026-11-07'
 */
export const startOfWeek = (day: Day, cutOff = 7): Day => addDays(day, -((weekdayOf(day) - cutOff - 1 + 14) % 7));

/**
 * All days from `from` to `to`, both included.
 *
 * @example daysFrom('2026-11-30', '2026-12-02') // → ['2026-11-30', '2026-12-01', '2026-12-02']
 */
export const daysFrom = (from: Day, to: Day): Day[] =>
  Array.from({ length: Math.max(0, daysBetween(from, to) + 1) }, (_, index) => addDays(from, index));
