import type { Pricer } from '@half-penny/core/billing';
import type { Cost } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { usePayingOut } from '../../data/paying-out';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Loading, Section } from '../../parts/page';
import { PayDialog } from './pay-dialog';

/** What was paid of a bill, or given back to a member, and what is left. */
export function PaidOfCost({ pricer, cost }: { pricer: Pricer; cost: Cost }) {
  const { attempt } = useChanges();
  const today = useToday();
  const paying = usePayingOut(pricer);
  const [open, setOpen] = useState(false);
  if (!paying) return <Loading />;
  const payouts = paying.payouts
    .filter((payout) => payout.costId === cost.id)
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1));
  const due = paying.dues.find((each) => each.cost.id === cost.id);
  const home = pricer.book.workspace.currency;
  const row = 'flex flex-wrap items-baseline gap-x-4 border-b border-rule px-2 py-1.5';
  return (
    <Section
      title={cost.kind === 'bill' ? 'Paid' : 'Paid back'}
      actions={due && due.left !== 0 && <Button onClick={() => setOpen(true)}>Paid…</Button>}
    >
      <ul aria-label="Payments" className="border-t border-ink">
        {cost.paidBackOn !== null && (
          <li className={row}>
            <span className="flex-1">All of it on {showShortDay(cost.paidBackOn)}</span>
            <Button kind="quiet" onClick={() => void attempt('cost.payBack', { ids: [cost.id], day: null })}>
              Take back
            </Button>
          </li>
        )}
        {payouts.map((payout) => (
          <li key={payout.id} className={row}>
            <span className="w-28">{showShortDay(payout.day)}</span>
            <span className="written flex-1 text-soft">
              {payout.standing === 'asked' ? 'asked of the bank' : payout.note}
            </span>
            <span className="font-mono text-sm">{showAmount(payout.amount, payout.currency)}</span>
            <Button kind="quiet" onClick={() => void attempt('payout.remove', { ids: [payout.id] })}>
              Take back
            </Button>
          </li>
        ))}
        {due && due.left !== 0 && (
          <li className={`${row} font-semibold`}>
            <span className="flex-1">Left to pay {due.name}</span>
            <span className="font-mono text-sm">{showAmount(due.left, cost.currency)}</span>
          </li>
        )}
        {!due && payouts.length > 0 && <li className={`${row} text-soft`}>Paid in full.</li>}
      </ul>
      {due?.doubts.map((doubt) => (
        <p key={doubt} className="mt-2 text-sm text-attention">
          {doubt.charAt(0).toUpperCase() + doubt.slice(1)}
        </p>
      ))}
      {open && due && (
        <PayDialog dues={[due]} {...{ today, home }} onClose={() => setOpen(false)} onDone={() => setOpen(false)} />
      )}
    </Section>
  );
}
