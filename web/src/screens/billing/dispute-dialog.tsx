import type { FrozenInvoice, Invoice } from '@half-penny/core/model';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

/** The client does not agree: reminders wait until it is settled. */
export function DisputeDialog({
  invoice,
  frozen,
  onClose,
}: {
  invoice: Invoice;
  frozen: FrozenInvoice;
  onClose: () => void;
}) {
  const { run } = useChanges();
  const [note, setNote] = useState('');
  const { fault, submit } = useSubmit(async () => {
    await run('invoice.dispute', { id: invoice.id, note: note.trim() });
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${frozen.number} is in dispute`}
      about="No reminder goes out until it is settled."
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField label="About what" value={note} fault={fault} onChange={(event) => setNote(event.target.value)} />
        <Button type="submit" kind="main" className="self-end">
          Mark it
        </Button>
      </form>
    </Dialog>
  );
}
