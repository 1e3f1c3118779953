import { needText } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import type { MoneyInRow } from '../../data/money-in';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

/** Money that is for no invoice: why. */
export function SetMoneyAside({ row: { sum }, onClose }: { row: MoneyInRow; onClose: () => void }) {
  const { run } = useChanges();
  const [reason, setReason] = useState('');
  const { fault, faults, submit } = useSubmit(async () => {
    await run('money.setAside', { ids: [sum.id], reason: needText(reason, 'Say what it is.') });
    onClose();
  }, ['reason']);
  return (
    <Dialog
      open
      onClose={onClose}
      title="For no invoice"
      about={`${showAmount(sum.amount, sum.currency)} from ${sum.payer || 'nobody named'}: interest, a tax refund, a transfer of your own.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField
          label="What it is"
          value={reason}
          fault={faults.reason ?? fault}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button type="submit" kind="main" className="self-end">
          Set aside
        </Button>
      </form>
    </Dialog>
  );
}
