import { useRead } from '../../data/read';
import { DayField } from '../../parts/day-field';
import {
  beforeIssuing,
  invoiceNumber,
  type Draft,
  type Finding,
  type Pricer,
  type Remedy,
} from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

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
      <form className="flex flex-col gap-4" onSubmit={submit}>
        <div className="flex items-end gap-3">
          <DayField label="Date of the invoice" value={day} fault={fault} onPick={setDay} className="flex-1" />
          <Button type="submit" kind="main" disabled={findings?.some((each) => each.weight === 'refused') ?? true}>
            Issue {number}
          </Button>
        </div>
        {findings && findings.length > 0 && <Findings findings={findings} clientId={invoice.clientId} />}
      </form>
    </Dialog>
  );
}

function Findings({ findings, clientId }: { findings: readonly Finding[]; clientId: string }) {
  return (
    <section aria-label="Before it is issued">
      <h3 className="mb-1 text-sm font-semibold text-soft">Before it is issued</h3>
      <ul className="flex flex-col border-t border-rule">
        {findings.map(({ weight, text, remedy }) => {
          const { to, words } = placeOf(remedy, clientId);
          return (
            <li key={text} className="flex items-baseline gap-3 border-b border-rule py-1.5">
              <span className={`written min-w-0 flex-1 ${weight === 'refused' ? 'text-fault' : 'text-attention'}`}>
                {text}
              </span>
              {to && (
                <Link to={to} className="shrink-0 text-time underline">
                  {words}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Where something is put right; what stands on the draft itself, or is the date above, needs no way there. */
function placeOf(remedy: Remedy, clientId: string): { to: string | null; words: string } {
  switch (remedy.kind) {
    case 'client':
      return { to: `/clients/${clientId}`, words: 'Open the client' };
    case 'rates':
      return { to: `/clients/${clientId}/rates`, words: 'Open its rates' };
    case 'exchange':
      return { to: '/setup/rates', words: 'Open exchange rates' };
    case 'studio':
      return { to: '/setup', words: 'Open the studio' };
    case 'taxes':
    case 'accounts':
      return { to: '/setup/invoicing', words: 'Open invoicing' };
    case 'cost':
      return { to: `/costs/cost/${remedy.costId}`, words: 'Add the receipt' };
    case 'draft':
    case 'date':
      return { to: null, words: '' };
  }
}

function useFindings(pricer: Pricer, invoice: Invoice, draft: Draft, day: string): Finding[] | undefined {
  const rows = useRead(
    async (reader) => {
      const ids = new Set(draft.lines.flatMap((line) => line.charges.flatMap((charge) => charge.cost?.id ?? [])));
      const costs = (await reader.many('costs', [...ids])).filter((row) => row !== undefined);
      const costLines = await reader.by('costLines', 'costId', [...ids]);
      const issued = (await reader.all('invoices')).flatMap((row) => row.frozen ?? []);
      return { costs, costLines, issued };
    },
    [draft],
  );
  return useMemo(
    () => rows && beforeIssuing(pricer, { draft, invoice, day, issued: rows.issued, rows }),
    [rows, pricer, draft, invoice, day],
  );
}
