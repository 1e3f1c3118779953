import type { Reader } from '../engine/store';
import type { Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Project } from '../model/records';
import { tables, type TableName } from '../model/tables';
import { placeOfProject, type Place } from './rights';

/** What tells where a row belongs, the closest first: a line of an invoice by the entry on it, sooner than by the invoice. */
const CLOSEST = [
  'projectId',
  'parentId',
  'taskId',
  'milestoneId',
  'contractId',
  'entryId',
  'costLineId',
  'agreedId',
  'costId',
  'invoiceId',
  'quoteId',
  'clientId',
] as const;

/** Finds where rows belong by what they refer to, and remembers what it found. */
export class Places {
  readonly #reader: Reader;
  readonly #known = new Map<string, Promise<readonly Place[]>>();

  /** @param reader sees what is looked for: as it was, or as it will be */
  constructor(reader: Reader) {
    this.#reader = reader;
  }

  /** Where a row of a change belongs: none where nothing tells it, several where a cost is shared out. */
  async of(table: TableName, row: NonNullable<Change['after']>): Promise<readonly Place[]> {
    if (table === 'projects') return [await this.#project(row as Project)];
    if (table === 'clients') return [{ clientId: row.id, projectIds: [] }];
    if (table === 'costs') return this.#cost(row.id);
    const fields: Readonly<Record<string, unknown>> = { ...row };
    const references = tables[table].references;
    for (const field of CLOSEST) {
      const target = references[field];
      const id = fields[field];
      if (target && typeof id === 'string') return this.#at(target, id);
    }
    return [];
  }

  #at(table: TableName, id: Id): Promise<readonly Place[]> {
    const key = `${table} ${id}`;
    const known = this.#known.get(key) ?? this.#read(table, id);
    this.#known.set(key, known);
    return known;
  }

  async #read(table: TableName, id: Id): Promise<readonly Place[]> {
    const row = await this.#reader.get(table, id);
    return row ? this.of(table, row) : [];
  }

  async #project(project: Project): Promise<Place> {
    const line: Project[] = [project];
    for (let at = project; at.parentId !== null && line.length < 50; line.push(at)) {
      const above = await this.#reader.get('projects', at.parentId);
      if (!above) break;
      at = above;
    }
    return placeOfProject(project, (id) => line.find((each) => each.id === id));
  }

  async #cost(id: Id): Promise<readonly Place[]> {
    const lines = await this.#reader.by('costLines', 'costId', [id]);
    const ids = [...new Set(lines.flatMap(({ projectId }) => projectId ?? []))];
    return (await Promise.all(ids.map((projectId) => this.#at('projects', projectId)))).flat();
  }
}
