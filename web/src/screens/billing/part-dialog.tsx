import type { Id } from '@half-penny/core/model';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import { readPart, showPart } from './adjust-dialog';
import { pickedIds, type BillItem } from './bill-item';

interface PartDialogProps {
  clientId: Id;
  item: BillItem;
  draftId: Id | undefined;
  onClose: () => void;
}

/** Puts a part of one thing on an invoice; the rest stays to bill. */
export function PartDialog({ clientId, item, draftId, onClose }: PartDialogProps) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const [part, setPart] = useState(() => showPart(item));
  const { fault, submit } = useSubmit(async () => {
    const parts = { [item.id]: readPart(item, part) };
    const row = await run('invoice.draft', {
      clientId,
      ...pickedIds([item]),
      parts,
      ...(draftId ? { id: draftId } : {}),
    });
    onClose();
    const invoiceId = draftId ?? row.changes.find((change) => change.table === 'invoices')?.id;
    if (invoiceId) void navigate(`/billing/invoice/${invoiceId}`);
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Bill a part of ${item.text.slice(0, 60) || 'it'}`}
      about="The rest stays to bill."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label={item.item ? 'Time to bill now' : 'How much to bill now, before any markup'}
          value={part}
          fault={fault}
          autoFocus
          onFocus={(event) => event.target.select()}
          onChange={(event) => setPart(event.target.value)}
        />
        <Button type="submit" kind="main" shortcut="Enter" className="self-start">
          Put the part on an invoice
        </Button>
      </form>
    </Dialog>
  );
}
