import { showFault, WorkspaceFileError } from '@half-penny/formats/workspace';
import { useEffect, useState } from 'react';
import type { WorkspaceEntry } from '../data/database';
import { inWords, type InWords } from '../data/in-words';
import { useHeld } from '../data/backups';
import { isThere } from '../data/opening';
import { allWorkspaces, openWorkspace } from '../data/registry';
import { takeInFile } from '../data/import-workspace';
import { exportFile, fileNameOf, loadDemo, save } from '../data/workspaces';
import { BackupList } from '../parts/backup-list';
import { Button } from '../parts/button';
import { Connect } from '../parts/connect';
import { FileButton } from '../parts/file-button';
import { Section } from '../parts/page';
import { Progress } from '../parts/progress';
import { useWork } from '../parts/use-work';
import type { CancellableTask } from '../workers/tasks';
import type { Exported } from '../workers/workspace.worker';
import { Doorstep } from './doorstep';

interface RescueProps {
  why: InWords;
  /** The workspace that was to be opened, where it is known. */
  entry: WorkspaceEntry | null;
}

const again = () => location.assign('/today');

const faultsOf = (thrown: unknown): string =>
  thrown instanceof WorkspaceFileError
    ? `The file was not imported: ${showFault(thrown.faults[0]!)}${thrown.count > 1 ? ` (${thrown.count} faults)` : ''} What was there is untouched.`
    : inWords(thrown).text;

/** A file of what can still be read. @throws where there is nothing */
function exportLeft(entry: WorkspaceEntry, onProgress: (share: number) => void): CancellableTask<Exported> {
  let stop: () => void = () => undefined;
  const result = isThere(entry).then((there) => {
    if (!there) throw new Error('Nothing of this workspace is left in this browser.');
    const work = exportFile(entry, onProgress);
    stop = work.stop;
    return work.result;
  });
  return { result, stop: () => stop() };
}

/** What is to be had when the workspace cannot be shown: trying again, a file of what is there, other workspaces, backups, an import. */
export default function Rescue({ why, entry }: RescueProps) {
  const [others, setOthers] = useState<readonly WorkspaceEntry[] | null>(null);
  const { held, fault, again: readAgain } = useHeld();
  const work = useWork(faultsOf);
  useEffect(() => {
    // Where not even the list of workspaces can be read, there are none to offer.
    allWorkspaces().then(
      (all) => setOthers(all.filter(({ id }) => id !== entry?.id)),
      () => setOthers([]),
    );
  }, [entry]);
  return (
    <Doorstep title={entry ? `${entry.name.slice(0, 60)} could not be shown` : 'The workspace could not be opened'}>
      <div role="alert" className="mb-4 max-w-2xl border-l-[3px] border-fault px-3 text-fault">
        <p>{why.text}</p>
        {why.detail && <p className="written mt-1 font-mono text-sm">{why.detail.slice(0, 500)}</p>}
      </div>
      <p className="mb-4 max-w-2xl text-soft">
        Nothing was deleted by opening it. Close other tabs of Half Penny and try again; if it stays like this, take
        what can be read as a file, or go on with one of the following.
      </p>
      <div className="mb-8 flex flex-wrap gap-3">
        <Button kind="main" onClick={() => location.reload()}>
          Try again
        </Button>
        {entry && (
          <Button
            onClick={() =>
              work.start(
                `Exporting ${entry.name}`,
                (progress) => exportLeft(entry, progress),
                ({ blob }) => save(blob, fileNameOf(entry.name, new Date().toISOString().slice(0, 10))),
              )
            }
          >
            Save what can be read
          </Button>
        )}
      </div>
      {work.fault && (
        <p role="alert" className="mb-6 max-w-2xl text-fault">
          {work.fault}
        </p>
      )}
      <Section title="Other workspaces in this browser">
        {others === null ? (
          <p role="status">Reading…</p>
        ) : others.length === 0 ? (
          <p className="border-t border-ink pt-3 text-soft">There is no other.</p>
        ) : (
          <ul className="border-t border-ink">
            {others.map((other) => (
              <li key={other.id} className="flex items-center gap-3 border-b border-rule py-1">
                <span className="written clamp-2 min-w-0 flex-1">{other.name}</span>
                {other.demo && <span className="text-soft">demo</span>}
                <Button kind="quiet" onClick={() => void openWorkspace(other).then(again)}>
                  Open
                </Button>
              </li>
            ))}
          </ul>
        )}
      </Section>
      <Section title="Backups">
        {held ? (
          <BackupList backups={held.backups} onBack={again} />
        ) : (
          <div className="border-t border-ink pt-3">
            {fault && <p className="mb-2 text-fault">{fault}</p>}
            <Connect onConnected={readAgain} />
          </div>
        )}
      </Section>
      <Section title="Begin again">
        <div className="flex flex-wrap gap-3 border-t border-ink pt-3">
          <FileButton
            label="Import a file…"
            of="Workspace file"
            accept=".zip,application/zip"
            onFile={(file) => work.start(`Reading ${file.name}`, (progress) => takeInFile(file, true, progress), again)}
          />
          <Button onClick={() => work.start('Making the demo studio', loadDemo, again)}>Load the demo</Button>
        </div>
      </Section>
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
    </Doorstep>
  );
}
