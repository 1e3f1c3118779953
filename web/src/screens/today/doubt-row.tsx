import { blankEntry, momentWithin, noJob, type Job } from '@half-penny/core/entries';
import { jobName, type Pricer } from '@half-penny/core/billing';
import { type Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { showAmount } from '@half-penny/core/money';
import { dayOf, readClock, showLength } from '@half-penny/core/time';
import { useState, type FormEvent } from 'react';
import { forgetDoubt } from '../../data/doubt-store';
import { causeInWords, leaveDoubt, type OpenDoubt } from '../../data/doubts';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { inputLook } from '../../parts/field';
import { JobPicker } from '../../parts/job-picker';
import { showSpanWithDays, showTime } from '../../parts/spans';
import { useWorthSeen, type WorthSeen } from '../../data/worth-seen';

const MINUTE = 60_000;

/** One stretch of it. */
export default function DoubtRow({ doubt, pricer, member }: { doubt: OpenDoubt; pricer: Pricer; member: Member }) {
  const { run } = useChanges();
  const { start, end, target } = doubt;
  const on = 'timer' in target ? target.timer : target.entry;
  const name = on.note.trim() || jobName(pricer, on.projectId, on.unlisted);
  const [edge, setEdge] = useState(start);
  const [typed, setTyped] = useState<string | null>(null);
  const [rest, setRest] = useState<Job>(noJob);
  const [fault, setFault] = useState<string>();
  const from = Math.min(Math.max(edge, start), end);
  const seconds = Math.floor((end - from) / 1000);
  const settle = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const to = end;
      const what = { from, to, rest: rest.projectId || rest.unlisted ? { ...rest, serviceId: null, note: '' } : null };
      const { timer, entry } = { timer: null, entry: null, ...target };
      await run('time.settle', timer ? { timerId: timer.id, ...what } : { entryId: entry!.id, ...what });
      await forgetDoubt(doubt.doubt.id);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  const typeEdge = () => {
    const minute = typed === null ? null : readClock(typed);
    if (minute === null) {
      if (typed !== null)
        setFault(`“${typed.slice(0, 20)}” is not a time of day. Write ${showTime(from, member.zone)}.`);
      return;
    }
    const at = momentWithin({ start, end }, minute, member.zone);
    if (at === null) {
      return setFault(
        `The doubtful time is ${showSpanWithDays({ start, end }, member.zone)}; the end of the work lies within it.`,
      );
    }
    setFault(undefined);
    setTyped(null);
    setEdge(at);
  };
  const worthSeen = useWorthSeen(pricer);
  const worth = worthOfRest(pricer, worthSeen, member, on, seconds);
  return (
    <form
      onSubmit={(event) => void settle(event)}
      aria-label={`Doubtful time on ${name.slice(0, 80)}`}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 px-3 py-2.5"
    >
      <div className="min-w-56 flex-1">
        <div className="text-sm">
          <b className="font-mono">{showSpanWithDays({ start, end }, member.zone)}</b> ran{' '}
          {causeInWords(doubt.doubt.cause)}
        </div>
        <div className="written clamp-2 text-sm text-soft">{name}</div>
      </div>
      <div className="flex items-center gap-2">
        <label className="text-xs text-soft" htmlFor={`edge-${start}`}>
          Work ended at
        </label>
        <input
          type="range"
          aria-label="Where the work ended"
          aria-valuetext={showTime(from, member.zone)}
          min={start}
          max={end}
          step={MINUTE}
          value={from}
          onChange={(event) => setEdge(Number(event.target.value))}
          className="w-36 accent-time"
        />
        <input
          id={`edge-${start}`}
          className={`${inputLook} w-16! font-mono`}
          value={typed ?? showTime(from, member.zone)}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={typeEdge}
        />
      </div>
      <div className="min-w-40">
        <div className="text-xs text-soft">
          The other <b className="font-mono text-time">{showLength(seconds)}</b>
          {worth && (
            <>
              , <i className="text-money">about {worth}</i>
            </>
          )}
          , was
        </div>
        <JobPicker boxed pricer={pricer} label="What the rest was" value={rest} none="no work" onPick={setRest} />
      </div>
      <div className="flex gap-2">
        <Button type="submit" kind="main">
          {rest.projectId || rest.unlisted ? 'Move it there' : 'Take it off'}
        </Button>
        <Button onClick={() => void leaveDoubt(doubt)}>It was work</Button>
      </div>
      {fault && (
        <p role="alert" className="basis-full text-sm text-fault">
          {fault}
        </p>
      )}
    </form>
  );
}

/** What the time in question is worth on the job that it ran on. */
function worthOfRest(pricer: Pricer, seen: WorthSeen, member: Member, on: OnJob, seconds: number): string | null {
  if (seconds <= 0) return null;
  const { projectId, serviceId } = on;
  const entry = blankEntry({
    id: 'rest',
    memberId: member.id,
    day: dayOf(Date.now(), member.zone),
    seconds,
    projectId,
    serviceId,
  });
  const [priced] = seen.of(pricer, [entry]);
  return priced?.price ? showAmount(priced.amount, priced.price.currency) : null;
}

type OnJob = { projectId: string | null; serviceId: string | null };
