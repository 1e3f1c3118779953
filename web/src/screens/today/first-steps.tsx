import { Check } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { useBegun, useFewEntries } from '../../data/first-steps';
import { useChanges, useSession } from '../../data/session';
import { useUnsaved, wasExported } from '../../data/storage';
import { exportFile, fileNameOf, save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { Progress } from '../../parts/progress';
import { useWork } from '../../parts/use-work';
import { understood } from '../../state/shell';
import { useAppDispatch } from '../../state/store';
import type { Pricer } from '@half-penny/core/billing';

interface StepProps {
  at: number;
  done: boolean;
  /** The first that is not done: what to do now. */
  next: boolean;
  name: string;
  says: ReactNode;
  /** The one press that it takes. */
  children: ReactNode;
}

const stepLook = 'inline-flex min-h-8 items-center rounded-md border px-3 py-1 font-semibold whitespace-nowrap';

/** Four things that lead from nothing to an invoice: each one press, each ticked by doing it. */
export default function FirstSteps() {
  const pricer = usePricer();
  const { entry } = useSession();
  const dispatch = useAppDispatch();
  const rights = useRights();
  const kept = useUnsaved(0)?.ever;
  const done = useBegun();
  const all = done?.longAgo || (pricer && hasRate(pricer) && done?.entries && done.invoices && kept);
  useEffect(() => {
    if (all) dispatch(understood(entry.id));
  }, [all, dispatch, entry.id]);
  // Whoever sends no invoices is not led to one.
  if (!pricer || !done || kept === undefined || all || !rights.has('billing')) return null;
  const ticks = [hasRate(pricer), done.entries, done.invoices, kept];
  const next = ticks.indexOf(false);
  const step = (at: number) => ({ at, done: ticks[at]!, next: next === at });
  return (
    <section aria-label="First steps" className="mb-5 border-t-2 border-b border-ink border-b-rule print:hidden">
      <div className="flex items-baseline gap-3 py-2">
        <h2 className="font-semibold">From here to your first invoice</h2>
        <Button kind="quiet" className="ml-auto" onClick={() => dispatch(understood(entry.id))}>
          Do not show this again
        </Button>
      </div>
      <ol>
        <Step {...step(0)} name="A client with a rate" says="Who you invoice, and what an hour of it costs.">
          <Link to={rateLink(pricer)} className={look(next === 0)}>
            {pricer.book.clients.length === 0 ? 'Add a client' : 'Add a rate'}
          </Link>
        </Step>
        <Step
          {...step(1)}
          name="Record time"
          says={
            <>
              Here, or in the <b>Till</b>, the dark bar below: run it while you work, or write in its line what you did.
            </>
          }
        >
          <Link to="/today?add=1" className={look(next === 1)}>
            Write time down
          </Link>
        </Step>
        <Step
          {...step(2)}
          name="Look at the invoice"
          says="A draft of what is to bill: nothing is sent or numbered yet."
        >
          <LookAtInvoice main={next === 2} possible={done.entries} />
        </Step>
        <Step {...step(3)} name="Keep a copy" says="All of it as one file, as it stays in this browser alone.">
          <KeepCopy main={next === 3} />
        </Step>
      </ol>
      <p className="border-t border-rule py-2 text-sm text-soft">
        Not everything gets written down. <b>Sift</b> offers what your computer noticed, if you let it: see{' '}
        <Link to="/sift/sources" className="text-time underline">
          what can be watched
        </Link>
        .
      </p>
    </section>
  );
}

const look = (main: boolean): string =>
  `${stepLook} ${main ? 'border-time bg-time text-on-time hover:brightness-110' : 'border-strong bg-sheet font-normal! hover:bg-time-ground'}`;

function Step({ at, done, next, name, says, children }: StepProps) {
  return (
    <li
      className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-1.5"
      aria-current={next ? 'step' : undefined}
    >
      <span
        className={`grid size-5 flex-none place-content-center rounded-full border font-mono text-xs ${done ? 'border-time bg-time text-on-time' : 'border-control text-soft'}`}
      >
        {done ? <Check size={12} aria-hidden /> : at + 1}
        {done && <span className="sr-only">Done</span>}
      </span>
      <span className="min-w-0 flex-1">
        <span className={next ? 'font-semibold' : done ? 'text-soft' : ''}>{name}</span>{' '}
        {!done && <span className="text-sm text-soft">{says}</span>}
      </span>
      {!done && children}
    </li>
  );
}

/** Whether somebody can be invoiced for an hour. */
const hasRate = ({ book }: Pricer): boolean => book.clients.length > 0 && book.rateLines.length > 0;

const rateLink = ({ book }: Pricer): string =>
  book.clients.length === 0 ? '/clients?add=1' : `/clients/${book.clients[0]!.id}/rates`;

/** Puts everything of the client that was worked for last on a draft, and opens it. */
function LookAtInvoice({ main, possible }: { main: boolean; possible: boolean }) {
  const pricer = usePricer();
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const fewEntries = useFewEntries();
  const draft = async () => {
    const clientOf = new Map((await fewEntries()).map(({ id, projectId }) => [id, pricer?.clientOf(projectId)?.id]));
    const clientId = [...clientOf.values()].findLast((each) => each !== undefined);
    // Time for nobody is not invoiced; Billing says what is.
    if (!clientId) return void navigate('/billing');
    const entryIds = [...clientOf].filter(([, each]) => each === clientId).map(([id]) => id);
    const row = await attempt('invoice.draft', { clientId, entryIds });
    const invoice = row?.changes.find((change) => change.table === 'invoices');
    if (invoice) void navigate(`/billing/invoice/${invoice.id}`);
  };
  return (
    <Button kind={main ? 'main' : 'plain'} disabled={!possible} onClick={() => void draft()}>
      Make the draft
    </Button>
  );
}

function KeepCopy({ main }: { main: boolean }) {
  const { entry } = useSession();
  const today = useToday();
  const work = useWork();
  const keep = () =>
    work.start(
      `Exporting ${entry.name}`,
      (progress) => exportFile(entry, progress),
      ({ blob }) => {
        save(blob, fileNameOf(entry.name, today));
        void wasExported(entry, Date.now());
      },
    );
  return (
    <>
      <Button kind={main ? 'main' : 'plain'} onClick={keep}>
        Export everything
      </Button>
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
      {work.fault && (
        <p role="alert" className="w-full text-fault">
          {work.fault}
        </p>
      )}
    </>
  );
}
