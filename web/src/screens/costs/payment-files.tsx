import type { Pricer } from '@half-penny/core/billing';
import type { Payout } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { filesOf } from '@half-penny/core/paying-out';
import { useState } from 'react';
import { savePaymentFile, type PayingOut } from '../../data/paying-out';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger } from '../../parts/ledger';
import { Section } from '../../parts/page';

interface PaymentFilesProps {
  pricer: Pricer;
  paying: PayingOut;
  today: string;
}

/** What the bank was asked for and has not been seen to pay. */
export function PaymentFiles({ pricer, paying, today }: PaymentFilesProps) {
  const { attempt } = useChanges();
  const [fault, setFault] = useState('');
  const files = [...filesOf(paying.payouts).values()]
    .map((own) => own.filter((payout) => payout.standing === 'asked'))
    .filter((own) => own.length > 0)
    .sort((a, b) => b[0]!.file!.madeAt - a[0]!.file!.madeAt);
  if (files.length === 0) return null;
  const ids = (own: readonly Payout[]) => own.map((payout) => payout.id);
  const save = async (own: readonly Payout[]) => {
    const whole = paying.payouts.filter((payout) => payout.file?.id === own[0]!.file!.id);
    const saved = await savePaymentFile(whole, paying, pricer);
    setFault(saved ? '' : 'An account that this file needs is not written down any more.');
  };
  return (
    <Section title="Asked of the bank">
      <p className="mb-2 max-w-2xl text-soft">
        A statement that tells of these payments settles them: read it under From a statement.
      </p>
      {fault && (
        <p role="alert" className="mb-2 text-fault">
          {fault}
        </p>
      )}
      <Ledger
        label="Asked of the bank"
        rows={files}
        rowId={(own) => own[0]!.file!.id}
        rowName={(own) => `${own.length} payments on ${showShortDay(own[0]!.day)}`}
        columns={[
          { key: 'day', head: 'To be paid on', width: '120px', cell: (own) => showShortDay(own[0]!.day) },
          {
            key: 'who',
            head: 'To whom',
            ownLine: true,
            width: 'minmax(0,1fr)',
            cell: (own) => <span className="written clamp-2">{payeesOf(own, paying)}</span>,
          },
          {
            key: 'amount',
            head: 'Amount',
            width: '120px',
            align: 'end',
            cell: (own) => (
              <span className="font-mono text-sm">
                {showAmount(sumExact(own.map((each) => each.amount)), own[0]!.currency)}
              </span>
            ),
          },
          {
            key: 'does',
            head: 'What to do',
            quietHead: true,
            width: '290px',
            align: 'end',
            cell: (own) => (
              <span className="flex flex-wrap justify-end gap-x-1">
                <Button
                  kind="quiet"
                  onClick={() =>
                    void attempt('payout.settle', { ids: ids(own), day: own[0]!.day < today ? own[0]!.day : today })
                  }
                >
                  It went out
                </Button>
                <Button kind="quiet" onClick={() => void save(own)}>
                  Save it again
                </Button>
                <Button kind="quiet" onClick={() => void attempt('payout.remove', { ids: ids(own) })}>
                  Withdraw
                </Button>
              </span>
            ),
          },
        ]}
        empty=""
      />
    </Section>
  );
}

/** Who is paid by some payments, each once. */
export function payeesOf(payouts: readonly Payout[], { costs, payees }: PayingOut): string {
  const names = payouts.map(({ costId }) => {
    const cost = costs.get(costId);
    const member = cost?.kind === 'expense' && payees.find((payee) => payee.memberId === cost.memberId);
    return (member ? member.name : cost?.supplier) || 'Nobody named';
  });
  return [...new Set(names)].join(', ');
}
