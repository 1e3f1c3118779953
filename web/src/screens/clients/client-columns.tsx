import { RECORD_MONTHS, type ClientRecord } from '@half-penny/core/billing';
import type { Client, Id } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { firstOfMonth, MONTH_NAMES, type Day } from '@half-penny/core/time';
import { Link } from 'react-router';
import type { Column } from '../../parts/ledger';

/** A row of the list of clients, as far as its record needs it. */
interface ClientRow {
  client: Client;
}

const none = <span className="text-soft">–</span>;

/** What a client was worth, how soon it pays, and what it owes. */
export function recordColumns<Row extends ClientRow>(
  records: ReadonlyMap<Id, ClientRecord>,
  today: Day,
): Column<Row>[] {
  const of = ({ client }: ClientRow) => records.get(client.id);
  return [
    {
      key: 'months',
      head: 'Invoiced in 12 months',
      width: '212px',
      align: 'end',
      wideOnly: true,
      cell: (row) => {
        const record = of(row);
        return record ? <TwelveMonths months={record.months} currency={row.client.currency} today={today} /> : none;
      },
    },
    {
      key: 'hour',
      head: 'An hour brought',
      width: '112px',
      align: 'end',
      wideOnly: true,
      cell: (row) => {
        const perHour = of(row)?.perHour ?? null;
        if (perHour === null) return none;
        return <span className="font-mono text-sm text-money">{showAmount(perHour, row.client.currency)}</span>;
      },
    },
    {
      key: 'pays',
      head: 'Pays in',
      width: '76px',
      align: 'end',
      wideOnly: true,
      cell: (row) => {
        const days = of(row)?.daysToPay ?? null;
        return days === null ? none : <span className="text-sm">{days === 1 ? '1 day' : `${days} days`}</span>;
      },
    },
    {
      key: 'owes',
      head: 'Owes',
      width: '112px',
      align: 'end',
      cell: (row) => <Owes record={of(row)} client={row.client} />,
    },
  ];
}

function Owes({ record, client }: { record: ClientRecord | undefined; client: Client }) {
  if (!record || record.owed === 0) return none;
  return (
    <span className="block">
      <Link
        to={`/billing?client=${client.id}`}
        tabIndex={-1}
        className="font-mono text-sm font-semibold text-money hover:underline"
      >
        {showAmount(record.owed, client.currency)}
      </Link>
      {record.late > 0 && (
        <span className="block text-xs text-attention">
          {record.late === record.owed ? 'late' : `${showAmount(record.late, client.currency)} late`}
        </span>
      )}
    </span>
  );
}

const [WIDTH, HEIGHT] = [96, 22];
const STEP = WIDTH / RECORD_MONTHS;

/** A small bar for each month, and what they come to. */
function TwelveMonths({ months, currency, today }: { months: readonly number[]; currency: string; today: Day }) {
  const most = Math.max(1, ...months);
  const best = months.indexOf(Math.max(...months));
  const bestMonth = MONTH_NAMES[Number(firstOfMonth(today, best + 1 - RECORD_MONTHS).slice(5, 7)) - 1];
  return (
    <span className="flex items-end justify-end gap-2" title={`The most in ${bestMonth}`}>
      <svg aria-hidden width={WIDTH} height={HEIGHT} className="flex-none">
        <line x1="0" x2={WIDTH} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} className="stroke-rule" />
        {months.map((net, at) => {
          const tall = (Math.max(0, net) / most) * (HEIGHT - 2);
          return (
            <rect
              key={at}
              x={at * STEP + 1}
              y={HEIGHT - 1 - tall}
              width={STEP - 2}
              height={tall}
              className="fill-money"
            />
          );
        })}
      </svg>
      <span className="w-24 text-right font-mono text-sm whitespace-nowrap">
        {showAmount(sumExact(months), currency)}
      </span>
    </span>
  );
}
