import type { Id } from '../model/ids';
import type { Change, JournalRow } from '../model/change';
import { tableNames, tables, type IndexName, type Rows, type TableName } from '../model/tables';
import type { Settlement } from './scratch';
import { indexKeysOf, keyText, type IndexKey, type Transaction } from './store';

/** A workspace held in memory: tables with their indexes, and the journal. */
export class MemoryStore implements Transaction {
  readonly #rows = new Map<TableName, Map<Id, Rows[TableName]>>(tableNames.map((name) => [name, new Map()]));
  readonly #indexes = new Map<string, Map<string, Set<Id>>>();
  readonly #chains = new Map<Id, JournalRow[]>();
  readonly journal: JournalRow[] = [];

  /** Fills an empty store with rows as they are, such as those of a workspace file. */
  load(rows: Partial<{ [T in TableName]: readonly Rows[T][] }>, journal: readonly JournalRow[]): this {
    for (const table of tableNames) for (const row of rows[table] ?? []) this.#put(table, row);
    for (const row of journal) this.#append(row);
    return this;
  }

  async get<T extends TableName>(table: T, id: Id): Promise<Rows[T] | undefined> {
    return this.#table(table).get(id);
  }

  async many<T extends TableName>(table: T, ids: readonly Id[]): Promise<(Rows[T] | undefined)[]> {
    const rows = this.#table(table);
    return ids.map((id) => rows.get(id));
  }

  async by<T extends TableName>(table: T, index: IndexName<T>, keys: readonly IndexKey[]): Promise<Rows[T][]> {
    const rows = this.#table(table);
    const found = new Set<Id>();
    for (const key of keys) for (const id of this.#index(table, index).get(keyText(key)) ?? []) found.add(id);
    return [...found].map((id) => rows.get(id)!);
  }

  async all<T extends TableName>(table: T): Promise<Rows[T][]> {
    return this.rows(table);
  }

  /** All rows of a table in the order of their ids. */
  rows<T extends TableName>(table: T): Rows[T][] {
    return [...this.#table(table).values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  }

  async newest(device: Id, count: number): Promise<JournalRow[]> {
    return (this.#chains.get(device) ?? []).slice(-count).reverse();
  }

  async journalRow(device: Id, seq: number): Promise<JournalRow | undefined> {
    return this.#chains.get(device)?.[seq - 1];
  }

  async lastChange(table: TableName, id: Id): Promise<JournalRow | undefined> {
    return this.journal.findLast((row) => row.changes.some((change) => change.table === table && change.id === id));
  }

  async write(changes: readonly Change[], journal: JournalRow): Promise<void> {
    for (const { table, id, after } of changes) {
      this.#drop(table, id);
      if (after) this.#put(table, after);
    }
    this.#append(journal);
  }

  /** Makes of it what it has to become. */
  become({ changes, gone, rows, placed }: Settlement): void {
    for (const { device } of gone) this.#chains.get(device)!.pop();
    if (gone.length > 0) {
      const left = new Set(gone);
      this.journal.splice(0, Infinity, ...this.journal.filter((row) => !left.has(row)));
    }
    for (const { table, id, after } of changes) {
      this.#drop(table, id);
      if (after) this.#put(table, after);
    }
    for (const row of rows) this.#append(row);
    for (const { device, seq, place } of placed) {
      const chain = this.#chains.get(device)!;
      const row = { ...chain[seq - 1]!, place };
      this.journal[this.journal.lastIndexOf(chain[seq - 1]!)] = row;
      chain[seq - 1] = row;
    }
  }

  #append(row: JournalRow): void {
    this.journal.push(row);
    const chain = this.#chains.get(row.device);
    if (chain) chain.push(row);
    else this.#chains.set(row.device, [row]);
  }

  #table<T extends TableName>(table: T): Map<Id, Rows[T]> {
    return this.#rows.get(table) as Map<Id, Rows[T]>;
  }

  #index(table: TableName, index: string): Map<string, Set<Id>> {
    if (!tables[table].indexes.includes(index)) throw new Error(`${table} has no index ${index}`);
    const key = `${table} ${index}`;
    let map = this.#indexes.get(key);
    if (!map) this.#indexes.set(key, (map = new Map()));
    return map;
  }

  #put(table: TableName, row: Rows[TableName]): void {
    this.#table(table).set(row.id, row);
    for (const index of tables[table].indexes) {
      const map = this.#index(table, index);
      for (const each of indexKeysOf(row, index)) {
        const key = keyText(each);
        const ids = map.get(key);
        if (ids) ids.add(row.id);
        else map.set(key, new Set([row.id]));
      }
    }
  }

  #drop(table: TableName, id: Id): void {
    const row = this.#table(table).get(id);
    if (!row) return;
    this.#table(table).delete(id);
    for (const index of tables[table].indexes) {
      const map = this.#index(table, index);
      for (const key of indexKeysOf(row, index)) map.get(keyText(key))?.delete(id);
    }
  }
}
