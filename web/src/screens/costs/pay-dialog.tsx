import { readAll } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import type { Due } from '@half-penny/core/paying-out';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

interface PayDialogProps {
  dues: readonly Due[];
  today: string;
  /** The studio's own currency. */
  home: string;
  onClose: () => void;
  onDone: () => void;
}

/** What was paid: all that is left of several, or of one a part. */
export function PayDialog({ dues, today, home, onClose, onDone }: PayDialogProps) {
  const { run } = useChanges();
  const [first] = dues;
  const only = dues.length === 1 ? first! : null;
  const currency = first!.cost.currency;
  const [day, setDay] = useState(today);
  const [amount, setAmount] = useState(only ? inStyle(plainAmount(only.left, currency)) : '');
  const [left, setLeft] = useState('');
  const [note, setNote] = useState('');
  const foreign = only !== null && currency !== home;
  const readLeft = () =>
    foreign && left.trim() !== '' ? { amount: readAmount(left, home), currency: home } : undefined;
  const { fault, faults, submit } = useSubmit(async () => {
    const payouts = only
      ? [{ costId: only.cost.id, ...readAll({ amount: () => readAmount(amount, currency), left: readLeft }) }]
      : dues.map((due) => ({ costId: due.cost.id, amount: due.left }));
    await run('payout.add', { payouts: payouts.map((each) => ({ ...each, day, note: note.trim() })) });
    onDone();
  }, ['amount', 'left', 'day', 'note']);
  return (
    <Dialog
      open
      onClose={onClose}
      title={only ? `Paid to ${only.name}` : `${dues.length} paid in full`}
      about={only ? `${showAmount(only.left, currency)} are left to pay.` : namesOf(dues)}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        {only && (
          <TextField
            label={`Amount, ${currency}`}
            inputMode="decimal"
            value={amount}
            fault={faults.amount}
            onChange={(event) => setAmount(event.target.value)}
          />
        )}
        {foreign && (
          <TextField
            label={`What left the account, ${home}`}
            hint="What the bank took for it; what the exchange rate made of it is booked."
            inputMode="decimal"
            value={left}
            fault={faults.left}
            onChange={(event) => setLeft(event.target.value)}
          />
        )}
        <DayField label="It left the account on" value={day} onPick={setDay} fault={faults.day} />
        <TextField label="Note" value={note} fault={faults.note} onChange={(event) => setNote(event.target.value)} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind="main" className="self-end">
          {only ? 'Record the payment' : `Record ${dues.length} payments`}
        </Button>
      </form>
    </Dialog>
  );
}

/** Everybody once, and how many more there are. */
export function namesOf(dues: readonly Due[]): string {
  const names = [...new Set(dues.map((due) => due.name))];
  const shown = names.slice(0, 4).join(', ');
  return names.length > 4 ? `${shown} and ${names.length - 4} more` : shown;
}
