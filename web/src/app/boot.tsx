import { messageOf, type Id } from '@half-penny/core/model';
import { useCallback, useEffect, useRef, useState } from 'react';
import { WorkspaceDatabase, type WorkspaceEntry } from '../data/database';
import { DexieExecutor } from '../data/executor';
import { currentWorkspace, newId, onOtherWorkspace } from '../data/registry';
import { SessionProvider, type Session } from '../data/session';
import { Button } from '../parts/button';
import { noticed } from '../state/notices';
import { useAppDispatch } from '../state/store';
import { lastRan } from './presence';
import { Screens } from './routes';

type State =
  | { kind: 'opening'; share: number | null }
  | { kind: 'failed'; message: string }
  | ({ kind: 'ready'; memberId: Id | null } & Pick<Session, 'entry' | 'database' | 'executor'>);

let opening: Promise<WorkspaceEntry> | null = null;

/** The workspace that is open in this browser; on the very first visit the demo is made. Two tabs at once make one demo. */
function findOrMake(onProgress: (share: number) => void): Promise<WorkspaceEntry> {
  return (opening ??= navigator.locks.request('half-penny-first-visit', async () => {
    const current = await currentWorkspace();
    if (current) return current;
    const { loadDemo } = await import('../data/workspaces');
    return loadDemo(onProgress).result;
  }));
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
      try {
        const entry = await findOrMake((share) => !left && setState({ kind: 'opening', share }));
        const database = new WorkspaceDatabase(entry.database);
        await database.open();
        member.current = entry.memberId;
        const executor = new DexieExecutor(database, () => {
          const seen = lastRan(member.current);
          return {
            now: Date.now(),
            memberId: member.current,
            newId,
            device: entry.device,
            ...(seen ? { seen } : {}),
          };
        });
        onOtherWorkspace((id) => {
          if (id === entry.id) return;
          // Somebody may be typing here: this tab stays with its workspace.
          const text =
            'Another workspace was opened in another tab. This tab stays with its own until it is loaded again.';
          dispatch(noticed({ text, fault: false, undo: null }));
        });
        if (left) return;
        setState({ kind: 'ready', entry, database, executor, memberId: entry.memberId });
      } catch (thrown) {
        if (!left) setState({ kind: 'failed', message: messageOf(thrown) });
      }
    })();
    return () => void (left = true);
  }, [dispatch]);
  if (state.kind === 'failed') return <Failed message={state.message} />;
  if (state.kind === 'opening') return <Opening share={state.share} />;
  const { entry, database, executor, memberId } = state;
  return (
    <SessionProvider {...{ entry, database, executor, memberId }} onMember={workAs}>
      <Screens />
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

function Failed({ message }: { message: string }) {
  return (
    <main className="mx-auto grid h-full max-w-md place-content-center gap-3">
      <h1 className="text-title font-bold">The workspace could not be opened</h1>
      <p role="alert" className="text-fault">
        {message}
      </p>
      <p className="text-soft">
        What is stored is untouched. Close other tabs of Half Penny and try again; in a private window, allow the site
        to keep data.
      </p>
      <Button className="justify-self-start" onClick={() => location.reload()}>
        Try again
      </Button>
    </main>
  );
}
