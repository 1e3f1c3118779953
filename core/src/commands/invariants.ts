import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import type { Change, Entry, Timer } from '../model/records';
import { schemas } from '../model/schemas';
import { tableNames, tables, type TableName } from '../model/tables';
import { faultOf } from './command';
import { checkConservation, checkInvoices } from './invariants-billing';
import { checkCosts } from './invariants-costs';
import { checkMoments } from './invariants-moments';
import { checkWork } from './invariants-work';
import type { Reader } from './store';

/**
 * Checks what must hold of a workspace for the rows that a change touches, reading through `after`, the workspace with the change
 * laid over it.
 *
 * @throws Fault that names the row and what it would break
 */
export async function checkInvariants(after: Reader, changes: readonly Change[]): Promise<void> {
  checkShapes(changes);
  checkMoments(changes);
  await checkReferences(after, changes);
  await checkDeletions(after, changes);
  await checkTimers(after, changes);
  await checkPlans(after, changes);
  await checkStretches(after, changes);
  await checkWork(after, changes);
  await checkCosts(after, changes);
  await checkInvoices(after, changes);
  await checkConservation(after, changes);
}

function checkShapes(changes: readonly Change[]): void {
  for (const change of changes) {
    if (change.after === null) continue;
    const parsed = schemas[change.table as TableName].safeParse(change.after);
    if (!parsed.success) throw faultOf(parsed.error);
  }
}

/** Every id that a row holds belongs to a row that is there. */
async function checkReferences(after: Reader, changes: readonly Change[]): Promise<void> {
  const wanted = new Map<TableName, Map<Id, string>>();
  for (const change of changes) {
    if (change.after === null) continue;
    for (const [field, target] of Object.entries(tables[change.table as TableName].references)) {
      const id = change.after[field] as Id | null;
      if (id === null) continue;
      const ids = wanted.get(target) ?? new Map<Id, string>();
      ids.set(id, field);
      wanted.set(target, ids);
    }
  }
  for (const [target, ids] of wanted) {
    const rows = await after.many(target, [...ids.keys()]);
    [...ids].forEach(([id, field], index) => {
      if (!rows[index]) throw new Fault(`There is no such ${tables[target].one}.`, field, { id });
    });
  }
}

/** No stretch of noticed activity is two entries. */
async function checkStretches(after: Reader, changes: readonly Change[]): Promise<void> {
  const entries = changes.filter((change) => change.table === 'entries' && change.after !== null);
  const ids = new Set(entries.flatMap((change) => (change.after as unknown as Entry).stretchIds));
  if (ids.size === 0) return;
  const seen = new Set<Id>();
  for (const entry of await after.by('entries', '*stretchIds', [...ids])) {
    for (const id of entry.stretchIds) {
      if (seen.has(id)) throw new Fault('This stretch has been posted already.', 'stretchIds', { id });
      seen.add(id);
    }
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
  for (const table of new Set(gone.map((change) => change.table as TableName))) {
    const ids = gone.filter((change) => change.table === table).map((change) => change.id);
    const users = await usersOf(after, table, ids);
    if (users.length === 0) continue;
    throw new Fault(
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
      for (const row of await after.by(other, field, ids)) found.add(row.id);
    }
    if (found.size > 0) users.push(found.size === 1 ? `1 ${tables[other].one}` : `${found.size} ${tables[other].many}`);
  }
  return users;
}

/** At most one timer runs for a member. */
async function checkTimers(after: Reader, changes: readonly Change[]): Promise<void> {
  const members = new Set<Id>();
  for (const change of changes) {
    if (change.table === 'timers' && change.after) members.add((change.after as unknown as Timer).memberId);
  }
  if (members.size === 0) return;
  const running = await after.by('timers', 'memberId', [...members]);
  if (running.length > members.size) throw new Fault('Only one timer can run for a member.', 'memberId');
}

/** Planned time becomes one entry at most. */
async function checkPlans(after: Reader, changes: readonly Change[]): Promise<void> {
  const plans = new Set<Id>();
  for (const change of changes) {
    const planId = change.table === 'entries' && (change.after as unknown as Entry | null)?.planId;
    if (planId) plans.add(planId);
  }
  if (plans.size === 0) return;
  const entries = await after.by('entries', 'planId', [...plans]);
  if (entries.length > plans.size) throw new Fault('This planned time has been recorded already.', 'planId');
}
