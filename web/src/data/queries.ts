import { useAll, useRow, useRead } from './read';
import type { PricedEntry, Pricer } from '@half-penny/core/billing';
import type { Absence, Entry, Id, Member, Picture, PlannedTime, Rows } from '@half-penny/core/model';
import { jobKey, startOf } from '@half-penny/core/entries';
import { dayOf, type Day } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useAppSelector } from '../state/store';
import { usePricer } from './book';
import type { WorkspaceDatabase } from './database';
import { hasAny, SEE_OTHERS, useRights } from './rights';
import { useSession } from './session';
import { useWorthSeen } from './worth-seen';

// Each asks the database only for what is on screen and follows it as it changes, in this tab or another.
// undefined = not read yet.

/** Who is working in this browser. */
export function useMember(pricer: Pricer | undefined) {
  const { memberId } = useSession();
  return memberId === null ? undefined : pricer?.member.get(memberId);
}

const NOBODY: readonly Member[] = [];

/** Whose time whoever works here may look at: everybody's, or their own alone. */
export function useSeenMembers(pricer: Pricer | undefined): readonly Member[] {
  const sees = hasAny(useRights(), SEE_OTHERS);
  // In a member's own workspace others stand by name alone.
  const all = sees && pricer?.book.workspace.ofMember === undefined;
  const self = useMember(pricer);
  return useMemo(() => (all ? (pricer?.book.members ?? NOBODY) : self ? [self] : NOBODY), [all, pricer, self]);
}

/** Today in the member's zone; changes at midnight. */
export function useToday(): Day {
  const zone = useMember(usePricer())?.zone ?? 'Europe/London';
  return useAppSelector((state) => dayOf(state.clock.now, zone));
}

export const useEntriesOfDay = (memberId: Id | null, day: Day): Entry[] | undefined =>
  useEntriesOfRange(memberId, day, day);

/** A day's entries with what each is worth. */
export function useDay(memberId: Id | null, day: Day): { pricer: Pricer; items: PricedEntry[] } | undefined {
  const pricer = usePricer();
  const worth = useWorthSeen(pricer);
  const entries = useEntriesOfDay(memberId, day);
  return useMemo(
    () => (pricer && entries ? { pricer, items: worth.of(pricer, entries) } : undefined),
    [pricer, entries, worth],
  );
}

/** Projects and tasks the member is likely to want: the pinned ones, then those recorded on lately, latest first. */
export function useLikelyJobs(pricer: Pricer | undefined): Id[] {
  const { database, memberId } = useSession();
  const pinned = useMember(pricer)?.pinned;
  const recent = useRead(async () => {
    if (memberId === null) return [];
    const rows = await latestEntries(database, memberId);
    return rows.flatMap((row) => [jobKey(row), row.projectId]).filter((id) => id !== null);
  }, [database, memberId]);
  return useMemo(() => [...new Set([...(pinned ?? []), ...(recent ?? [])])], [pinned, recent]);
}

const RECENT = 60;

/** What a member recorded last, latest first. */
async function latestEntries(database: WorkspaceDatabase, memberId: Id): Promise<Entry[]> {
  const rows = await database
    .rows('entries')
    .where('[memberId+day]')
    .between([memberId, ''], [memberId, '\uffff'])
    .reverse()
    .limit(RECENT)
    .toArray();
  return rows.sort((a, b) => (a.day === b.day ? (startOf(b) ?? 0) - (startOf(a) ?? 0) : a.day < b.day ? 1 : -1));
}

export interface UnlistedJob {
  words: string;
  seconds: number;
  entries: number;
  /** Lines of costs. */
  costLines: number;
  memberIds: Id[];
  latest: Day;
}

