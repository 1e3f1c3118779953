import type { Whose } from '@half-penny/core/engine';
import { forgetInWorkspace } from '../workers/tasks';
import type { WorkspaceEntry } from './database';
import type { Session } from './session';
import { registry } from './registry';
import { removeSnapshotsOf } from './snapshots';
import { outdateBackup, trail } from './trail';
import { removeOldTrailBackups } from './trail-backup';
import { whileWriting } from './writing';

/**
 * Deletes a person's data out of the workspace's records and history for good, and activity that names them out of the trail.
 *
 * In a shared workspace it goes out of all devices: the log begins afresh without them.
 *
 * @returns how many records were changed, and how many issued papers still name them
 * @throws Fault when it cannot be done; nothing is changed then
 */
export function forgetForGood(session: Session, whose: Whose): Promise<{ touched: number; papers: number }> {
  const { entry } = session;
  return whileWriting(async () => {
    const { known, touched, papers } = (await registry.shared.get(entry.id))
      ? await (await import('./sharing/forget')).forgetForAll(session, whose)
      : await forgetInWorkspace(entry.database, whose).result;
    // The files and backups before know another history; what they hold counts for nothing now.
    await registry.workspaces
      .where('id')
      .equals(entry.id)
      .modify((row: WorkspaceEntry) => {
        delete row.exported;
        delete row.backedUp;
      });
    await removeSnapshotsOf(entry.id);
    await trail.transaction('rw', trail.activities, trail.backup, async () => {
      const gone = await trail.activities
        .filter((activity) => {
          const text = JSON.stringify(activity).toLowerCase();
          return known.some((each) => text.includes(each));
        })
        .delete();
      if (gone > 0) await outdateBackup();
    });
    void removeOldTrailBackups();
    return { touched, papers };
  });
}
