import type { Pricer } from '@half-penny/core/billing';
import type { MoneyIn } from '@half-penny/core/model';
import { matchedSums, offersFor, type MatchedParts, type Offer } from '@half-penny/core/money-in';
import { useMemo } from 'react';
import { useInvoices } from './billing';
import { useAll } from './read';

/** A sum that came in, with what it may be for, or with what became of it. */
export interface MoneyInRow {
  sum: MoneyIn;
  offer: Offer | null;
  matched: MatchedParts | null;
}

/** Every sum that came in, the newest first. */
export function useMoneyIn(pricer: Pricer | undefined): MoneyInRow[] | undefined {
  const sums = useAll('moneyIn');
  const deposits = useAll('deposits');
  const invoices = useInvoices();
  return useMemo(() => {
    if (!pricer || !sums || !deposits || !invoices) return undefined;
    const matched = matchedSums(invoices, deposits);
    const waiting = sums.filter((sum) => sum.setAside === null && !matched.has(sum.id));
    const offers =
      waiting.length === 0
        ? new Map<string, Offer>()
        : offersFor(waiting, {
            invoices,
            deposits,
            clients: pricer.book.clients,
            moneyIn: sums,
            exchange: pricer.rates.exchange,
            rounding: pricer.book.workspace.amountRounding,
          });
    return sums
      .map((sum) => ({ sum, offer: offers.get(sum.id) ?? null, matched: matched.get(sum.id) ?? null }))
      .sort((a, b) => (a.sum.day < b.sum.day ? 1 : a.sum.day > b.sum.day ? -1 : a.sum.id < b.sum.id ? -1 : 1));
  }, [pricer, sums, deposits, invoices]);
}
