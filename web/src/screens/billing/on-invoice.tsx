import { explainShare, invoiceItems, type InvoiceItem, type Pricer } from '@half-penny/core/billing';
import type { FrozenInvoice } from '@half-penny/core/model';
import { addExact, lessExact } from '@half-penny/core/money';
import type { InvoiceRecords } from '../../data/invoice-records';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** What stands on an issued invoice or credit note, each with its share of its line. */
export function OnInvoice({
  pricer,
  records,
  frozen,
}: {
  pricer: Pricer;
  records: InvoiceRecords;
  frozen: FrozenInvoice;
}) {
  const rows = invoiceItems(pricer, records);
  const among = (line: string) => rows.filter((row) => row.allocation.line === line).length;
  const total = rows.reduce((sum, row) => addExact(sum, row.allocation.amount ?? 0), 0);
  const byHand = lessExact(frozen.net, total);
  const textOf = new Map(frozen.lines.map((line) => [line.key, line.text]));
  const columns: Column<InvoiceItem>[] = [
    { key: 'day', head: 'Day', width: '72px', cell: ({ day }) => day && showShortestDay(day) },
    {
      key: 'note',
      head: 'What it is',
      width: 'minmax(0,1fr)',
      cell: ({ text }) => <span className="written clamp-2">{text || <span className="text-soft">No note</span>}</span>,
    },
    {
      key: 'line',
      head: 'On the line',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ allocation }) => <span className="written clamp-2 text-soft">{textOf.get(allocation.line)}</span>,
    },
    {
      key: 'seconds',
      head: 'Recorded',
      width: '100px',
      align: 'end',
      cell: ({ allocation }) =>
        allocation.seconds !== 0 && <Length seconds={Math.abs(allocation.seconds)} style={frozen.lengthStyle} />,
      foot: (
        <Length
          seconds={Math.abs(rows.reduce((sum, row) => sum + row.allocation.seconds, 0))}
          style={frozen.lengthStyle}
        />
      ),
    },
    {
      key: 'share',
      head: 'Share',
      width: '110px',
      align: 'end',
      cell: ({ text, allocation }) => (
        <Worth
          amount={allocation.amount ?? 0}
          currency={frozen.currency}
          of={text || 'an entry'}
          working={() => explainShare(frozen, allocation, among(allocation.line))}
        />
      ),
      foot: (
        <Worth
          amount={total}
          currency={frozen.currency}
          of="the net total"
          strong
          working={() => ({
            title: frozen.number,
            steps: [
              {
                label: `${rows.length} on ${frozen.lines.length} lines`,
                remark: 'their shares make up the net total',
              },
              ...(byHand === 0
                ? []
                : [{ label: 'Lines written by hand have no items', remark: 'and are not among these' }]),
            ],
            result: { label: 'Net', figure: { kind: 'amount', minor: total, currency: frozen.currency } },
          })}
        />
      ),
    },
  ];
  return (
    <Section title="What stands on it">
      <Ledger
        label={`Entries on ${frozen.number}`}
        rows={rows}
        rowId={(row) => row.allocation.id}
        rowName={(row) => row.text || row.day}
        columns={columns}
        footLabel="Net"
        empty="It has only lines written by hand."
      />
    </Section>
  );
}
