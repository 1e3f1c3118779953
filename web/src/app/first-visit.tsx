import { lazy, Suspense, useState, type ReactNode } from 'react';
import type { Backup } from '../data/backups';
import type { WorkspaceEntry } from '../data/database';
import { BackupList } from '../parts/backup-list';
import { Button } from '../parts/button';
import { scanned } from '../parts/meeting-link';
import { Loading } from '../parts/page';
import { Join } from '../screens/start/join';
import { StartForm } from '../screens/start/start-form';
import { Doorstep } from './doorstep';

const MeetHere = lazy(() => import('../screens/start/meet-here'));

interface FirstVisitProps {
  backups: readonly Backup[];
  /** A workspace was set up or brought back; null asks for the demo. */
  onChosen: (entry: WorkspaceEntry | null) => void;
}

/** Nothing is in this browser: look around in the demo, start an own studio, or bring back what the local server has kept. */
export default function FirstVisit({ backups, onChosen }: FirstVisitProps) {
  const [own, setOwn] = useState(false);
  const [invited, setInvited] = useState(false);
  // A code that was scanned leads straight there.
  const [meets, setMeets] = useState(() => scanned() !== '');
  if (meets)
    return (
      <Doorstep title="Meet this device">
        <div className="mb-5">
          <Button kind="quiet" className="-ml-3" onClick={() => setMeets(false)}>
            Back
          </Button>
        </div>
        <Suspense fallback={<Loading />}>
          <MeetHere given={scanned()} onStarted={onChosen} />
        </Suspense>
      </Doorstep>
    );
  if (invited)
    return (
      <Doorstep title="I was invited">
        <div className="mb-5">
          <Button kind="quiet" className="-ml-3" onClick={() => setInvited(false)}>
            Back
          </Button>
        </div>
        <Join onStarted={onChosen} />
      </Doorstep>
    );
  if (own)
    return (
      <Doorstep title="Start your own">
        <div className="mb-5">
          <Button kind="quiet" className="-ml-3" onClick={() => setOwn(false)}>
            Back
          </Button>
        </div>
        <StartForm onStarted={onChosen} />
      </Doorstep>
    );
  return (
    <Doorstep title="Time in, invoices out, to the half penny">
      <p className="mb-8 max-w-2xl text-soft">
        Write down what you did, or let it be noticed; see what it is worth; send the invoice. Everything stays in this
        browser: there is no account, and nothing leaves it unless you send it.
      </p>
      <div className="grid gap-5 md:grid-cols-2">
        <Door
          name="Start your own"
          picture={<FirstLine />}
          says="Your name, your rate, your first client: one page, and the first invoice is minutes away."
          main
          onOpen={() => setOwn(true)}
        />
        <Door
          name="Look around"
          picture={<FullPage />}
          says="A made-up studio with three months of work, costs and invoices. Press anything, change anything."
          onOpen={() => onChosen(null)}
        />
      </div>
      <p className="mt-6 text-soft">
        A studio sent you an invitation?{' '}
        <Button kind="quiet" onClick={() => setInvited(true)}>
          I was invited
        </Button>
      </p>
      <p className="mt-2 text-soft">
        Your workspace is on another device?{' '}
        <Button kind="quiet" onClick={() => setMeets(true)}>
          Meet it
        </Button>
      </p>
      {backups.length > 0 && (
        <section aria-label="Your backups are here" className="mt-10">
          <h2 className="mb-1 text-lg font-semibold">Your backups are here</h2>
          <p className="mb-4 max-w-2xl text-soft">
            This browser holds no workspace: it is new, or it was cleared. The local server has kept{' '}
            {backups.length === 1 ? 'one' : backups.length}. What you bring back is as it was when its backup was taken,
            with its whole history; the backup stays where it is.
          </p>
          <BackupList backups={backups} onBack={onChosen} />
          <p className="mt-3 text-sm text-soft">
            They can be brought back later too, in Setup → Your data; a sealed copy of the trail in Sift → Sources.
          </p>
        </section>
      )}
    </Doorstep>
  );
}

/** A way in: the whole of it can be pressed. */
function Door({
  name,
  picture,
  says,
  main = false,
  onOpen,
}: {
  name: string;
  picture: ReactNode;
  says: ReactNode;
  main?: boolean;
  onOpen: () => void;
}) {
  return (
    <div className="relative flex flex-col border-t-2 border-ink bg-side px-5 pt-4 pb-5 has-[button:hover]:bg-time-ground">
      <svg viewBox="0 0 320 112" aria-hidden className="mb-4 w-full bg-sheet">
        {RULES.map((y) => (
          <line key={y} x1="0" x2="320" y1={y} y2={y} className="stroke-rule" />
        ))}
        {picture}
      </svg>
      <p className="mb-4 min-h-10 flex-1">{says}</p>
      <Button
        kind={main ? 'main' : 'plain'}
        className="self-start after:absolute after:inset-0"
        autoFocus={main}
        onClick={onOpen}
      >
        {name}
      </Button>
    </div>
  );
}

const RULES = [28, 56, 84];

/** A time, and what it comes to: petrol and copper, as everywhere. */
function Line({ y, from, long, copper }: { y: number; from: number; long: number; copper: number }) {
  return (
    <>
      <rect x={from} y={y - 17} width={long} height={9} rx={1} className="fill-time" />
      <rect x={304 - copper} y={y - 15} width={copper} height={5} rx={1} className="fill-money" />
    </>
  );
}

/** A ruled page with its first line written. */
const FirstLine = () => <Line y={28} from={16} long={88} copper={34} />;

/** A page of a busy day, with its sum. */
const FullPage = () => (
  <>
    <Line y={28} from={16} long={52} copper={26} />
    <Line y={56} from={74} long={96} copper={40} />
    <Line y={84} from={176} long={40} copper={18} />
    <rect x={252} y={94} width={52} height={6} rx={1} className="fill-money" />
    <path d="M248 88H304M248 105H304M248 108H304" className="stroke-ink" fill="none" />
  </>
);
