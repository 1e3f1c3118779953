import type { Pricer } from '@half-penny/core/billing';
import {
  readLine,
  whyNotOffered,
  type LineContext,
  type LineJob,
  type Token,
  type TokenKind,
  type UnderstoodLine,
} from '@half-penny/core/entries';
import { Fault, messageOf, type Member, type Timer } from '@half-penny/core/model';
import { instantAt, showExactly, type Day } from '@half-penny/core/time';
import { useContext, useEffect, useId, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useLikelyJobs, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { tillOpened } from '../../state/shell';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { spanOn } from '../spans';
import { itemLook, JobLine, openJobs } from '../jobs';
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
  line: UnderstoodLine;
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
        {line && line.tokens.length > 0 && <Understood text={typed} tokens={line.tokens} />}
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
            jobs: openJobs(pricer, likely, order).map(({ id, job, words, name }) => ({
              id,
              projectId: job.projectId!,
              taskId: job.taskId,
              words,
              name,
            })),
            services: pricer.book.services.filter((service) => whyNotOffered(pricer, member, null, service) === null),
            today,
          }
        : null,
    [pricer, member, likely, order, today, open],
  );
}

function choicesOf(typed: string, line: UnderstoodLine, context: LineContext, pricer: Pricer): Choice[] {
  const withJob = ({ id, projectId, taskId }: LineJob, completed?: string): Choice => {
    const on: UnderstoodLine = { ...line, projectId, taskId, unlisted: '' };
    const does = doing(on);
    return {
      value: id,
      line: on,
      ...(completed ? { completed } : {}),
      text: (
        <span className="flex min-w-0 items-baseline gap-3">
          {does && <span className="shrink-0 text-sm font-semibold text-time">{does}</span>}
          <JobLine pricer={pricer} job={on} />
        </span>
      ),
    };
  };
  if (typed.trim() === '') return context.jobs.slice(0, MOST_SHOWN).map((job) => withJob(job));
  const choices: Choice[] = [];
  const token = line.tokens.find((each) => each.kind === 'job');
  if (line.projectId !== null && token) {
    for (const id of [line.taskId ?? line.projectId, ...line.alternatives].slice(0, MOST_SHOWN)) {
      const job = context.jobs.find((each) => each.id === id);
      if (job) choices.push(withJob(job, `${typed.slice(0, token.from)}for ${job.name}${typed.slice(token.to)}`));
    }
  }
  // As it stands without a job: everything that is no length, day or such is the note.
  const bare = readLine(typed, { ...context, jobs: [] });
  choices.push({
    value: 'bare',
    line: line.projectId === null ? line : bare,
    text: (
      <span className="written clamp-2">
        <b className="font-semibold text-time">{doing(bare) || 'Start'}</b>{' '}
        {line.unlisted ? `on “${line.unlisted.slice(0, 200)}”` : bare.note ? `“${bare.note.slice(0, 200)}”` : ''}{' '}
        <span className="text-soft">{line.unlisted ? 'not set up yet' : 'and choose the job later'}</span>
      </span>
    ),
  });
  if (line.projectId === null && !line.unlisted && bare.note) {
    choices.push({
      value: 'unlisted',
      line: { ...bare, unlisted: bare.note.slice(0, 500), note: '' },
      text: (
        <span className="written clamp-2">
          <b className="font-semibold text-time">{doing(bare) || 'Start'}</b> on the job “{bare.note.slice(0, 200)}”{' '}
          <span className="text-soft">which is not set up yet</span>
        </span>
      ),
    });
  }
  return choices;
}

/** "Record 1 h 30 min", "Start". */
function doing(line: UnderstoodLine): string {
  if (line.length) return `Record ${showExactly(line.length.seconds)}`;
  return line.start ? 'Start earlier' : 'Start';
}

type Run = ReturnType<typeof useChanges>['run'];

/** Records what has a length; starts a timer on what has none. */
async function act(run: Run, line: UnderstoodLine, at: { member: Member; today: Day; now: number }): Promise<unknown> {
  const { member, today, now } = at;
  const { projectId, unlisted, taskId, serviceId, note, length, billableSeconds } = line;
  const work = { projectId, unlisted, taskId, serviceId, note };
  if (length) {
    const day = line.day ?? today;
    const times = length.kind === 'span' ? spanOn(length, day, member.zone) : { seconds: length.seconds };
    return run('entry.add', { ...work, day, ...times, billableSeconds });
  }
  if (line.day !== null && line.day !== today) {
    throw new Fault('Add a length, such as 1:30. Without one a timer starts, and it starts today.');
  }
  if (!line.start) return run('timer.start', work);
  const startedAt =
    'minutesAgo' in line.start
      ? now - line.start.minutesAgo * 60_000
      : instantAt(today, line.start.atMinute, member.zone);
  return run('timer.start', { ...work, startedAt });
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

/** What was understood, in the order it was typed. */
function Understood({ text, tokens }: { text: string; tokens: readonly Token[] }) {
  return (
    <ul
      aria-label="Understood as"
      aria-live="polite"
      className="flex flex-wrap gap-x-4 gap-y-1 border-b border-ink px-3 py-2"
    >
      {tokens.map((token) => (
        <li key={token.from} className="min-w-0">
          <span className="block text-[11px] text-soft">{tokenNames[token.kind]}</span>
          <span className={`written clamp-2 text-sm font-semibold ${tokenLooks[token.kind]}`}>
            {token.kind === 'note' ? text.slice(token.from, token.to).trim() : token.says}
          </span>
        </li>
      ))}
    </ul>
  );
}
