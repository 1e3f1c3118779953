import { useRead } from './read';
import type { Pricer, Reservation } from '@half-penny/core/billing';
import { standingOfBudget, tallyWork, type BudgetStanding, type TalliedWork } from '@half-penny/core/costing';
import type { Reader } from '@half-penny/core/engine';
import type { Budget, Entry, Id } from '@half-penny/core/model';
import { useMemo } from 'react';
import { useToday } from './queries';

/** Everything recorded on some projects, what stands of it on invoices, and the budgets there are. */
export interface WorkRows {
  entries: Entry[];
  /** What stands on invoices, was written down or is never billed. */
  allocations: Reservation[];
  budgets: Budget[];
}

/** Everything recorded on some projects, and what is spoken for of it. */
export async function readWork(
  reader: Reader,
  projectIds: readonly Id[],
): Promise<Pick<WorkRows, 'entries' | 'allocations'>> {
  const entries = await reader.by('entries', 'projectId', projectIds);
  const ids = entries.map((entry) => entry.id);
  const [allocations, adjustments] = await Promise.all([
    reader.by('allocations', 'entryId', ids),
    reader.by('adjustments', 'entryId', ids),
  ]);
  return { entries, allocations: [...allocations, ...adjustments] };
}

/** @param given what was read already, of these projects and perhaps others; null while that is being read */
export function useWorkRows(projectIds: readonly Id[], given?: WorkRows | null): WorkRows | undefined {
  const key = projectIds.join();
  const isGiven = given !== undefined;
  const own = useRead(
    async (reader) => {
      if (isGiven) return undefined;
      const [work, budgets] = await Promise.all([readWork(reader, key.split(',')), reader.all('budgets')]);
      return { ...work, budgets };
    },
    [key, isGiven],
  );
  return isGiven ? (given ?? undefined) : own;
}

/** What projects come to, each with its parts. */
export function useTallies(pricer: Pricer, rows: WorkRows | undefined): TalliedWork | undefined {
  return useMemo(() => rows && tallyWork(pricer, rows.entries, rows.allocations), [pricer, rows]);
}

/** Where budgets stand today. */
export function useStandings(
  pricer: Pricer | undefined,
  rows: WorkRows | undefined,
  wanted: (budget: Budget) => boolean,
): BudgetStanding[] {
  const today = useToday();
  return useMemo(
    () =>
      rows && pricer
        ? rows.budgets
            .filter(wanted)
            .map((budget) => standingOfBudget(pricer, budget, rows.entries, rows.allocations, today))
        : [],
    [pricer, rows, wanted, today],
  );
}
