import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Change } from '../model/change';
import { schemas } from '../model/schemas';
import { tableNames, tables, type IndexName, type TableName } from '../model/tables';
import { faultOf } from './command';
import { checkMoments } from './moments';
import type { Reader } from './store';

/**
 * Checks what must hold of any table: each row has its shape, what it refers to is there, nothing that is referred to is deleted, and
 * every day can be one.
 *
 * @throws Fault that names the row and what it would break
 */
export async function checkTables(after: Reader, changes: readonly Change[]): Promise<void> {
  checkShapes(changes);
  checkMoments(changes);
  await checkReferences(after, changes);
  await checkDeletions(after, changes);
}

function checkShapes(changes: readonly Change[]): void {
  for (const change of changes) {
    if (change.after === null) continue;
    const parsed = schemas[change.table].safeParse(change.after);
    if (!parsed.success) throw faultOf(parsed.error);
  }
}

/** Every id that a row holds belongs to a row that is there. */
async function checkReferences(after: Reader, changes: readonly Change[]): Promise<void> {
  const wanted = new Map<TableName, Map<Id, string>>();
  for (const change of changes) {
    if (change.after === null) continue;
    const row: Readonly<Record<string, unknown>> = change.after;
    for (const [field, target] of Object.entries(tables[change.table].references)) {
      const id = row[field] as Id | null | undefined;
      if (id === null || id === undefined) continue;
      const ids = wanted.get(target) ?? new Map<Id, string>();
      ids.set(id, field);
      wanted.set(target, ids);
    }
  }
  for (const [target, ids] of wanted) {
    const rows = await after.many(target, [...ids.keys()]);
    [...ids].forEach(([id, field], index) => {
      if (!rows[index]) throw new Fault('unknown', `There is no such ${tables[target].one}.`, field, { id });
    });
  }
}

/** The way out that keeps what is there. */
const INSTEAD: { readonly [Name in TableName]?: string } = {
  clients: 'Archive it instead: it leaves the pickers and stays in reports.',
  projects: 'Finish it instead: it leaves the pickers and stays in reports.',
  tasks: 'Finish it instead: it leaves the pickers and stays in reports.',
  services: 'Archive it instead: it leaves the pickers and stays in reports.',
};

/** Nothing that is deleted is still referred to. */
async function checkDeletions(after: Reader, changes: readonly Change[]): Promise<void> {
  const gone = changes.filter((change) => change.after === null);
  if (gone.length === 0) return;
  for (const table of new Set(gone.map((change) => change.table))) {
    const ids = gone.filter((change) => change.table === table).map((change) => change.id);
    const users = await usersOf(after, table, ids);
    if (users.length === 0) continue;
    throw new Fault(
      'in-use',
      `This ${tables[table].one} is still used by ${users.join(', ')}. ${INSTEAD[table] ?? 'Remove or move them first.'}`,
      'id',
      { table, users },
    );
  }
}

/** What still refers to rows of a table, counted in words: "1 contact", "3 projects". */
async function usersOf(after: Reader, table: TableName, ids: readonly Id[]): Promise<string[]> {
  const users: string[] = [];
  for (const other of tableNames) {
    const found = new Set<Id>();
    for (const [field, target] of Object.entries(tables[other].references)) {
      if (target !== table) continue;
      for (const row of await after.by(other, field as IndexName<TableName>, ids)) found.add(row.id);
    }
    if (found.size > 0) users.push(found.size === 1 ? `1 ${tables[other].one}` : `${found.size} ${tables[other].many}`);
  }
  return users;
}
