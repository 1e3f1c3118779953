import { explainDraft, type Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { dueDays } from '@half-penny/core/repeats';
import { useDrafts, type DraftRow } from '../../data/drafts';
import { waits } from '../../data/executor';
import { wordsOf } from '../../data/in-words';
import { composeLetter } from '../../data/letters';
import { useToday } from '../../data/queries';
import { useAll } from '../../data/read';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { Lapsing } from './invoiced-ahead';
import { RepeatList } from './repeat-list';

/** What came of issuing one draft. */
interface Outcome {
  client: string;
  /** The number that it got; null where it did not go. */
  number: string | null;
  why: string;
}

/** The month's run: every draft with what is odd about it, issued one after the other; and what comes again. */
export function Run({ pricer }: { pricer: Pricer }) {
  const today = useToday();
  const repeats = useAll('repeats');
  const rows = useDrafts(pricer, today);
  const navigate = useNavigate();
  usePrepared((repeats ?? []).flatMap((row) => dueDays(row, today).map((day) => `${row.id} ${day}`)).join());
  const [left, setLeft] = useState<ReadonlySet<Id>>(new Set());
  const run = useRunning(pricer);
  const [asked, setAsked] = useState(false);
  if (!rows || !repeats) return <Loading />;
  const ready = rows.filter(canGo);
  const meant = ready.filter((row) => !left.has(row.invoice.id));
  return (
    <>
      <Section
        title={rows.length > 0 ? `To issue ${rows.length}` : 'To issue'}
        actions={
          meant.length > 0 && (
            <Button kind="main" onClick={() => setAsked(true)}>
              Issue {meant.length === 1 ? 'it' : `these ${meant.length}`}
            </Button>
          )
        }
      >
        <Ledger
          label="Drafts to issue"
          rows={rows}
          rowId={(row) => row.invoice.id}
          rowName={(row) => pricer.client.get(row.invoice.clientId)?.name ?? ''}
          columns={columnsOf(pricer)}
          selection={{
            selected: new Set(meant.map((row) => row.invoice.id)),
            selectable: canGo,
            onChange: (selected) =>
              setLeft(new Set(ready.map((row) => row.invoice.id).filter((id) => !selected.has(id)))),
          }}
          marked={(row) => !canGo(row)}
          onOpen={(row) => void navigate(`/billing/invoice/${row.invoice.id}`)}
          empty="No draft waits. Put what is to bill on an invoice, or let recurring invoices be prepared."
        />
      </Section>
      {run.outcomes.length > 0 && <Outcomes outcomes={run.outcomes} write={run.writeLetters} letters={run.issued} />}
      <Lapsing {...{ pricer, today }} />
      <RepeatList {...{ pricer, repeats, today }} />
      {asked && (
        <Dialog
          open
          onClose={() => setAsked(false)}
          title={meant.length === 1 ? 'Issue this invoice' : `Issue these ${meant.length} invoices`}
          about="Each gets the next number and stays as it is from then on; it can be credited, and not undone."
        >
          <div className="flex justify-end">
            <Button
              kind="main"
              onClick={() => {
                setAsked(false);
                void run.issueAll(meant);
              }}
            >
              Issue now
            </Button>
          </div>
        </Dialog>
      )}
      {run.now && <Progress title={run.now.title} share={run.now.share} onStop={run.stop} />}
    </>
  );
}

const canGo = ({ draft, findings }: DraftRow): boolean =>
  draft !== null && !findings.some((each) => each.weight === 'refused');

/** What has come due is prepared by itself, each once a visit; it can be undone. */
function usePrepared(due: string): void {
  const { attempt } = useChanges();
  const asked = useRef('');
  useEffect(() => {
    if (due === '' || asked.current === due) return;
    asked.current = due;
    void attempt('repeat.prepare', {});
  }, [due, attempt]);
}

/** Issues drafts one command each, so that one that does not go keeps none of the others. */
function useRunning(pricer: Pricer) {
  const { executor, reader, memberId } = useSession();
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const today = useToday();
  const [now, setNow] = useState<{ title: string; share: number; stopped: { yes: boolean } } | null>(null);
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const [issued, setIssued] = useState<readonly Id[]>([]);
  const issueAll = async (rows: readonly DraftRow[]) => {
    const stopped = { yes: false };
    const told: Outcome[] = [];
    const ids: Id[] = [];
    for (const [index, { invoice }] of rows.entries()) {
      const client = pricer.client.get(invoice.clientId)?.name ?? '';
      if (stopped.yes) {
        told.push({ client, number: null, why: 'stopped before it' });
        continue;
      }
      setNow({ title: `Issuing for ${client}`, share: index / rows.length, stopped });
      try {
        const done = await executor.run('invoice.issue', { id: invoice.id });
        if (waits(done)) {
          told.push({ client, number: null, why: 'waits until this device is connected' });
          continue;
        }
        const { frozen } = (await reader.get('invoices', invoice.id))!;
        ids.push(invoice.id);
        told.push({ client, number: frozen!.number, why: '' });
      } catch (thrown) {
        told.push({ client, number: null, why: wordsOf(thrown) });
      }
    }
    setNow(null);
    setOutcomes(told);
    setIssued(ids);
  };
  const writeLetters = async () => {
    const rows = (await reader.many('invoices', issued)).filter((row) => row?.frozen);
    const letters = rows.map((invoice) =>
      composeLetter(pricer, {
        kind: 'invoice',
        clientId: invoice!.clientId,
        frozen: invoice!.frozen!,
        owing: { invoice: invoice!, payments: [], credits: [] },
        today,
        memberId,
      }),
    );
    if (await attempt('letter.write', { letters })) void navigate('/billing/outbox');
  };
  return { now, outcomes, issued, issueAll, writeLetters, stop: () => now && (now.stopped.yes = true) };
}

function Outcomes({
  outcomes,
  letters,
  write,
}: {
  outcomes: readonly Outcome[];
  letters: readonly Id[];
  write: () => Promise<void>;
}) {
  return (
    <Section
      title="What came of it"
      actions={
        letters.length > 0 && (
          <Button kind="main" onClick={() => void write()}>
            Write {letters.length === 1 ? 'its letter' : `their ${letters.length} letters`}
          </Button>
        )
      }
    >
      <ul role="status" className="border-t border-ink">
        {outcomes.map(({ client, number, why }, index) => (
          <li key={index} className="flex flex-wrap gap-x-4 border-b border-rule px-2 py-1.5">
            <span className="w-24 font-mono text-sm font-semibold">{number ?? '–'}</span>
            <span className="written min-w-0 flex-1">{client}</span>
            <span className={number ? 'text-soft' : 'text-attention'}>{number ? 'issued' : `not issued: ${why}`}</span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

const columnsOf = (pricer: Pricer): Column<DraftRow>[] => [
  {
    key: 'client',
    head: 'Client',
    ownLine: true,
    width: 'minmax(0,2fr)',
    cell: ({ invoice }) => (
      <Link
        className="written clamp-2 font-semibold hover:underline"
        to={`/billing/invoice/${invoice.id}`}
        tabIndex={-1}
      >
        {pricer.client.get(invoice.clientId)?.name}
      </Link>
    ),
  },
  {
    key: 'odd',
    head: 'What is odd',
    width: 'minmax(0,4fr)',
    cell: ({ findings, fault }) => {
      if (fault) return <span className="text-fault">{fault}</span>;
      if (findings.length === 0) return <span className="text-soft">nothing</span>;
      return (
        <ul>
          {findings.slice(0, 3).map(({ text, weight }) => (
            <li key={text} className={`written text-sm ${weight === 'refused' ? 'text-fault' : 'text-attention'}`}>
              {text}
            </li>
          ))}
          {findings.length > 3 && <li className="text-xs text-soft">and {findings.length - 3} more</li>}
        </ul>
      );
    },
  },
  {
    key: 'payable',
    head: 'To pay',
    width: '120px',
    align: 'end',
    cell: ({ invoice, draft }) =>
      draft && (
        <Worth
          amount={draft.payable}
          currency={draft.currency}
          of={`the draft for ${pricer.client.get(invoice.clientId)?.name ?? ''}`}
          working={() => explainDraft(pricer, draft, invoice.inclusive, 'Draft')}
        />
      ),
  },
];
