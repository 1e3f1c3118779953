import { useRead } from './read';
import { standingOf, whereaboutsOf, type PricedEntry, type Pricer, type Whereabouts } from '@half-penny/core/billing';
import type { Entry, Id } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useInvoices } from './billing';
import { hasAny, SEE_OTHERS, useRights } from './rights';
import { useSession } from './session';
import { useWorthSeen } from './worth-seen';

/** An entry with what it is worth and where it is on its way to being paid. */
export interface TimeRow {
  entry: Entry;
  priced: PricedEntry;
  where: Whereabouts;
  /** The list that its hours went back to; empty where they did not. */
  sentTo: string;
}

/** Everybody's time, or what somebody may see of it, of a range of days, latest first; undefined until it is read. */
export function useAllTime(pricer: Pricer | undefined, from: Day, to: Day, today: Day): TimeRow[] | undefined {
  const { database, memberId } = useSession();
  const invoices = useInvoices();
  const rights = useRights();
  const worth = useWorthSeen(pricer);
  const onlyOf = hasAny(rights, SEE_OTHERS) ? null : memberId;
  const read = useRead(
    async (reader) => {
      const all = await database.rows('entries').where('day').between(from, to, true, true).toArray();
      const entries = onlyOf === null ? all : all.filter((entry) => entry.memberId === onlyOf);
      const ids = entries.map((entry) => entry.id);
      const [allocations, adjustments] = await Promise.all([
        reader.by('allocations', 'entryId', ids),
        reader.by('adjustments', 'entryId', ids),
      ]);
      const sentTo = new Map<Id, string>();
      for (const list of await reader.all('outsideLists')) {
        for (const row of await reader.by('sentHours', 'listId', [list.id]))
          if (row.seconds > 0) sentTo.set(row.entryId, list.name);
      }
      return { entries, sentTo, takings: [...allocations, ...adjustments.filter((row) => row.kind !== 'later')] };
    },
    [database, from, to, onlyOf],
  );
  return useMemo(() => {
    if (!pricer || !read || !invoices) return undefined;
    const standings = new Map<Id, ReturnType<typeof standingOf>>(
      invoices.map((owing) => [owing.invoice.id, standingOf(owing, today)]),
    );
    const where = whereaboutsOf(pricer, read.entries, read.takings, standings);
    return worth
      .of(pricer, read.entries)
      .map((priced) => ({
        entry: priced.entry,
        priced,
        where: where.get(priced.entry.id)!,
        sentTo: read.sentTo.get(priced.entry.id) ?? '',
      }))
      .sort((a, b) => (a.entry.day === b.entry.day ? startOf(b) - startOf(a) : a.entry.day < b.entry.day ? 1 : -1));
  }, [pricer, read, invoices, today, worth]);
}

const startOf = ({ entry }: TimeRow): number => entry.spans[0]?.start ?? 0;
