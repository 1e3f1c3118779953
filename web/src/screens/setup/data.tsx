import type { Pricer } from '@half-penny/core/billing';
import { wordsOf } from '../../data/in-words';
import { showFault, WorkspaceFileError } from '@half-penny/formats/workspace';
import { Download } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { WorkspaceEntry } from '../../data/database';
import { useHead } from '../../data/history-head';
import { useToday } from '../../data/queries';
import { deleteWorkspace, openWorkspace, useWorkspaces } from '../../data/registry';
import { useRights } from '../../data/rights';
import { useSession } from '../../data/session';
import { takeInFile } from '../../data/import-workspace';
import { useLeftBehind, useRoom, useUnsaved, wasExported } from '../../data/storage';
import { removeSnapshot, removeSnapshotsOf, useSnapshots } from '../../data/snapshots';
import { exportFile, fileNameOf, loadDemo, save } from '../../data/workspaces';
import { useAppSelector } from '../../state/store';
import { whenOf } from '../../parts/backup-list';
import { Button } from '../../parts/button';
import { megabytes } from '../../parts/bytes';
import { FileButton } from '../../parts/file-button';
import { Dialog } from '../../parts/dialog';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { useWork } from '../../parts/use-work';
import { Backups } from './backups';
import { Forget } from './forget';

type Asking = 'demo' | { remove: WorkspaceEntry } | null;

