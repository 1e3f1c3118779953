import { chargeText, Charges, explainShare } from '@half-penny/core/billing';
import type { Pricer } from '@half-penny/core/billing';
import type { Allocation, FrozenInvoice } from '@half-penny/core/model';
import { addExact, lessExact } from '@half-penny/core/money';
import type { InvoiceRecords } from '../../data/invoice-records';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

interface Standing {
  allocation: Allocation;
  day: string;
  text: string;
}

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
  const rows = standings(pricer, records);
  const among = (line: string) => rows.filter((row) => row.allocation.line === line).length;
  const total = rows.reduce((sum, row) => addExact(sum, row.allocation.amount ?? 0), 0);
  const byHand = lessExact(frozen.net, total);
  const textOf = new Map(frozen.lines.map((line) => [line.key, line.text]));
  const columns: Column<Standing>[] = [
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

function standings(pricer: Pricer, { invoice, allocations, entries, rows }: InvoiceRecords): Standing[] {
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  const charges = new Charges(pricer, rows);
  const lines = new Map(rows.costLines.map((row) => [row.id, row]));
  const agreed = new Map(rows.agreed.map((row) => [row.id, row]));
  // What a void invoice gave back stands beside it as a negative part; here it is shown as it was issued.
  const shown = allocations.filter(
    (each) => invoice.kind === 'credit note' || (each.amount ?? 0) > 0 || each.seconds > 0 || each.part > 0,
  );
  return shown
    .flatMap((allocation): Standing[] => {
      const entry = byId.get(allocation.entryId ?? '');
      if (entry) return [{ allocation, day: entry.day, text: entry.note }];
      const line = lines.get(allocation.costLineId ?? '');
      const row = agreed.get(allocation.agreedId ?? '');
      const charge = line ? charges.ofLine(line, allocation.part) : row ? charges.ofAgreed(row, allocation.part) : null;
      return charge ? [{ allocation, day: charge.day, text: chargeText(charge) }] : [];
    })
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
