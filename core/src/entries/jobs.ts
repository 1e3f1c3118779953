import type { Pricer } from '../billing/pricer';
import type { Id } from '../model/ids';
import type { Member, Project, Service, Task } from '../model/records';
import type { Job } from './week';

// What a picker offers, and why something is not among it.

/** Why time can no longer go to a project, in words that follow its name; null where it can. */
export function whyClosed(pricer: Pricer, project: Project): string | null {
  for (const each of pricer.tree.upFrom(project.id)) {
    const own = each.id === project.id;
    if (each.finished) return own ? 'finished' : `${each.name}, which it is part of, is finished`;
    const stage = each.stageId === null ? undefined : pricer.stage.get(each.stageId);
    if (stage?.finished) return own ? `at the stage “${stage.name}”` : `${each.name} is at the stage “${stage.name}”`;
  }
  return pricer.clientOf(project.id)?.archived ? 'its client is archived' : null;
}

/**
 * Why time can no longer go to a task; null where it can.
 *
 * @param projectId with which a task that stands by itself is to go; without one only the task itself is looked at
 */
export function whyTaskClosed(pricer: Pricer, task: Task, projectId: Id | null = task.projectId): string | null {
  if (task.finished) return 'finished';
  const stage = task.stageId === null ? undefined : pricer.stage.get(task.stageId);
  if (stage?.finished) return `at the stage “${stage.name}”`;
  if (projectId === null && task.free) return null;
  const project = pricer.project.get(projectId ?? '');
  return project ? whyClosed(pricer, project) : 'its project is gone';
}

/** Whether time can still go to a job; always to one in words and to none. */
export function isOpenJob(pricer: Pricer, { projectId, taskId }: Pick<Job, 'projectId' | 'taskId'>): boolean {
  const task = taskId === null ? undefined : pricer.task.get(taskId);
  if (task) return whyTaskClosed(pricer, task, projectId) === null;
  const project = projectId === null ? undefined : pricer.project.get(projectId);
  return !project || whyClosed(pricer, project) === null;
}

/** Why a service is not offered to a member for a job; null where it is. */
export function whyNotOffered(
  pricer: Pricer,
  member: Pick<Member, 'id' | 'name' | 'hiddenServices'> | undefined,
  projectId: Id | null,
  service: Service,
): string | null {
  if (service.archived) return 'archived in Setup';
  if (member?.hiddenServices.includes(service.id)) return `hidden by ${member.name} in Setup`;
  const project = projectId === null ? undefined : pricer.project.get(projectId);
  if (!project) return null;
  if (!service.kinds.includes(project.kind)) return `not for work of the kind “${project.kind}”`;
  const client = pricer.clientOf(project.id);
  const codes = client?.costCodeIds ?? null;
  if (client && codes && (service.costCodeId === null || !codes.includes(service.costCodeId))) {
    return `not among the cost codes of ${client.name}`;
  }
  return null;
}

export interface ServiceChoice {
  offered: Service[];
  hidden: { service: Service; why: string }[];
}

/** The services that apply to a job, and those that do not with the reason. */
export function servicesFor(
  pricer: Pricer,
  member: Parameters<typeof whyNotOffered>[1],
  projectId: Id | null,
): ServiceChoice {
  const choice: ServiceChoice = { offered: [], hidden: [] };
  for (const service of pricer.book.services) {
    const why = whyNotOffered(pricer, member, projectId, service);
    if (why === null) choice.offered.push(service);
    else choice.hidden.push({ service, why });
  }
  return choice;
}
