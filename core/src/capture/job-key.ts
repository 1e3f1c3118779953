import type { Outcome, PlaceOutcome } from './rules/rule';

/** The same text for the same job in the same workspace: what likeness learns. */
export function jobKeyOf(outcome: Outcome): string {
  if (outcome.act !== 'place') return outcome.act;
  const { workspaceId, projectId, taskId, unlisted, serviceId } = outcome;
  return JSON.stringify([workspaceId, projectId, taskId, unlisted, serviceId]);
}

/** What a key of an outcome stands for; null for one that stands for none. */
export function outcomeOf(key: string): Outcome | null {
  if (key === 'private' || key === 'not work') return { act: key };
  if (!key.startsWith('[')) return null;
  const [workspaceId, projectId, taskId, unlisted, serviceId] = JSON.parse(key) as string[];
  return placeOn({
    workspaceId: workspaceId!,
    projectId: projectId!,
    taskId: taskId!,
    unlisted: unlisted!,
    serviceId: serviceId!,
  });
}

/** An outcome that places, with nothing else said. */
export const placeOn = (
  job: Pick<PlaceOutcome, 'workspaceId' | 'projectId' | 'taskId'> & Partial<PlaceOutcome>,
): PlaceOutcome => ({
  unlisted: '',
  serviceId: null,
  note: '',
  billable: 100,
  openedForId: null,
  ...job,
  act: 'place',
});

/** The job of a project as a whole that a job is part of; the same where it is of none. */
export function projectKeyOf(key: string): string {
  if (!key.startsWith('[')) return key;
  const [workspaceId, projectId] = JSON.parse(key) as [string, string | null];
  return projectId === null ? key : jobKeyOf(placeOn({ workspaceId, projectId, taskId: null }));
}
