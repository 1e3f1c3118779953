import {
  asksTrail,
  rangeBefore,
  rangeOf,
  rangeYearBefore,
  type ReportResult,
  type Definition,
  type Noticed,
} from '@half-penny/core/reports';
import type { Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import type { Pricer } from '@half-penny/core/billing';
import { addDays, type Day } from '@half-penny/core/time';
import { proxy } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useSession } from '../../data/session';
import { captureWork } from '../../workers/capture';
import { onReading, onReportChange, reportsWork, stopReports } from '../../workers/reports';

/** How a question stands: its answer, or how far it is, or why there is none. */
export interface Asked {
  answer: ReportResult | null;
  /** 0 to 1 while it is being computed. */
  share: number | null;
  fault: string | null;
  stopped: boolean;
  stop(): void;
  again(): void;
}

export interface Who {
  pricer: Pricer;
  /** Whose trail this computer has; nobody's where undefined. */
  member: Member | undefined;
}

const YEAR = 366;

/** What the trail knows for a question; null where it does not ask. What is older than a year the trail has mostly forgotten. */
export async function noticedFor(
  definition: Definition,
  runOn: Day,
  { pricer, member }: Who,
): Promise<Noticed[] | null> {
  if (!asksTrail(definition) || !member) return null;
  const range = rangeOf(definition.when, runOn, pricer.book.workspace);
  const { from: first, to } = range ?? { from: addDays(runOn, -YEAR), to: runOn };
  const compared =
    range && definition.compare
      ? { before: rangeBefore, 'year before': rangeYearBefore }[definition.compare](range).from
      : first;
  const from = compared < first ? compared : first;
  return captureWork().noticed({ from, to, zone: member.zone }, member.id);
}

/** Asks a question and follows what changes; none where there is none. The last answer stays on screen until there is another. */
export function useReport(definition: Definition | null, runOn: Day, { pricer, member }: Who): Asked {
  const { entry } = useSession();
  const [answer, setAnswer] = useState<ReportResult | null>(null);
  const [share, setShare] = useState<number | null>(0);
  const [fault, setFault] = useState<string | null>(null);
  const [stopped, setStopped] = useState(false);
  const [turn, setTurn] = useState(0);
  const asked = useRef(0);
  const text = JSON.stringify(definition);
  useEffect(() => {
    const own = ++asked.current;
    const current = () => asked.current === own;
    setShare(text === 'null' ? null : 0);
    setFault(null);
    setStopped(false);
    if (text === 'null') return setAnswer(null);
    const work = reportsWork(entry.database, runOn);
    const leave = onReading((done) => current() && setShare(done / 2));
    const question = JSON.parse(text) as Definition;
    Promise.all([work.ready, noticedFor(question, runOn, { pricer, member })])
      .then(([, noticed]) => noticed && work.api.setTrail(noticed))
      .then(() =>
        work.api.ask(
          { definition: question, runOn },
          proxy((done: number) => current() && setShare(0.5 + done / 2)),
        ),
      )
      .then(
        (found) => current() && setAnswer(found),
        (thrown: unknown) => current() && setFault(wordsOf(thrown)),
      )
      .finally(() => {
        leave();
        if (current()) setShare(null);
      });
    return leave;
  }, [entry.database, text, runOn, turn, pricer, member]);
  useEffect(
    () =>
      onReportChange(() => {
        void reportsWork(entry.database, runOn)
          .api.again()
          .then((found) => found && setAnswer(found));
      }),
    [entry.database, runOn],
  );
  const stop = useCallback(() => {
    asked.current++;
    stopReports();
    setShare(null);
    setStopped(true);
  }, []);
  return { answer, share, fault, stopped, stop, again: () => setTurn((now) => now + 1) };
}
