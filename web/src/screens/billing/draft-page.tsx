import { nextSeq, explainDraft, freeze, type Draft, type DraftLine, type Pricer } from '@half-penny/core/billing';
import { Fault, type FrozenInvoice, type Invoice } from '@half-penny/core/model';
import { readDecimal } from '@half-penny/core/money';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useInvoices } from '../../data/billing';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useLackingReceipts } from '../../data/costs';
import { useToday } from '../../data/queries';
import { newId } from '../../data/registry';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';
import { SavedSelect } from '../../parts/select';
import { Ledger } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { Slip } from '../../parts/slip';
import { backToDraft } from './draft-address';
import { draftColumns } from './draft-columns';
import { DraftTerms } from './draft-terms';
import { Findings, useFindings } from './findings';
import { InvoiceSheet } from './invoice-sheet';
import { IssueDialog } from './issue-dialog';
import { LineSources } from './line-sources';
import { useDraft } from './use-draft';
import { showKey, useKeys } from '../../parts/keys';
import { HistoryButton } from '../../parts/history-button';

interface DraftPageProps {
  pricer: Pricer;
  records: InvoiceRecords;
}

/** A draft: its lines and what stands on each, how they are condensed, and the client's copy as it would be sent now. */
export function DraftPage({ pricer, records }: DraftPageProps) {
  const { draft, fault } = useDraft(pricer, records, useToday());
  if (!draft) {
    return (
      <Page title={pricer.client.get(records.invoice.clientId)!.name} aside="draft invoice">
        {fault === null ? <Loading /> : <p role="alert">{fault}</p>}
      </Page>
    );
  }
  return <DraftSheet pricer={pricer} records={records} draft={draft} />;
}

function DraftSheet({ pricer, records, draft }: DraftPageProps & { draft: Draft }) {
  const { invoice } = records;
  const { run, attempt } = useChanges();
  const navigate = useNavigate();
  const today = useToday();
  const invoices = useInvoices();
  const [issuing, setIssuing] = useState(false);
  const [focus, setFocus] = useState<string | null>(null);
  const client = pricer.client.get(invoice.clientId)!;
  const findings = useFindings(pricer, invoice, draft, today);
  const preview = useMemo(() => previewOf(pricer, draft, invoice, today), [pricer, draft, invoice, today]);
  const seq = nextSeq(
    (invoices ?? []).map((each) => each.invoice),
    pricer.book.workspace.firstNumber,
  );
  const discard = async () => {
    if (await attempt('invoice.discard', { id: invoice.id })) void navigate(`/billing/client/${client.id}`);
  };
  const askToIssue = () => setIssuing(true);
  useKeys({ 'draft.issue': askToIssue });
  const save = (fields: Partial<Omit<Invoice, 'id'>>) => run('invoice.edit', { id: invoice.id, ...fields });
  const focused = draft.lines.find((line) => line.key === focus);
  return (
    <Page
      title={client.name}
      aside="draft invoice"
      actions={
        <>
          <Button onClick={() => void navigate(`/billing/client/${client.id}`)}>Add more</Button>
          <Button onClick={() => void discard()}>Discard the draft</Button>
          <Button kind="main" shortcut={showKey('draft.issue')} onClick={askToIssue}>
            Issue…
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-4">
          <Slip working={explainDraft(pricer, draft, invoice.inclusive, `${client.name}, draft`)} />
          <DraftTerms {...{ pricer, draft, records, client, save }} />
          <HistoryButton pricer={pricer} table="invoices" id={invoice.id} />
        </div>
      }
    >
      {findings && findings.length > 0 && (
        <div className="mb-6">
          <Findings {...{ findings }} clientId={client.id} back={backToDraft(pricer, invoice)} />
        </div>
      )}
      <Section title="Lines">
        <Lines {...{ pricer, draft, invoice, save }} onFocus={setFocus} />
      </Section>
      {focused && (
        <>
          {focused.byHand && <HandLineProject {...{ pricer, invoice, save }} line={focused} />}
          {!focused.byHand && <LineSources key={focused.key} {...{ pricer, records }} line={focused} />}
        </>
      )}
      {preview && (
        <Section title="The client’s copy">
          <InvoiceSheet invoice={preview} number="Draft" />
        </Section>
      )}
      {issuing && invoices && (
        <IssueDialog {...{ invoice, draft, seq, today }} pricer={pricer} onClose={() => setIssuing(false)} />
      )}
    </Page>
  );
}

interface LinesProps {
  pricer: Pricer;
  draft: Draft;
  invoice: Invoice;
  save: (fields: Partial<Omit<Invoice, 'id'>>) => Promise<unknown>;
  onFocus: (key: string) => void;
}

