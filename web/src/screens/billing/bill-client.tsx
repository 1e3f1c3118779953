import {
  chargeMarkedUp,
  leftForLater,
  newAllocation,
  newDraft,
  tryOnePrice,
  type OnePrice,
  type Pricer,
  type ToBill,
} from '@half-penny/core/billing';
import { type AdjustmentKind, type Client, type Id } from '@half-penny/core/model';
import { bareAmount, lessExact, showAmount } from '@half-penny/core/money';
import { amountFigure, lengthFigure, textFigure, type Working } from '@half-penny/core/rates';
import { showLength, type Day } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useBillable, useInvoices, useToBill, type Billable } from '../../data/billing';
import { useLackingReceipts } from '../../data/costs';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Ledger } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { typedMarkup } from '../../parts/read-price';
import { Slip } from '../../parts/slip';
import { AdjustDialog } from './adjust-dialog';
import { BillFilters, passes, useBillFilter } from './bill-filters';
import { billColumns, explainItem } from './bill-columns';
import { billItems, pickedIds, sumOf, type BillItem } from './bill-item';
import { Deposits } from './deposits';
import { InvoicedAhead } from './invoiced-ahead';
import { FixedRest } from './fixed-rest';
import { MarkupDialog } from './markup-dialog';
import { OnePriceDialog } from './one-price-dialog';
import { PartDialog } from './part-dialog';
import { SetAside } from './set-aside';
import { showKey, useKeys } from '../../parts/keys';
import { CheckBox } from '../../parts/check';

/** What is to bill for one client, of every kind: pick, mark up, and put it on an invoice. */
export default function BillClient() {
  const { clientId = '' } = useParams();
  const pricer = usePricer();
  const open = useToBill(pricer, { clientId });
  const billable = useBillable(pricer, { clientId });
  if (!pricer || !open || !billable)
    return (
      <Page title="To bill">
        <Loading />
      </Page>
    );
  const client = pricer.client.get(clientId);
  if (!client)
    return (
      <Page title="To bill">
        <p>
          This client is not there any more.{' '}
          <Link to="/billing" className="text-time underline">
            Back to Billing
          </Link>
        </p>
      </Page>
    );
  return <Picking key={clientId} pricer={pricer} client={client} own={open[0] ?? null} billable={billable} />;
}

interface PickingProps {
  pricer: Pricer;
  client: Client;
  own: ToBill | null;
  billable: Billable;
}

type Opened = AdjustmentKind | 'markup' | 'part' | 'price' | null;

