import {
  nextSeq,
  computeDraft,
  explainDraft,
  explainLine,
  freeze,
  type Draft,
  type DraftLine,
  type Pricer,
} from '@half-penny/core/billing';
import { condensings, Fault, messageOf, type FrozenInvoice, type Invoice } from '@half-penny/core/model';
import { currencyDigits, showDecimal } from '@half-penny/core/money';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { tinykeys } from 'tinykeys';
import { useInvoices, useToday, type InvoiceRecords } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { SavedField, SavedSelect, TextField } from '../../parts/field';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Page, Section } from '../../parts/page';
import { Slip } from '../../parts/slip';
import { taxOptions } from '../../parts/tax-options';
import { InvoiceSheet } from './invoice-sheet';

const condenseWords = {
  entry: 'One line an entry',
  service: 'One line a service',
  project: 'One line a project',
} as const;

/** A draft: its lines, how they are condensed, and the client's copy as it would be sent now. */
export function DraftPage({ pricer, records }: { pricer: Pricer; records: InvoiceRecords }) {
  const { invoice } = records;
  const { run, attempt } = useChanges();
  const navigate = useNavigate();
  const today = useToday();
  const invoices = useInvoices();
  const [issuing, setIssuing] = useState(false);
  const draft = useMemo(() => computeDraft(pricer, { ...records, day: today }), [pricer, records, today]);
  const client = pricer.client.get(invoice.clientId)!;
  const preview = useMemo(() => previewOf(pricer, draft, invoice, today), [pricer, draft, invoice, today]);
  const seq = nextSeq(
    (invoices ?? []).map((each) => each.invoice),
    pricer.book.workspace.firstNumber,
  );
  const discard = async () => {
    if (await attempt('invoice.discard', { id: invoice.id })) void navigate(`/billing/client/${client.id}`);
  };
  const askToIssue = () => preview.ok && setIssuing(true);
  useEffect(() =>
    tinykeys(window, {
      i: (event) => {
        if (event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=dialog]'))
          return;
        event.preventDefault();
        askToIssue();
      },
    }),
  );
  const save = (fields: Partial<Pick<Invoice, 'condense' | 'note' | 'taxId' | 'texts' | 'purchaseOrder'>>) =>
    run('invoice.edit', { id: invoice.id, ...fields });
  return (
    <Page
      title={client.name}
      aside="draft invoice"
      actions={
        <>
          <Button onClick={() => void discard()}>Discard the draft</Button>
          <Button kind="main" shortcut="I" disabled={!preview.ok} onClick={askToIssue}>
            Issue
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-4">
          <Slip working={explainDraft(draft, pricer.book.workspace.taxMethod, `${client.name}, draft`)} />
          <SavedSelect
            label="Condense"
            value={invoice.condense}
            save={(value) => save({ condense: value as Invoice['condense'] })}
            options={condensings.map((each) => [each, condenseWords[each]] as const)}
            hint="Lines of one price stand together; their hours stay the same."
          />
          <SavedSelect
            label="Tax"
            value={invoice.taxId ?? ''}
            save={(value) => save({ taxId: value || null })}
            options={[['', 'No tax'], ...taxOptions(pricer)]}
          />
          {(client.purchaseOrder !== 'never' || invoice.purchaseOrder) && (
            <SavedField
              label="The client’s order number"
              hint={client.purchaseOrder === 'always' ? 'This client’s invoices need it.' : undefined}
              value={invoice.purchaseOrder}
              save={(purchaseOrder) => save({ purchaseOrder })}
            />
          )}
          <SavedField label="Note on the invoice" lines={3} value={invoice.note} save={(note) => save({ note })} />
        </div>
      }
    >
      {!preview.ok && (
        <p role="alert" className="mb-4 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          {preview.message}
        </p>
      )}
      <Section title="Lines">
        <Ledger
          label="Lines of the draft"
          rows={draft.lines}
          rowId={(line) => line.key}
          rowName={(line) => line.text}
          columns={columnsOf(pricer, draft, (line, text) => save({ texts: writtenTexts(invoice, line, text) }))}
          onDelete={(line) =>
            void attempt('invoice.takeOff', { id: invoice.id, entryIds: line.sources.map((source) => source.entry.id) })
          }
          footLabel="Net"
          empty="Nothing stands on this draft. Put entries on it from Billing, or discard it."
        />
        {draft.lines.length > 0 && (
          <p className="mt-2 px-2 text-xs text-soft">
            Press a text to write it your way. Delete takes a line off; its entries are to bill again.
          </p>
        )}
      </Section>
      {preview.ok && (
        <Section title="The client’s copy">
          <InvoiceSheet invoice={preview.invoice} number="Draft" />
        </Section>
      )}
      {issuing && preview.ok && (
        <IssueDialog {...{ invoice, seq, today }} pricer={pricer} onClose={() => setIssuing(false)} />
      )}
    </Page>
  );
}

