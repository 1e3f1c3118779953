import type { CommandInput, CommandName } from '@half-penny/core/commands';
import { Question, type Id, type JournalRow } from '@half-penny/core/model';
import { createContext, useCallback, useContext, useMemo, type ReactNode } from 'react';
import { changedIn } from '../state/shell';
import { askPerson } from '../state/questions';
import { noticed } from '../state/notices';
import { useAppDispatch } from '../state/store';
import type { WorkspaceDatabase, WorkspaceEntry } from './database';
import { DexieReader, waits, type DexieExecutor } from './executor';
import { wordsOf } from './in-words';
import { openWorkspace } from './registry';

/** The open workspace and what runs on it. */
export interface Session {
  entry: WorkspaceEntry;
  database: WorkspaceDatabase;
  executor: DexieExecutor;
  reader: DexieReader;
  memberId: Id | null;
  /** Says who is working in this browser. */
  workAs(memberId: Id): Promise<void>;
}

const SessionContext = createContext<Session | null>(null);

type SessionParts = Pick<Session, 'entry' | 'database' | 'executor'> & {
  memberId: Id | null;
  onMember: (id: Id) => void;
  children: ReactNode;
};

export function SessionProvider({ entry, database, executor, memberId, onMember, children }: SessionParts) {
  const session = useMemo<Session>(
    () => ({
      entry,
      database,
      executor,
      reader: new DexieReader(database),
      memberId,
      async workAs(id) {
        onMember(id);
        await openWorkspace({ ...entry, memberId: id });
      },
    }),
    [entry, database, executor, memberId, onMember],
  );
  return <SessionContext value={session}>{children}</SessionContext>;
}

export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('There is no open workspace here.');
  return session;
}

export interface Changes {
  /** Runs a command and says so in a notice with "Undo". A fault is thrown, for the form that caused it to show. */
  run<N extends CommandName>(name: N, input: CommandInput<N>): Promise<JournalRow>;
  /** The same where there is no form: a fault becomes a notice, and null is returned. */
  attempt<N extends CommandName>(name: N, input: CommandInput<N>): Promise<JournalRow | null>;
  undo(seq?: number): Promise<void>;
  redo(): Promise<void>;
}

/** How components change the workspace. */
export function useChanges(): Changes {
  const { executor } = useSession();
  const dispatch = useAppDispatch();
  const say = useCallback(
    (row: JournalRow, undoable: boolean) => {
      if (waits(row)) {
        const text = `“${row.title}” waits until this device is connected: Setup → Devices lists it.`;
        dispatch(noticed({ text, fault: false, undo: null }));
      }
      if (row.changes.length === 0) return;
      dispatch(changedIn('workspace'));
      dispatch(
        noticed({
          text: row.title,
          fault: false,
          undo: undoable ? row.seq : null,
        }),
      );
    },
    [dispatch],
  );
  return useMemo<Changes>(() => {
    const failed = (thrown: unknown) => void dispatch(noticed({ text: wordsOf(thrown), fault: true, undo: null }));
    const run: Changes['run'] = async (name, input) => {
      const row = await executor.run(name, input, true).catch(async (thrown: unknown) => {
        if (!(thrown instanceof Question)) throw thrown;
        if (!(await askPerson(thrown))) throw thrown.declined();
        return executor.run(name, input);
      });
      say(row, !(await executor.isOutward(name)));
      return row;
    };
    return {
      run,
      attempt: (name, input) =>
        run(name, input).catch((thrown: unknown) => {
          failed(thrown);
          return null;
        }),
      undo: (seq) => executor.undo(seq).then((row) => say(row, false), failed),
      redo: () => executor.redo().then((row) => say(row, false), failed),
    };
  }, [executor, dispatch, say]);
}
