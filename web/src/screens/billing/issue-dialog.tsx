import { DayField } from '../../parts/day-field';
import { invoiceNumber, type Draft, type Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { useIsAway } from '../../data/sharing/book';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';
import { Findings, useFindings } from './findings';
import { backToDraft } from './draft-address';

interface IssueDialogProps {
  pricer: Pricer;
  invoice: Invoice;
  draft: Draft;
  seq: number;
  today: string;
  onClose: () => void;
}

/** Asks for the date, lists what is missing or odd with its remedy, and issues. */
export function IssueDialog({ pricer, invoice, draft, seq, today, onClose }: IssueDialogProps) {
  const { run } = useChanges();
  const [day, setDay] = useState(today);
  const number = invoiceNumber(pricer.book.workspace, seq, day || today);
  const findings = useFindings(pricer, invoice, draft, day || today);
  const isAway = useIsAway();
  const { fault, submit } = useSubmit(async () => {
    await run('invoice.issue', { id: invoice.id, day });
    onClose();
  });
  return (
    <Dialog
      title={`Issue ${number}`}
      open
      onClose={onClose}
      about={`${isAway ? 'Off line, it waits for its turn, and may get another number: ' : ''}It gets its number and can no longer be changed. An issued invoice is not undone; it can be voided or credited, with a reason.`}
    >
      <form className="flex flex-col gap-4" onSubmit={submit}>
        <div className="flex items-end gap-3">
          <DayField label="Date of the invoice" value={day} fault={fault} onPick={setDay} className="flex-1" />
          <Button type="submit" kind="main" disabled={findings?.some((each) => each.weight === 'refused') ?? true}>
            {isAway ? 'Issue when connected' : `Issue ${number}`}
          </Button>
        </div>
        {findings && findings.length > 0 && (
          <Findings {...{ findings }} clientId={invoice.clientId} back={backToDraft(pricer, invoice)} />
        )}
      </form>
    </Dialog>
  );
}
