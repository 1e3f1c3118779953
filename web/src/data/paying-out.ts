import type { Pricer } from '@half-penny/core/billing';
import type { Cost, Id, Payee, Payout } from '@half-penny/core/model';
import { duesOf, filesOf, paymentFileOf, type Due, type Transfer } from '@half-penny/core/paying-out';
import { useMemo } from 'react';
import { useRead } from './read';
import { save as saveFile } from './workspaces';

/** What is owed to suppliers and members, what was paid of it, and into which accounts. */
export interface PayingOut {
  dues: Due[];
  payouts: Payout[];
  payees: Payee[];
  costs: ReadonlyMap<Id, Cost>;
}

export function usePayingOut(pricer: Pricer | undefined): PayingOut | undefined {
  const rows = useRead(async (reader) => {
    const [costs, costLines, payouts, payees, milestones] = await Promise.all([
      reader.all('costs'),
      reader.all('costLines'),
      reader.all('payouts'),
      reader.all('payees'),
      reader.all('milestones'),
    ]);
    return { costs, costLines, payouts, payees, milestones };
  }, []);
  return useMemo(() => {
    if (!rows || !pricer) return undefined;
    const { taxes, members, workspace } = pricer.book;
    const dues = duesOf({ ...rows, taxes, members, rounding: workspace.amountRounding });
    const { payouts, payees } = rows;
    return { dues, payouts, payees, costs: new Map(rows.costs.map((cost) => [cost.id, cost])) };
  }, [rows, pricer]);
}

/** What the bank was asked for in the studio's own currency and has not told of. */
export const askedTransfers = ({ payouts, costs, payees }: PayingOut, pricer: Pricer): Transfer[] => {
  const { workspace } = pricer.book;
  const waiting = payouts.filter((each) => each.standing === 'asked' && each.currency === workspace.currency);
  return [...filesOf(waiting).values()].flatMap((own) => paymentFileOf(own, costs, payees, workspace)?.transfers ?? []);
};

/** Saves the file that asks the bank for some payments; false where an account is not known any more. */
export async function savePaymentFile(
  payouts: readonly Payout[],
  { costs, payees }: Pick<PayingOut, 'costs' | 'payees'>,
  pricer: Pricer,
): Promise<boolean> {
  const file = paymentFileOf(payouts, costs, payees, pricer.book.workspace);
  if (!file) return false;
  const { writePain001 } = await import('@half-penny/formats/payments');
  const name = `payments-${file.day}-${file.currency.toLowerCase()}.xml`;
  saveFile(new Blob([writePain001(file)], { type: 'application/xml' }), name);
  return true;
}
