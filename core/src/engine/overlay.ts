import type { Change } from '../model/change';
import type { Id } from '../model/ids';
import type { IndexName, Rows, TableName } from '../model/tables';
import { indexKeysOf, keyText, type IndexKey, type Reader } from './store';

/** A reader with changes laid over it: what the workspace would be after them. */
export class Overlay implements Reader {
  readonly #under: Reader;
  readonly #laid = new Map<TableName, Map<Id, Change>>();

  constructor(under: Reader, changes: readonly Change[] = []) {
    this.#under = under;
    this.lay(changes);
  }

  /** Lays further changes over those that lie there; the last word on a row counts. */
  lay(changes: readonly Change[]): void {
    for (const change of changes) {
      const rows = this.#laid.get(change.table) ?? new Map<Id, Change>();
      rows.set(change.id, change);
      this.#laid.set(change.table, rows);
    }
  }

  /** The last word on each row. */
  laid(): Change[] {
    return [...this.#laid.values()].flatMap((rows) => [...rows.values()]);
  }

  async get<T extends TableName>(table: T, id: Id): Promise<Rows[T] | undefined> {
    const change = this.#laid.get(table)?.get(id);
    return change ? ((change.after ?? undefined) as Rows[T] | undefined) : this.#under.get(table, id);
  }

  async many<T extends TableName>(table: T, ids: readonly Id[]): Promise<(Rows[T] | undefined)[]> {
    const rows = await this.#under.many(table, ids);
    const layer = this.#laid.get(table);
    if (!layer) return rows;
    return ids.map((id, index) => {
      const change = layer.get(id);
      return change ? ((change.after ?? undefined) as Rows[T] | undefined) : rows[index];
    });
  }

  async by<T extends TableName>(table: T, index: IndexName<T>, keys: readonly IndexKey[]): Promise<Rows[T][]> {
    const rows = await this.#under.by(table, index, keys);
    if (!this.#laid.has(table)) return rows;
    const wanted = new Set(keys.map(keyText));
    return this.#over(table, rows, (row) => indexKeysOf(row, index).some((key) => wanted.has(keyText(key))));
  }

  async all<T extends TableName>(table: T): Promise<Rows[T][]> {
    return this.#over(table, await this.#under.all(table), () => true);
  }

  #over<T extends TableName>(table: T, rows: Rows[T][], fits: (row: Rows[T]) => boolean): Rows[T][] {
    const layer = this.#laid.get(table);
    if (!layer) return rows;
    const kept = rows.filter((row) => !layer.has(row.id));
    for (const { after } of layer.values()) if (after !== null && fits(after as Rows[T])) kept.push(after as Rows[T]);
    return kept;
  }
}

/** The same reader with changes laid over it. */
export const overlay = (reader: Reader, changes: readonly Change[]): Reader => new Overlay(reader, changes);
