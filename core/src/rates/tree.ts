import type { Id } from '../model/ids';
import type { Project, Task } from '../model/records';

/** How deep projects may be parts of one another, the outermost counted. */
export const MOST_LEVELS = 32;

/** Which projects are part of which, and the places that a piece of work lies in. Made again when projects or tasks change. */
export class WorkTree {
  readonly project: ReadonlyMap<Id, Project>;
  readonly task: ReadonlyMap<Id, Task>;
  readonly #parts: ReadonlyMap<Id | null, readonly Project[]>;
  /** Tasks that stand by themselves. */
  readonly #free: ReadonlySet<Id>;

  constructor(projects: readonly Project[], tasks: readonly Task[]) {
    this.project = new Map(projects.map((row) => [row.id, row]));
    this.task = new Map(tasks.map((row) => [row.id, row]));
    this.#free = new Set(tasks.filter((task) => task.projectId === null).map((task) => task.id));
    const parts = new Map<Id | null, Project[]>();
    for (const project of projects) {
      const siblings = parts.get(project.parentId);
      if (siblings) siblings.push(project);
      else parts.set(project.parentId, [project]);
    }
    for (const siblings of parts.values()) siblings.sort(byOrder);
    this.#parts = parts;
  }

  /**
   * By what a job is told apart from others: its task where that is of one project, else its project; both where the task stands by itself
   * and goes with many.
   */
  jobKey<P extends Id | null>(projectId: P, taskId: Id | null): P | Id {
    if (taskId === null) return projectId;
    return this.#free.has(taskId) ? `${projectId} ${taskId}` : taskId;
  }

  /** A project's direct parts in their order; the top-level projects for null. */
  partsOf(projectId: Id | null): readonly Project[] {
    return this.#parts.get(projectId) ?? [];
  }

  /** A project, its parent, the parent of that … up to the top. */
  upFrom(projectId: Id): Project[] {
    const path: Project[] = [];
    const seen = new Set<Id>();
    for (let id: Id | null = projectId; id !== null && !seen.has(id);) {
      seen.add(id);
      const project: Project | undefined = this.project.get(id);
      if (!project) break;
      path.push(project);
      id = project.parentId;
    }
    return path;
  }

  /** "Spring double bill › Extras": a project's name with those around it, outermost first. */
  pathOf(projectId: Id): string {
    return this.upFrom(projectId)
      .map((project) => project.name)
      .reverse()
      .join(' › ');
  }

  /** A project and everything that is part of it, in the order of a list: each before its parts. */
  downFrom(projectId: Id): Project[] {
    const project = this.project.get(projectId);
    return project ? [project, ...this.partsOf(projectId).flatMap((part) => this.downFrom(part.id))] : [];
  }

  /** The contract that a project stands under: its own, or that of the nearest project around it. */
  contractOf(projectId: Id): Id | null {
    return this.upFrom(projectId).find((project) => project.contractId !== null)?.contractId ?? null;
  }

  /** The projects that stand under a contract, with their parts unless those have one of their own. */
  under(contractId: Id): Id[] {
    return [...this.project.keys()].filter((id) => this.contractOf(id) === contractId);
  }

  /** The ids of all places that work lies in, narrowest first: task, project, those around it, contract, client, and null for the workspace. */
  placesOf(projectId: Id, taskId: Id | null): (Id | null)[] {
    const path = this.upFrom(projectId);
    const contractId = this.contractOf(projectId);
    const clientId = path[0]?.clientId ?? null;
    const named = [taskId, ...path.map((project) => project.id), contractId, clientId];
    return [...named.filter((id) => id !== null), null];
  }
}

const byOrder = (a: Project, b: Project): number => a.order - b.order || a.name.localeCompare(b.name);

/** Whether a task is one of a project, or stands by itself and goes with it. */
export const goesWith = (
  task: Pick<Task, 'projectId' | 'free'>,
  project: Pick<Project, 'id' | 'clientId'> | undefined,
): boolean =>
  project !== undefined &&
  (task.projectId === null
    ? (project.clientId === null) === (task.free === 'internal')
    : task.projectId === project.id);
