import type { InvoiceBalance, Pricer } from '@half-penny/core/billing';
import { cashAhead, cashFacts, heldOut, type CashAhead, type HeldOut } from '@half-penny/core/cash-ahead';
import { useMemo } from 'react';
import { useToBill } from './billing';
import { useDrafts } from './drafts';
import { useToday } from './queries';
import { useAll, useRead } from './read';

/** What will come in, and how well that was foreseen before. */
export interface CashAheadRead {
  ahead: CashAhead;
  past: HeldOut | null;
}

/** Money that is to come; undefined while what tells of it is read. */
export function useCashAhead(pricer: Pricer, invoices: readonly InvoiceBalance[]): CashAheadRead | undefined {
  const today = useToday();
  const open = useToBill(pricer, 'every client');
  const drafts = useDrafts(pricer, today);
  const repeats = useAll('repeats');
  const milestones = useAll('milestones');
  const agreed = useRead(async (reader) => {
    const rows = (await reader.all('agreed')).filter((row) => row.milestoneId !== null);
    const ids = rows.map((row) => row.id);
    return { rows, spokenFor: new Set((await reader.by('allocations', 'agreedId', ids)).map((row) => row.agreedId!)) };
  }, []);
  return useMemo(() => {
    if (!open || !drafts || !repeats || !milestones || !agreed) return undefined;
    const rows = {
      invoices,
      repeats,
      open,
      drafts: drafts.flatMap(({ invoice, draft }) => (draft ? [{ invoice, total: draft.totals.total }] : [])),
      milestones,
      agreed: agreed.rows,
      spokenFor: agreed.spokenFor,
    };
    const facts = cashFacts(pricer, rows, today);
    return { ahead: cashAhead(facts), past: heldOut(facts) };
  }, [pricer, invoices, open, drafts, repeats, milestones, agreed, today]);
}
