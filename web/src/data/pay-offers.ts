import type { Pricer } from '@half-penny/core/billing';
import type { Client } from '@half-penny/core/model';
import { payOffers, type PayOffer, type SpentLine } from '@half-penny/core/paying-out';
import { useMemo } from 'react';
import { useInvoices } from './billing';
import { usePayingOut } from './paying-out';
import { useAll } from './read';

const nobody: readonly Client[] = [];

/** What lines of a statement may have paid, by their source; undefined while it is being read. */
export function usePayOffers(
  pricer: Pricer | undefined,
  lines: readonly SpentLine[],
): Map<string, PayOffer[]> | undefined {
  const paying = usePayingOut(pricer);
  const invoices = useInvoices();
  const deposits = useAll('deposits');
  const clients = pricer?.book.clients ?? nobody;
  return useMemo(() => {
    if (!paying || !invoices || !deposits) return undefined;
    return payOffers(lines, { ...paying, invoices, deposits, clients });
  }, [lines, paying, invoices, deposits, clients]);
}
