import type { Pricer } from '@half-penny/core/billing';
import {
  momentOn,
  readLine,
  spanOn,
  whyClosed,
  whyNotOffered,
  whyTaskClosed,
  type LineContext,
  type LineJob,
  type TokenKind,
  type UnderstoodLine,
} from '@half-penny/core/entries';
import { Fault, messageOf, type Entry, type Id, type Member, type Timer } from '@half-penny/core/model';
import { showExactly, type Day, type Typed } from '@half-penny/core/time';
import { useContext, useEffect, useId, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useLikelyJobs, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { tillOpened } from '../../state/shell';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { itemLook, JobLine, jobsInOrder, type KnownJob } from '../jobs';
import { JobOrder } from '../job-order';
import { ariaKey, runKey } from '../keys';

const MOST_SHOWN = 7;

interface TillLineProps {
  pricer: Pricer;
  member: Member;
  timer: Timer | null;
}

/** What can be done with the line as it stands. */
interface Choice {
  value: string;
  /** What it does; null where it only tells something. */
  line: UnderstoodLine | null;
  /** The line with a question answered: it goes into the field, and nothing is recorded yet. */
  answer?: string;
  text: ReactNode;
  /** The line with this choice written out; Tab puts it in the field. */
  completed?: string;
}

/**
 * One line for everything: a job to switch to, or what was done as one would write it to a colleague. "." opens it, "." again pauses.
 * With a length it is recorded, without one a timer starts.
 */
export function TillLine({ pricer, member, timer }: TillLineProps) {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.shell.tillOpen);
  const now = useAppSelector((state) => (state.shell.tillOpen ? state.clock.now : 0));
  const { run, attempt } = useChanges();
  const today = useToday();
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState('');
  const [fault, setFault] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const listId = useId();
  const context = useLineContext(pricer, member, today, open);
  const line = useMemo(() => (context ? readLine(typed, context) : null), [typed, context]);
  const choices = useMemo(
    () => (open && line && context ? choicesOf(typed, line, context, pricer) : []),
    [open, typed, line, context, pricer],
  );
  useEffect(() => {
    if (open) field.current?.focus();
  }, [open]);
  // What was chosen stays chosen while the list changes around it; a new line begins at the top.
  const place = Math.max(
    0,
    choices.findIndex((choice) => choice.value === chosen),
  );
  useEffect(() => setChosen(''), [typed]);
  const close = () => {
    dispatch(tillOpened(false));
    setTyped('');
    setFault(undefined);
    field.current?.blur();
  };
  const take = async (choice: Choice) => {
    if (choice.answer !== undefined) return setTyped(choice.answer);
    if (choice.line === null) return;
    try {
      await act(run, choice.line, { member, today, now });
      close();
    } catch (thrown) {
      setFault(messageOf(thrown));
    }
  };
  const step = (by: number) => {
    const next = (place + by + choices.length) % Math.max(1, choices.length);
    setChosen(choices[next]?.value ?? '');
    panel.current?.querySelector(`[id="${listId}-${next}"]`)?.scrollIntoView({ block: 'nearest' });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const choice = choices[place];
    const completed = typed !== '' && choice?.completed;
    runKey(event, {
      'till.close': close,
      ...(typed === '' && {
        'till.stop': () => {
          close();
          if (timer) void attempt('timer.stop', { id: timer.id });
        },
      }),
      'till.next': () => step(1),
      'till.previous': () => step(-1),
      ...(choice && { 'till.take': () => void take(choice) }),
      ...(completed && { 'till.complete': () => setTyped(completed) }),
    });
  };
  return (
    <div className="relative order-last w-full md:order-none md:ml-1 md:max-w-[420px] md:flex-1">
      <div
        ref={panel}
        hidden={!open}
        className="absolute inset-x-0 bottom-[calc(100%+12px)] rounded-lg border border-strong bg-sheet text-ink shadow-lg md:min-w-[460px]"
      >
        {line && line.tokens.length > 0 && <Understood text={typed} line={line} />}
        {fault && (
          <p role="alert" className="border-b border-rule px-3 py-2 text-sm text-fault">
            {fault}
          </p>
        )}
        {/* Always there, since the field names it. */}
        <div
          role="listbox"
          id={listId}
          aria-label="What to do"
          className={`max-h-96 overflow-auto ${choices.length > 0 ? 'p-1' : ''}`}
        >
          {choices.map((choice, index) => (
            <div
              key={choice.value}
              id={`${listId}-${index}`}
              role="option"
              aria-selected={index === place}
              data-selected={index === place}
              className={itemLook}
              onMouseDown={(event) => event.preventDefault()}
              onMouseMove={() => setChosen(choice.value)}
              onClick={() => void take(choice)}
            >
              {choice.text}
            </div>
          ))}
        </div>
        <p className="border-t border-rule px-3 py-1.5 text-xs text-soft">
          {typed === ''
            ? 'Enter starts the job. Or write: 1:30 yesterday for a job, plot sheet 4, not billable'
            : 'Enter takes the first, arrows choose, Tab completes the name, “quotes” keep words in the note'}
        </p>
      </div>
      <input
        ref={field}
        role="combobox"
        aria-label="Switch jobs or write down what was done"
        aria-expanded={open}
        aria-controls={listId}
        aria-autocomplete="list"
        aria-activedescendant={open && choices.length > 0 ? `${listId}-${place}` : undefined}
        autoComplete="off"
        dir="auto"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setFault(undefined);
        }}
        onFocus={() => dispatch(tillOpened(true))}
        onBlur={() => dispatch(tillOpened(false))}
        onKeyDown={onKeyDown}
        placeholder={timer ? 'Switch jobs, or write down time…' : 'Start a job, or write down time…'}
        aria-keyshortcuts={ariaKey('till.open')}
        className="h-9 w-full rounded-md border border-till-rule bg-transparent px-3 pr-9 text-till-ink placeholder:text-till-soft"
      />
      <kbd
        aria-hidden
        className="absolute top-2 right-2.5 rounded-sm border border-till-rule px-1.5 font-mono text-xs text-till-soft"
      >
        .
      </kbd>
    </div>
  );
}

