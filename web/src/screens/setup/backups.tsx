import { wordsOf } from '../../data/in-words';
import { useState } from 'react';
import { canPickFolder, useFolder } from '../../data/backup-folder';
import { backUp, deleteBackup, useHeld, useLastBackup } from '../../data/backups';
import { useSession } from '../../data/session';
import { useStanding } from '../../data/server';
import { BackupList, whenOf } from '../../parts/backup-list';
import { Button } from '../../parts/button';
import { megabytes } from '../../parts/bytes';
import { Connect } from '../../parts/connect';
import { Section } from '../../parts/page';

/** Copies that are kept without anybody's doing: by the local server, and in a folder. */
export function Backups({ onBack }: { onBack: () => void }) {
  const { entry } = useSession();
  const standing = useStanding();
  const { held, fault, again } = useHeld();
  const folder = useFolder();
  const last = useLastBackup();
  const [told, setTold] = useState<{ text: string; fault: boolean }>();
  const doing = (task: () => Promise<unknown>) => {
    setTold(undefined);
    task().then(
      (text) => {
        if (typeof text === 'string') setTold({ text, fault: false });
        again();
      },
      (thrown: unknown) => setTold({ text: wordsOf(thrown), fault: true }),
    );
  };
  const places = { server: 'the local server', folder: `the folder ${folder.folder?.name ?? ''}` };
  const now = () =>
    doing(async () => {
      const taken = await backUp(entry);
      return taken.length === 0
        ? 'There is no place for a backup yet: connect with the local server or choose a folder.'
        : `A backup is with ${taken.map((place) => places[place]).join(' and ')}.`;
    });
  return (
    <Section title="Backups" actions={<Button onClick={now}>Back up now</Button>}>
      <div className="border-t border-ink pt-3">
        <p className="mb-3 max-w-2xl text-soft">
          {entry.demo
            ? 'The demo can be made again, so it is backed up only when you say so. Your own workspaces are'
            : 'Workspaces are'}{' '}
          backed up by themselves a few minutes after a change: the last of each of seven days, four weeks and twelve
          months stays.
        </p>
        <dl className="mb-3 grid grid-cols-[max-content_1fr] items-baseline gap-x-6 gap-y-2">
          <dt className="text-soft">Local server</dt>
          <dd className="min-w-0">
            {held && standing === 'known' ? (
              <>
                <span className="font-mono [overflow-wrap:anywhere]">{held.folder}</span>
                <span className="block text-sm text-soft">
                  {megabytes(held.held)} of at most {megabytes(held.most)}
                </span>
              </>
            ) : fault ? (
              <span className="text-fault">{fault}</span>
            ) : standing === 'unasked' ? (
              'Looking…'
            ) : (
              <Connect onConnected={again} />
            )}
          </dd>
          <dt className="text-soft">Folder</dt>
          <dd className="flex flex-wrap items-baseline gap-3">
            {!canPickFolder() ? (
              'this browser cannot write into folders'
            ) : folder.folder ? (
              <>
                <span className="font-mono">{folder.folder.name}</span>
                {!folder.folder.ready && (
                  <>
                    <span className="text-attention">The browser wants to be asked again.</span>
                    <Button kind="quiet" onClick={() => doing(folder.allow)}>
                      Allow writing
                    </Button>
                  </>
                )}
                <Button kind="quiet" onClick={() => doing(folder.pick)}>
                  Choose another…
                </Button>
                <Button kind="quiet" onClick={() => doing(folder.forget)}>
                  Use none
                </Button>
              </>
            ) : (
              <Button kind="quiet" onClick={() => doing(folder.pick)}>
                Choose a folder…
              </Button>
            )}
          </dd>
        </dl>
        {told && (
          <p role={told.fault ? 'alert' : 'status'} className={`mb-3 ${told.fault ? 'text-fault' : ''}`}>
            {told.text}
          </p>
        )}
        {!told && last?.fault && (
          <p role="status" className="mb-3 text-attention">
            The last backup, {whenOf(last.at)}, did not go through: {last.fault}
          </p>
        )}
        {held && held.backups.length > 0 && (
          <BackupList
            backups={held.backups}
            onBack={onBack}
            onDelete={(backup) =>
              doing(async () => {
                await deleteBackup(backup);
                return `The backup of ${whenOf(backup.at)} is deleted.`;
              })
            }
          />
        )}
      </div>
    </Section>
  );
}
