import type { JournalRow, Workspace } from '@half-penny/core/model';
import { useCallback } from 'react';
import { useChanges, useSession, type Changes } from './session';

type Made<F extends keyof Workspace> = (now: Workspace[F]) => Workspace[F];

/**
 * Changes one setting of the studio that is a list or has parts: what is changed is what there is by then, not what the screen shows of it
 * yet, so that two changes one after the other are both kept.
 */
export function useSettingChange() {
  const { run } = useChanges();
  const { reader } = useSession();
  return useCallback(
    async <F extends Exclude<keyof Workspace, 'id' | 'logoId'>>(
      field: F,
      made: Made<F>,
      how: Changes['attempt'] = run,
    ): Promise<JournalRow | null> => {
      const [row] = await reader.all('workspace');
      return how('workspace.edit', { [field]: made(row![field]) });
    },
    [reader, run],
  );
}
