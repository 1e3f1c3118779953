import { dayOf, minuteOf, showMinute } from '@half-penny/core/time';
import type { SharedBook } from '../data/database';
import { showMoment } from './days';

const counted = (count: number) => `${count.toLocaleString('en-GB')} waiting`;

/** How a shared workspace stands, in a few words: "all here", "3 waiting", "off line since 14:05". */
export function shareWords(
  { standing, removed }: Pick<SharedBook, 'standing' | 'removed'>,
  waiting: number,
  refused: number,
  zone: string,
): string {
  if (removed) return 'removed from the others';
  const first = {
    together: waiting > 0 ? counted(waiting) : 'all here',
    'off line': `off line since ${standing.kind === 'off line' ? showSince(standing.since, zone) : ''}`,
    stopped: 'held up',
  }[standing.kind];
  const parts = [first];
  if (standing.kind !== 'together' && waiting > 0) parts.push(counted(waiting));
  if (refused > 0) parts.push(`${refused} did not fit`);
  return parts.join(' · ');
}

/** "14:05"; with the day where it is another one. */
const showSince = (at: number, zone: string): string =>
  dayOf(at, zone) === dayOf(Date.now(), zone) ? showMinute(minuteOf(at, zone)) : showMoment(at, zone);
