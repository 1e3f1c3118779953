import type { Pricer } from '@half-penny/core/billing';
import { payOffers, type PayOffer, type SpentLine } from '@half-penny/core/paying-out';
import { useMemo } from 'react';
import { useInvoices } from './billing';
import type { PayingOut } from './paying-out';
import { useAll } from './read';

/** What lines of a statement may have paid, by their source; undefined while it is being read. */
export function usePayOffers(
  pricer: Pricer,
  paying: PayingOut | undefined,
  lines: readonly SpentLine[],
): Map<string, PayOffer[]> | undefined {
  const invoices = useInvoices();
  const deposits = useAll('deposits');
  const { clients } = pricer.book;
  return useMemo(() => {
    if (!paying || !invoices || !deposits) return undefined;
    return payOffers(lines, { ...paying, invoices, deposits, clients });
  }, [lines, paying, invoices, deposits, clients]);
}
