import { messageOf } from '@half-penny/core/model';
import { showFault, WorkspaceFileError } from '@half-penny/formats/workspace';
import { useLiveQuery } from 'dexie-react-hooks';
import { Download } from 'lucide-react';
import { useState } from 'react';
import type { WorkspaceEntry } from '../../data/database';
import { useHead } from '../../data/history-head';
import { useToday } from '../../data/queries';
import { deleteWorkspace, openWorkspace, registry } from '../../data/registry';
import { useSession } from '../../data/session';
import { takeInFile } from '../../data/take-in';
import { exportFile, fileNameOf, loadDemo, save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';
import { Dialog } from '../../parts/dialog';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { useWork } from '../../parts/use-work';
import { StartEmpty } from './start-empty';

type Asking = 'empty' | 'demo' | { remove: WorkspaceEntry } | null;

/** What is kept in this browser: as a file out and in, the demo, an empty start, and the workspaces side by side. */
export function Data() {
  const { entry } = useSession();
  const today = useToday();
  const work = useWork();
  const [asking, setAsking] = useState<Asking>(null);
  const [faults, setFaults] = useState<WorkspaceFileError | null>(null);

  const exportNow = () =>
    work.start(
      `Exporting ${entry.name}`,
      (progress) => exportFile(entry, progress),
      (blob) => save(blob, fileNameOf(entry.name, today)),
    );
  const takeIn = (chosen: File) => {
    setFaults(null);
    work.start(
      `Reading ${chosen.name}`,
      (progress) => takeInFile(chosen, progress),
      reopen,
      (thrown) => {
        if (thrown instanceof WorkspaceFileError) setFaults(thrown);
        return thrown instanceof WorkspaceFileError;
      },
    );
  };
  const demo = () => {
    setAsking(null);
    work.start('Making the demo studio', loadDemo, reopen);
  };

  return (
    <>
      <Section title="This workspace as a file">
        <p className="mb-3 max-w-2xl border-t border-ink pt-3 text-soft">
          Everything is kept in this browser and nowhere else. A file holds all of it, with the whole history, in an
          open format; keep one somewhere safe. A file that is imported becomes a workspace of its own beside this one.
        </p>
        <div className="flex flex-wrap gap-3">
          <Button kind="main" icon={<Download size={16} />} onClick={exportNow}>
            Export everything
          </Button>
          <FileButton label="Import a file…" of="Workspace file" accept=".zip,application/zip" onFile={takeIn} />
        </div>
        <HistoryHead />
        {faults && <Faults error={faults} />}
        {work.fault && (
          <p role="alert" className="mt-3 text-fault">
            {work.fault} What was there is untouched.
          </p>
        )}
      </Section>
      <Section
        title="Workspaces in this browser"
        actions={
          <>
            <Button onClick={() => setAsking('empty')}>Start empty…</Button>
            <Button onClick={() => setAsking('demo')}>Load the demo…</Button>
          </>
        }
      >
        <Workspaces onRemove={(other) => setAsking({ remove: other })} />
      </Section>
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
      {asking === 'empty' && <StartEmpty onClose={() => setAsking(null)} onExport={exportNow} onStarted={reopen} />}
      {asking === 'demo' && (
        <Dialog
          title="Load the demo"
          open
          onClose={() => setAsking(null)}
          about={`The made-up studio opens as a workspace of its own. ${entry.name.slice(0, 60)} stays in this browser as it is; you may want to export it first all the same.`}
        >
          <div className="flex flex-wrap justify-end gap-2">
            <Button onClick={exportNow}>Export first</Button>
            <Button kind="main" onClick={demo}>
              Load the demo
            </Button>
          </div>
        </Dialog>
      )}
      {asking !== null && typeof asking === 'object' && (
        <RemoveDialog entry={asking.remove} onClose={() => setAsking(null)} />
      )}
    </>
  );
}

/** How far the history is: what a file that is exported now ends with. */
function HistoryHead() {
  const head = useHead();
  return (
    <p className="mt-3 max-w-2xl text-sm text-soft">
      The history ends with <b className="font-mono text-ink">{head ?? '…'}</b>, and so does a file exported now.
      Written down, it tells later that nothing in the file was changed or cut: a file is compared with its history when
      it is imported, and with this by <span className="font-mono whitespace-nowrap">check --head</span>.
    </p>
  );
}

/** Another workspace has been opened: begin again with it. */
const reopen = () => location.assign('/today');

function Faults({ error }: { error: WorkspaceFileError }) {
  return (
    <div role="alert" className="mt-4 border-l-[3px] border-fault px-3 text-fault">
      <p className="font-semibold">
        The file was not imported: {error.count === 1 ? 'one fault' : `${error.count} faults`}. What was there is
        untouched.
      </p>
      <ul className="mt-1 max-h-64 overflow-auto font-mono text-sm">
        {error.faults.map((fault, index) => (
          <li key={index} className="written py-0.5">
            {showFault(fault)}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Workspaces({ onRemove }: { onRemove: (entry: WorkspaceEntry) => void }) {
  const { entry } = useSession();
  const rows = useLiveQuery(() => registry.workspaces.toArray(), []) ?? [];
  const open = async (other: WorkspaceEntry) => {
    await openWorkspace(other);
    reopen();
  };
  const columns: Column<WorkspaceEntry>[] = [
    {
      key: 'name',
      head: 'Workspace',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    {
      key: 'kind',
      head: 'Kind',
      quietHead: true,
      width: '70px',
      cell: (row) => <span className="text-soft">{row.demo ? 'demo' : ''}</span>,
    },
    {
      key: 'since',
      head: 'Added',
      width: '150px',
      wideOnly: true,
      cell: (row) => new Date(row.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }),
    },
    {
      key: 'act',
      head: 'Open or delete',
      quietHead: true,
      width: '150px',
      align: 'end',
      cell: (row) =>
        row.id === entry.id ? (
          <span className="font-semibold text-time">open</span>
        ) : (
          <span className="whitespace-nowrap">
            <Button kind="quiet" onClick={() => void open(row)}>
              Open
            </Button>
            <Button kind="quiet" onClick={() => onRemove(row)}>
              Delete…
            </Button>
          </span>
        ),
    },
  ];
  return (
    <Ledger
      label="Workspaces"
      rows={rows}
      rowId={(row) => row.id}
      rowName={(row) => row.name}
      columns={columns}
      empty="Reading…"
    />
  );
}

function RemoveDialog({ entry, onClose }: { entry: WorkspaceEntry; onClose: () => void }) {
  const [fault, setFault] = useState<string>();
  const remove = () => deleteWorkspace(entry).then(onClose, (thrown: unknown) => setFault(messageOf(thrown)));
  return (
    <Dialog
      title={`Delete ${entry.name}`}
      open
      onClose={onClose}
      about="Everything in it goes: entries, invoices, history. This cannot be undone. Open and export it first if you may need it."
    >
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="fault" onClick={() => void remove()}>
          Delete for good
        </Button>
      </div>
    </Dialog>
  );
}
