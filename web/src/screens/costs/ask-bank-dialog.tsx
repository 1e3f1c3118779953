import type { Pricer } from '@half-penny/core/billing';
import { grouped, type Payout } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import type { Due } from '@half-penny/core/paying-out';
import { useState } from 'react';
import { savePaymentFile, type PayingOut } from '../../data/paying-out';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

interface AskBankProps {
  pricer: Pricer;
  paying: PayingOut;
  dues: readonly Due[];
  today: string;
  onClose: () => void;
  onDone: () => void;
}

/** Asks the bank for payments by a file: what goes into it, what does not and why. */
export function AskBankDialog({ pricer, paying, dues, today, onClose, onDone }: AskBankProps) {
  const { run } = useChanges();
  const [day, setDay] = useState(today);
  const { bankAccounts } = pricer.book.workspace;
  const hasAccount = (currency: string) => bankAccounts.some((account) => account.currency === currency);
  const whyNot = ({ left, payee, cost: { currency } }: Due): string | null => {
    if (left < 0) return 'is owed to the studio';
    if (!payee) return 'no account is written down';
    return hasAccount(currency) ? null : `the studio has no account in ${currency} (Setup → Invoicing)`;
  };
  const going = dues.filter((due) => whyNot(due) === null);
  const staying = grouped(
    dues.filter((due) => whyNot(due) !== null),
    (due) => `${due.name}, ${due.cost.currency}, ${whyNot(due)}`,
  );
  const currencies = [...new Set(going.map((due) => due.cost.currency))];
  const { fault, faults, submit } = useSubmit(async () => {
    for (const currency of currencies) {
      const own = going.filter((due) => due.cost.currency === currency);
      const payouts = own.map(({ cost, left }) => ({ costId: cost.id, amount: left }));
      const { changes } = await run('payout.ask', { day, payouts });
      const asked = changes.flatMap(({ table, after }) => (table === 'payouts' && after ? [after as Payout] : []));
      await savePaymentFile(asked, paying, pricer);
    }
    onDone();
  }, ['day']);
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Payment file"
      about="Your bank takes it and pays on the day (ISO 20022, pain.001). What is in it is not offered again until the statement tells of it, or you withdraw it."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        {going.length > 0 && (
          <ul aria-label="In the file" className="border-t border-ink">
            {going.map(({ cost, name, left, payee, doubts }) => (
              <li key={cost.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1.5">
                <span className="written min-w-40 flex-1">
                  {name}
                  <span className="block font-mono text-xs text-soft">{payee!.number}</span>
                  {doubts.map((doubt) => (
                    <span key={doubt} className="block text-xs text-attention">
                      {doubt}
                    </span>
                  ))}
                </span>
                <span className="font-mono text-sm">{showAmount(left, cost.currency)}</span>
              </li>
            ))}
          </ul>
        )}
        {staying.size > 0 && (
          <div className="text-sm text-attention">
            <p className="font-semibold">
              {going.length === 0 ? 'None of it can go into a file' : 'Stays out of the file'}
            </p>
            <ul aria-label="Stays out of the file">
              {[...staying].map(([why, own]) => (
                <li key={why} className="written">
                  {why}: {showAmount(sumExact(own.map((due) => due.left)), own[0]!.cost.currency)}
                  {own.length > 1 && ` in ${own.length}`}
                </li>
              ))}
            </ul>
          </div>
        )}
        <DayField label="The bank pays on" value={day} onPick={setDay} fault={faults.day} className="max-w-48" />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex flex-wrap items-center justify-end gap-3">
          <span className="flex-1 text-soft">
            {currencies
              .map((currency) =>
                showAmount(
                  sumExact(going.filter((due) => due.cost.currency === currency).map((due) => due.left)),
                  currency,
                ),
              )
              .join(' and ')}
            {currencies.length > 1 && ', a file for each currency'}
          </span>
          <Button type="submit" kind="main" disabled={going.length === 0}>
            Save the payment file
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
