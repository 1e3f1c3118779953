import type { Pricer } from '@half-penny/core/billing';
import {
  jobKey,
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
import { Fault, type Entry, type Id, type Member } from '@half-penny/core/model';
import { showExactly, type Day, type Typed } from '@half-penny/core/time';
import type { ReactNode } from 'react';
import type { Changes } from '../../data/session';
import { JobLine } from '../jobs';
import { jobsInOrder, type KnownJob } from '../known-jobs';

// What the Till's line understands and can do. It comes when the Till is first opened: no screen needs it to be shown.

export { readLine };
const MOST_SHOWN = 7;

/** What can be done with the line as it stands. */
export interface Choice {
  value: string;
  /** What it does; null where it only tells something. */
  line: UnderstoodLine | null;
  /** The line with a question answered: it goes into the field, and nothing is recorded yet. */
  answer?: string;
  text: ReactNode;
  /** The line with this choice written out; Tab puts it in the field. */
  completed?: string;
}

/** What a line of a member can name today. */
export const contextOf = (
  pricer: Pricer,
  member: Member,
  likely: readonly Id[],
  order: Member['jobOrder'],
  today: Day,
): LineContext => ({
  jobs: jobsInOrder(pricer, likely, order).map((known) => lineJob(pricer, known)),
  services: pricer.book.services.filter((service) => whyNotOffered(pricer, member, null, service) === null),
  today,
});

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
export function choicesOf(typed: string, line: UnderstoodLine, context: LineContext, pricer: Pricer): Choice[] {
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
    for (const job of jobsOf([jobKey({ ...line, unlisted: '' }), ...line.alternatives]).slice(0, MOST_SHOWN)) {
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

type Run = Changes['run'];

/** Records what has a length; starts a timer on what has none. */
export async function act(
  run: Run,
  line: UnderstoodLine,
  at: { member: Member; today: Day; now: number },
): Promise<unknown> {
  const { member, today, now } = at;
  const { projectId, unlisted, taskId, serviceId, note, length, start, billableSeconds } = line;
  const work = { projectId, unlisted, taskId, serviceId, note };
  if (length) {
    const day = line.day ?? today;
    return run('entry.add', { ...work, day, ...timesOf(length, start, { ...at, day }), billableSeconds });
  }
  if (line.day !== null && line.day !== today) {
    throw new Fault('lacking', 'Add a length, such as 1:30. Without one a timer starts, and it starts today.');
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
export function Understood({ text, line: { tokens, questions } }: { text: string; line: UnderstoodLine }) {
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
