import type { Pricer } from '@half-penny/core/billing';
import type { OutsideMark, SiftBook } from '@half-penny/core/capture';
import { useMemo } from 'react';
import { useOutsideMarks } from '../data/outside-marks';
import { useSession } from '../data/session';

/** What the trail is held against of this workspace. */
export const siftBookOf = (
  { book }: Pricer,
  workspaceId: string,
  outside: readonly OutsideMark[] = NONE,
): SiftBook => ({
  workspaceId,
  clients: book.clients,
  projects: book.projects,
  contacts: book.contacts,
  members: book.members.map((each) => each.name),
  studio: { name: book.workspace.name, email: book.workspace.email },
  outside,
});
const NONE: readonly OutsideMark[] = [];

/** The same for the workspace that is open. */
export function useSiftBook(pricer: Pricer): SiftBook {
  const { entry } = useSession();
  const outside = useOutsideMarks(pricer);
  return useMemo(() => siftBookOf(pricer, entry.id, outside), [pricer, entry.id, outside]);
}