function Picking({ pricer, client, own, billable }: PickingProps) {
  const navigate = useNavigate();
  const today = useToday();
  const { attempt } = useChanges();
  const invoices = useInvoices();
  const draft = invoices?.find(({ invoice }) => invoice.clientId === client.id && !invoice.frozen)?.invoice;
  const [filter, setFilter, clearFilter] = useBillFilter();
  // What was left out rather than what was picked: an entry recorded meanwhile is picked like the others.
  const [left, setLeft] = useState<ReadonlySet<Id>>(new Set());
  const [markups, setMarkups] = useState<ReadonlyMap<Id, string>>(new Map());
  const [focus, setFocus] = useState<Id | null>(null);
  const [opened, setOpened] = useState<Opened>(null);
  const [clientView, setClientView] = useState(false);
  const lacking = useLackingReceipts(pricer, billable.rows.costs);
  const all = useMemo(() => {
    const waiting = leftForLater(billable.adjustments, today);
    const items = own ? billItems(pricer, own, lacking ?? new Set()).filter((item) => !waiting.has(item.id)) : [];
    return items.map((item) => remarked(pricer, item, markups.get(item.id)));
  }, [pricer, own, lacking, billable, today, markups]);
  const items = useMemo(() => all.filter((item) => passes(item, filter, today)), [all, filter, today]);
  const selected = useMemo(() => new Set(items.map((item) => item.id).filter((id) => !left.has(id))), [items, left]);
  const picked = items.filter((item) => selected.has(item.id));
  const currency = client.currency;

  const put = async (id?: Id, deal?: OnePrice & { text: string }) => {
    if (picked.length === 0) return;
    const own = picked.flatMap((item) => {
      const markup = markups.get(item.id);
      return markup === undefined ? [] : [[item.id, markup] as const];
    });
    const row = await attempt('invoice.draft', {
      clientId: client.id,
      ...pickedIds(picked),
      ...(id && { id }),
      ...(own.length > 0 && { markups: Object.fromEntries(own) }),
      ...(deal && { deal }),
    });
    const invoiceId = id ?? row?.changes.find((change) => change.table === 'invoices')?.id;
    if (!row || !invoiceId) return;
    void navigate(`/billing/invoice/${invoiceId}`);
  };
  const markUp = (ids: readonly Id[], percent: string) =>
    setMarkups((now) => new Map([...now, ...ids.map((id) => [id, percent] as const)]));
  useKeys({ 'bill.put': () => void put(draft?.id) });
  const focused = items.find((item) => item.id === focus);
  const acts: readonly [string, Opened][] = [
    ['Mark up…', 'markup'],
    ['Leave for later…', 'later'],
    ['Write down…', 'written down'],
    ['Never bill…', 'never billed'],
  ];
  const internal = () => {
    const { entryIds, costLineIds } = pickedIds(picked);
    void attempt('bill.internal', { entryIds, costLineIds });
  };
  return (
    <Page
      title={client.name}
      aside="to bill"
      actions={
        <>
          {draft && (
            <Button disabled={picked.length === 0} onClick={() => void put()}>
              Start another invoice
            </Button>
          )}
          <Button
            kind="main"
            shortcut={showKey('bill.put')}
            disabled={picked.length === 0}
            onClick={() => void put(draft?.id)}
          >
            {draft ? 'Add to the draft' : 'Put on invoice'}
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-5">
          <Slip working={pickedWorking(picked, items.length, currency)} />
          {focused && <Slip working={explainItem(pricer, focused)} />}
        </div>
      }
    >
      {own && <BillFilters {...{ pricer, currency, filter, today }} items={all} set={setFilter} />}
      {own && own.waiting.entries > 0 && <Waiting own={own} />}
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        {acts.map(([label, act]) => (
          <Button key={label} kind="quiet" disabled={picked.length === 0} onClick={() => setOpened(act)}>
            {label}
          </Button>
        ))}
        <Button kind="quiet" disabled={!picked.some((item) => item.item)} onClick={() => setOpened('price')}>
          One price for the hours…
        </Button>
        <Button kind="quiet" disabled={picked.length !== 1} onClick={() => setOpened('part')}>
          Bill a part…
        </Button>
        <Button kind="quiet" disabled={picked.length === 0} onClick={internal}>
          Not for the client
        </Button>
        <label className="ml-auto flex items-center gap-2 text-sm text-soft">
          <CheckBox checked={clientView} onChange={setClientView} />
          As the client reads it
        </label>
      </div>
      <Ledger
        label={`To bill for ${client.name}`}
        rows={items}
        rowId={(item) => item.id}
        rowName={(item) => item.text || item.clientText}
        columns={billColumns({
          pricer,
          items,
          currency,
          today,
          clientView,
          saveMarkup: async (item, typed) => markUp([item.id], typedMarkup(typed)),
          ownMarkup: (item) => markups.get(item.id),
          together: () => pickedWorking(items, items.length, currency),
        })}
        selection={{
          selected,
          onChange: (next) =>
            setLeft((now) => {
              const out = new Set(now);
              for (const { id } of items) {
                if (next.has(id)) out.delete(id);
                else out.add(id);
              }
              return out;
            }),
        }}
        onActive={(item) => setFocus(item.id)}
        footLabel="Total"
        empty={
          all.length > 0 ? (
            <>
              Nothing matches.{' '}
              <Button kind="quiet" onClick={clearFilter}>
                Show everything
              </Button>
            </>
          ) : (
            <>
              Nothing is to bill for {client.name}. Time and costs of its projects appear here.{' '}
              <Link to="/billing" className="text-time underline">
                Back to Billing
              </Link>
            </>
          )
        }
      />
      <FixedRest pricer={pricer} client={client} agreed={billable.rows.agreed} />
      <SetAside
        pricer={pricer}
        entries={billable.entries}
        rows={billable.rows}
        adjustments={billable.adjustments}
        label={`Set aside for ${client.name}`}
      />
      <InvoicedAhead {...{ pricer, client }} />
      <Deposits client={client} />
      {opened === 'markup' && (
        <MarkupDialog pricer={pricer} items={picked} forInvoice={markUp} onClose={() => setOpened(null)} />
      )}
      {opened === 'price' && (
        <OnePriceDialog
          count={picked.filter((item) => item.item).length}
          currency={currency}
          tryPrice={(agreed) => tryOnPicked(pricer, client, picked, billable, today, agreed)}
          onAgree={(agreed) => put(draft?.id, agreed)}
          onClose={() => setOpened(null)}
        />
      )}
      {opened === 'part' && picked.length === 1 && (
        <PartDialog clientId={client.id} item={picked[0]!} draftId={draft?.id} onClose={() => setOpened(null)} />
      )}
      {(opened === 'later' || opened === 'written down' || opened === 'never billed') && (
        <AdjustDialog kind={opened} items={picked} onClose={() => setOpened(null)} />
      )}
    </Page>
  );
}