function useLineContext(pricer: Pricer, member: Member, today: Day, open: boolean): LineContext | null {
  const order = useContext(JobOrder);
  const likely = useLikelyJobs(pricer);
  return useMemo(
    () =>
      open
        ? {
            jobs: jobsInOrder(pricer, likely, order).map((known) => lineJob(pricer, known)),
            services: pricer.book.services.filter((service) => whyNotOffered(pricer, member, null, service) === null),
            today,
          }
        : null,
    [pricer, member, likely, order, today, open],
  );
}

function lineJob(pricer: Pricer, { id, job, name }: KnownJob): LineJob {
  const project = pricer.project.get(job.projectId!)!;
  const task = job.taskId === null ? undefined : pricer.task.get(job.taskId);
  const projects = pricer.tree.upFrom(project.id);
  const client = pricer.clientOf(project.id)?.name ?? '';
  const around = projects.map((each) => each.name);
  return {
    id,
    projectId: project.id,
    taskId: job.taskId,
    own: task?.name ?? project.name,
    around: [...(task ? around : around.slice(1)), client],
    within: projects.map((each) => each.id),
    jobNumber: project.jobNumber,
    name,
    closed: task ? whyTaskClosed(pricer, task) : whyClosed(pricer, project),
  };
}

/** What can be done with the line. A question comes first: until it is answered, nothing is. */
function choicesOf(typed: string, line: UnderstoodLine, context: LineContext, pricer: Pricer): Choice[] {
  const byId = new Map(context.jobs.map((job) => [job.id, job]));
  const jobsOf = (ids: readonly Id[]) =>
    ids.flatMap((id) => {
      const job = byId.get(id);
      return job && job.closed === null ? [job] : [];
    });
  if (typed.trim() === '') {
    const open = context.jobs.filter((job) => job.closed === null).slice(0, MOST_SHOWN);
    return open.map((job) => onJob(pricer, { ...line, projectId: job.projectId, taskId: job.taskId }, job));
  }
  const [question] = line.questions;
  if (question) {
    return question.answers.map(({ says, text }) => ({
      value: `answer ${says}`,
      line,
      answer: text,
      text: (
        <span className="written clamp-2">
          <b className="font-semibold text-attention">{question.asks}</b> {says}
        </span>
      ),
    }));
  }
  const choices: Choice[] = [];
  const token = line.tokens.find((each) => each.kind === 'job');
  if (line.projectId !== null && token) {
    for (const job of jobsOf([line.taskId ?? line.projectId, ...line.alternatives]).slice(0, MOST_SHOWN)) {
      const completed = `${typed.slice(0, token.from)}for ${job.name}${typed.slice(token.to)}`;
      choices.push(onJob(pricer, { ...line, projectId: job.projectId, taskId: job.taskId }, job, completed));
    }
  }
  const bare = line.projectId === null ? line : readLine(typed, { ...context, jobs: [] });
  choices.push({ value: 'bare', line: bare, text: <WithoutJob line={bare} /> });
  if (line.closed) {
    choices.push({
      value: 'closed',
      line: null,
      text: (
        <span className="written clamp-2 text-soft">
          {line.closed.name.slice(0, 100)} is not offered: {line.closed.why}
        </span>
      ),
    });
  }
  if (line.offer) {
    const { from, to, jobs, note, serviceId } = line.offer;
    for (const job of jobsOf(jobs).slice(0, MOST_SHOWN)) {
      const on = { ...line, projectId: job.projectId, taskId: job.taskId, unlisted: '', note, serviceId };
      choices.push(onJob(pricer, on, job, `${typed.slice(0, from)}for ${job.name}${typed.slice(to)}`));
    }
  }
  if (line.projectId === null && !line.unlisted && bare.note) {
    const { unlisted, note } = firstPart(bare.note);
    choices.push({
      value: 'unlisted',
      line: { ...bare, unlisted, note },
      text: (
        <span className="written clamp-2">
          <b className="font-semibold text-time">{doing(bare)}</b> on the job “{unlisted.slice(0, 200)}”{' '}
          <span className="text-soft">which is not set up yet</span>
        </span>
      ),
    });
  }
  return choices;
}

