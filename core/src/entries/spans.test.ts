import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { readLength, type TypedSpan } from '../time';
import { momentWithin, spanOn } from '.';

const ZONE = 'Europe/London';
const typed = (text: string) => readLength(text) as TypedSpan;
const hours = (text: string, day: string) => spanOn(typed(text), day, ZONE).seconds / 3600;
const at = (text: string) => DateTime.fromISO(text, { zone: ZONE }).toMillis();

describe('a typed from–to on a day', () => {
  it('goes on into the next day where it ends before it starts', () => {
    const { spans } = spanOn(typed('23:30-0:45'), '2026-11-12', ZONE);
    expect(spans).toEqual([{ start: at('2026-11-12T23:30'), end: at('2026-11-13T00:45') }]);
  });

  // Clocks in Great Britain: Summer Time Act 1972, as amended: last Sundays of March and October at 1:00 GMT.
  it('is as long as the time that passed, also where the clocks change', () => {
    expect(hours('0:30-3:30', '2026-03-29')).toBe(2);
    expect(hours('0:30-3:30', '2026-10-25')).toBe(4);
    expect(hours('22-3', '2026-10-24')).toBe(6);
    expect(hours('22-3', '2026-03-28')).toBe(4);
  });

  it('never moves a time that does not exist', () => {
    expect(() => hours('1:30-4', '2026-03-29')).toThrow(/On 29 Mar 2026 the clocks go forward over 01:30/);
    expect(() => hours('23-1:15', '2026-03-28')).toThrow(/29 Mar 2026 .* over 01:15/);
  });

  it('asks which of two it is where the clocks go back, and takes the answer', () => {
    expect(() => hours('0:30-1:30', '2026-10-25')).toThrow(/Write “01:30 first” or “01:30 second”/);
    expect(hours('0:30-1:30 first', '2026-10-25')).toBe(1);
    expect(hours('0:30-1:30 second', '2026-10-25')).toBe(2);
    expect(hours('1:30 first - 1:30 second', '2026-10-25')).toBe(1);
    expect(hours('1:30 second - 2:30', '2026-10-25')).toBe(1);
  });
});

it('a time of day within bounds over midnight is of the day that it lies on', () => {
  const bounds = { start: at('2026-11-12T22:10'), end: at('2026-11-13T08:05') };
  expect(momentWithin(bounds, 23 * 60, ZONE)).toBe(at('2026-11-12T23:00'));
  expect(momentWithin(bounds, 7 * 60, ZONE)).toBe(at('2026-11-13T07:00'));
  expect(momentWithin(bounds, 12 * 60, ZONE)).toBeNull();
});
