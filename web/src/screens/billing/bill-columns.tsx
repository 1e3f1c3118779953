import { explainCharge, explainPriced, showMarkup, type Pricer } from '@half-penny/core/billing';
import { bareAmount, plainAmount, inStyle } from '@half-penny/core/money';
import type { Working } from '@half-penny/core/rates';
import type { Day } from '@half-penny/core/time';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import type { Column } from '../../parts/ledger';
import { kindNames, sumOf, type BillItem } from './bill-item';

/** The working behind what an item is charged at. */
export const explainItem = (pricer: Pricer, { item, charge }: BillItem): Working =>
  item ? explainPriced(pricer, item) : explainCharge(pricer, charge!);

const ageOf = (day: Day, today: Day): number => Math.round((Date.parse(today) - Date.parse(day)) / 86_400_000);

/** After so many days something wants attention. */
const OLD = 60;

interface Options {
  pricer: Pricer;
  items: readonly BillItem[];
  currency: string;
  today: Day;
  /** Whether what the client would read stands beside it. */
  clientView: boolean;
  /** Changes the markup of one item, for this invoice. */
  saveMarkup: (item: BillItem, typed: string) => Promise<unknown>;
  ownMarkup: (item: BillItem) => string | undefined;
  together: () => Working;
}

/** Columns of what is to bill: cost, markup and price stand side by side. */
export function billColumns(options: Options): Column<BillItem>[] {
  const { pricer, items, currency, today, clientView, saveMarkup, ownMarkup, together } = options;
  const { lengthStyle } = pricer.book.workspace;
  const seconds = sumOf(items, (item) => item.item?.billed ?? 0);
  return [
    {
      key: 'day',
      head: 'Day',
      width: '64px',
      cell: ({ day }) => (
        <span className="whitespace-nowrap">
          {day && showShortestDay(day)}
          {day && ageOf(day, today) > OLD && (
            <span className="block text-xs text-attention">{ageOf(day, today)} days</span>
          )}
        </span>
      ),
    },
    {
      key: 'what',
      head: 'What',
      ownLine: true,
      width: 'minmax(0,1.3fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.text || <span className="text-soft">No note</span>}</span>
          <span className="written block truncate text-xs text-soft">{underOf(pricer, row)}</span>
        </>
      ),
    },
    ...(clientView
      ? [
          {
            key: 'client',
            head: 'As the client reads it',
            width: 'minmax(0,1fr)',
            wideOnly: true,
            cell: (row: BillItem) => <span className="written clamp-2 text-sm">{row.clientText}</span>,
          },
        ]
      : [
          {
            key: 'job',
            head: 'Project and cost code',
            width: 'minmax(0,0.8fr)',
            wideOnly: true,
            cell: (row: BillItem) => (
              <>
                <span className="written clamp-2 text-sm">{pricer.tree.pathOf(row.projectId)}</span>
                <span className="block truncate text-xs text-soft">
                  {pricer.costCode.get(row.costCodeId ?? '')?.name}
                </span>
              </>
            ),
          },
        ]),
    {
      key: 'time',
      head: 'Time',
      width: '76px',
      align: 'end',
      wideOnly: true,
      cell: ({ item }) => item && <Length seconds={item.billed} style={lengthStyle} />,
      foot: seconds > 0 ? <Length seconds={seconds} style={lengthStyle} /> : '',
    },
    {
      key: 'cost',
      head: 'Cost',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: ({ cost }) => cost !== null && <span className="font-mono text-sm">{bareAmount(cost, currency)}</span>,
      foot: (
        <span className="font-mono text-sm">
          {bareAmount(
            sumOf(items, (row) => row.cost ?? 0),
            currency,
          )}
        </span>
      ),
    },
    {
      key: 'markup',
      head: 'Markup',
      width: '88px',
      align: 'end',
      wideOnly: true,
      cell: (row) => {
        const own = ownMarkup(row);
        const shown = own ?? row.markup;
        return (
          shown !== null && (
            <span
              className={`font-mono text-sm whitespace-nowrap ${own === undefined ? '' : 'font-bold text-attention'}`}
            >
              {showMarkup(shown)}
            </span>
          )
        );
      },
      edit: {
        text: (row) => inStyle(ownMarkup(row) ?? row.markup ?? ''),
        save: saveMarkup,
        when: (row) => row.charge?.agreed == null,
      },
    },
    {
      key: 'price',
      head: 'Price',
      width: '96px',
      align: 'end',
      cell: (row) =>
        row.fault ? (
          <span className="text-attention">{row.fault}</span>
        ) : (
          <Worth
            amount={row.amount}
            currency={currency}
            of={row.text || plainAmount(row.amount, currency)}
            working={() => explainItem(pricer, row)}
          />
        ),
      foot: (
        <Worth
          amount={sumOf(items, (row) => row.amount)}
          currency={currency}
          of="everything shown"
          strong
          working={together}
        />
      ),
    },
  ];
}

/** What stands small under an item: its kind, who or from whom. */
function underOf(pricer: Pricer, row: BillItem): string {
  const service = row.item?.entry.serviceId ? pricer.service.get(row.item.entry.serviceId)?.name : undefined;
  const member = row.memberId === null ? undefined : pricer.member.get(row.memberId)?.name;
  const receipts = row.charge?.cost?.receiptIds.length;
  return [
    row.kind === 'time' ? service : kindNames[row.kind].replace(/s$/, ''),
    row.supplier,
    member,
    receipts ? (receipts === 1 ? '1 receipt' : `${receipts} receipts`) : row.needsReceipt ? 'needs a receipt' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