/** A job that is not set up takes the words up to the comma; the rest is the note. */
function firstPart(words: string): { unlisted: string; note: string } {
  const comma = words.indexOf(', ');
  if (comma < 0) return { unlisted: words.slice(0, 500), note: '' };
  return { unlisted: words.slice(0, comma).slice(0, 500), note: words.slice(comma + 2) };
}

function onJob(pricer: Pricer, line: UnderstoodLine, { id }: LineJob, completed?: string): Choice {
  return {
    value: id,
    line,
    ...(completed ? { completed } : {}),
    text: (
      <span className="flex min-w-0 items-baseline gap-3">
        <span className="shrink-0 text-sm font-semibold text-time">{doing(line)}</span>
        <JobLine pricer={pricer} job={line} />
      </span>
    ),
  };
}

/** As it stands without a job: everything that is no length, day or such is the note. */
function WithoutJob({ line: { unlisted, note, ...line } }: { line: UnderstoodLine }) {
  return (
    <span className="written clamp-2">
      <b className="font-semibold text-time">{doing(line)}</b>{' '}
      {unlisted ? `on “${unlisted.slice(0, 200)}”` : note ? `“${note.slice(0, 200)}”` : ''}{' '}
      <span className="text-soft">{unlisted ? 'not set up yet' : 'and choose the job later'}</span>
    </span>
  );
}

/** "Record 1 h 30 min", "Start". */
function doing(line: Pick<UnderstoodLine, 'length' | 'start'>): string {
  if (line.length) return `Record ${showExactly(line.length.seconds)}`;
  return line.start ? 'Start earlier' : 'Start';
}

type Run = ReturnType<typeof useChanges>['run'];

/** Records what has a length; starts a timer on what has none. */
async function act(run: Run, line: UnderstoodLine, at: { member: Member; today: Day; now: number }): Promise<unknown> {
  const { member, today, now } = at;
  const { projectId, unlisted, taskId, serviceId, note, length, start, billableSeconds } = line;
  const work = { projectId, unlisted, taskId, serviceId, note };
  if (length) {
    const day = line.day ?? today;
    return run('entry.add', { ...work, day, ...timesOf(length, start, { ...at, day }), billableSeconds });
  }
  if (line.day !== null && line.day !== today) {
    throw new Fault('Add a length, such as 1:30. Without one a timer starts, and it starts today.');
  }
  if (!start) return run('timer.start', work);
  const startedAt =
    'minutesAgo' in start ? now - start.minutesAgo * 60_000 : momentOn(today, start.atMinute, member.zone);
  return run('timer.start', { ...work, startedAt });
}

/** A length with the times it was at, as far as they were said. */
function timesOf(
  length: Typed,
  start: UnderstoodLine['start'],
  { day, now, member }: { day: Day; now: number; member: Member },
): Pick<Entry, 'seconds'> & Partial<Pick<Entry, 'spans'>> {
  if (length.kind === 'span') return spanOn(length, day, member.zone);
  const { seconds } = length;
  if (!start) return { seconds };
  const begun = 'minutesAgo' in start ? now - start.minutesAgo * 60_000 : momentOn(day, start.atMinute, member.zone);
  if (begun + seconds * 1000 > now) return { seconds };
  return { seconds, spans: [{ start: begun, end: begun + seconds * 1000 }] };
}

const tokenLooks: Record<TokenKind, string> = {
  length: 'text-time',
  span: 'text-time',
  start: 'text-time',
  day: 'text-time',
  job: 'text-ink',
  unlisted: 'text-attention',
  service: 'text-ink',
  billable: 'text-money',
  note: 'text-ink font-normal',
};

const tokenNames: Record<TokenKind, string> = {
  length: 'how long',
  span: 'when',
  start: 'from',
  day: 'day',
  job: 'job',
  unlisted: 'job',
  service: 'service',
  billable: 'billable',
  note: 'note',
};

/** What was understood, in the order it was typed; what is asked about stands out. */
function Understood({ text, line: { tokens, questions } }: { text: string; line: UnderstoodLine }) {
  return (
    <ul
      aria-label="Understood as"
      aria-live="polite"
      className="flex flex-wrap gap-x-4 gap-y-1 border-b border-ink px-3 py-2"
    >
      {tokens.map((token) => {
        const asked = questions.some((each) => each.from >= token.from && each.from < token.to);
        return (
          <li key={token.from} className="min-w-0">
            <span className="block text-[11px] text-soft">{asked ? 'not clear' : tokenNames[token.kind]}</span>
            <span
              className={`written clamp-2 text-sm font-semibold ${asked ? 'text-attention' : tokenLooks[token.kind]}`}
            >
              {token.kind === 'note' ? text.slice(token.from, token.to).trim() : token.says}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
