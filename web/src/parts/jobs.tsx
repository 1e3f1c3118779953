import type { Pricer } from '@half-penny/core/billing';
import { isOpenJob, jobKey, whyClosed, whyTaskClosed, type Job } from '@half-penny/core/entries';
import type { Id, Member } from '@half-penny/core/model';
import { useContext, type ReactNode } from 'react';
import { JobOrder } from './job-order';
import { Swatch } from './swatch';

const MOST_SHOWN = 40;
const MOST_CLOSED = 5;

/** A project or task with everything that it is known and shown by. */
export interface KnownJob {
  job: Job;
  /** The task's id, or the project's where it is the project itself. */
  id: Id;
  words: string;
  /** The words in small letters, to be found by. */
  lower: string;
  /** The name of the task or project alone, in small letters. */
  own: string;
  name: string;
  open: boolean;
}

/** "Quayside Playhouse / Winter season rig", or the other way round; a task comes with its project. */
export function nameOfJob(pricer: Pricer, job: Pick<Job, 'projectId' | 'taskId'>, order: Member['jobOrder']): string {
  if (job.projectId === null) return '';
  const task = job.taskId === null ? undefined : pricer.task.get(job.taskId);
  const names = [pricer.clientOf(job.projectId)?.name ?? 'Internal', pricer.tree.pathOf(job.projectId)];
  if (task) names.push(task.name);
  return (order === 'client first' ? names : names.reverse()).join(' / ');
}

/** A job by its own name alone: the task's, the project's, or its words; empty where there is none yet. */
export const ownNameOf = (pricer: Pricer, { projectId, taskId, unlisted }: Job): string =>
  (taskId !== null ? pricer.task.get(taskId)?.name : pricer.project.get(projectId ?? '')?.name) ?? unlisted;

// Thousands of jobs are put into words and order once for each book, not for each key that is pressed.
const known = new WeakMap<Pricer, Map<Member['jobOrder'], KnownJob[]>>();
export const collator = new Intl.Collator('en', { numeric: true });

/** All projects and tasks by name; projects before tasks, so that a client's name finds its projects first. */
export function knownJobs(pricer: Pricer, order: Member['jobOrder']): KnownJob[] {
  let orders = known.get(pricer);
  if (!orders) known.set(pricer, (orders = new Map()));
  let jobs = orders.get(order);
  if (!jobs) {
    const { projects, tasks } = pricer.book;
    const all: Job[] = [
      ...projects.map((project) => ({ projectId: project.id, unlisted: '', taskId: null })),
      ...tasks.map((task) => ({ projectId: task.projectId, unlisted: '', taskId: task.id })),
    ];
    jobs = all
      .map((job) => describe(pricer, job, order))
      .sort(
        (a, b) => Number(a.job.taskId !== null) - Number(b.job.taskId !== null) || collator.compare(a.name, b.name),
      );
    orders.set(order, jobs);
  }
  return jobs;
}

function describe(pricer: Pricer, job: Job, order: Member['jobOrder']): KnownJob {
  const project = pricer.project.get(job.projectId!)!;
  const task = job.taskId === null ? '' : (pricer.task.get(job.taskId)?.name ?? '');
  const client = pricer.clientOf(project.id)?.name ?? 'internal';
  const words = [task, pricer.tree.pathOf(project.id), project.jobNumber, client].filter(Boolean).join(' ');
  return {
    job,
    id: jobKey(job),
    words,
    lower: words.toLowerCase(),
    own: (task || project.name).toLowerCase(),
    name: nameOfJob(pricer, job, order),
    open: isOpenJob(pricer, job),
  };
}

/** All jobs in the order they are offered: the likely ones first, then by name. */
export function jobsInOrder(pricer: Pricer, likely: readonly Id[], order: Member['jobOrder']): KnownJob[] {
  const rank = new Map(likely.map((id, index) => [id, index]));
  const all = knownJobs(pricer, order);
  const first = all.filter((each) => rank.has(each.id)).sort((a, b) => rank.get(a.id)! - rank.get(b.id)!);
  return [...first, ...all.filter((each) => !rank.has(each.id))];
}

