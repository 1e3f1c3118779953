import { chargeText, Charges, sourceId, reservedBy, type ChargeRows, type Pricer } from '@half-penny/core/billing';
import type { Adjustment, Entry } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

interface SetAsideProps {
  pricer: Pricer;
  entries: readonly Entry[];
  rows: ChargeRows;
  adjustments: readonly Adjustment[];
  /** Those of one client's sources alone. */
  label: string;
}

/** What waits for later, was written down or is never billed, each with its way back. */
export function SetAside({ pricer, entries, rows, adjustments, label }: SetAsideProps) {
  const { attempt } = useChanges();
  const texts = new Map<string, string>(entries.map((row) => [row.id, row.note || pricer.tree.pathOf(row.projectId!)]));
  const charges = new Charges(pricer, rows);
  for (const line of rows.costLines) {
    const charge = charges.ofLine(line, 0);
    if (charge) texts.set(line.id, chargeText(charge));
  }
  for (const row of rows.agreed) texts.set(row.id, row.text);
  const currencyOf = (row: Adjustment): string => {
    const line = rows.costLines.find((each) => each.id === row.costLineId);
    const cost = rows.costs.find((each) => each.id === line?.costId);
    return (
      cost?.currency ??
      pricer.clientOf(rows.agreed.find((each) => each.id === row.agreedId)?.projectId ?? null)?.currency ??
      pricer.book.workspace.currency
    );
  };
  const own = adjustments.filter((row) => texts.has(sourceId(row)));
  if (own.length === 0) return null;
  const columns: Column<Adjustment>[] = [
    { key: 'day', head: 'Since', width: '110px', wideOnly: true, cell: (row) => showShortDay(row.day) },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{texts.get(sourceId(row))}</span>
          {row.reason && <span className="written block text-xs text-soft">{row.reason}</span>}
        </>
      ),
    },
    {
      key: 'kind',
      head: 'How',
      width: '150px',
      cell: (row) =>
        row.kind === 'later'
          ? `later${row.until ? `, until ${showShortDay(row.until)}` : ''}`
          : reservedBy(row) < 0
            ? 'written up'
            : row.kind,
    },
    {
      key: 'part',
      head: 'How much',
      width: '110px',
      align: 'end',
      cell: (row) =>
        row.kind !== 'later' && (
          <span className="font-mono text-sm">
            {row.entryId === null ? showAmount(Math.abs(row.part), currencyOf(row)) : showLength(Math.abs(row.seconds))}
          </span>
        ),
    },
    {
      key: 'back',
      head: 'Back',
      quietHead: true,
      width: '120px',
      align: 'end',
      cell: (row) => (
        <Button kind="quiet" onClick={() => void attempt('bill.restore', { ids: [row.id] })}>
          To bill again
        </Button>
      ),
    },
  ];
  return (
    <Section title="Set aside">
      <Ledger
        label={label}
        rows={own}
        rowId={(row) => row.id}
        rowName={(row) => texts.get(sourceId(row)) ?? ''}
        columns={columns}
        empty="Nothing is set aside."
      />
    </Section>
  );
}
