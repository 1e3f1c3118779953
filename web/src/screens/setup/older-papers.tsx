import { useRead } from '../../data/read';
import { olderRules, type OlderRule } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { Link } from 'react-router';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Papers whose sums the rules of now would make otherwise. What was issued stays as it is; nothing is shown where there are none. */
export function OlderPapers() {
  const rows = useRead(async (reader) => olderRules(await reader.all('invoices')), []);
  if (!rows || rows.length === 0) return null;
  const money = (of: (row: OlderRule) => number) => (row: OlderRule) => (
    <span className="font-mono text-sm">{showAmount(of(row), row.invoice.currency)}</span>
  );
  const columns: Column<OlderRule>[] = [
    {
      key: 'number',
      head: 'Number',
      width: '110px',
      cell: ({ invoice }) => (
        <Link to={`/billing/invoice/${invoice.id}`} className="font-mono text-sm font-semibold hover:underline">
          {invoice.frozen!.number}
        </Link>
      ),
    },
    { key: 'issued', head: 'As issued', width: '110px', align: 'end', cell: money((row) => row.issued) },
    { key: 'byRule', head: 'By the rules now', width: '130px', align: 'end', cell: money((row) => row.byRule) },
    { key: 'remedy', head: 'What puts it right', width: 'minmax(0,1fr)', cell: remedyOf },
  ];
  return (
    <Section title="Made by older rules">
      <p className="mb-2 px-2 text-soft">
        These were issued before discounts, taxes and credits were worked out as they are now. They stay as they were
        sent. Where the difference matters, the paper named beside it puts it right.
      </p>
      <Ledger
        label="Made by older rules"
        rows={rows}
        rowId={(row) => `${row.invoice.id} ${row.why}`}
        rowName={(row) => row.invoice.frozen!.number}
        columns={columns}
        empty=""
      />
    </Section>
  );
}

function remedyOf({ invoice, tooMuch, why }: OlderRule): string {
  const amount = showAmount(Math.abs(tooMuch), invoice.currency);
  if (why === 'credits')
    return tooMuch > 0
      ? `${amount} was credited too little: record it as paid back, or write it off.`
      : `${amount} was credited too much: invoice it by a line of your own.`;
  return tooMuch > 0 ? `A credit note over ${amount}.` : `An invoice over ${amount}, by a line of your own.`;
}