const openJobs = (...of: Parameters<typeof jobsInOrder>): KnownJob[] => jobsInOrder(...of).filter((each) => each.open);

/** Jobs whose words have every typed one; finished and archived ones apart. */
export function findJobs(
  pricer: Pricer,
  typed: string,
  likely: readonly Id[],
  order: Member['jobOrder'],
): { open: KnownJob[]; closed: KnownJob[] } {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = ({ lower }: KnownJob) => words.every((word) => lower.includes(word));
  const closed = words.length > 0 ? knownJobs(pricer, order).filter((each) => !each.open && fits(each)) : [];
  return {
    open: ranked(openJobs(pricer, likely, order).filter(fits), typed).slice(0, MOST_SHOWN),
    closed: closed.slice(0, MOST_CLOSED),
  };
}

/** The whole name before its beginning, that before all words in it, that before a client or a project around it; equals as they were. */
function ranked(jobs: KnownJob[], typed: string): KnownJob[] {
  const wanted = typed.trim().toLowerCase();
  if (wanted === '') return jobs;
  const words = wanted.split(/\s+/);
  const rankOf = ({ own }: KnownJob) =>
    own === wanted ? 0 : own.startsWith(wanted) ? 1 : words.every((word) => own.includes(word)) ? 2 : 3;
  return jobs
    .map((job) => ({ job, rank: rankOf(job) }))
    .sort((a, b) => a.rank - b.rank)
    .map(({ job }) => job);
}

/** Why a job is missing from the pickers, and how it comes back. */
export function whyMissing(pricer: Pricer, { job }: KnownJob): string {
  const task = job.taskId === null ? undefined : pricer.task.get(job.taskId);
  const project = pricer.project.get(job.projectId!);
  const why = task ? whyTaskClosed(pricer, task) : project && whyClosed(pricer, project);
  return `${(task ?? project)?.name.slice(0, 80)}: ${why}. Bring it back on its page in Clients.`;
}

/** A job as it stands in lists: swatch, project and client, or the words of one that is not set up. */
export function JobLine({
  pricer,
  job,
  none = 'Choose a job…',
}: {
  pricer: Pricer;
  job: Job;
  none?: string;
}): ReactNode {
  const order = useContext(JobOrder);
  const project = job.projectId === null ? undefined : pricer.project.get(job.projectId);
  if (!project && job.unlisted) {
    return (
      <span className="min-w-0">
        <span className="written clamp-2">{job.unlisted}</span>
        <span className="block text-xs text-attention">not set up yet</span>
      </span>
    );
  }
  if (!project) return <span className="font-semibold text-attention">{none}</span>;
  const client = pricer.clientOf(project.id)?.name ?? 'Internal';
  const task = job.taskId === null ? undefined : pricer.task.get(job.taskId);
  const path = pricer.tree.pathOf(project.id);
  const own = task ? `${task.name}, ${path}` : path;
  const [first, second] = order === 'client first' ? [client, own] : [own, client];
  return (
    <span className="flex min-w-0 items-baseline gap-2">
      <Swatch colour={project.colour} />
      <span className="min-w-0">
        <span className="written clamp-2">{first}</span>
        <span className="written clamp-2 text-xs text-soft">{second}</span>
      </span>
    </span>
  );
}

/** How the field looks in which a job is searched. */
export const jobSearchLook = 'w-full border-b border-rule bg-transparent px-3 py-2 outline-none';

/** How an item of a list to choose from looks. */
export const itemLook =
  'flex cursor-pointer items-center rounded-sm px-2 py-1.5 data-[selected=true]:bg-time-ground data-[disabled=true]:cursor-default';
