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
import { bareAmount, readAmount, readDecimal, showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import type { InvoiceRecords } from '../../data/billing';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { showShortestDay } from '../../parts/days';
import { TextField } from '../../parts/field';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';
import type { BillItem } from './bill-item';
import { MarkupDialog } from './markup-dialog';

interface LineSourcesProps {
  pricer: Pricer;
  records: InvoiceRecords;
  line: DraftLine;
}

/** What stands on a line: taken off one by one, marked up for this invoice, or at one price that was agreed. */
export function LineSources({ pricer, records, line }: LineSourcesProps) {
  const { invoice } = records;
  const { run, attempt } = useChanges();
  const [selected, setSelected] = useState<ReadonlySet<Id>>(new Set());
  const [open, setOpen] = useState<'markup' | 'deal' | null>(null);
  const { currency } = invoice;
  const rows = itemsOf(pricer, line, currency);
  const picked = rows.filter((row) => selected.has(row.id));
  const chosen = picked.length > 0 ? picked : rows;
  const deal = invoice.deals.find((each) => line.key === `deal ${each.id}`);
  const columns: Column<BillItem>[] = [
    { key: 'day', head: 'Day', width: '64px', cell: (row) => row.day && showShortestDay(row.day) },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.text || <span className="text-soft">No note</span>}</span>,
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
          {...{ pricer, records }}
          items={chosen.filter((row) => row.item)}
          onClose={() => setOpen(null)}
        />
      )}
    </Section>
  );
}

function itemsOf(pricer: Pricer, line: DraftLine, currency: string): BillItem[] {
  const shared = { clientText: '', supplier: '', fault: null };
  const time = line.sources.map(({ entry, seconds, billed, price }): BillItem => {
    const amount = price ? pricer.amount(billed, price) : 0;
    return {
      ...shared,
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

/** One sum, or one price an hour, for a set of hours. */
function OnePriceDialog({
  pricer,
  records,
  items,
  onClose,
}: Pick<LineSourcesProps, 'pricer' | 'records'> & {
  items: readonly BillItem[];
  onClose: () => void;
}) {
  const { invoice } = records;
  const { run } = useChanges();
  const today = useToday();
  const [kind, setKind] = useState('amount');
  const [typed, setTyped] = useState('');
  const [text, setText] = useState('');
  const entryIds = items.map((row) => row.id);
  const read = () =>
    kind === 'amount'
      ? { amount: readAmount(typed, invoice.currency), price: null }
      : { amount: null, price: readDecimal(typed, 'price') };
  const { fault, submit } = useSubmit(async () => {
    await run('invoice.deal', { id: invoice.id, entryIds, text, ...read() });
    onClose();
  });
  const tried = () => {
    try {
      return typed.trim() === '' ? null : tryOnePrice(pricer, { ...records, day: today }, entryIds, read());
    } catch {
      // What cannot be read yet is said where it is saved.
      return null;
    }
  };
  const sums = tried();
  return (
    <Dialog
      open
      onClose={onClose}
      title={`One price for ${items.length} ${items.length === 1 ? 'entry' : 'entries'}`}
      about="As agreed, whatever their rates. The line’s slip shows the working."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <fieldset className="flex gap-6">
          <legend className="mb-1 text-sm font-semibold text-soft">The price is</legend>
          {[
            ['amount', 'for all of them'],
            ['price', 'an hour'],
          ].map(([value, name]) => (
            <label key={value} className="flex items-center gap-2">
              <input
                type="radio"
                name="one-price"
                className="accent-time"
                checked={kind === value}
                onChange={() => setKind(value!)}
              />
              {name}
            </label>
          ))}
        </fieldset>
        <TextField
          label={kind === 'amount' ? `Sum, ${invoice.currency}` : `Price an hour, ${invoice.currency}`}
          inputMode="decimal"
          value={typed}
          fault={fault}
          autoFocus
          onChange={(event) => setTyped(event.target.value)}
        />
        <TextField
          label="What the line says"
          placeholder="Hours, at the price agreed"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <p role="status" className="min-h-6">
          {sums && (
            <>
              {showAmount(sums.before, invoice.currency)} at their own rates,{' '}
              <b className="font-mono text-money">{showAmount(sums.after, invoice.currency)}</b> at this price.
            </>
          )}
        </p>
        <Button type="submit" kind="main" shortcut="Enter" className="self-start">
          Set the price
        </Button>
      </form>
    </Dialog>
  );
}
