import type { Pricer } from '@half-penny/core/billing';
import {
  rulesBrokenBy,
  supplierBills,
  type BillLine,
  type ReadInvoice,
  type SupplierBill,
} from '@half-penny/core/e-invoice';
import { noJob, type Job } from '@half-penny/core/entries';
import { showAmount, sumExact } from '@half-penny/core/money';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { CostRow } from '../../data/costs';
import { wordsOf } from '../../data/in-words';
import { useKeepReceipts } from '../../data/receipts';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { showShortDay } from '../../parts/days';
import { FileButton } from '../../parts/file-button';
import { headingOptions } from '../../parts/headings';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { SelectField } from '../../parts/select';
import { useWork } from '../../parts/use-work';
import { readSupplierInvoice } from '../../workers/tasks';

interface PartProps {
  pricer: Pricer;
  rows: readonly CostRow[];
}

interface Read {
  file: File;
  invoice: ReadInvoice;
  pdf: boolean;
}

/** A supplier's electronic invoice becomes a bill, once it was looked at. */
export function EInvoiceIn({ pricer, rows }: PartProps) {
  const [read, setRead] = useState<Read | null>(null);
  const [fault, setFault] = useState<string>();
  const work = useWork();
  const open = (file: File) => {
    setRead(null);
    setFault(undefined);
    work.start(
      `Reading ${file.name}`,
      () => readSupplierInvoice(file),
      (found) => (found.ok ? setRead({ file, invoice: found.invoice, pdf: found.pdf }) : setFault(found.message)),
    );
  };
  const said = fault ?? work.fault;
  return (
    <>
      <Section title="An e-invoice">
        <p className="mb-3 max-w-2xl text-soft">
          A supplier’s Factur-X or ZUGFeRD (PDF), XRechnung, Peppol or any other UBL or CII. Nothing comes in before you
          have seen it.
        </p>
        <FileButton kind="main" label="Choose a file" accept=".pdf,.xml" onFile={open} />
        {said && (
          <p role="alert" className="mt-3 text-fault">
            {said}
          </p>
        )}
        {work.title && <Progress title={work.title} share={null} onStop={work.stop} />}
      </Section>
      {read && <Bills key={read.invoice.number} {...{ pricer, rows, read }} />}
    </>
  );
}

/** What it says, whether its sums hold, and what is to become of it. */
function Bills({ pricer, rows, read: { file, invoice, pdf } }: PartProps & { read: Read }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const keeping = useKeepReceipts();
  const [job, setJob] = useState<Job>(noJob);
  const [costCodeId, setCostCodeId] = useState('');
  const [forClient, setForClient] = useState(true);
  const [fault, setFault] = useState<string>();
  const [adding, setAdding] = useState(false);
  const bills = supplierBills(invoice, pricer.book.taxes);
  const broken = rulesBrokenBy(invoice);
  const before = rows.find(
    ({ cost }) => cost.reference === invoice.number && cost.supplier === bills[0]!.supplier && cost.kind === 'bill',
  );
  const add = async () => {
    setAdding(true);
    try {
      const receiptIds = pdf ? await keeping.keep([file], []) : [];
      const where = { projectId: job.projectId, unlisted: job.unlisted, costCodeId: costCodeId || null, forClient };
      const made = await run('bill.take', {
        bills: bills.map((bill) => ({
          ...bill,
          kind: 'bill',
          receiptIds,
          lines: bill.lines.map((line) => ({ ...line, ...where })),
        })),
      });
      void navigate(`/costs/cost/${made.changes.find((change) => change.table === 'costs')!.id}`);
    } catch (thrown) {
      setFault(wordsOf(thrown));
      setAdding(false);
    }
  };
  return (
    <Section
      title={`${invoice.seller.name || 'A supplier'}, ${invoice.number}`}
      actions={
        <Button kind="main" disabled={adding} onClick={() => void add()}>
          {before ? 'Add it all the same' : bills.length === 1 ? 'Add the bill' : `Add ${bills.length} bills`}
        </Button>
      }
    >
      <p className="mb-3 text-soft">
        {invoice.type === '381' ? 'Credit note' : 'Invoice'} of {showShortDay(invoice.issued)}
        {invoice.due && `, due ${showShortDay(invoice.due)}`}, in all{' '}
        <span className="font-mono text-ink">{showAmount(invoice.totals.gross, invoice.currency)}</span>
        {bills.length > 1 && '. A bill bears one tax, so it becomes a bill for each.'}
      </p>
      {before && (
        <p role="alert" className="mb-3 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          Their {invoice.number} is here already, of {showShortDay(before.cost.day)}.
        </p>
      )}
      {broken.length > 0 && <Broken broken={broken} />}
      <div className="mb-4 grid max-w-3xl gap-4 md:grid-cols-2">
        <div className="flex flex-col gap-1">
          <span className="text-xs font-semibold text-soft">Job</span>
          <JobPicker pricer={pricer} value={job} onPick={setJob} label="Job" none="Choose a job" boxed />
        </div>
        <SelectField
          label="Cost code"
          value={costCodeId}
          options={headingOptions(pricer, job.projectId, costCodeId || null)}
          onPick={setCostCodeId}
        />
        <label className="flex items-center gap-2">
          <CheckBox checked={forClient} onChange={setForClient} />
          For the client
        </label>
      </div>
      {bills.map((bill, place) => (
        <div key={place} className="mb-4">
          <Ledger
            label={`Lines with ${taxName(pricer, bill.taxId)}`}
            rows={bill.lines.map((line, index) => ({ ...line, key: String(index) }))}
            rowId={(line) => line.key}
            rowName={(line) => line.text}
            columns={columnsOf(bill, taxName(pricer, bill.taxId))}
            empty="There is no line on it."
          />
        </div>
      ))}
      {!pdf && (
        <p className="text-sm text-soft">
          The file is data alone and is not kept with the bill: keep it where you keep papers.
        </p>
      )}
      {[...keeping.faults, ...(fault ? [fault] : [])].map((each) => (
        <p key={each} role="alert" className="mt-2 text-fault">
          {each}
        </p>
      ))}
    </Section>
  );
}

const taxName = (pricer: Pricer, taxId: string | null): string =>
  taxId === null ? 'no tax' : (pricer.tax.get(taxId)?.name ?? 'a tax');

/** The rules that it breaks: whoever sent it should know, and nobody pays by it unseen. */
function Broken({ broken }: { broken: readonly string[] }) {
  const MOST = 6;
  return (
    <div role="alert" className="mb-3 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
      <p>It does not hold the rules of EN 16931. Ask the supplier before it is paid.</p>
      <ul className="mt-1 text-sm">
        {broken.slice(0, MOST).map((each) => (
          <li key={each}>{each}</li>
        ))}
        {broken.length > MOST && <li>and {broken.length - MOST} more</li>}
      </ul>
    </div>
  );
}

const columnsOf = ({ currency, lines }: SupplierBill, tax: string): Column<BillLine & { key: string }>[] => [
  {
    key: 'text',
    head: `What was bought, with ${tax}`,
    width: 'minmax(0,1fr)',
    cell: (line) => <span className="written clamp-2">{line.text}</span>,
  },
  {
    key: 'amount',
    head: 'Amount',
    width: '120px',
    align: 'end',
    cell: (line) => <span className="font-mono text-sm text-money">{showAmount(line.amount ?? 0, currency)}</span>,
    foot: (
      <span className="font-mono text-sm font-semibold text-money">
        {showAmount(sumExact(lines.map((line) => line.amount ?? 0)), currency)}
      </span>
    ),
  },
];