/** Jobs that were recorded in words, with everybody's hours and costs on them; the latest first. */
export function useUnlistedJobs(): UnlistedJob[] | undefined {
  const { database } = useSession();
  return useRead(
    async (reader) => {
      const jobs = new Map<string, UnlistedJob>();
      const jobOf = (words: string, memberId: Id | null, day: Day): UnlistedJob => {
        let job = jobs.get(words);
        if (!job) jobs.set(words, (job = { words, seconds: 0, entries: 0, costLines: 0, memberIds: [], latest: day }));
        if (memberId !== null && !job.memberIds.includes(memberId)) job.memberIds.push(memberId);
        if (day > job.latest) job.latest = day;
        return job;
      };
      for (const { unlisted, seconds, memberId, day } of await database
        .rows('entries')
        .where('unlisted')
        .above('')
        .toArray()) {
        const job = jobOf(unlisted, memberId, day);
        job.seconds += seconds;
        job.entries++;
      }
      const lines = await database.rows('costLines').where('unlisted').above('').toArray();
      const costs = await reader.many(
        'costs',
        lines.map(({ costId }) => costId),
      );
      lines.forEach(({ unlisted }, index) => {
        const cost = costs[index];
        if (cost) jobOf(unlisted, cost.memberId, cost.day).costLines++;
      });
      return [...jobs.values()].sort((a, b) => (a.latest < b.latest ? 1 : -1));
    },
    [database],
  );
}

/** Entries of a member that touch a range of days, those that reach into it from before included. */
export function useEntriesOfRange(memberId: Id | null, from: Day, to: Day): Entry[] | undefined {
  const { database } = useSession();
  return useRead(() => readRange(database, memberId, from, to), [database, memberId, from, to]);
}

export async function readRange(
  database: WorkspaceDatabase,
  memberId: Id | null,
  from: Day,
  to: Day,
): Promise<Entry[]> {
  if (memberId === null) return [];
  const rows = database.rows('entries');
  const [own, earlier] = await Promise.all([
    rows.where('[memberId+day]').between([memberId, from], [memberId, to], true, true).toArray(),
    rows.where('laterDays').between(from, to, true, true).distinct().toArray(),
  ]);
  return [...earlier.filter((entry) => entry.memberId === memberId && entry.day < from), ...own];
}

/** Planned time of a member in a range of days. */
export function usePlansOfRange(memberId: Id | null, from: Day, to: Day): PlannedTime[] | undefined {
  const { database } = useSession();
  return useRead(
    async () =>
      memberId === null
        ? []
        : database
            .rows('plans')
            .where('[memberId+day]')
            .between([memberId, from], [memberId, to], true, true)
            .toArray(),
    [database, memberId, from, to],
  );
}

/** Holidays and absences; there are few. */
export function useAbsences(): Absence[] | undefined {
  return useAll('absences');
}

/** Everybody's entries of a range of days, in no order. */
export function useTimeBetween(from: Day, to: Day): Entry[] | undefined {
  const { database } = useSession();
  return useRead(
    () => database.rows('entries').where('day').between(from, to, true, true).toArray(),
    [database, from, to],
  );
}

/** The day from which a member's hours can be missing: where it is not said, that of the first entry. */
export function useBegan(member: Member): Day | undefined {
  const { database } = useSession();
  return useRead(async () => {
    if (member.owesFrom !== undefined) return member.owesFrom;
    const first = await database
      .rows('entries')
      .where('[memberId+day]')
      .between([member.id, ''], [member.id, '\uffff'])
      .first();
    return first?.day ?? '9999-12-31';
  }, [database, member]);
}

/** The latest rows by their day that pass, at most so many; none where nothing is looked for. */
export function useLatest<T extends 'costs' | 'entries'>(
  table: T,
  passes: ((row: Rows[T]) => boolean) | null,
  most: number,
): Rows[T][] | undefined {
  const { database } = useSession();
  return useRead(
    () => (passes === null ? [] : database.rows(table).orderBy('day').reverse().filter(passes).limit(most).toArray()),
    [database, table, passes, most],
  );
}

/** A picture, such as the logo; undefined where there is none, or while it is read. */
export const usePicture = (id: Id | null): Picture | undefined => useRow('pictures', id) ?? undefined;
