import { showShortDay } from './days';
import { dayOf, minuteOf, showMinute, type Interval, type Zone } from '@half-penny/core/time';

/** "09:14–10:02". */
export const showSpan = ({ start, end }: Interval, zone: Zone): string =>
  `${showTime(start, zone)}–${showTime(end, zone)}`;

/** "09:14"; a moment that is a fraction of a second short of a minute is that minute. */
export const showTime = (instant: number, zone: Zone): string =>
  showMinute(minuteOf(Math.ceil(instant / 1000) * 1000, zone));

/** "Mon 9 Nov, 22:10 – Tue 10 Nov, 08:05" where it reaches over midnight, otherwise "22:10–23:05". */
export function showSpanWithDays(span: Interval, zone: Zone): string {
  const [from, to] = [dayOf(span.start, zone), dayOf(span.end - 1, zone)];
  if (from === to) return showSpan(span, zone);
  return `${showShortDay(from)}, ${showTime(span.start, zone)} – ${showShortDay(to)}, ${showTime(span.end, zone)}`;
}