/** The lines: written, discounted, moved and headed in place; more are added by hand. */
function Lines({ pricer, draft, invoice, save, onFocus }: LinesProps) {
  const { attempt } = useChanges();
  const costs = useMemo(() => draft.lines.flatMap((line) => line.charges.flatMap(({ cost }) => cost ?? [])), [draft]);
  const lacking = useLackingReceipts(pricer, costs) ?? new Set();
  const move = (line: DraftLine, by: -1 | 1) => {
    const keys = draft.lines.map((each) => each.key);
    const at = keys.indexOf(line.key);
    const to = at + by;
    if (to < 0 || to >= keys.length) return;
    [keys[at], keys[to]] = [keys[to]!, keys[at]!];
    void save({ order: keys });
  };
  const head = (line: DraftLine, text: string) => {
    const others = invoice.headings.filter((each) => each.before !== line.key);
    return save({ headings: text.trim() ? [...others, { id: newId(), text, before: line.key }] : others });
  };
  const saveText = (line: DraftLine, text: string) =>
    line.byHand
      ? save({ byHand: invoice.byHand.map((each) => (each.key === line.key ? { ...each, text } : each)) })
      : save({ texts: withKey(invoice.texts, line.key, text.trim() || null) });
  const remove = (line: DraftLine) => {
    if (line.byHand) return void save({ byHand: invoice.byHand.filter((each) => each.key !== line.key) });
    const sourceIds = [...line.sources.map((source) => source.entry.id), ...line.charges.map((charge) => charge.id)];
    void attempt('invoice.takeOff', { id: invoice.id, sourceIds });
  };
  return (
    <>
      <Ledger
        label="Lines of the draft"
        rows={draft.lines}
        rowId={(line) => line.key}
        rowName={(line) => line.text}
        columns={draftColumns({
          pricer,
          draft,
          inclusive: invoice.inclusive,
          saveText,
          saveDiscount: (line, percent) => save({ discounts: withKey(invoice.discounts, line.key, percent || null) }),
          saveHeading: head,
          lacking,
          lineTaxes: invoice.lineTaxes,
          saveTax: (line, taxId) => save({ lineTaxes: withKey(invoice.lineTaxes, line.key, taxId) }),
        })}
        keys={{
          'order.up': (line) => move(line, -1),
          'order.down': (line) => move(line, 1),
          'draft.heading': (line) => void head(line, line.heading ? '' : 'Heading'),
        }}
        onActive={(line) => onFocus(line.key)}
        onDelete={remove}
        footLabel="Net"
        empty="This draft is empty. Add entries from Billing, or discard it."
      />
      {draft.lines.length > 0 && (
        <p className="mt-2 px-2 text-xs text-soft">
          Press a text to change it. Alt and an arrow move a line, {showKey('draft.heading')} adds a heading above it,
          Delete takes it off the draft; its items are to bill again.
        </p>
      )}
      <AddLine
        label="Add a line by hand"
        button="Add the line"
        fields={[
          { key: 'text', label: 'New line', className: 'min-w-44 flex-1' },
          { key: 'quantity', label: 'Quantity', className: 'w-20', inputMode: 'decimal', start: '1' },
          { key: 'unitName', label: 'Unit', className: 'w-20', placeholder: 'km' },
          { key: 'price', label: `Price, ${draft.currency}`, className: 'w-28', inputMode: 'decimal' },
        ]}
        add={async ({ text = '', quantity = '', unitName = '', price = '' }) => {
          if (!text.trim()) throw new Fault('empty', 'Say what it is for.', 'text');
          const line = {
            key: newId(),
            text,
            unitName,
            quantity: readDecimal(quantity, 'quantity'),
            price: readDecimal(price, 'price'),
            taxId: invoice.taxId,
            account: '',
            projectId: null,
          };
          await save({ byHand: [...invoice.byHand, line] });
        }}
      />
    </>
  );
}

/** The project that a line written by hand counts to in reports. */
function HandLineProject({
  pricer,
  invoice,
  line,
  save,
}: Pick<LinesProps, 'pricer' | 'invoice' | 'save'> & { line: DraftLine }) {
  const hand = invoice.byHand.find((each) => each.key === line.key);
  if (!hand) return null;
  const projects = pricer.book.projects.filter((project) => project.clientId === invoice.clientId);
  return (
    <SavedSelect
      label={`Project of “${line.text.slice(0, 40)}”, for reports`}
      className="mb-3 w-72"
      value={hand.projectId ?? ''}
      options={[['', 'None'], ...projects.map((project) => [project.id, pricer.tree.pathOf(project.id)] as const)]}
      save={(projectId) =>
        save({
          byHand: invoice.byHand.map((each) => (each === hand ? { ...each, projectId: projectId || null } : each)),
        })
      }
    />
  );
}

/** A record with a key set, or without it. */
function withKey<T>(record: Record<string, T>, key: string, value: T | null): Record<string, T> {
  const { [key]: _before, ...others } = record;
  return value === null ? others : { ...others, [key]: value };
}

/** The client's copy as it would be issued now; null where something is missing, which the findings say. */
function previewOf(pricer: Pricer, draft: Draft, invoice: Invoice, today: string): FrozenInvoice | null {
  try {
    return freeze(pricer, draft, invoice, 1, today);
  } catch (thrown) {
    if (thrown instanceof Fault) return null;
    throw thrown;
  }
}
