import type { Absence, Entry, Member } from '../model/records';
import { boundsOfDay, weekdayOf, type Day, type Zone } from '../time/day';
import { gaps, overlapOf, type Interval } from '../time/interval';
import type { Seconds } from '../time/length';
import { secondsOn, spansWithin } from './spans';

/** Seconds a member owes on a day: by weekday, less holidays and absences; nothing before the member began. */
export function owedOnDay(
  member: Pick<Member, 'id' | 'owed' | 'owesFrom'>,
  day: Day,
  absences: readonly Absence[] = [],
): Seconds {
  if (member.owesFrom !== undefined && day < member.owesFrom) return 0;
  const owed = member.owed[weekdayOf(day) - 1] ?? 0;
  return absencesOn(member.id, day, absences).reduce(
    (left, absence) => (absence.seconds === null ? 0 : Math.max(0, left - absence.seconds)),
    owed,
  );
}

/** Holidays and a member's own absences on a day. */
export const absencesOn = (memberId: string, day: Day, absences: readonly Absence[]): Absence[] =>
  absences.filter(
    (each) => (each.memberId === null || each.memberId === memberId) && each.from <= day && day <= each.to,
  );

/** Seconds recorded in entries. */
export const recorded = (entries: readonly Pick<Entry, 'seconds'>[]): Seconds =>
  entries.reduce((sum, entry) => sum + entry.seconds, 0);

/** Seconds of entries that fall on a day: of one across midnight only what lies on it. */
export const recordedOn = (entries: readonly Entry[], day: Day, zone: Zone): Seconds =>
  entries.reduce((sum, entry) => sum + secondsOn(entry, day, zone), 0);

/** Ids of entries whose times overlap another's. Overlaps are allowed, and shown. */
export function overlapping(entries: readonly Pick<Entry, 'id' | 'spans'>[]): Set<string> {
  const timed = entries
    .flatMap((entry) => entry.spans.map((span) => ({ id: entry.id, ...span })))
    .sort((a, b) => a.start - b.start);
  const found = new Set<string>();
  let widest = timed[0];
  for (const next of timed.slice(1)) {
    if (widest && widest.id !== next.id && overlapOf(widest, next) > 0) {
      found.add(widest.id);
      found.add(next.id);
    }
    if (!widest || next.end > widest.end) widest = next;
  }
  return found;
}

/** Gaps shorter than this are a breath between two pieces of work, not missing time. */
export const SHORTEST_GAP = 5 * 60_000;

/** Time between the first and the last moment recorded on a day that nothing covers. */
export function gapsOfDay(
  entries: readonly Pick<Entry, 'spans'>[],
  day: Day,
  zone: Zone,
  running?: Interval | null,
): Interval[] {
  const bounds = boundsOfDay(day, zone);
  const spans = entries.flatMap((entry) => spansWithin(entry.spans, bounds));
  if (running) spans.push(...spansWithin([running], bounds));
  if (spans.length === 0) return [];
  const start = Math.min(...spans.map((span) => span.start));
  const end = Math.max(...spans.map((span) => span.end));
  return gaps(spans, { start, end }).filter((gap) => gap.end - gap.start >= SHORTEST_GAP);
}
