import type { Pricer } from '@half-penny/core/billing';
import { isOpenJob, jobKey, whyClosed, whyTaskClosed, type Job } from '@half-penny/core/entries';
import { goesWith } from '@half-penny/core/rates';
import type { Id, Member } from '@half-penny/core/model';

// Jobs by name, to choose from: what only shows a job does without it.

const MOST_SHOWN = 40;
const MOST_CLOSED = 5;

/** A project or task with everything that it is known and shown by. */
export interface KnownJob {
  job: Job;
  /** By {@link jobKey}. */
  id: string;
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
      ...tasks
        .filter((task) => task.projectId !== null)
        .map((task) => ({ projectId: task.projectId, unlisted: '', taskId: task.id })),
      ...freeJobs(pricer),
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

/** More pairs of tasks that stand by themselves with projects would bury everything else. */
const MOST_FREE = 3000;

/** Tasks that stand by themselves, each with the projects that it goes with; where there are very many, with those at the top only. */
function freeJobs(pricer: Pricer): Job[] {
  const free = pricer.book.tasks.filter((task) => task.projectId === null && whyTaskClosed(pricer, task) === null);
  if (free.length === 0) return [];
  const open = pricer.book.projects.filter((project) => whyClosed(pricer, project) === null);
  const projects = open.length * free.length > MOST_FREE ? open.filter((project) => project.parentId === null) : open;
  return free
    .flatMap((task) =>
      projects
        .filter((project) => goesWith(task, project))
        .map((project) => ({ projectId: project.id, unlisted: '', taskId: task.id })),
    )
    .slice(0, MOST_FREE);
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
  const why = task ? whyTaskClosed(pricer, task, job.projectId) : project && whyClosed(pricer, project);
  return `${(task ?? project)?.name.slice(0, 80)}: ${why}. Bring it back on its page in Clients.`;
}
