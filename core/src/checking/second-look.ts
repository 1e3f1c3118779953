import type { Id } from '../model/ids';
import type { Approval, Project } from '../model/records';

/** Whether hours on a project are approved by two people: where it, or a project that it is a part of, asks for a second look. */
export function asksSecondLook(project: ReadonlyMap<Id, Project>, projectId: Id | null): boolean {
  for (let at = project.get(projectId ?? ''); at; at = project.get(at.parentId ?? '')) {
    if (at.secondLook) return true;
  }
  return false;
}

/**
 * An approval with one look more; the same one where this person has looked already or nothing more is needed.
 *
 * @param needs how many looks it takes; of an approval that was begun it stays as it was then
 */
export function lookedAt(
  approval: Approval | undefined,
  needs: Approval['needs'],
  look: Approval['looks'][number],
): Approval {
  if (!approval) return { looks: [look], needs };
  const isDone = approval.looks.length >= approval.needs || approval.looks.some((each) => each.byId === look.byId);
  return isDone ? approval : { ...approval, looks: [...approval.looks, look] };
}
