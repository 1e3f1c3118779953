import type { Pricer } from '@half-penny/core/billing';
import type { Job } from '@half-penny/core/entries';
import { useContext, type ReactNode } from 'react';
import { JobOrder } from './job-order';
import { Swatch } from './swatch';

/** A job by its own name alone: the task's, the project's, or its words; empty where there is none yet. */
export const ownNameOf = (pricer: Pricer, { projectId, taskId, unlisted }: Job): string =>
  (taskId !== null ? pricer.task.get(taskId)?.name : pricer.project.get(projectId ?? '')?.name) ?? unlisted;

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
