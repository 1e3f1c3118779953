import { showPrice, type Pricer } from '@half-penny/core/billing';
import type { CostRate } from '@half-penny/core/model';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { CostRateDialog } from './cost-rate-dialog';

/** What members cost the studio, by member or role, from a day on. */
export function CostRates({ pricer }: { pricer: Pricer }) {
  const { attempt } = useChanges();
  const [open, setOpen] = useState<CostRate | 'new' | null>(null);
  const { costRates } = pricer.book;
  const whose = (row: CostRate) =>
    row.memberId !== null ? (pricer.member.get(row.memberId)?.name ?? '') : (row.role ?? 'Anybody');
  const columns: Column<CostRate>[] = [
    {
      key: 'who',
      head: 'Who',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{whose(row)}</span>,
    },
    { key: 'from', head: 'From', width: '130px', cell: (row) => showShortDay(row.from) },
    {
      key: 'price',
      head: 'Cost',
      width: '170px',
      align: 'end',
      cell: (row) => (
        <button
          type="button"
          className="rounded-sm font-mono font-semibold text-money decoration-dotted underline-offset-4 hover:underline"
          aria-label={`Cost of ${whose(row)}: ${showPrice(row)}. Change`}
          onClick={() => setOpen(row)}
        >
          {showPrice(row).replace(' /', ` ${row.currency} /`)}
        </button>
      ),
    },
  ];
  return (
    <Section
      title="What members cost"
      actions={
        <Button icon={<Plus size={16} />} onClick={() => setOpen('new')}>
          Add a cost rate
        </Button>
      }
    >
      <Ledger
        label="What members cost"
        rows={costRates.toSorted((a, b) => whose(a).localeCompare(whose(b)) || (a.from < b.from ? 1 : -1))}
        rowId={(row) => row.id}
        rowName={(row) => `${whose(row)} from ${showShortDay(row.from)}`}
        columns={columns}
        onOpen={setOpen}
        onDelete={(row) => void attempt('costRate.remove', { id: row.id })}
        empty="Nobody’s cost is set. It decides what work costs on a project’s page, and what rates that mark up the cost come to: 48 + 62.5 % = 78."
      />
      {open && <CostRateDialog pricer={pricer} row={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </Section>
  );
}
