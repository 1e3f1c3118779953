import { dayOf, minuteOf, showMinute, type Day, type Instant } from '@half-penny/core/time';

const format = (options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' });
const long = format({ weekday: 'long', day: 'numeric', month: 'long' });
const longWithYear = format({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
const short = format({ day: 'numeric', month: 'short', year: 'numeric' });
const shortest = format({ day: 'numeric', month: 'short' });

const asDate = (day: Day) => new Date(`${day}T00:00:00Z`);

/** "Thursday 12 November"; with the year when it is not that of `near`. */
export const showDay = (day: Day, near: Day = day): string =>
  (day.slice(0, 4) === near.slice(0, 4) ? long : longWithYear).format(asDate(day)).replace(',', '');

/** "12 Nov 2026". */
export const showShortDay = (day: Day): string => short.format(asDate(day));

/** "12 Nov". */
export const showShortestDay = (day: Day): string => shortest.format(asDate(day));

/** "4 Nov 2026, 14:05", where somebody is. */
export const showMoment = (at: Instant, zone: string): string =>
  `${showShortDay(dayOf(at, zone))}, ${showMinute(minuteOf(at, zone))}`;

const weekday = format({ weekday: 'short' });
const month = format({ month: 'long', year: 'numeric' });

/** "Thu". */
export const showWeekday = (day: Day): string => weekday.format(asDate(day));

/** "November 2026". */
export const showMonth = (day: Day): string => month.format(asDate(day));
