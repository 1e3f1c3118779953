import { useEffect, useState } from 'react';
import type { Backup } from '../../data/backups';
import { wordsOf } from '../../data/in-words';
import { useStanding } from '../../data/server';
import {
  backUpTrail,
  chooseTrailBackup,
  endTrailBackup,
  fetchTrail,
  heldTrails,
  takeTrailIn,
  useTrailBackup,
} from '../../data/trail-backup';
import { whenOf } from '../../parts/backup-list';
import { Button } from '../../parts/button';
import { megabytes } from '../../parts/bytes';
import { Connect } from '../../parts/connect';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { FileButton } from '../../parts/file-button';
import { Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { TwiceTyped, useTwiceTyped } from '../../parts/twice-typed';
import { useSubmit } from '../../parts/use-submit';
import { useWork } from '../../parts/use-work';

/** What is to be opened: one that the local server keeps, or a file. */
type Sealed = { backup: Backup } | { file: File };

/** The trail's sealed copy: whether there is one, and what can be brought back. */
export function TrailCopy() {
  const known = useTrailBackup();
  const standing = useStanding();
  const [held, setHeld] = useState<readonly Backup[]>([]);
  const [turn, setTurn] = useState(0);
  const [told, setTold] = useState<{ text: string; fault: boolean }>();
  const [choosing, setChoosing] = useState(false);
  const [opening, setOpening] = useState<Sealed | null>(null);
  const last = known?.chosen?.last?.at;
  useEffect(() => {
    let left = false;
    heldTrails().then(
      (found) => !left && setHeld(found),
      // How to connect is said below.
      () => !left && setHeld([]),
    );
    return () => void (left = true);
  }, [turn, last]);
  if (!known) return null;
  const { chosen, toRemove } = known;
  const doing = (task: () => Promise<string>) => {
    setTold(undefined);
    task().then(
      (text) => {
        setTold({ text, fault: false });
        setTurn((now) => now + 1);
      },
      (thrown: unknown) => setTold({ text: wordsOf(thrown), fault: true }),
    );
  };
  const others = held.filter(({ workspace }) => workspace !== chosen?.id);
  const own = held.find(({ workspace }) => workspace === chosen?.id);
  return (
    <Section title="A sealed copy">
      <p className="mb-3 max-w-2xl text-soft">
        What a browser holds can be lost with it. By your choice a copy of the trail, and of what was learned from it,
        lies beside the backups: sealed with a passphrase before it leaves this browser, only the newest one, and wiped
        with the trail.
      </p>
      <div className="flex flex-wrap items-center gap-3">
        {chosen ? (
          <>
            <span>
              {chosen.last
                ? `Taken ${whenOf(chosen.last.at)}, ${megabytes(chosen.last.bytes)}.`
                : 'It is chosen, and none was taken yet.'}
            </span>
            <Button
              onClick={() =>
                doing(async () => {
                  const went = await backUpTrail();
                  return went.length > 0 ? 'A copy was taken.' : 'There is nothing new to copy, or no place for it.';
                })
              }
            >
              Copy now
            </Button>
            <Button kind="quiet" onClick={() => setChoosing(true)}>
              Another passphrase…
            </Button>
            <Button
              kind="quiet"
              onClick={() =>
                doing(async () => {
                  await endTrailBackup();
                  return 'No copy is kept any more.';
                })
              }
            >
              Stop, and delete it
            </Button>
          </>
        ) : (
          <Button onClick={() => setChoosing(true)}>Keep a copy…</Button>
        )}
        {own && (
          <Button kind="quiet" onClick={() => setOpening({ backup: own })}>
            Bring back…
          </Button>
        )}
        <FileButton label="Open a sealed file…" accept=".half-penny-trail" onFile={(file) => setOpening({ file })} />
      </div>
      {others.length > 0 && (
        <ul className="mt-3 max-w-2xl" aria-label="Copies of other browsers, or of this one before it was cleared">
          {others.map((backup) => (
            <li key={backup.id} className="flex items-center justify-between gap-3 border-t border-rule py-1">
              <span>
                Of another browser, or of this one before it was cleared: {whenOf(backup.at)}, {megabytes(backup.bytes)}
              </span>
              <Button kind="quiet" onClick={() => setOpening({ backup })}>
                Bring back…
              </Button>
            </li>
          ))}
        </ul>
      )}
      {toRemove > 0 && (
        <p role="status" className="mt-3 text-attention">
          A copy that is to be deleted lies where it cannot be reached now; it goes as soon as the server answers and
          the folder can be written to.
        </p>
      )}
      {standing !== 'known' && (
        <div className="mt-3">
          <Connect onConnected={() => setTurn((now) => now + 1)} />
        </div>
      )}
      {told && (
        <p role={told.fault ? 'alert' : 'status'} className={`mt-3 ${told.fault ? 'text-fault' : ''}`}>
          {told.text}
        </p>
      )}
      <Dialog
        open={choosing}
        onClose={() => setChoosing(false)}
        title="A sealed copy of the trail"
        about="Whoever knows the passphrase can read what you did all day; whoever lost it cannot, and nobody can tell it to them. Write it down where you keep such things."
      >
        <Choose
          onChosen={() => {
            setChoosing(false);
            setTold({ text: 'A copy is kept from now on.', fault: false });
          }}
        />
      </Dialog>
      <Dialog
        open={opening !== null}
        onClose={() => setOpening(null)}
        title="Bring the trail back"
        about="What the copy holds and this browser does not is put beside what is here; what is here stays as it is."
      >
        {opening && (
          <Open
            sealed={opening}
            onOpened={(came) => {
              setOpening(null);
              setTold({
                text:
                  came === 0
                    ? 'Everything in the copy was here already.'
                    : `${came.toLocaleString('en-GB')} ${came === 1 ? 'row' : 'rows'} came back.`,
                fault: false,
              });
            }}
          />
        )}
      </Dialog>
    </Section>
  );
}

function Choose({ onChosen }: { onChosen: () => void }) {
  const { passphrase, needSame, typed } = useTwiceTyped();
  const { faults, fault, submit } = useSubmit(async () => {
    needSame();
    await chooseTrailBackup(passphrase);
    onChosen();
  }, ['passphrase', 'again']);
  return (
    <form className="flex flex-col gap-3" onSubmit={submit}>
      <TwiceTyped typed={typed} faults={faults} />
      {fault && (
        <p role="alert" className="text-fault">
          {fault}
        </p>
      )}
      <div>
        <Button kind="main" type="submit">
          Keep a copy
        </Button>
      </div>
    </form>
  );
}

function Open({ sealed, onOpened }: { sealed: Sealed; onOpened: (came: number) => void }) {
  const [passphrase, setPassphrase] = useState('');
  const work = useWork();
  const [fault, setFault] = useState<string>();
  const open = async () => {
    setFault(undefined);
    try {
      const file = 'file' in sealed ? sealed.file : await fetchTrail(sealed.backup.id);
      const id = 'file' in sealed ? null : sealed.backup.workspace;
      work.start('Opening the copy', () => takeTrailIn(file, passphrase, id), onOpened);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void open();
      }}
    >
      <TextField
        label="Passphrase"
        type="password"
        autoComplete="current-password"
        value={passphrase}
        onChange={(event) => setPassphrase(event.target.value)}
        fault={fault ?? work.fault}
      />
      {work.title && <Progress title={work.title} share={work.share} onStop={work.stop} />}
      <div>
        <Button kind="main" type="submit" disabled={passphrase === ''}>
          Bring back
        </Button>
      </div>
    </form>
  );
}
