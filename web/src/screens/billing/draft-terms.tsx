import { attentionOf, type Draft, type Pricer, remainingOfDeposit } from '@half-penny/core/billing';
import { Fault, type Client, type Invoice } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount, readDecimal, showAmount } from '@half-penny/core/money';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { taxOptions } from '../../parts/tax-options';
import { showShortDay } from '../../parts/days';
import { useToday } from '../../data/queries';
import { readDay } from '@half-penny/core/entries';
import { CondenseFields } from './condense-fields';
import { DrawAhead } from './invoiced-ahead';
import { IncludeTax } from './include-tax';

type Save = (fields: Partial<Omit<Invoice, 'id'>>) => Promise<unknown>;

interface DraftTermsProps {
  pricer: Pricer;
  draft: Draft;
  records: InvoiceRecords;
  client: Client;
  save: Save;
}

/** Everything about a draft that is not a line: condensing, tax, discount, deductions, and what it says. */
export function DraftTerms({ pricer, draft, records, client, save }: DraftTermsProps) {
  const { invoice } = records;
  const { attempt } = useChanges();
  const today = useToday();
  const tick = (label: string, checked: boolean, field: 'openBook' | 'withReceipts' | 'collects') => (
    <label className="flex items-center gap-2">
      <Check checked={checked} save={(checked) => attempt('invoice.edit', { id: invoice.id, [field]: checked })} />
      {label}
    </label>
  );
  return (
    <div className="flex flex-col gap-4">
      <CondenseFields {...{ pricer, draft, invoice, save }} />
      <SavedSelect
        label="Tax"
        value={invoice.taxId ?? ''}
        save={(value) => save({ taxId: value || null })}
        options={[['', 'No tax'], ...taxOptions(pricer)]}
      />
      <div className="flex flex-col gap-1 text-sm">
        <IncludeTax {...{ pricer, draft, records }} />
        {tick('The client sees cost and markup', invoice.openBook, 'openBook')}
        {tick('Attach receipts', invoice.withReceipts, 'withReceipts')}
        {tick('Add new time as it is recorded', invoice.collects, 'collects')}
      </div>
      <Money {...{ draft, records, save }} />
      {!invoice.advance && <DrawAhead {...{ draft, records }} />}
      {(client.purchaseOrder !== 'never' || invoice.purchaseOrder) && (
        <SavedField
          label="The client’s order number"
          hint={client.purchaseOrder === 'always' ? 'This client’s invoices need it.' : undefined}
          value={invoice.purchaseOrder}
          save={(purchaseOrder) => save({ purchaseOrder })}
        />
      )}
      <SavedField
        label="For the attention of"
        hint={
          typeof invoice.attention === 'string'
            ? 'Empty: the contacts of its projects'
            : 'The contacts of its projects, unless you write another; a dash for nobody'
        }
        value={attentionOf(pricer, invoice, draft.lines)}
        save={(typed) => save({ attention: readAttention(typed) })}
      />
      <SavedField
        label="Tax point"
        hint="The day on which the tax falls due, where that is not the day of the invoice"
        placeholder="30 Nov 2026"
        value={invoice.taxPoint === null ? '' : showShortDay(invoice.taxPoint)}
        save={(typed) => save({ taxPoint: typed.trim() === '' ? null : readDay(typed, today) })}
      />
      <SavedField label="Note on the invoice" lines={3} value={invoice.note} save={(note) => save({ note })} />
    </div>
  );
}

/** Discount on all of it, what is held back, and what was paid ahead. */
function Money({ draft, records, save }: Pick<DraftTermsProps, 'draft' | 'records' | 'save'>) {
  const { invoice, deposits, usedElsewhere } = records;
  const { currency } = draft;
  const today = useToday();
  const { allowance } = invoice;
  const money = (minor: number) => inStyle(plainAmount(minor, currency));
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <SavedField
          label={`Discount, % or ${currency}`}
          hint="5 % or 120.00"
          value={
            allowance ? (allowance.percent !== null ? `${inStyle(allowance.percent)} %` : money(allowance.amount!)) : ''
          }
          save={(typed) => save({ allowance: readDiscount(typed, currency, allowance?.text) })}
        />
        <SavedField
          label="Retention, %"
          hint="Of the net after discount"
          value={invoice.retention === null ? '' : inStyle(invoice.retention)}
          save={(typed) => save({ retention: readShare(typed) })}
        />
      </div>
      {invoice.retention !== null && (
        <SavedField
          label="Retention due on"
          hint="Printed on the invoice; empty for no day yet"
          placeholder="30 Jun 2027"
          value={invoice.retentionDue === null ? '' : showShortDay(invoice.retentionDue)}
          save={(typed) => save({ retentionDue: typed.trim() === '' ? null : readDay(typed, today) })}
        />
      )}
      {allowance && (
        <SavedField
          label="What the discount is called"
          value={allowance.text}
          save={(text) => save({ allowance: { ...allowance, text } })}
        />
      )}
      {deposits
        .filter((row) => row.currency === currency)
        .map((row) => {
          const own = invoice.deposits.find((each) => each.depositId === row.id)?.amount ?? 0;
          const left = remainingOfDeposit(row, usedElsewhere.get(row.id) ?? 0);
          if (left === 0 && own === 0) return null;
          return (
            <SavedField
              key={row.id}
              label={`Paid ahead ${showShortDay(row.day)}${row.note ? `, ${row.note.slice(0, 40)}` : ''}`}
              hint={`${showAmount(left, currency)} can be deducted`}
              value={own === 0 ? '' : money(own)}
              save={(typed) => {
                const amount = typed.trim() === '' ? 0 : readAmount(typed, currency);
                const others = invoice.deposits.filter((each) => each.depositId !== row.id);
                return save({ deposits: amount === 0 ? others : [...others, { depositId: row.id, amount }] });
              }}
            />
          );
        })}
    </>
  );
}

/** A name, a dash for nobody, or nothing for the contacts of the projects. */
const readAttention = (typed: string): string | null => {
  const name = typed.trim();
  return name === '' ? null : /^[-–—]$/.test(name) ? '' : name;
};

/** "5 %" is a share, "120.00" a sum, nothing no discount. */
function readDiscount(typed: string, currency: string, text = 'Discount'): Invoice['allowance'] {
  if (typed.trim() === '') return null;
  if (!typed.includes('%')) return { text, percent: null, amount: readAmount(typed, currency) };
  return { text, percent: readShare(typed), amount: null };
}

function readShare(typed: string): string | null {
  if (typed.trim() === '') return null;
  const percent = readDecimal(typed.replace('%', ''), 'percentage');
  if (Number(percent) < 0 || Number(percent) > 100)
    throw new Fault('out-of-range', 'A share lies between 0 and 100 %.');
  return percent;
}
