import type { Reader } from '../engine/store';
import type { Id } from '../model/ids';
import { WORKSPACE_ID, type Place } from '../model/records';

/** Where time on a job is recorded from: the places of its project or of what that is a part of, the closest first, or else the studio's. */
export async function placesOf(reader: Reader, projectId: Id | null): Promise<readonly Place[]> {
  const seen = new Set<Id>();
  for (let id = projectId; id !== null && !seen.has(id);) {
    seen.add(id);
    const project = await reader.get('projects', id);
    if (project?.places?.length) return project.places;
    id = project?.parentId ?? null;
  }
  return (await reader.get('workspace', WORKSPACE_ID))?.places ?? [];
}
