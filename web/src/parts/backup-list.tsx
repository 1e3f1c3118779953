import { WorkspaceFileError, showFault } from '@half-penny/formats/workspace';
import { bringBack } from '../data/bring-back';
import type { Backup } from '../data/backups';
import type { WorkspaceEntry } from '../data/database';
import { inWords } from '../data/in-words';
import { megabytes } from './bytes';
import { Button } from './button';
import { Ledger, type Column } from './ledger';
import { Progress } from './progress';
import { useWork } from './use-work';

export const whenOf = (at: number): string =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

interface BackupListProps {
  backups: readonly Backup[];
  onBack: (entry: WorkspaceEntry) => void;
  onDelete?: (backup: Backup) => void;
}

/** Backups, each of which can be brought back. */
export function BackupList({ backups, onBack, onDelete }: BackupListProps) {
  const work = useWork((thrown) =>
    thrown instanceof WorkspaceFileError
      ? `The backup is not whole: ${showFault(thrown.faults[0]!)} Nothing was changed; choose another.`
      : inWords(thrown).text,
  );
  const columns: Column<Backup>[] = [
    {
      key: 'name',
      head: 'Workspace',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    { key: 'at', head: 'Taken', width: '160px', cell: (row) => whenOf(row.at) },
    {
      key: 'changes',
      head: 'Changes',
      width: '90px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <span className="font-mono">{row.changes.toLocaleString('en-GB')}</span>,
    },
    {
      key: 'bytes',
      head: 'Size',
      width: '80px',
      align: 'end',
      wideOnly: true,
      cell: (row) => megabytes(row.bytes),
    },
    {
      key: 'act',
      head: onDelete ? 'Bring back or delete' : 'Bring back',
      quietHead: true,
      width: onDelete ? '180px' : '110px',
      align: 'end',
      cell: (row) => (
        <span className="whitespace-nowrap">
          <Button
            kind="quiet"
            onClick={() => work.start(`Bringing back ${row.name}`, (progress) => bringBack(row, progress), onBack)}
          >
            Bring back
          </Button>
          {onDelete && (
            <Button kind="quiet" onClick={() => onDelete(row)}>
              Delete
            </Button>
          )}
        </span>
      ),
    },
  ];
  return (
    <>
      <Ledger
        label="Backups"
        rows={backups}
        rowId={(row) => row.id}
        rowName={(row) => `${row.name}, ${whenOf(row.at)}`}
        columns={columns}
        empty="No backup is there yet."
      />
      {work.fault && (
        <p role="alert" className="mt-3 text-fault">
          {work.fault}
        </p>
      )}
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
    </>
  );
}
