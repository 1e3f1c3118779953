import { blankEntry, spanOn } from '@half-penny/core/entries';
import type { Entry, Member } from '@half-penny/core/model';
import { bookOf } from '@half-penny/core/testing';
import { addDays, instantAt, showMinute } from '@half-penny/core/time';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lengthForEditing, saveLength, saveWhen, splitAfter, timesOf } from './editing';
import { showSpan, showTime } from './spans';
import { fault } from '@half-penny/core/testing';

const member: Member = bookOf({}).members[0]!;
const DAY = '2026-11-12';
const at = (hour: number, minute = 0, day = DAY) => instantAt(day, hour * 60 + minute, member.zone);
const entry = (...spans: Entry['spans']): Entry => {
  const seconds = spans.reduce((sum, span) => sum + (span.end - span.start) / 1000, 0) || 5400;
  return blankEntry({ id: 'e', memberId: member.id, day: DAY, seconds, spans });
};
/** What a save would have run. */
const asked = async (save: (run: never) => Promise<unknown>): Promise<unknown[]> => {
  const calls: unknown[] = [];
  await save((async (...args: unknown[]) => calls.push(args)) as never);
  return calls[0] as unknown[];
};

describe('a length that is edited', () => {
  it('is written to the second where it has seconds', () => {
    expect([0, 59, 60, 5400, 5425, 360_000].map(lengthForEditing)).toEqual([
      '0:00',
      '0:00:59',
      '0:01',
      '1:30',
      '1:30:25',
      '100:00',
    ]);
  });

  it('comes back as it was, whatever it is', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 60, max: 500_000 }), async (seconds) => {
        const [, input] = await asked((run) => saveLength(run, entry(), member, lengthForEditing(seconds)));
        expect(input).toEqual({ id: 'e', seconds });
      }),
    );
  });

  it('sets the times where a from–to is written', async () => {
    const [command, input] = await asked((run) => saveLength(run, entry(), member, '9:15-10:30'));
    expect(command).toBe('entry.edit');
    expect(input).toEqual({ id: 'e', seconds: 4500, spans: [{ start: at(9, 15), end: at(10, 30) }] });
  });

  it('keeps only the length where the times are taken off, and refuses what is none', async () => {
    for (const text of ['', '  ', '–']) {
      expect((await asked((run) => saveWhen(run, entry(), member, text)))[1]).toEqual({ id: 'e', spans: [] });
    }
    await expect(asked((run) => saveWhen(run, entry(), member, '1:30'))).rejects.toThrow(fault('not-a-span'));
  });
});

describe('times', () => {
  it('of a gap are of whole seconds', () => {
    expect(timesOf({ start: 1500, end: 4499 })).toEqual({ seconds: 2, spans: [{ start: 1500, end: 3500 }] });
  });

  it('are as long as what passed on the nights the clocks change', () => {
    // In the Europe/London zone clocks go on at 01:00 UTC on 29 March 2026 and back on 25 October (IANA tz database).
    const span = { kind: 'span', fromMinute: 0, toMinute: 180 } as never;
    expect(spanOn(span, '2026-03-29', 'Europe/London').seconds).toBe(2 * 3600);
    expect(spanOn(span, '2026-10-25', 'Europe/London').seconds).toBe(4 * 3600);
    expect(spanOn(span, DAY, 'Europe/London').seconds).toBe(3 * 3600);
  });

  it('are shown by the minute, and one just short of a minute as that minute', () => {
    expect(showSpan({ start: at(9, 14), end: at(10, 2) }, member.zone)).toBe('09:14–10:02');
    expect(showTime(at(9, 15) - 400, member.zone)).toBe('09:15');
  });
});

describe('where an entry is split', () => {
  it('is told by a time of day within any of its sittings', () => {
    const two = entry({ start: at(9), end: at(10) }, { start: at(14), end: at(16) });
    expect(splitAfter(two, member, '9:20')).toBe(20 * 60);
    expect(splitAfter(two, member, '15:00')).toBe(2 * 3600);
    for (const outside of ['8:59', '9:00', '10:00', '12:30', '16:00']) {
      expect(() => splitAfter(two, member, outside)).toThrow(`${outside} is not within the entry’s times.`);
    }
  });

  it('is told by a length of work where that is written, or where there are no times', () => {
    const timed = entry({ start: at(9), end: at(12) });
    expect(splitAfter(timed, member, '45m')).toBe(45 * 60);
    expect(splitAfter(entry(), member, '0:45')).toBe(45 * 60);
    expect(() => splitAfter(timed, member, '9-10')).toThrow();
  });

  it('lies where it was said, on any day that the entry reaches into', () => {
    const late = { ...entry({ start: at(22), end: at(2, 0, addDays(DAY, 1)) }), laterDays: [addDays(DAY, 1)] };
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 239 }), (minutes) => {
        const clock = showMinute((22 * 60 + minutes) % 1440);
        expect(splitAfter(late, member, clock)).toBe(minutes * 60);
      }),
    );
  });
});
