import { byWhen, explainShare } from '@half-penny/core/billing';
import type { Allocation, Entry, FrozenInvoice } from '@half-penny/core/model';
import { addExact } from '@half-penny/core/money';
import type { InvoiceRecords } from '../../data/queries';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

interface Standing {
  entry: Entry;
  allocation: Allocation;
}

/** The entries behind an issued invoice, each with its share of its line. */
export function OnInvoice({ records, frozen }: { records: InvoiceRecords; frozen: FrozenInvoice }) {
  const entries = new Map(records.entries.map((entry) => [entry.id, entry]));
  // What a void invoice gave back stands beside it as a negative part; here it is shown as it was issued.
  const rows = records.allocations
    .filter((allocation) => allocation.seconds > 0)
    .flatMap((allocation): Standing[] => {
      const entry = entries.get(allocation.entryId);
      return entry ? [{ entry, allocation }] : [];
    })
    .sort((a, b) => byWhen(a.entry, b.entry));
  const among = (line: string) => rows.filter((row) => row.allocation.line === line).length;
  const total = rows.reduce((sum, row) => addExact(sum, row.allocation.amount ?? 0), 0);
  const textOf = new Map(frozen.lines.map((line) => [line.key, line.text]));
  const columns: Column<Standing>[] = [
    { key: 'day', head: 'Day', width: '72px', cell: ({ entry }) => showShortestDay(entry.day) },
    {
      key: 'note',
      head: 'What was done',
      width: 'minmax(0,1fr)',
      cell: ({ entry }) => (
        <span className="written clamp-2">{entry.note || <span className="text-soft">No note</span>}</span>
      ),
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
      cell: ({ allocation }) => <Length seconds={allocation.seconds} style={frozen.lengthStyle} />,
      foot: <Length seconds={rows.reduce((sum, row) => sum + row.allocation.seconds, 0)} style={frozen.lengthStyle} />,
    },
    {
      key: 'share',
      head: 'Share',
      width: '110px',
      align: 'end',
      cell: ({ entry, allocation }) => (
        <Worth
          amount={allocation.amount ?? 0}
          currency={frozen.currency}
          of={entry.note || 'an entry'}
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
                label: `${rows.length} entries on ${frozen.lines.length} lines`,
                remark: 'their shares make up the net total',
              },
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
        rowName={(row) => row.entry.note || row.entry.day}
        columns={columns}
        footLabel="Net"
        empty="No entries stand on this invoice."
      />
    </Section>
  );
}
