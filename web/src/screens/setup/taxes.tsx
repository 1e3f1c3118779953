import { Select } from '../../parts/select';
import type { Pricer } from '@half-penny/core/billing';
import { Fault, type Tax } from '@half-penny/core/model';
import { inStyle, percentOn, readDecimal, type TaxCategory } from '@half-penny/core/money';
import { isDay } from '@half-penny/core/time';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Taxes with their percentages by date, the country they are of, and whether the customer accounts for them. */
export function Taxes({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const columns: Column<Tax>[] = [
    {
      key: 'name',
      head: 'Tax',
      width: '110px',
      cell: (tax) => <span className="written clamp-2">{tax.name}</span>,
      edit: { text: (tax) => tax.name, save: (tax, name) => run('tax.edit', { id: tax.id, name }) },
    },
    {
      key: 'percent',
      head: 'Per cent',
      width: '84px',
      align: 'end',
      cell: (tax) => <span className="font-mono font-semibold text-money">{percentOn(tax, today)}</span>,
      edit: {
        text: (tax) => inStyle(tax.percent),
        save: async (tax, text) => run('tax.edit', { id: tax.id, percent: readPercent(text) }),
      },
    },
    {
      key: 'later',
      head: 'Other percentages, from a day',
      width: 'minmax(0,0.9fr)',
      wideOnly: true,
      cell: (tax) =>
        tax.later.length === 0 ? (
          <span className="text-soft">–</span>
        ) : (
          <span className="text-sm">
            {tax.later.map((change) => `${change.percent} % from ${showShortDay(change.from)}`).join(', ')}
          </span>
        ),
      edit: {
        text: (tax) => tax.later.map((change) => `${inStyle(change.percent)} ${change.from}`).join('; '),
        save: async (tax, text) => run('tax.edit', { id: tax.id, later: readLater(text) }),
      },
    },
    {
      key: 'place',
      head: 'Country',
      width: '76px',
      wideOnly: true,
      cell: (tax) => tax.place || <span className="text-soft">–</span>,
      edit: {
        text: (tax) => tax.place,
        save: (tax, place) => run('tax.edit', { id: tax.id, place: place.trim().toUpperCase() }),
      },
    },
    {
      key: 'code',
      head: 'Code',
      width: '64px',
      wideOnly: true,
      cell: (tax) => tax.code || <span className="text-soft">–</span>,
      edit: { text: (tax) => tax.code, save: (tax, code) => run('tax.edit', { id: tax.id, code: code.trim() }) },
    },
    {
      key: 'category',
      head: 'Category',
      width: '168px',
      wideOnly: true,
      cell: (tax) => (
        <Select
          name={`Category of ${tax.name.slice(0, 40)} ${tax.percent} %`}
          className="text-sm"
          value={tax.category}
          onPick={(picked) => void attempt('tax.edit', { id: tax.id, category: picked as TaxCategory })}
          options={Object.entries(categoryWords).map(
            ([category, words]) => [category, `${category} ${words}`] as const,
          )}
        />
      ),
    },
    {
      key: 'note',
      head: 'Sentence printed on the invoice',
      width: 'minmax(0,1.2fr)',
      cell: (tax) => <span className="written clamp-2 text-sm text-soft">{tax.note || '–'}</span>,
      edit: { text: (tax) => tax.note, save: (tax, note) => run('tax.edit', { id: tax.id, note }) },
    },
    {
      key: 'reverse',
      head: 'For everything',
      width: '104px',
      align: 'center',
      wideOnly: true,
      cell: (tax) => (
        <Check
          aria-label={`${tax.name.slice(0, 40)} ${tax.percent} % is for everything on an invoice`}
          checked={tax.reverseCharge}
          save={(checked) => attempt('tax.edit', { id: tax.id, reverseCharge: checked })}
        />
      ),
    },
  ];
  return (
    <Section title="Taxes">
      <Ledger
        label="Taxes"
        rows={pricer.book.taxes}
        rowId={(tax) => tax.id}
        rowName={(tax) => `${tax.name} ${tax.percent} %`}
        columns={columns}
        onDelete={(tax) => void attempt('tax.remove', { id: tax.id })}
        empty="No taxes: invoices carry none."
      />
      <p className="mt-2 px-2 text-xs text-soft">
        A draft bears the percentage of the day it is issued on: “17.5 2027-04-01” is 17.5 % from then on. One for
        everything, such as reverse charge, goes before a service’s tax. Only S and Z print their percentage; the others
        print their sentence, and O stands on no invoice beside others.
      </p>
      <AddLine
        label="Add a tax"
        button="Add the tax"
        fields={[
          { key: 'name', label: 'New tax', className: 'w-48' },
          { key: 'percent', label: 'Per cent', inputMode: 'decimal', className: 'w-28' },
          { key: 'place', label: 'Country', placeholder: 'GB', className: 'w-24' },
        ]}
        add={({ name = '', percent = '', place = '' }) =>
          run('tax.add', {
            name,
            percent: readPercent(percent),
            category: Number(readPercent(percent)) === 0 ? 'Z' : 'S',
            place: place.trim().toUpperCase(),
            note: '',
          })
        }
      />
    </Section>
  );
}

/** Categories of EN 16931 (UNCL 5305) in the words of its code list, shortened. */
const categoryWords: Record<TaxCategory, string> = {
  S: 'standard',
  Z: 'zero rated',
  E: 'exempt',
  AE: 'reverse charge',
  K: 'within the EU',
  G: 'export',
  O: 'outside the scope',
};

function readPercent(text: string): string {
  try {
    return readDecimal(text.replace(/\s*%\s*$/, ''), 'percentage');
  } catch (thrown) {
    throw Object.assign(thrown as Error, { path: 'percent' });
  }
}

/** "17.5 2027-04-01; 20 2028-01-01". */
function readLater(text: string): Tax['later'] {
  const changes = text
    .split(/;|, /)
    .map((each) => each.trim())
    .filter(Boolean);
  return changes.map((change) => {
    const [percent = '', from = '', more] = change.replace('%', '').replace(' from ', ' ').split(/\s+/);
    if (!isDay(from) || more) {
      throw new Fault(
        'not-a-percentage',
        `“${change.slice(0, 40)}” is not a percentage and a day. Write 17.5 2027-04-01.`,
        'later',
      );
    }
    return { from, percent: readDecimal(percent, 'percentage') };
  });
}
