import { Fault, type Entry } from '@half-penny/core/model';
import { instantAt, minuteOf, showMinute, type Day, type Interval, type Typed, type Zone } from '@half-penny/core/time';

/** A typed from–to as times on a day in the member's zone. */
export function spanOn(
  typed: Extract<Typed, { kind: 'span' }>,
  day: Day,
  zone: Zone,
): Pick<Entry, 'spans' | 'seconds'> {
  const start = instantAt(day, typed.fromMinute, zone);
  const end = instantAt(day, typed.toMinute, zone);
  // The clocks may change in between, so the length is what passed, not the difference of the readings.
  const seconds = Math.round((end - start) / 1000);
  if (seconds <= 0) throw new Fault('On this day the clocks change: the end is not after the start.', 'length');
  return { spans: [{ start, end }], seconds };
}

/** "09:14–10:02". */
export const showSpan = ({ start, end }: Interval, zone: Zone): string =>
  `${showTime(start, zone)}–${showTime(end, zone)}`;

/** "09:14"; a moment that is a fraction of a second short of a minute is that minute. */
export const showTime = (instant: number, zone: Zone): string =>
  showMinute(minuteOf(Math.ceil(instant / 1000) * 1000, zone));
