import type { Backup } from '../data/backups';
import type { WorkspaceEntry } from '../data/database';
import { BackupList } from '../parts/backup-list';
import { Button } from '../parts/button';
import { Doorstep } from './doorstep';

interface FirstVisitProps {
  backups: readonly Backup[];
  /** A workspace was brought back; null begins with the demo. */
  onChosen: (entry: WorkspaceEntry | null) => void;
}

/** Nothing is in this browser, but the local server has backups: they come before the demo. */
export default function FirstVisit({ backups, onChosen }: FirstVisitProps) {
  return (
    <Doorstep title="Your backups are here">
      <p className="mb-4 max-w-2xl text-soft">
        This browser holds no workspace: it is new, or it was cleared. The local server has kept{' '}
        {backups.length === 1 ? 'one' : backups.length}. What you bring back is as it was when its backup was taken,
        with its whole history; the backup stays where it is.
      </p>
      <BackupList backups={backups} onBack={onChosen} />
      <p className="mt-6 flex flex-wrap items-center gap-3">
        <Button onClick={() => onChosen(null)}>Begin with the demo studio</Button>
        <span className="text-sm text-soft">
          Backups can be brought back later too, in Setup → Your data; a sealed copy of the trail in Sift → Sources.
        </span>
      </p>
    </Doorstep>
  );
}
