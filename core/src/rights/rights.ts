import type { Id } from '../model/ids';
import type { Limit, Member, Project, Right, RightSet } from '../model/records';

/** Where something is done: for a client, on a project and those that it is a part of. */
export interface Place {
  clientId: Id | null;
  /** From the project itself to the topmost. */
  projectIds: readonly Id[];
}

/** What somebody may see and do. Somebody without a set may do everything, and so may whoever nobody asked who they are. */
export class Rights {
  readonly set: RightSet | null;
  readonly #limits: ReadonlyMap<Right, Limit | null>;

  constructor(set: RightSet | null) {
    this.set = set;
    this.#limits = new Map(set?.grants.map(({ right, only }) => [right, only]));
  }

  /** Whether there is any work that they have the right for. */
  has(right: Right): boolean {
    return this.set === null || this.#limits.has(right);
  }

  /** Whether they have it for all work. */
  hasForAll(right: Right): boolean {
    return this.has(right) && this.limitOf(right) === null;
  }

  /** The only work that a right holds for; null where that is all, or where they have not got it. */
  limitOf(right: Right): Limit | null {
    return this.#limits.get(right) ?? null;
  }

  /** Whether they have it for this place; work of which nobody knows where it belongs is covered only by a right for all work. */
  covers(right: Right, place: Place | null): boolean {
    if (!this.has(right)) return false;
    const only = this.limitOf(right);
    return only === null || (place !== null && isWithin(place, only));
  }
}

/** Whether a place is a client or project of a limit, or a part of one. */
export const isWithin = ({ clientId, projectIds }: Place, only: Limit): boolean =>
  (clientId !== null && only.clientIds.includes(clientId)) || projectIds.some((id) => only.projectIds.includes(id));

/** The project's place, by those that it may be a part of. */
export function placeOfProject(project: Project, byId: (id: Id) => Project | undefined): Place {
  const projectIds = [project.id];
  let above = project.parentId;
  while (above !== null && !projectIds.includes(above)) {
    projectIds.push(above);
    above = byId(above)?.parentId ?? null;
  }
  return { clientId: project.clientId, projectIds };
}

/** Whoever may do everything. */
export const everything = new Rights(null);

/** What a member may see and do; everything where they are not known. */
export function rightsOf(member: Member | undefined, sets: readonly RightSet[]): Rights {
  const set = sets.find(({ id }) => id === member?.rightSetId);
  return set ? new Rights(set) : everything;
}
