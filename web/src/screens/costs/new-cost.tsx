import { useAll } from '../../data/read';
import { DayField } from '../../parts/day-field';
import type { Pricer } from '@half-penny/core/billing';
import { noJob, type Job } from '@half-penny/core/entries';
import { Fault, needText, readAll, type CostKind } from '@half-penny/core/model';
import { isCurrency } from '@half-penny/core/money';
import { addDays } from '@half-penny/core/time';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { useKeepReceipts, useReceipts } from '../../data/receipts';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { headingOptions } from '../../parts/headings';
import { JobPicker } from '../../parts/job-picker';
import { Loading, Page } from '../../parts/page';
import { DropFiles, usePastedFiles } from '../../parts/drop-files';
import { ReceiptStrip } from '../../parts/receipts';
import { taxOptions } from '../../parts/tax-options';
import { useSubmit } from '../../parts/use-submit';
import { useKept } from '../../state/kept';
import { readWritten } from './read-amount';
import { CheckBox } from '../../parts/check';

/** Writing an expense or a supplier's bill down. */
export default function NewCost() {
  const { kind = 'expense' } = useParams();
  const pricer = usePricer();
  const today = useToday();
  const title = kind === 'bill' ? 'New supplier bill' : 'New expense';
  if (!pricer)
    return (
      <Page title={title}>
        <Loading />
      </Page>
    );
  return (
    <Page title={title}>
      <Form key={kind} pricer={pricer} kind={kind === 'bill' ? 'bill' : 'expense'} today={today} />
    </Page>
  );
}

const COST_FIELDS = ['day', 'amount', 'currency', 'supplier', 'reference', 'dueDay', 'lines'];

