import type { CommandInput, CommandName, Executor } from '@half-penny/core/commands';
import type { Engine, ExecutionContext, IndexKey, Reader, Settlement, UndoStanding } from '@half-penny/core/engine';
import type { Share, SharedTransaction, SharedWorkspace, Submitted } from '@half-penny/core/shared-log';
import {
  Fault,
  type Change,
  type Id,
  type IndexName,
  type JournalRow,
  type Rows,
  type TableName,
} from '@half-penny/core/model';
import Dexie, { type Transaction as DexieTx } from 'dexie';
import type { WorkspaceDatabase } from './database';
import { allRows, changesOf, rowsBy } from './rows';
import { followUnsettled } from './unsettled';
import { isFull } from './in-words';
import { whileWriting } from './writing';

/** Whatever gives tables: the database, or one open transaction of it. */
type Tables = Pick<DexieTx, 'table'>;

/** Reads a workspace in the browser's database. */
export class DexieReader implements Reader {
  protected readonly database: Tables;

  constructor(database: Tables) {
    this.database = database;
  }

  get<T extends TableName>(table: T, id: Id): Promise<Rows[T] | undefined> {
    return this.database.table(table).get(id);
  }

  many<T extends TableName>(table: T, ids: readonly Id[]): Promise<(Rows[T] | undefined)[]> {
    return this.database.table(table).bulkGet([...ids]);
  }

  by<T extends TableName>(table: T, index: IndexName<T>, keys: readonly IndexKey[]): Promise<Rows[T][]> {
    return rowsBy<Rows[T]>(this.database.table(table), index, keys);
  }

  all<T extends TableName>(table: T): Promise<Rows[T][]> {
    return allRows<Rows[T]>(this.database.table(table));
  }
}

/** Reads and writes in one open transaction, whatever is awaited in between. */
export class DexieTransaction extends DexieReader implements SharedTransaction {
  newest(device: Id, count: number): Promise<JournalRow[]> {
    return this.database
      .table('journal')
      .where('[device+seq]')
      .between([device, Dexie.minKey], [device, Dexie.maxKey])
      .reverse()
      .limit(count)
      .toArray();
  }

  journalRow(device: Id, seq: number): Promise<JournalRow | undefined> {
    return this.database.table('journal').get([device, seq]);
  }

  /** Looked for in the whole history, which nobody waits for but whoever wants to take back what others changed since. */
  async lastChange(table: TableName, id: Id): Promise<JournalRow | undefined> {
    return (await changesOf(this.database, table, id)).at(-1);
  }

  async share(): Promise<Share | null> {
    return (await this.database.table<Share>('share').toCollection().first()) ?? null;
  }

  async settle(settlement: Settlement | null, share: Share): Promise<void> {
    if (settlement) {
      const journal = this.database.table<JournalRow, [Id, number]>('journal');
      await this.#put(settlement.changes);
      if (settlement.gone.length > 0)
        await journal.bulkDelete(settlement.gone.map(({ device, seq }): [Id, number] => [device, seq]));
      if (settlement.rows.length > 0) await journal.bulkAdd(settlement.rows);
      if (settlement.placed.length > 0) {
        const rows = await journal.bulkGet(settlement.placed.map(({ device, seq }): [Id, number] => [device, seq]));
        await journal.bulkPut(rows.map((row, index) => ({ ...row!, place: settlement.placed[index]!.place })));
      }
    }
    await this.database.table('share').put(share);
  }

  async write(changes: readonly Change[], journal: JournalRow): Promise<void> {
    await this.#put(changes);
    await this.database.table('journal').add(journal);
  }

  async #put(changes: readonly Change[]): Promise<void> {
    for (const table of new Set(changes.map((change) => change.table))) {
      const here = changes.filter((change) => change.table === table);
      const put = here.filter((change) => change.after !== null).map((change) => change.after);
      const gone = here.filter((change) => change.after === null).map((change) => change.id);
      if (put.length > 0) await this.database.table(table).bulkPut(put);
      if (gone.length > 0) await this.database.table(table).bulkDelete(gone);
    }
    await followUnsettled(this.database, this, changes);
  }
}

// Showing a screen needs no commands: they come when the first is run, before its transaction begins.
const commands = async (): Promise<Engine> => (await import('@half-penny/core/commands')).engine;

