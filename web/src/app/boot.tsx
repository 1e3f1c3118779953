import type { Id } from '@half-penny/core/model';
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from 'react';
import type { Backup } from '../data/backups';
import type { WorkspaceEntry } from '../data/database';
import { DexieExecutor, DexieReader } from '../data/executor';
import { makeUnsettled } from '../data/unsettled';
import { inWords, type InWords } from '../data/in-words';
import { CannotOpen, openDatabase } from '../data/opening';
import { currentWorkspace, newId, onOtherWorkspace } from '../data/registry';
import { BookProvider } from '../data/book';
import { SessionProvider, type Session } from '../data/session';
import { knowsSecret } from '../data/secret';
import { noticed } from '../state/notices';
import { useAppDispatch } from '../state/store';
import { FallenWhole } from './error-boundary';
import { lastRan } from './presence';
import { Screens } from './routes';

// What is hardly ever wanted comes when it is.
const Rescue = lazy(() => import('./rescue'));
const FirstVisit = lazy(() => import('./first-visit'));

type State =
  | { kind: 'opening'; share: number | null }
  | { kind: 'offering'; backups: readonly Backup[]; choose: (entry: WorkspaceEntry | null) => void }
  | { kind: 'failed'; why: InWords; entry: WorkspaceEntry | null }
  | ({ kind: 'ready'; memberId: Id | null } & Pick<Session, 'entry' | 'database' | 'executor'>);

let opening: Promise<WorkspaceEntry> | null = null;

/** How the search for a workspace asks and tells. */
interface Finding {
  onProgress: (share: number) => void;
  /** Which workspace was set up or brought back; null asks for the demo. */
  choose: (backups: readonly Backup[]) => Promise<WorkspaceEntry | null>;
}

/** What is being made on a first visit is waited for by other tabs. */
const alone = <T,>(task: () => Promise<T>): Promise<T> =>
  navigator.locks.request('half-penny-first-visit', task) as Promise<T>;

/**
 * The workspace that is open in this browser. On the very first visit the person chooses: the demo, an own studio, or what the local
 * server has kept. Two tabs at once make one demo.
 */
function findOrMake({ onProgress, choose }: Finding): Promise<WorkspaceEntry> {
  return (opening ??= (async () => {
    const current = await alone(currentWorkspace);
    if (current) return current;
    const backups = knowsSecret() ? await (await import('../data/backups')).backupsToOffer() : [];
    const chosen = await choose(backups);
    if (chosen) return chosen;
    return alone(async () => {
      const meanwhile = await currentWorkspace();
      if (meanwhile) return meanwhile;
      onProgress(0);
      const { loadDemo } = await import('../data/workspaces');
      return loadDemo(onProgress).result;
    });
  })());
}

/** Opens the workspace and then the application. */
export function Boot() {
  const [state, setState] = useState<State>({ kind: 'opening', share: null });
  // The executor asks who is working each time it runs a command.
  const member = useRef<Id | null>(null);
  const workAs = useCallback((id: Id) => {
    member.current = id;
    setState((now) => (now.kind === 'ready' ? { ...now, memberId: id } : now));
  }, []);
  const dispatch = useAppDispatch();
  useEffect(() => {
    let left = false;
    void (async () => {
      let entry: WorkspaceEntry | null = null;
      const fail = (why: InWords) => !left && setState({ kind: 'failed', why, entry });
      try {
        const found = await findOrMake({
          onProgress: (share) => setState({ kind: 'opening', share }),
          choose: (backups) => new Promise((resolve) => setState({ kind: 'offering', backups, choose: resolve })),
        });
        entry = found;
        const database = await openDatabase(found, fail);
        // Of a workspace from before there was one; a screen that wants it meanwhile reads everything.
        makeUnsettled(database, new DexieReader(database)).catch(() => undefined);
        member.current = found.memberId;
        const executor = new DexieExecutor(database, () => {
          const seen = lastRan(member.current);
          return {
            now: Date.now(),
            memberId: member.current,
            newId,
            device: found.device,
            ...(seen ? { seen } : {}),
          };
        });
        onOtherWorkspace((id) => {
          if (id === found.id) return;
          // Somebody may be typing here: this tab stays with its workspace.
          const text =
            'Another workspace was opened in another tab. This tab stays with its own until it is loaded again.';
          dispatch(noticed({ text, fault: false, undo: null }));
        });
        if (left) return;
        setState({ kind: 'ready', entry: found, database, executor, memberId: found.memberId });
      } catch (thrown) {
        fail(thrown instanceof CannotOpen ? thrown : inWords(thrown));
      }
    })();
    return () => void (left = true);
  }, [dispatch]);
  if (state.kind === 'failed')
    return (
      <Suspense fallback={<Opening share={null} />}>
        <Rescue why={state.why} entry={state.entry} />
      </Suspense>
    );
  if (state.kind === 'offering')
    return (
      <Suspense fallback={<Opening share={null} />}>
        <FirstVisit backups={state.backups} onChosen={state.choose} />
      </Suspense>
    );
  if (state.kind === 'opening') return <Opening share={state.share} />;
  const { entry, database, executor, memberId } = state;
  return (
    <SessionProvider {...{ entry, database, executor, memberId }} onMember={workAs}>
      <BookProvider>
        <FallenWhole show={(why) => <Rescue why={why} entry={entry} />}>
          <Screens />
        </FallenWhole>
      </BookProvider>
    </SessionProvider>
  );
}

function Opening({ share }: { share: number | null }) {
  return (
    <main className="grid h-full place-content-center gap-3 text-center">
      <img src="/coin.svg" alt="" width={48} height={48} className="mx-auto" />
      <h1 className="text-title font-bold">Half Penny</h1>
      <p role="status" className="text-soft">
        {share === null ? 'Opening…' : 'Setting up the demo studio…'}
      </p>
      {share !== null && (
        <progress aria-label="Setting up the demo studio" className="accent-time" value={share} max={1} />
      )}
    </main>
  );
}