function Form({ pricer, kind, today }: { pricer: Pricer; kind: CostKind; today: string }) {
  const { run } = useChanges();
  const { memberId, entry: workspace } = useSession();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const rates = useAll('unitRates') ?? [];
  const keeping = useKeepReceipts();
  const [receiptIds, setReceiptIds] = useState(() => (params.get('receipts') ?? '').split(',').filter(Boolean));
  const receipts = useReceipts(receiptIds) ?? [];
  const { currency: home } = pricer.book.workspace;
  const [kept, change, forget] = useKept(`new ${kind} ${workspace.id}`, {
    job: noJob as Job,
    costCodeId: '',
    forClient: true,
    supplier: '',
    day: today,
    amount: '',
    text: '',
    reference: '',
    currency: home as string,
    taxId: '',
    taxIncluded: kind === 'expense',
    dueDay: kind === 'bill' ? addDays(today, 30) : '',
    memberId: memberId ?? '',
    owedBack: kind === 'expense',
  });
  const { job, costCodeId, forClient, ...fields } = kept;
  const setFields = (next: (now: typeof kept) => typeof kept) => change(next);
  const pick = (field: keyof typeof fields) => (value: string) => setFields((now) => ({ ...now, [field]: value }));
  const set = (field: keyof typeof fields) => (event: { target: { value: string } }) => pick(field)(event.target.value);
  const { fault, faults, submit } = useSubmit(async () => {
    const { amount: written } = readAll({
      day: () => needText(fields.day, 'Say on which day.'),
      amount: () => readWritten(fields.amount, fields.currency, rates),
      currency: () => needCurrency(fields.currency),
    });
    const { rate, ...amounts } = written;
    const row = await run('cost.add', {
      kind,
      day: fields.day,
      supplier: fields.supplier.trim(),
      reference: fields.reference.trim(),
      currency: fields.currency,
      taxId: fields.taxId || null,
      taxIncluded: fields.taxId !== '' && fields.taxIncluded,
      memberId: kind === 'expense' ? fields.memberId || null : null,
      owedBack: kind === 'expense' && fields.owedBack,
      dueDay: kind === 'bill' ? fields.dueDay || null : null,
      receiptIds,
      lines: [
        {
          ...amounts,
          text: fields.text.trim(),
          projectId: job.projectId,
          unlisted: job.unlisted,
          costCodeId: costCodeId || (rate?.costCodeId ?? null),
          forClient,
        },
      ],
    });
    forget();
    void navigate(`/costs/cost/${row.changes.find((change) => change.table === 'costs')!.id}`, { replace: true });
  }, COST_FIELDS);
  const takeFiles = async (files: File[], photo = false) => {
    const ids = await keeping.keep(files, [], photo);
    setReceiptIds((now) => [...new Set([...now, ...ids])]);
  };
  usePastedFiles((files) => void takeFiles(files));
  return (
    <DropFiles onFiles={(files) => void takeFiles(files)}>
      <form
        aria-label={kind === 'bill' ? 'New supplier bill' : 'New expense'}
        onSubmit={submit}
        className="flex max-w-3xl flex-col gap-5"
      >
        <div className="grid gap-4 md:grid-cols-2">
          <TextField
            label={kind === 'bill' ? 'Supplier' : 'Where'}
            fault={faults.supplier}
            autoFocus
            value={fields.supplier}
            onChange={set('supplier')}
          />
          <DayField label="Day" fault={faults.day} value={fields.day} onPick={pick('day')} />
          <TextField label="What was bought" fault={faults.lines} value={fields.text} onChange={set('text')} />
          <TextField
            label={`Amount, ${fields.currency}`}
            value={fields.amount}
            fault={faults.amount}
            onChange={set('amount')}
            hint={rates.length > 0 ? `12.40, or 4 x 12.50, or 62 ${rates[0]!.unit}` : '12.40, or 4 x 12.50'}
          />
          <div className="flex flex-col gap-1">
            <span className="text-xs font-semibold text-soft">Job</span>
            <JobPicker
              pricer={pricer}
              value={job}
              onPick={(next) => change((now) => ({ ...now, job: next }))}
              label="Job"
              none="Choose a job"
              boxed
            />
          </div>
          <SelectField
            label="Cost code"
            value={costCodeId}
            options={headingOptions(pricer, job.projectId, costCodeId || null)}
            onPick={(picked) => change((now) => ({ ...now, costCodeId: picked }))}
          />
          <SelectField
            label="Tax on it"
            value={fields.taxId}
            options={[['', 'No tax'], ...taxOptions(pricer)]}
            onPick={pick('taxId')}
          />
          <TextField
            label="Currency"
            fault={faults.currency}
            value={fields.currency}
            onChange={(event) =>
              setFields((now) => ({ ...now, currency: event.target.value.toUpperCase().slice(0, 3) }))
            }
          />
          {kind === 'bill' ? (
            <>
              <TextField
                label="Their number"
                fault={faults.reference}
                value={fields.reference}
                onChange={set('reference')}
              />
              <DayField
                label="Due"
                fault={faults.dueDay}
                value={fields.dueDay}
                onPick={pick('dueDay')}
                onClear={() => pick('dueDay')('')}
              />
            </>
          ) : (
            <SelectField
              label="Who paid"
              value={fields.memberId}
              options={pricer.book.members.map((member) => [member.id, member.name] as const)}
              onPick={pick('memberId')}
            />
          )}
        </div>
        <div className="flex flex-wrap gap-x-6 gap-y-2">
          <Tick
            label="For the client"
            checked={forClient}
            onChange={(next) => change((now) => ({ ...now, forClient: next }))}
          />
          {fields.taxId && (
            <Tick
              label="The tax is in the amount"
              checked={fields.taxIncluded}
              onChange={(taxIncluded) => setFields((now) => ({ ...now, taxIncluded }))}
            />
          )}
          {kind === 'expense' && (
            <Tick
              label="Owed back to who paid"
              checked={fields.owedBack}
              onChange={(owedBack) => setFields((now) => ({ ...now, owedBack }))}
            />
          )}
        </div>
        <ReceiptStrip
          receipts={receipts}
          keeping={keeping}
          onFiles={(files, photo) => void takeFiles(files, photo)}
          onRemove={(receipt) => setReceiptIds((now) => now.filter((id) => id !== receipt.id))}
        />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main">
            {kind === 'bill' ? 'Add the bill' : 'Add the expense'}
          </Button>
          <Button onClick={() => void navigate('/costs')}>Cancel</Button>
        </div>
      </form>
    </DropFiles>
  );
}

function needCurrency(code: string): string {
  if (isCurrency(code)) return code;
  throw new Fault('not-a-currency', 'This is not a currency; use an ISO 4217 code such as GBP.');
}

const Tick = ({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) => (
  <label className="flex items-center gap-2">
    <CheckBox checked={checked} onChange={onChange} />
    {label}
  </label>
);
