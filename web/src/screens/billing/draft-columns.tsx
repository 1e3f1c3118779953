import { Select } from '../../parts/select';
import {
  explainDraft,
  explainLine,
  printedQuantities,
  showMarkup,
  type Draft,
  type DraftLine,
  type Pricer,
} from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { bareAmount, currencyDigits, inStyle, readDecimal, showDecimal } from '@half-penny/core/money';
import { Length, Worth } from '../../parts/figures';
import type { Column } from '../../parts/ledger';
import { taxOptions } from '../../parts/tax-options';

interface Options {
  pricer: Pricer;
  draft: Draft;
  inclusive: boolean;
  saveText: (line: DraftLine, text: string) => Promise<unknown>;
  saveDiscount: (line: DraftLine, percent: string) => Promise<unknown>;
  saveHeading: (line: DraftLine, text: string) => Promise<unknown>;
  /** Costs that should have a receipt and have none. */
  lacking: ReadonlySet<Id>;
  /** Taxes said for single lines, by the line's key. */
  lineTaxes: Readonly<Record<string, string>>;
  /** The usual tax again where null. */
  saveTax: (line: DraftLine, taxId: string | null) => Promise<unknown>;
}

/** Columns of a draft's lines: cost, markup and price stand side by side. */
export function draftColumns({
  pricer,
  draft,
  inclusive,
  saveText,
  saveDiscount,
  saveHeading,
  lacking,
  lineTaxes,
  saveTax,
}: Options): Column<DraftLine>[] {
  const { lengthStyle } = pricer.book.workspace;
  const billed = draft.lines.reduce((sum, line) => sum + line.billed, 0);
  const cost = draft.lines.reduce((sum, line) => sum + (line.cost ?? 0), 0);
  const headed = draft.lines.some((line) => line.heading);
  const { daySeconds, amountRounding: rule } = pricer.book.workspace;
  const printed = printedQuantities(
    draft.lines.map((line) => ({ ...line, seconds: line.billed, price: line.unitPrice })),
    { lengthStyle, daySeconds, rule, currency: draft.currency },
  );
  const quantities = new Map(draft.lines.map((line, index) => [line, printed[index]]));
  const usualTax = (line: DraftLine) => {
    // What the line bears without a choice of its own is known while it has none.
    if (line.key in lineTaxes) return 'As usual';
    const tax = line.taxId === null ? undefined : pricer.tax.get(line.taxId);
    return tax ? `${tax.name} ${inStyle(tax.percent)} %` : 'No tax';
  };
  return [
    ...(headed
      ? [
          {
            key: 'heading',
            head: 'Heading above',
            width: 'minmax(0,0.45fr)',
            wideOnly: true,
            cell: (line: DraftLine) => <span className="written clamp-2 text-sm font-semibold">{line.heading}</span>,
            edit: { text: (line: DraftLine) => line.heading, save: saveHeading },
          },
        ]
      : []),
    {
      key: 'text',
      head: 'Text',
      width: 'minmax(0,1fr)',
      cell: (line) => (
        <>
          <span className="written clamp-2">{line.text}</span>
          <span className="block text-xs text-soft">
            {holdsOf(line)}
            <WantsReceipts
              count={new Set(line.charges.map(({ cost }) => cost?.id ?? '').filter((id) => lacking.has(id))).size}
            />
          </span>
        </>
      ),
      edit: { text: (line) => line.text, save: saveText },
    },
    {
      key: 'billed',
      head: 'Quantity',
      width: '92px',
      align: 'end',
      cell: (line) => <span className="font-mono text-sm whitespace-nowrap">{quantities.get(line)}</span>,
      foot: billed > 0 ? <Length seconds={billed} style={lengthStyle} /> : '',
    },
    {
      key: 'price',
      head: 'Unit price',
      width: '92px',
      align: 'end',
      wideOnly: true,
      cell: (line) =>
        (line.unit !== 'lump' || line.quantity.startsWith('-')) && (
          <span className="font-mono text-sm whitespace-nowrap">
            {showDecimal(line.unitPrice, currencyDigits(draft.currency))}
            {perWhat(line)}
          </span>
        ),
    },
    {
      key: 'cost',
      head: 'Cost',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (line) =>
        line.cost !== null &&
        !line.byHand && <span className="font-mono text-sm">{bareAmount(line.cost, draft.currency)}</span>,
      foot: cost > 0 ? <span className="font-mono text-sm">{bareAmount(cost, draft.currency)}</span> : '',
    },
    {
      key: 'markup',
      head: 'Markup',
      width: '88px',
      align: 'end',
      wideOnly: true,
      cell: (line) =>
        line.markup !== null && <span className="font-mono text-sm whitespace-nowrap">{showMarkup(line.markup)}</span>,
    },
    {
      key: 'tax',
      head: 'Tax',
      width: '132px',
      wideOnly: true,
      cell: (line) => (
        <Select
          name={`Tax of ${line.text.slice(0, 60)}`}
          look="quiet"
          className="w-full text-sm"
          value={line.key in lineTaxes ? lineTaxes[line.key]! : 'usual'}
          onPick={(picked) => void saveTax(line, picked === 'usual' ? null : picked)}
          options={[['usual', usualTax(line)], ['', 'No tax'], ...taxOptions(pricer)]}
        />
      ),
    },
    {
      key: 'discount',
      head: 'Less %',
      width: '60px',
      align: 'end',
      wideOnly: true,
      cell: (line) => line.discount !== null && <span className="font-mono text-sm">{inStyle(line.discount)}</span>,
      edit: {
        text: (line) => inStyle(line.discount ?? ''),
        save: async (line, text) =>
          saveDiscount(line, text.trim() === '' ? '' : readDecimal(text.replace('%', ''), 'discount')),
      },
    },
    {
      key: 'amount',
      head: 'Price',
      width: '104px',
      align: 'end',
      cell: (line) => (
        <Worth
          amount={line.amount}
          currency={draft.currency}
          of={line.text}
          working={() => explainLine(pricer, line, draft.currency)}
        />
      ),
      foot: (
        <Worth
          amount={draft.totals.net}
          currency={draft.currency}
          of="the net total"
          strong
          working={() => explainDraft(pricer, draft, inclusive, 'Draft')}
        />
      ),
    },
  ];
}

const WantsReceipts = ({ count }: { count: number }) =>
  count > 0 && (
    <span className="text-attention">{count === 1 ? ', one needs a receipt' : `, ${count} need a receipt`}</span>
  );

const shortUnit = { second: 's', minute: 'min', hour: 'h', day: 'day' } as const;

/** "12 entries, 3 costs"; says so where it bears no tax. */
function holdsOf(line: DraftLine): string {
  const costs = line.charges.filter((charge) => charge.line).length;
  const agreed = line.charges.length - costs;
  const count = (number: number, one: string, many: string) => (number ? `${number} ${number === 1 ? one : many}` : '');
  return [
    line.byHand ? 'by hand' : '',
    count(line.sources.length, 'entry', 'entries'),
    count(costs, 'cost', 'costs'),
    count(agreed, 'agreed amount', 'agreed amounts'),
    line.taxId === null ? 'no tax' : '',
  ]
    .filter(Boolean)
    .join(', ');
}

function perWhat({ unit, unitName }: DraftLine): string {
  if (unit === 'lump') return '';
  if (unit === 'piece') return unitName ? ` /${unitName}` : '';
  return ` /${shortUnit[unit]}`;
}
