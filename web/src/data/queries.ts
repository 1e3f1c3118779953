import { readBook, Pricer, worthOf, type Priced } from '@half-penny/core/billing';
import type { Absence, Entry, Id, PlannedTime, Timer } from '@half-penny/core/model';
import { jobKey, startOf } from '@half-penny/core/entries';
import { writeNumbersAs } from '@half-penny/core/money';
import { dayOf, writeClockAs, type Day } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo } from 'react';
import { useAppSelector } from '../state/store';
import type { WorkspaceDatabase } from './database';
import { useSession } from './session';

// Each asks the database only for what is on screen and follows it as it changes, in this tab or another.
// undefined = not read yet.

/** The small tables, ready to price with. */
export function usePricer(): Pricer | undefined {
  const { reader } = useSession();
  const book = useLiveQuery(async () => {
    const read = await readBook(reader);
    // Before anything of it is shown.
    writeNumbersAs(read.workspace.numberStyle);
    writeClockAs(read.workspace.clockStyle);
    return read;
  }, [reader]);
  return useMemo(() => book && new Pricer(book), [book]);
}

/** Who is working in this browser. */
export function useMember(pricer: Pricer | undefined) {
  const { memberId } = useSession();
  return memberId === null ? undefined : pricer?.member.get(memberId);
}

/** Today in the member's zone; changes at midnight. */
export function useToday(): Day {
  const zone = useMember(usePricer())?.zone ?? 'Europe/London';
  return useAppSelector((state) => dayOf(state.clock.now, zone));
}

export const useEntriesOfDay = (memberId: Id | null, day: Day): Entry[] | undefined =>
  useEntriesOfRange(memberId, day, day);

/** A day's entries with what each is worth. */
export function useDay(memberId: Id | null, day: Day): { pricer: Pricer; items: Priced[] } | undefined {
  const pricer = usePricer();
  const entries = useEntriesOfDay(memberId, day);
  return useMemo(
    () => (pricer && entries ? { pricer, items: worthOf(pricer, entries) } : undefined),
    [pricer, entries],
  );
}

/** What runs for the member; null when nothing does. */
export function useTimer(): Timer | null | undefined {
  const { database, memberId } = useSession();
  return useLiveQuery(
    async () =>
      memberId === null ? null : ((await database.rows('timers').where('memberId').equals(memberId).first()) ?? null),
    [database, memberId],
  );
}

/** Projects and tasks the member is likely to want: the pinned ones, then those recorded on lately, latest first. */
export function useLikelyJobs(pricer: Pricer | undefined): Id[] {
  const { database, memberId } = useSession();
  const pinned = useMember(pricer)?.pinned;
  const recent = useLiveQuery(async () => {
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
  memberIds: Id[];
  latest: Day;
}

/** Jobs that were recorded in words, with everybody's hours on them; the latest first. */
export function useUnlistedJobs(): UnlistedJob[] | undefined {
  const { database } = useSession();
  return useLiveQuery(async () => {
    const rows = await database.rows('entries').where('unlisted').above('').toArray();
    const jobs = new Map<string, UnlistedJob>();
    for (const { unlisted, seconds, memberId, day } of rows) {
      const job = jobs.get(unlisted) ?? { words: unlisted, seconds: 0, entries: 0, memberIds: [], latest: day };
      jobs.set(unlisted, {
        words: unlisted,
        seconds: job.seconds + seconds,
        entries: job.entries + 1,
        memberIds: [...new Set([...job.memberIds, memberId])],
        latest: day > job.latest ? day : job.latest,
      });
    }
    return [...jobs.values()].sort((a, b) => (a.latest < b.latest ? 1 : -1));
  }, [database]);
}

/** Entries of a member that touch a range of days, those that reach into it from before included. */
export function useEntriesOfRange(memberId: Id | null, from: Day, to: Day): Entry[] | undefined {
  const { database } = useSession();
  return useLiveQuery(() => readRange(database, memberId, from, to), [database, memberId, from, to]);
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
  return useLiveQuery(
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
  const { reader } = useSession();
  return useLiveQuery(() => reader.all('absences'), [reader]);
}