/** What is kept in this browser: as a file out and in, the demo, an empty start, and the workspaces side by side. */
export function Data({ pricer }: { pricer: Pricer }) {
  const { entry } = useSession();
  const rights = useRights();
  const today = useToday();
  const work = useWork();
  const navigate = useNavigate();
  const [asking, setAsking] = useState<Asking>(null);
  const [faults, setFaults] = useState<{ error: WorkspaceFileError; file: File } | null>(null);
  const [missing, setMissing] = useState<readonly string[]>([]);

  const exportNow = () => exportAs(true);
  const exportAs = (withHistory: boolean) =>
    work.start(
      `Exporting ${entry.name}`,
      (progress) => exportFile(entry, progress, withHistory),
      ({ blob, missing: names }) => {
        save(blob, fileNameOf(entry.name, today));
        setMissing(names);
        void wasExported(entry, Date.now());
      },
    );
  const takeIn = (chosen: File, withoutReceipts = false) => {
    setFaults(null);
    work.start(
      `Reading ${chosen.name}`,
      (progress) => takeInFile(chosen, withoutReceipts, progress),
      reopen,
      (thrown) => {
        if (thrown instanceof WorkspaceFileError) setFaults({ error: thrown, file: chosen });
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
          Everything is kept in this browser, and in no cloud. A file holds all of it, with the whole history, in an
          open format; keep one somewhere safe. A file that is imported becomes a workspace of its own beside this one.
        </p>
        <div className="flex flex-wrap gap-3">
          <Button kind="main" icon={<Download size={16} />} onClick={exportNow}>
            Export everything
          </Button>
          <FileButton label="Import a file…" of="Workspace file" accept=".zip,application/zip" onFile={takeIn} />
          <Button kind="quiet" onClick={() => exportAs(false)}>
            Export without the history
          </Button>
        </div>
        <Unsaved />
        <HistoryHead />
        {missing.length > 0 && <MissingBytes names={missing} />}
        {faults && (
          <Faults error={faults.error}>
            {faults.error.onlyReceipts && (
              <Button className="mt-2" onClick={() => takeIn(faults.file, true)}>
                Import without {faults.error.count === 1 ? 'this receipt' : 'these receipts'}
              </Button>
            )}
          </Faults>
        )}
        {work.fault && (
          <p role="alert" className="mt-3 text-fault">
            {work.fault} What was there is untouched.
          </p>
        )}
      </Section>
      <Backups onBack={reopen} />
      <Room />
      <Section
        title="Workspaces in this browser"
        actions={
          <>
            <Button onClick={() => void navigate('/start')}>Start your own…</Button>
            <Button onClick={() => setAsking('demo')}>Load the demo…</Button>
          </>
        }
      >
        <Workspaces onRemove={(other) => setAsking({ remove: other })} />
        <LeftBehind />
      </Section>
      <Snapshots />
      {rights.has('setup') && <Forget pricer={pricer} onDone={reopen} />}
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
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

/** What no file holds yet. */
function Unsaved() {
  const now = useAppSelector((state) => Math.floor(state.clock.now / 60_000) * 60_000);
  const unsaved = useUnsaved(now);
  if (!unsaved) return null;
  const { changes, days, ever } = unsaved;
  const count = changes === 1 ? 'One change' : `${changes.toLocaleString('en-GB')} changes`;
  const since = days === 0 ? 'today' : days === 1 ? 'since yesterday' : `in ${days} days`;
  return (
    <p className="mt-3 max-w-2xl text-sm">
      {changes <= 0
        ? 'The last file or backup holds everything.'
        : `${count} ${since} ${changes === 1 ? 'is' : 'are'} in this browser only${ever ? ', since the last file or backup' : '; there is no file and no backup yet'}.`}
    </p>
  );
}

/** Whether the browser keeps what is here, how much that is, and how much more fits. */
function Room() {
  const { room, ask } = useRoom();
  const [answer, setAnswer] = useState<string>();
  return (
    <Section title="Room in this browser">
      <div className="max-w-2xl border-t border-ink pt-3">
        {!room ? (
          <p role="status">Looking…</p>
        ) : (
          <>
            <dl className="grid grid-cols-[max-content_1fr] gap-x-6 gap-y-1">
              <dt className="text-soft">Kept for good</dt>
              <dd className={room.kept === false ? 'text-attention' : ''}>
                {room.kept === null
                  ? 'the browser does not tell'
                  : room.kept
                    ? 'yes: the browser never clears it by itself'
                    : 'no: short of room, the browser may clear it'}
              </dd>
              <dt className="text-soft">Used</dt>
              <dd>{room.used === null ? 'the browser does not tell' : megabytes(room.used)}</dd>
              <dt className="text-soft">Left</dt>
              <dd>{room.left === null ? 'the browser does not tell' : megabytes(room.left)}</dd>
            </dl>
            {room.kept === false && (
              <div className="mt-3 flex flex-wrap items-center gap-3">
                <Button
                  onClick={() =>
                    void ask().then((kept) =>
                      setAnswer(
                        kept
                          ? 'The browser keeps it for good now.'
                          : 'The browser did not agree. Install Half Penny as an application or add a bookmark to it, and ask again; until then export a file now and then.',
                      ),
                    )
                  }
                >
                  Ask the browser to keep it
                </Button>
                {answer && <span role="status">{answer}</span>}
              </div>
            )}
            {room.kept && answer && <p role="status">{answer}</p>}
          </>
        )}
      </div>
    </Section>
  );
}

/** Workspaces that an import or a start left unfinished. */
function LeftBehind() {
  const { names, remove } = useLeftBehind();
  if (names.length === 0) return null;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3 border-l-[3px] border-attention bg-attention-ground px-3 py-2">
      <p className="text-attention">
        {names.length === 1 ? 'One workspace was' : `${names.length} workspaces were`} left unfinished by an import that
        was broken off. Nothing in {names.length === 1 ? 'it' : 'them'} was ever in use.
      </p>
      <Button onClick={() => void remove()}>Remove {names.length === 1 ? 'it' : 'them'}</Button>
    </div>
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

/** Receipts that a file was written without. */
const MissingBytes = ({ names }: { names: readonly string[] }) => (
  <p
    role="status"
    className="mt-3 max-w-2xl border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention"
  >
    The file holds everything but the pages of {names.length === 1 ? 'one receipt' : `${names.length} receipts`}, which
    this browser has lost: {names.slice(0, 5).join(', ').slice(0, 300)}
    {names.length > 5 ? ` and ${names.length - 5} more` : ''}. Add them to their costs again where you still have them.
  </p>
);

function Faults({ error, children }: { error: WorkspaceFileError; children?: ReactNode }) {
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
      {children}
    </div>
  );
}

function Workspaces({ onRemove }: { onRemove: (entry: WorkspaceEntry) => void }) {
  const { entry } = useSession();
  const rows = useWorkspaces() ?? [];
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

/** Workspaces as they were before a newer version of the records. */
function Snapshots() {
  const snapshots = useSnapshots();
  if (snapshots.length === 0) return null;
  return (
    <Section title="Kept as they were">
      <ul className="max-w-2xl border-t border-ink">
        {snapshots.map((snapshot) => (
          <li key={snapshot.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1">
            <span className="written clamp-2 min-w-0 flex-1">{snapshot.name}</span>
            <span className="text-soft">{snapshot.reason}</span>
            <span>{whenOf(snapshot.at)}</span>
            <Button
              kind="quiet"
              onClick={() =>
                save(snapshot.blob, fileNameOf(snapshot.name, new Date(snapshot.at).toISOString().slice(0, 10)))
              }
            >
              Save as a file
            </Button>
            <Button kind="quiet" onClick={() => void removeSnapshot(snapshot.id)}>
              Delete
            </Button>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function RemoveDialog({ entry, onClose }: { entry: WorkspaceEntry; onClose: () => void }) {
  const [fault, setFault] = useState<string>();
  const remove = () =>
    removeSnapshotsOf(entry.id)
      .then(() => deleteWorkspace(entry))
      .then(onClose, (thrown: unknown) => setFault(wordsOf(thrown)));
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