/** Hours that come here once they are approved. */
function Waiting({ own }: { own: ToBill }) {
  const { entries, seconds, amount } = own.waiting;
  return (
    <p className="mb-3 border-l-[3px] border-attention bg-attention-ground px-3 py-1.5">
      {entries} {entries === 1 ? 'entry waits' : 'entries wait'} to be approved: {showLength(seconds)},{' '}
      {showAmount(amount, own.currency)}.{' '}
      <Link to={`/team/check?client=${own.client.id}`} className="text-time underline">
        Open what is to check
      </Link>
    </p>
  );
}

/** What the picked hours come to on an invoice at their own rates, and at one price. */
function tryOnPicked(
  pricer: Pricer,
  client: Client,
  picked: readonly BillItem[],
  billable: Billable,
  day: Day,
  agreed: OnePrice,
) {
  const time = picked.flatMap((row) => (row.item ? [row.item] : []));
  const ids = new Set(time.map(({ entry }) => entry.id));
  const invoice = newDraft(client, { id: client.id, createdAt: 0 });
  const input = {
    invoice,
    entries: time.map(({ entry }) => entry),
    allocations: time.map(({ entry, seconds }) =>
      newAllocation({ id: entry.id, invoiceId: invoice.id, entryId: entry.id, seconds }),
    ),
    mates: billable.entries.filter((entry) => !ids.has(entry.id)),
    takings: billable.allocations,
    day,
  };
  return tryOnePrice(pricer, input, [...ids], agreed);
}

/** An item with a markup of this invoice's own. */
function remarked(pricer: Pricer, row: BillItem, markup: string | undefined): BillItem {
  if (markup === undefined || row.cost === null) return row;
  if (row.item) {
    const price = pricer.priceMarkedUp(row.item.entry, markup);
    if (!price) return row;
    const amount = pricer.amount(row.item.billed, price);
    return { ...row, markup, amount, item: { ...row.item, price, amount } };
  }
  const charge = chargeMarkedUp(pricer, row.charge!, markup);
  return { ...row, markup, amount: charge.amount, charge };
}

/** The running total of what is picked. */
function pickedWorking(picked: readonly BillItem[], of: number, currency: string): Working {
  const time = picked.filter((item) => item.item);
  const others = picked.filter((item) => item.charge);
  const cost = sumOf(picked, (item) => item.cost ?? 0);
  const amount = sumOf(picked, (item) => item.amount);
  const unpriced = picked.filter((item) => item.fault).length;
  return {
    title: 'Picked',
    steps: [
      { label: 'Items', figure: textFigure(`${picked.length} of ${of}`) },
      ...(time.length > 0
        ? [
            { label: 'Recorded', figure: lengthFigure(sumOf(time, (item) => item.item!.seconds)) },
            { label: 'Rounded', figure: lengthFigure(sumOf(time, (item) => item.item!.billed)) },
            {
              label: 'Time',
              figure: amountFigure(
                sumOf(time, (item) => item.amount),
                currency,
              ),
            },
          ]
        : []),
      ...(others.length > 0
        ? [
            {
              label: 'Costs and amounts',
              figure: amountFigure(
                sumOf(others, (item) => item.amount),
                currency,
              ),
            },
          ]
        : []),
      ...(unpriced ? [{ label: 'Without a price', figure: textFigure(String(unpriced)) }] : []),
      ...(cost > 0
        ? [
            { label: 'Cost', figure: amountFigure(cost, currency), ruled: true },
            { label: 'Above cost', figure: textFigure(bareAmount(lessExact(amount, cost), currency)) },
          ]
        : []),
    ],
    result: { label: 'Price, before tax', figure: amountFigure(amount, currency) },
  };
}
