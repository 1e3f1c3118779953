import { explainPriced, jobName, type Priced, type Pricer, type ToBill } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { addExact } from '@half-penny/core/money';
import { amountFigure, lengthFigure, textFigure, type Working } from '@half-penny/core/rates';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { tinykeys } from 'tinykeys';
import { useInvoices, usePricer, useToBill } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { JobLine } from '../../parts/jobs';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { Slip } from '../../parts/slip';

/** What is to bill for one client: pick, and put it on an invoice. */
export default function BillClient() {
  const { clientId = '' } = useParams();
  const pricer = usePricer();
  const open = useToBill(pricer, clientId);
  if (!pricer || !open)
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
  const own = open[0];
  if (!own) {
    return (
      <Page title={`${client.name}, to bill`}>
        <p className="text-soft">
          Nothing is to bill for {client.name}. Time recorded on its projects appears here.{' '}
          <Link to="/billing" className="text-time underline">
            Back to Billing
          </Link>
        </p>
      </Page>
    );
  }
  return <Picking key={clientId} pricer={pricer} own={own} />;
}

function Picking({ pricer, own }: { pricer: Pricer; own: ToBill }) {
  const navigate = useNavigate();
  const { attempt } = useChanges();
  const invoices = useInvoices();
  const draft = invoices?.find(({ invoice }) => invoice.clientId === own.client.id && !invoice.frozen)?.invoice;
  // What was left out rather than what was picked: an entry recorded meanwhile is picked like the others.
  const [left, setLeft] = useState<ReadonlySet<Id>>(new Set());
  const [focus, setFocus] = useState<Id | null>(null);
  const selected = useMemo(
    () => new Set(own.items.map((item) => item.entry.id).filter((id) => !left.has(id))),
    [own, left],
  );
  const picked = own.items.filter((item) => selected.has(item.entry.id));
  const put = async (id?: Id) => {
    if (picked.length === 0) return;
    const entryIds = picked.map((item) => item.entry.id);
    const row = await attempt('invoice.draft', { clientId: own.client.id, entryIds, ...(id ? { id } : {}) });
    const invoiceId = id ?? row?.changes.find((change) => change.table === 'invoices')?.id;
    if (row && invoiceId) void navigate(`/billing/invoice/${invoiceId}`);
  };
  useEffect(() =>
    tinykeys(window, {
      i: (event) => {
        if (event.target instanceof HTMLElement && event.target.closest('input:not([type=checkbox]), textarea, select'))
          return;
        void put(draft?.id);
      },
    }),
  );
  const focused = own.items.find((item) => item.entry.id === focus);
  return (
    <Page
      title={own.client.name}
      aside="to bill"
      actions={
        <>
          {draft && (
            <Button disabled={picked.length === 0} onClick={() => void put()}>
              Start another invoice
            </Button>
          )}
          <Button kind="main" shortcut="I" disabled={picked.length === 0} onClick={() => void put(draft?.id)}>
            {draft ? 'Add to the draft' : 'Put on invoice'}
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-5">
          <Slip working={pickedWorking(own, picked)} />
          {focused && <Slip working={explainPriced(pricer, focused)} />}
        </div>
      }
    >
      <Ledger
        label={`To bill for ${own.client.name}`}
        rows={own.items}
        rowId={(item) => item.entry.id}
        rowName={(item) => item.entry.note || jobName(pricer, item.entry.projectId)}
        columns={columnsOf(pricer, own)}
        selection={{
          selected,
          onChange: (next) => setLeft(new Set(own.items.map((item) => item.entry.id).filter((id) => !next.has(id)))),
        }}
        onActive={(item) => setFocus(item.entry.id)}
        footLabel="Together"
        empty="Nothing is to bill."
      />
    </Page>
  );
}

/** The running total of what is picked. */
function pickedWorking(own: ToBill, picked: readonly Priced[]): Working {
  const total = (of: (item: Priced) => number) => picked.reduce((sum, item) => addExact(sum, of(item)), 0);
  const unpriced = picked.filter((item) => !item.price).length;
  return {
    title: 'Picked',
    steps: [
      { label: 'Entries', figure: textFigure(`${picked.length} of ${own.items.length}`) },
      { label: 'Recorded', figure: lengthFigure(total((item) => item.seconds)) },
      { label: 'Rounded', figure: lengthFigure(total((item) => item.billed)) },
      ...(unpriced ? [{ label: 'Without a rate', figure: textFigure(String(unpriced)) }] : []),
    ],
    result: {
      label: 'Worth, before tax',
      figure: amountFigure(
        total((item) => item.amount),
        own.currency,
      ),
    },
  };
}

function columnsOf(pricer: Pricer, own: ToBill): Column<Priced>[] {
  const { lengthStyle } = pricer.book.workspace;
  return [
    {
      key: 'day',
      head: 'Day',
      width: '64px',
      cell: ({ entry }) => <span className="whitespace-nowrap">{showShortestDay(entry.day)}</span>,
    },
    {
      key: 'note',
      head: 'What was done',
      width: 'minmax(0,1.3fr)',
      cell: ({ entry }) => (
        <>
          <span className="written clamp-2">{entry.note || <span className="text-soft">No note</span>}</span>
          <span className="block text-xs text-soft">
            {[entry.serviceId && pricer.service.get(entry.serviceId)?.name, pricer.member.get(entry.memberId)?.name]
              .filter(Boolean)
              .join(' · ')}
          </span>
        </>
      ),
    },
    {
      key: 'job',
      head: 'Project',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ entry }) => <JobLine pricer={pricer} job={entry} />,
    },
    {
      key: 'seconds',
      head: 'Recorded',
      width: '92px',
      align: 'end',
      wideOnly: true,
      cell: (item) => <Length seconds={item.seconds} style={lengthStyle} />,
      foot: <Length seconds={own.seconds} style={lengthStyle} />,
    },
    {
      key: 'billed',
      head: 'Rounded',
      width: '74px',
      align: 'end',
      cell: (item) => <Length seconds={item.billed} style={lengthStyle} />,
      foot: <Length seconds={own.billed} style={lengthStyle} />,
    },
    {
      key: 'worth',
      head: 'Worth',
      width: '96px',
      align: 'end',
      cell: (item) =>
        item.price ? (
          <Worth
            amount={item.amount}
            currency={own.currency}
            of={item.entry.note || own.client.name}
            working={() => explainPriced(pricer, item)}
          />
        ) : (
          <span className="text-attention">no rate</span>
        ),
      foot: (
        <Worth
          amount={own.amount}
          currency={own.currency}
          of={`everything to bill for ${own.client.name}`}
          strong
          working={() => pickedWorking(own, own.items)}
        />
      ),
    },
  ];
}