/** Something to be done, in a workspace of one's own and in one that is shared. */
interface Doing {
  alone: (engine: Engine, tx: DexieTransaction, context: ExecutionContext) => Promise<JournalRow>;
  shared: (workspace: SharedWorkspace, tx: DexieTransaction, op: Id, context: ExecutionContext) => Promise<Submitted>;
}

/** Whether what was done waits for its turn in the shared log, and so has no number in the history yet. */
export const waits = (row: JournalRow): boolean => row.seq === 0;

/** Runs commands in the browser's database, each in one transaction over all tables. */
export class DexieExecutor implements Executor {
  readonly #database: WorkspaceDatabase;
  readonly #context: () => ExecutionContext;

  constructor(database: WorkspaceDatabase, context: () => ExecutionContext) {
    this.#database = database;
    this.#context = context;
  }

  /**
   * In a shared workspace, what is done only in its turn is waited for a moment; where the log is not to be had, the row is one that
   * `waits` and has changed nothing yet.
   *
   * @param asks whether to throw a Question about what may be a slip
   */
  async run<N extends CommandName>(name: N, input: CommandInput<N>, asks = false): Promise<JournalRow> {
    const perform = (from: Pick<ExecutionContext, 'position'> = {}) =>
      this.#change({
        alone: (engine, tx, context) => engine.perform(tx, name, input, { ...context, ...from, asks }),
        shared: (workspace, tx, op, context) => workspace.run(tx, op, name, input, { ...context, ...from, asks }),
      });
    try {
      return await perform();
    } catch (thrown) {
      // The browser is asked where it is only where a rule needs it.
      if (!(thrown instanceof Fault && /^position/.test(thrown.code))) throw thrown;
      const { whereIsThis } = await import('./position');
      return perform({ position: await whereIsThis() });
    }
  }

  undo(seq?: number): Promise<JournalRow> {
    return this.#change({
      alone: (engine, tx, context) => engine.undo(tx, context, seq),
      shared: (workspace, tx, op, context) => workspace.undo(tx, op, context, seq),
    });
  }

  redo(): Promise<JournalRow> {
    return this.#change({
      alone: (engine, tx, context) => engine.redo(tx, context),
      shared: (workspace, tx, op, context) => workspace.redo(tx, op, context),
    });
  }

  /** Does again what did not fit any more. @throws Fault where it still does not */
  doAgain(op: Id): Promise<JournalRow> {
    return this.#change({
      alone: () => Promise.reject(new Fault('gone', 'This workspace is not shared any more.')),
      shared: (workspace, tx, _op, context) => workspace.doAgain(tx, op, context),
      op,
    });
  }

  async letGo(op: Id): Promise<void> {
    const workspace = await this.shared();
    await this.#database.transaction('rw', this.#database.tables, (tx) =>
      workspace.letGo(new DexieTransaction(tx), op),
    );
  }

  async standing(): Promise<UndoStanding> {
    const engine = await commands();
    return engine.standing(new DexieTransaction(this.#database), this.#context().device);
  }

  /** Whether a command is reversed by another rather than undone: its notice has no "Undo". */
  async isOutward(name: CommandName): Promise<boolean> {
    return (await commands()).commandNamed(name).outward !== undefined;
  }

  /** This device's part in a shared log. */
  async shared(): Promise<SharedWorkspace> {
    const { SharedWorkspace } = await import('@half-penny/core/shared-log');
    return new SharedWorkspace(await commands());
  }

  async #change(doing: Doing & { op?: Id }): Promise<JournalRow> {
    const context = this.#context();
    const op = doing.op ?? context.newId();
    const done = await whileWriting(async () => {
      const engine = await commands();
      const workspace = (await this.#database.share.count()) > 0 ? await this.shared() : null;
      try {
        return await this.#database.transaction('rw', this.#database.tables, async (dexie) => {
          const tx = new DexieTransaction(dexie);
          if (((await tx.share()) === null) !== (workspace === null))
            throw new Error('The workspace began to be shared, or ended to be, at this moment. Try again.');
          if (workspace) return doing.shared(workspace, tx, op, context);
          return { row: await doing.alone(engine, tx, context), waits: false } as const;
        });
      } catch (thrown) {
        if (isFull(thrown)) {
          throw new Fault(
            'no-room',
            'The browser has no room left to save this. Nothing was changed; free some space and try again.',
          );
        }
        throw thrown;
      }
    });
    if (!done.waits) return done.row;
    const { turnOf } = await import('./sharing/turn');
    return turnOf(this.#database, op);
  }
}
