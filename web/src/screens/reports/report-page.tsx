import { useRead } from '../../data/read';
import {
  plainDefinition,
  readDefinition,
  readyMade,
  type Definition,
  type ReadDefinition,
} from '@half-penny/core/reports';
import type { Pricer } from '@half-penny/core/billing';
import { type Report } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useMember, useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Loading, NotThere, Page } from '../../parts/page';
import { isReportDue } from '../../data/report-due';
import { fromAddress, inAddress } from './address';
import { BehindDialog } from './drill-down';
import { KeepDialog } from './keep-dialog';
import { Out } from './export';
import { ReportTable, type Pressed } from './report-table';
import { Sentence } from './sentence';
import { useReport } from './use-report';
import { sayLeftOut, useViewer } from './viewed';

const ReportChart = lazy(() => import('./chart'));

/** Where a question comes from: a report that is kept, one that comes with the product, or the address alone. */
interface Origin {
  title: string;
  note: string;
  kept: Report | null;
  read: ReadDefinition;
}

export default function ReportPage() {
  const { from, id = '' } = useParams();
  const { reader } = useSession();
  const pricer = usePricer();
  const [params] = useSearchParams();
  const report = useRead(
    async () => (from === 'kept' ? ((await reader.get('reports', id)) ?? null) : null),
    [reader, from, id],
  );
  const asked = params.get('ask');
  const origin = useMemo((): Origin | string | null => {
    const made = from === 'made' ? readyMade.find((each) => each.key === id) : undefined;
    if (from === 'kept' && !report) return null;
    if (from === 'made' && !made) return null;
    try {
      const own: ReadDefinition = report
        ? readDefinition(report.definition)
        : { definition: made?.definition ?? plainDefinition, left: [] };
      const read = asked === null ? own : fromAddress(asked);
      return {
        title: report?.name ?? made?.name ?? params.get('name') ?? 'A question',
        note: report?.note ?? '',
        kept: report ?? null,
        read,
      };
    } catch (thrown) {
      return wordsOf(thrown);
    }
  }, [from, id, report, asked, params]);
  if (origin === null)
    return <NotThere one="report" all="/reports" reading={from === 'kept' && report === undefined} />;
  if (typeof origin === 'string') {
    return (
      <Page title="A question">
        <p role="alert" className="text-fault">
          {origin}
        </p>
        <p className="mt-2 text-soft">
          Nothing has happened to your data.{' '}
          <Link to="/reports" className="text-time underline">
            All reports
          </Link>
        </p>
      </Page>
    );
  }
  if (!pricer) return <Loading />;
  return <Question key={`${from} ${id}`} origin={origin} pricer={pricer} />;
}

function Question({ origin, pricer }: { origin: Origin; pricer: Pricer }) {
  const member = useMember(pricer);
  const today = useToday();
  const { executor } = useSession();
  const [, setParams] = useSearchParams();
  const [pressed, setPressed] = useState<Pressed | null>(null);
  const [keeping, setKeeping] = useState(false);
  const { definition, left } = origin.read;
  const viewed = useViewer(pricer)!(definition);
  const leftOut = sayLeftOut(viewed, pricer);
  const keeps = useRights().has('reports');
  const { answer, share, fault, stopped, stop, again } = useReport(viewed.definition, today, { pricer, member });
  const { kept } = origin;
  // Looked at, it waits as ready no longer.
  const ready = kept !== null && keeps && isReportDue(kept, today);
  useEffect(() => {
    // Said without a notice: nobody did anything but look.
    if (ready) void executor.run('report.edit', { id: kept.id, seenOn: today });
  }, [ready, executor, kept, today]);
  // What is chosen fast one after the other builds on the choice before, which the address may not have yet.
  const latest = useRef(definition);
  useEffect(() => {
    latest.current = definition;
  }, [definition]);
  const set = (change: Partial<Definition>) => {
    latest.current = { ...latest.current, ...change };
    const ask = inAddress(latest.current);
    setParams(
      (now) => {
        now.set('ask', ask);
        return now;
      },
      { replace: true },
    );
  };
  const style = pricer.book.workspace.lengthStyle;
  const changed = kept
    ? JSON.stringify(readDefinition(kept.definition).definition) !== JSON.stringify(definition)
    : true;
  return (
    <Page
      title={origin.title}
      aside={answer?.range && `${showShortDay(answer.range.from)} – ${showShortDay(answer.range.to)}`}
      actions={
        <>
          {answer && <Out answer={answer} title={origin.title} note={origin.note} pricer={pricer} today={today} />}
          {/* What somebody may not see of a kept report stays in it for the others. */}
          {changed && keeps && (viewed.without.length === 0 || !kept) && (
            <Button kind={kept ? 'main' : 'plain'} onClick={() => setKeeping(true)}>
              {kept ? 'Keep the changes…' : 'Keep…'}
            </Button>
          )}
        </>
      }
    >
      {origin.note && <p className="written mb-3 text-soft">{origin.note}</p>}
      {left.length > 0 && (
        <p role="status" className="mb-3 border-l-[3px] border-attention pl-3">
          Left out, as it means nothing here: {left.join(', ')}. The rest is as it was kept.
        </p>
      )}
      {leftOut && (
        <p role="status" className="mb-3 border-l-[3px] border-rule pl-3 text-soft">
          {viewed.definition
            ? `Shown to you ${leftOut}, as your rights have it.`
            : `Your rights show you this report ${leftOut}: nothing is left of it. Ask for something else here, or choose another report.`}
        </p>
      )}
      <Sentence
        definition={viewed.definition ? { ...definition, measures: viewed.definition.measures } : definition}
        today={today}
        onChange={set}
      />
      {share !== null && (
        <div className="mb-3 flex items-center gap-3" role="status">
          <progress className="h-2 w-64 accent-time" value={share} max={1} aria-label="Working it out" />
          <Button kind="quiet" onClick={stop}>
            Stop
          </Button>
        </div>
      )}
      {stopped && (
        <p className="mb-3 text-soft">
          Stopped.{' '}
          <Button kind="quiet" onClick={again}>
            Ask again
          </Button>
        </p>
      )}
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault}
        </p>
      )}
      {answer && !fault ? (
        <>
          {answer.definition.chart && (
            <Suspense fallback={<Loading />}>
              <ReportChart pricer={pricer} answer={answer} style={style} />
            </Suspense>
          )}
          <ReportTable answer={answer} style={style} onPress={setPressed} />
        </>
      ) : (
        share !== null && <Loading />
      )}
      {pressed && answer && (
        <BehindDialog
          {...{ pressed, pricer, today, style }}
          definition={answer.definition}
          onClose={() => setPressed(null)}
        />
      )}
      {keeping && (
        <KeepDialog
          definition={definition}
          kept={kept}
          name={origin.title === 'A question' ? '' : origin.title}
          onClose={() => setKeeping(false)}
        />
      )}
    </Page>
  );
}