type Preview = { ok: true; invoice: FrozenInvoice } | { ok: false; message: string };

function previewOf(pricer: Pricer, draft: Draft, invoice: Invoice, today: string): Preview {
  try {
    return { ok: true, invoice: freeze(pricer, draft, invoice, 1, today) };
  } catch (thrown) {
    if (thrown instanceof Fault) return { ok: false, message: thrown.message };
    throw thrown;
  }
}

/** A line's text written by hand; written empty, it is ours again. */
function writtenTexts(invoice: Invoice, line: DraftLine, text: string): Record<string, string> {
  const { [line.key]: _before, ...others } = invoice.texts;
  return text.trim() === '' ? others : { ...others, [line.key]: text };
}

function columnsOf(
  pricer: Pricer,
  draft: Draft,
  saveText: (line: DraftLine, text: string) => Promise<unknown>,
): Column<DraftLine>[] {
  const { lengthStyle } = pricer.book.workspace;
  const billed = draft.lines.reduce((sum, line) => sum + line.billed, 0);
  return [
    {
      key: 'text',
      head: 'Text',
      width: 'minmax(0,1fr)',
      cell: (line) => (
        <>
          <span className="written clamp-2">{line.text}</span>
          <span className="block text-xs text-soft">
            {line.sources.length} {line.sources.length === 1 ? 'entry' : 'entries'}
          </span>
        </>
      ),
      edit: { text: (line) => line.text, save: saveText },
    },
    {
      key: 'billed',
      head: 'Time',
      width: '84px',
      align: 'end',
      cell: (line) => <Length seconds={line.billed} style={lengthStyle} />,
      foot: <Length seconds={billed} style={lengthStyle} />,
    },
    {
      key: 'price',
      head: 'Price',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: ({ price }) => (
        <span className="font-mono text-sm">
          {showDecimal(price.price, currencyDigits(price.currency))} /{price.unit}
        </span>
      ),
    },
    {
      key: 'amount',
      head: 'Amount',
      width: '110px',
      align: 'end',
      cell: (line) => (
        <Worth
          amount={line.amount}
          currency={draft.currency}
          of={line.text}
          working={() => explainLine(pricer, line)}
        />
      ),
      foot: (
        <Worth
          amount={draft.totals.net}
          currency={draft.currency}
          of="the net total"
          strong
          working={() => explainDraft(draft, pricer.book.workspace.taxMethod, 'Draft')}
        />
      ),
    },
  ];
}

interface IssueDialogProps {
  pricer: Pricer;
  invoice: Invoice;
  seq: number;
  today: string;
  onClose: () => void;
}

function IssueDialog({ pricer, invoice, seq, today, onClose }: IssueDialogProps) {
  const { run } = useChanges();
  const [day, setDay] = useState(today);
  const [fault, setFault] = useState<string>();
  const { numberPrefix, numberDigits } = pricer.book.workspace;
  const number = numberPrefix + String(seq).padStart(numberDigits, '0');
  const issue = async () => {
    try {
      await run('invoice.issue', { id: invoice.id, day });
      onClose();
    } catch (thrown) {
      setFault(messageOf(thrown));
    }
  };
  return (
    <Dialog
      title={`Issue ${number}`}
      open
      onClose={onClose}
      about="It gets its number and stays as it is from now on. An issued invoice is not undone; it can be voided, with a reason."
    >
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void issue();
        }}
      >
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
