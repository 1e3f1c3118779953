import {
  chargeText,
  explainCharge,
  explainPriced,
  showMarkup,
  tryOnePrice,
  type DraftLine,
  type Pricer,
} from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { bareAmount } from '@half-penny/core/money';
import { useMemo, useState } from 'react';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useLackingReceipts } from '../../data/costs';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import type { BillItem } from './bill-item';
import { MarkupDialog } from './markup-dialog';
import { OnePriceDialog } from './one-price-dialog';

interface LineSourcesProps {
  pricer: Pricer;
  records: InvoiceRecords;
  line: DraftLine;
}

/** What stands on a line: taken off one by one, marked up for this invoice, or at one price that was agreed. */
export function LineSources({ pricer, records, line }: LineSourcesProps) {
  const { invoice } = records;
  const { run, attempt } = useChanges();
  const today = useToday();
  const [selected, setSelected] = useState<ReadonlySet<Id>>(new Set());
  const [open, setOpen] = useState<'markup' | 'deal' | null>(null);
  const { currency } = invoice;
  const costs = useMemo(() => line.charges.flatMap(({ cost }) => cost ?? []), [line]);
  const lacking = useLackingReceipts(pricer, costs);
  const rows = itemsOf(pricer, line, currency, lacking ?? new Set());
  const picked = rows.filter((row) => selected.has(row.id));
  const chosen = picked.length > 0 ? picked : rows;
  const hours = chosen.filter((row) => row.item).map((row) => row.id);
  const deal = invoice.deals.find((each) => line.key === `deal ${each.id}`);
  const columns: Column<BillItem>[] = [
    { key: 'day', head: 'Day', width: '64px', cell: (row) => row.day && showShortestDay(row.day) },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.text || <span className="text-soft">No note</span>}</span>
          {row.needsReceipt && <span className="block text-xs text-attention">needs a receipt</span>}
        </>
      ),
    },
    {
      key: 'time',
      head: 'Time',
      width: '80px',
      align: 'end',
      cell: (row) => row.item && <Length seconds={row.item.billed} style={pricer.book.workspace.lengthStyle} />,
    },
    {
      key: 'cost',
      head: 'Cost',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.cost !== null && <span className="font-mono text-sm">{bareAmount(row.cost, currency)}</span>,
    },
    {
      key: 'markup',
      head: 'Markup',
      width: '88px',
      align: 'end',
      wideOnly: true,
      cell: (row) =>
        row.markup !== null && <span className="font-mono text-sm whitespace-nowrap">{showMarkup(row.markup)}</span>,
    },
    {
      key: 'price',
      head: 'By itself',
      width: '100px',
      align: 'end',
      cell: (row) => (
        <Worth
          amount={row.amount}
          currency={currency}
          of={row.text || 'an entry'}
          working={() => (row.item ? explainPriced(pricer, row.item) : explainCharge(pricer, row.charge!))}
        />
      ),
    },
  ];
  const off = (ids: readonly Id[]) => void attempt('invoice.takeOff', { id: invoice.id, sourceIds: [...ids] });
  return (
    <Section
      title={`On “${line.text.slice(0, 60)}”`}
      actions={
        <>
          <Button kind="quiet" onClick={() => setOpen('markup')}>
            Mark up…
          </Button>
          {line.sources.length > 0 && !deal && (
            <Button kind="quiet" onClick={() => setOpen('deal')}>
              One price for the hours…
            </Button>
          )}
          {deal && (
            <Button kind="quiet" onClick={() => void attempt('invoice.endDeal', { id: invoice.id, dealId: deal.id })}>
              Back to their own rates
            </Button>
          )}
          <Button kind="quiet" disabled={picked.length === 0} onClick={() => off(picked.map((row) => row.id))}>
            Take off
          </Button>
        </>
      }
    >
      <Ledger
        label="Items on the line"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.text || row.day}
        columns={columns}
        selection={{ selected, onChange: setSelected }}
        onDelete={(row) => off([row.id])}
        empty="This line was written by hand and has no items."
      />
      {open === 'markup' && (
        <MarkupDialog
          pricer={pricer}
          items={chosen}
          forInvoice={(sourceIds, markup) =>
            run('invoice.markUp', { id: invoice.id, sourceIds: [...sourceIds], markup })
          }
          onClose={() => setOpen(null)}
        />
      )}
      {open === 'deal' && (
        <OnePriceDialog
          count={hours.length}
          currency={currency}
          tryPrice={(agreed) => tryOnePrice(pricer, { ...records, day: today }, hours, agreed)}
          onAgree={(agreed) => run('invoice.deal', { id: invoice.id, entryIds: hours, ...agreed })}
          onClose={() => setOpen(null)}
        />
      )}
    </Section>
  );
}

function itemsOf(pricer: Pricer, line: DraftLine, currency: string, lacking: ReadonlySet<Id>): BillItem[] {
  const shared = { clientText: '', supplier: '', fault: null };
  const time = line.sources.map(({ entry, seconds, billed, price }): BillItem => {
    const amount = price ? pricer.amount(billed, price) : 0;
    return {
      ...shared,
      needsReceipt: false,
      id: entry.id,
      kind: 'time',
      item: { entry, seconds, billed, price, amount },
      charge: null,
      day: entry.day,
      text: entry.note,
      projectId: entry.projectId!,
      memberId: entry.memberId,
      costCodeId: null,
      cost: pricer.costIn(entry.memberId, entry.day, billed, currency),
      markup: price?.markup ?? null,
      amount,
    };
  });
  const charges = line.charges.map((charge): BillItem => ({
    ...shared,
    needsReceipt: charge.cost !== null && lacking.has(charge.cost.id),
    id: charge.id,
    kind: charge.kind,
    item: null,
    charge,
    day: charge.day,
    text: chargeText(charge),
    projectId: charge.projectId,
    memberId: null,
    costCodeId: charge.costCodeId,
    cost: charge.costAmount,
    markup: charge.markup,
    amount: charge.amount,
  }));
  return [...time, ...charges];
}
