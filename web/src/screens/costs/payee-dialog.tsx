import { needText, readAll } from '@half-penny/core/model';
import type { Due } from '@half-penny/core/paying-out';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

/** The account of somebody who is owed, written down once. */
export function PayeeDialog({ due: { cost, name }, onClose }: { due: Due; onClose: () => void }) {
  const { run } = useChanges();
  const [number, setNumber] = useState(cost.payTo ?? '');
  const [bic, setBic] = useState('');
  const [holder, setHolder] = useState('');
  const { fault, faults, submit } = useSubmit(async () => {
    await run('payee.add', {
      name,
      memberId: cost.kind === 'expense' ? cost.memberId : null,
      ...readAll({ number: () => needText(number, 'Write the number of the account.') }),
      bic: bic.replace(/\s/g, '').toUpperCase(),
      holder: holder.trim(),
    });
    onClose();
  }, ['number', 'bic', 'holder']);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Account of ${name}`}
      about={cost.payTo ? 'The number stands on the bill. Compare it with what you know of them before you pay.' : ''}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField
          label="IBAN, or sort code and number"
          value={number}
          fault={faults.number ?? fault}
          onChange={(event) => setNumber(event.target.value)}
        />
        <TextField
          label="BIC"
          hint="Needed only where the bank is not found by the number."
          value={bic}
          fault={faults.bic}
          onChange={(event) => setBic(event.target.value)}
        />
        <TextField
          label="Account name"
          hint={`Where it is another than ${name}.`}
          value={holder}
          fault={faults.holder}
          onChange={(event) => setHolder(event.target.value)}
        />
        <Button type="submit" kind="main" className="self-end">
          Keep the account
        </Button>
      </form>
    </Dialog>
  );
}
