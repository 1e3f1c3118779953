import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { momentsToKeep } from './keeping';

const at = (text: string) => Date.parse(`${text}Z`);
const kept = (moments: readonly string[], now: string) =>
  [...momentsToKeep(moments.map(at), at(now))].sort().map((each) => new Date(each).toISOString().slice(0, 16));

describe('which copies are kept', () => {
  it('is the last of each of seven days', () => {
    expect(
      kept(['2026-11-12T09:00', '2026-11-12T17:30', '2026-11-11T23:59', '2026-11-11T12:00'], '2026-11-12T18:00'),
    ).toEqual(['2026-11-11T23:59', '2026-11-12T17:30']);
  });

  it('is the last of each of four weeks and twelve months beyond the seven days', () => {
    const daily = Array.from({ length: 500 }, (_, back) =>
      new Date(at('2026-11-12T12:00') - back * 86_400_000).toISOString().slice(0, 16),
    );
    expect(kept(daily, '2026-11-12T18:00')).toEqual([
      // The last days of months back to December,
      '2025-12-31T12:00',
      '2026-01-31T12:00',
      '2026-02-28T12:00',
      '2026-03-31T12:00',
      '2026-04-30T12:00',
      '2026-05-31T12:00',
      '2026-06-30T12:00',
      '2026-07-31T12:00',
      '2026-08-31T12:00',
      '2026-09-30T12:00',
      // Sundays,
      '2026-10-25T12:00',
      '2026-10-31T12:00',
      '2026-11-01T12:00',
      // and seven days, the eighth a Sunday among them.
      '2026-11-06T12:00',
      '2026-11-07T12:00',
      '2026-11-08T12:00',
      '2026-11-09T12:00',
      '2026-11-10T12:00',
      '2026-11-11T12:00',
      '2026-11-12T12:00',
    ]);
  });

  it('always has the newest and whatever is dated ahead, and never more than there may be', () => {
    const moment = fc.integer({ min: at('2020-01-01T00:00'), max: at('2027-01-01T00:00') });
    fc.assert(
      fc.property(fc.array(moment, { minLength: 1, maxLength: 300 }), moment, (moments, now) => {
        const keep = momentsToKeep(moments, now);
        expect(keep.has(Math.max(...moments))).toBe(true);
        for (const each of moments) if (each > now) expect(keep.has(each)).toBe(true);
        expect([...keep].filter((each) => each <= now).length).toBeLessThanOrEqual(7 + 4 + 12);
        // What is kept once is still kept when the rest has gone.
        expect(momentsToKeep([...keep], now)).toEqual(keep);
      }),
    );
  });
});
