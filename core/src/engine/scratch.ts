import { changeOf, type Change, type JournalRow } from '../model/change';
import type { Id } from '../model/ids';
import type { TableName } from '../model/tables';
import { Overlay } from './overlay';
import type { Transaction } from './store';

/** What a workspace has to become, all of it or nothing. */
export interface Settlement {
  /** The last word on each row. */
  changes: Change[];
  /** Rows of the history that are there and shall not be. */
  gone: JournalRow[];
  /** Rows of the history that are added, after those that go are gone, in their order. */
  rows: JournalRow[];
  /** Rows that are there and stay, with their place in the shared log, which is known now. */
  placed: { device: Id; seq: number; place: number }[];
}

/**
 * A transaction that writes nothing: what is taken back and done lies over the workspace until somebody settles it. Of a device's history
 * only its end can be taken back, from the newest row on.
 */
export class Scratch extends Overlay implements Transaction {
  readonly #under: Transaction;
  readonly #gone: JournalRow[] = [];
  /** From which number on a device's rows are gone. */
  readonly #goneFrom = new Map<Id, number>();
  readonly #rows: JournalRow[] = [];
  readonly #rowsOf = new Map<Id, JournalRow[]>();

  constructor(under: Transaction) {
    super(under);
    this.#under = under;
  }

  /** Takes back the newest row of a device that was there before. */
  takeBack(row: JournalRow): void {
    this.lay(row.changes.toReversed().map(({ table, id, before, after }) => changeOf(table, id, after, before)));
    this.#gone.push(row);
    this.#goneFrom.set(row.device, row.seq);
  }

  async newest(device: Id, count: number): Promise<JournalRow[]> {
    const added = (this.#rowsOf.get(device) ?? []).slice(-count).reverse();
    if (added.length === count) return added;
    const from = this.#goneFrom.get(device) ?? Infinity;
    const goneOf = this.#gone.reduce((sum, row) => sum + Number(row.device === device), 0);
    const stored = await this.#under.newest(device, count - added.length + goneOf);
    return [...added, ...stored.filter((row) => row.seq < from)].slice(0, count);
  }

  async journalRow(device: Id, seq: number): Promise<JournalRow | undefined> {
    const added = this.#rowsOf.get(device);
    if (added && seq >= added[0]!.seq) return added[seq - added[0]!.seq];
    return seq < (this.#goneFrom.get(device) ?? Infinity) ? this.#under.journalRow(device, seq) : undefined;
  }

  async lastChange(table: TableName, id: Id): Promise<JournalRow | undefined> {
    const touches = (row: JournalRow) => row.changes.some((change) => change.table === table && change.id === id);
    return this.#rows.findLast(touches) ?? this.#under.lastChange?.(table, id);
  }

  async write(changes: readonly Change[], journal: JournalRow): Promise<void> {
    this.lay(changes);
    this.#rows.push(journal);
    const rows = this.#rowsOf.get(journal.device);
    if (rows) rows.push(journal);
    else this.#rowsOf.set(journal.device, [journal]);
  }

  /** Everything that was taken back and done here. */
  settlement(): Settlement {
    return { changes: this.laid(), gone: this.#gone, rows: this.#rows, placed: [] };
  }
}
