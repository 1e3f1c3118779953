import { invoiceNumber, type Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

interface IssueDialogProps {
  pricer: Pricer;
  invoice: Invoice;
  seq: number;
  today: string;
  onClose: () => void;
}

/** Asks for the date, and issues. */
export function IssueDialog({ pricer, invoice, seq, today, onClose }: IssueDialogProps) {
  const { run } = useChanges();
  const [day, setDay] = useState(today);
  const number = invoiceNumber(pricer.book.workspace, seq, day || today);
  const { fault, submit } = useSubmit(async () => {
    await run('invoice.issue', { id: invoice.id, day });
    onClose();
  });
  return (
    <Dialog
      title={`Issue ${number}`}
      open
      onClose={onClose}
      about="It gets its number and can no longer be changed. An issued invoice is not undone; it can be voided or credited, with a reason."
    >
      <form className="flex items-end gap-3" onSubmit={submit}>
        <TextField
          label="Date of the invoice"
          type="date"
          value={day}
          fault={fault}
          onChange={(event) => setDay(event.target.value)}
          className="flex-1"
        />
        <Button type="submit" kind="main">
          Issue {number}
        </Button>
      </form>
    </Dialog>
  );
}
