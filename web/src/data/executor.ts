import type { CommandInput, CommandName, Executor } from '@half-penny/core/commands';
import type { Engine, ExecutionContext, IndexKey, Reader, Transaction, UndoStanding } from '@half-penny/core/engine';
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
import { allRows, rowsBy } from './rows';
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
class DexieTransaction extends DexieReader implements Transaction {
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

  async write(changes: readonly Change[], journal: JournalRow): Promise<void> {
    for (const table of new Set(changes.map((change) => change.table))) {
      const here = changes.filter((change) => change.table === table);
      const put = here.filter((change) => change.after !== null).map((change) => change.after);
      const gone = here.filter((change) => change.after === null).map((change) => change.id);
      if (put.length > 0) await this.database.table(table).bulkPut(put);
      if (gone.length > 0) await this.database.table(table).bulkDelete(gone);
    }
    await followUnsettled(this.database, this, changes);
    await this.database.table('journal').add(journal);
  }
}

// Showing a screen needs no commands: they come when the first is run, before its transaction begins.
const commands = async (): Promise<Engine> => (await import('@half-penny/core/commands')).engine;

/** Runs commands in the browser's database, each in one transaction over all tables. */
export class DexieExecutor implements Executor {
  readonly #database: WorkspaceDatabase;
  readonly #context: () => ExecutionContext;

  constructor(database: WorkspaceDatabase, context: () => ExecutionContext) {
    this.#database = database;
    this.#context = context;
  }

  /** @param asks whether to throw a Question about what may be a slip */
  async run<N extends CommandName>(name: N, input: CommandInput<N>, asks = false): Promise<JournalRow> {
    const perform = (from: Pick<ExecutionContext, 'position'> = {}) =>
      this.#change((engine, tx) => engine.perform(tx, name, input, { ...this.#context(), ...from, asks }));
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
    return this.#change((engine, tx) => engine.undo(tx, this.#context(), seq));
  }

  redo(): Promise<JournalRow> {
    return this.#change((engine, tx) => engine.redo(tx, this.#context()));
  }

  async standing(): Promise<UndoStanding> {
    const engine = await commands();
    return engine.standing(new DexieTransaction(this.#database), this.#context().device);
  }

  /** Whether a command is reversed by another rather than undone: its notice has no "Undo". */
  async isOutward(name: CommandName): Promise<boolean> {
    return (await commands()).commandNamed(name).outward !== undefined;
  }

  #change(task: (engine: Engine, tx: Transaction) => Promise<JournalRow>) {
    return whileWriting(async () => {
      const engine = await commands();
      try {
        return await this.#database.transaction('rw', this.#database.tables, (tx) =>
          task(engine, new DexieTransaction(tx)),
        );
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
  }
}
