import { spanOn } from '@half-penny/core/entries';
import { Fault, type Entry, type Member } from '@half-penny/core/model';
import { instantAt, readClock, readLength, type Interval, type Seconds } from '@half-penny/core/time';
import type { Changes } from '../data/session';

type Run = Changes['run'];

/** Saves a typed length; the start stays and the end moves. A from–to sets both. */
export async function saveLength(run: Run, entry: Entry, member: Member, text: string): Promise<unknown> {
  const typed = readLength(text);
  if (typed.kind === 'span') return run('entry.edit', { id: entry.id, ...spanOn(typed, entry.day, member.zone) });
  return run('entry.edit', { id: entry.id, seconds: typed.seconds });
}

/** Saves a typed from–to; an empty one leaves only the length. */
export async function saveWhen(run: Run, entry: Entry, member: Member, text: string): Promise<unknown> {
  if (text.trim() === '' || text.trim() === '–') return run('entry.edit', { id: entry.id, spans: [] });
  const typed = readLength(text);
  if (typed.kind !== 'span')
    throw new Fault('not-a-span', 'Write when it was as from–to, for example 9:15–10:30.', 'when');
  return run('entry.edit', { id: entry.id, ...spanOn(typed, entry.day, member.zone) });
}

/** To the second where there are seconds, so that editing loses none. */
export function lengthForEditing(seconds: Seconds): string {
  const two = (value: number) => String(value).padStart(2, '0');
  const text = `${Math.floor(seconds / 3600)}:${two(Math.floor((seconds % 3600) / 60))}`;
  return seconds % 60 === 0 ? text : `${text}:${two(seconds % 60)}`;
}

/** A gap as times of whole seconds. */
export function timesOf(span: Interval): Pick<Entry, 'spans' | 'seconds'> {
  const seconds = Math.floor((span.end - span.start) / 1000);
  return { spans: [{ start: span.start, end: span.start + seconds * 1000 }], seconds };
}

/**
 * Seconds of work before the place where an entry is to be split, typed as a time of day or as a length from its start.
 *
 * @throws Fault where it lies outside the entry
 */
export function splitAfter(entry: Entry, member: Member, text: string): Seconds {
  const minute = /[:.]/.test(text) || entry.spans.length === 0 ? readClock(text) : null;
  if (minute !== null && entry.spans.length > 0) {
    for (const day of [entry.day, ...entry.laterDays]) {
      const at = instantAt(day, minute, member.zone);
      let worked = 0;
      for (const span of entry.spans) {
        if (at > span.start && at < span.end) return Math.floor((worked + at - span.start) / 1000);
        worked += span.end - span.start;
      }
    }
    throw new Fault('outside', `${text.trim()} is not within the entry’s times.`, 'after');
  }
  const typed = readLength(text);
  if (typed.kind === 'span')
    throw new Fault('not-a-time', 'Write one time of day, such as 10:15, or a length, such as 45m.', 'after');
  return typed.seconds;
}
