import { allocatedSeconds, billableOf } from '../billing/to-bill';
import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import type { Allocation, Change, Entry, Invoice, Timer } from '../model/records';
import { sameData } from '../model/canonical';
import { schemas } from '../model/schemas';
import { tableNames, tables, type TableName } from '../model/tables';
import { faultOf } from './command';
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
  await checkReferences(after, changes);
  await checkDeletions(after, changes);
  await checkTimers(after, changes);
  await checkPlans(after, changes);
  await checkWork(after, changes);
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

/** Numbers run without a gap and an issued invoice stays as it was sent. */
async function checkInvoices(after: Reader, changes: readonly Change[]): Promise<void> {
  for (const change of changes) {
    const before = change.before as unknown as Invoice | null;
    const now = change.after as unknown as Invoice | null;
    if (change.table === 'allocations') {
      await checkAllocationStays(after, change);
      continue;
    }
    if (change.table !== 'invoices') continue;
    if (before?.frozen) checkFrozenStays(before, now);
    if (now && (now.seq === null) !== (now.frozen === null)) {
      throw new Fault('An invoice is numbered exactly when it is issued.', 'seq');
    }
    if (now?.seq && before?.seq !== now.seq) await checkNumber(after, now.seq);
  }
}

function checkFrozenStays(before: Invoice, now: Invoice | null): void {
  if (!now) throw new Fault(`${before.frozen!.number} has been issued and cannot be deleted. Void it instead.`, 'id');
  const { voided: _before, ...sent } = before;
  const { voided: _now, ...kept } = now;
  if (!sameData(sent, kept) || (before.voided && !sameData(before.voided, now.voided))) {
    throw new Fault(`${before.frozen!.number} has been issued and stays as it was sent.`, 'frozen');
  }
}

async function checkNumber(after: Reader, seq: number): Promise<void> {
  if ((await after.by('invoices', 'seq', [seq])).length > 1) throw new Fault(`Number ${seq} is taken already.`, 'seq');
  const first = (await after.all('workspace'))[0]?.firstNumber ?? 1;
  if (seq > first && (await after.by('invoices', 'seq', [seq - 1])).length === 0) {
    throw new Fault(`Number ${seq - 1} has not been used yet; invoices are numbered without gaps.`, 'seq');
  }
}

/** What stands on an issued invoice is part of it. */
async function checkAllocationStays(after: Reader, change: Change): Promise<void> {
  const before = change.before as unknown as Allocation | null;
  if (before?.amount === null || before === null) return;
  if (!change.after || !sameData(before, change.after)) {
    const invoice = await after.get('invoices', before.invoiceId);
    throw new Fault(`${invoice?.frozen?.number ?? 'The invoice'} has been issued and stays as it was sent.`, 'entryId');
  }
}

/**
 * For every touched entry: what is allocated is at least nothing and at most its billable seconds (the rest is to bill), all of it on
 * invoices of the entry's own client, and on one draft at most.
 */
async function checkConservation(after: Reader, changes: readonly Change[]): Promise<void> {
  const touched = new Set<Id>();
  for (const change of changes) {
    if (change.table === 'entries' && change.after) touched.add(change.id);
    if (change.table === 'allocations') {
      for (const row of [change.before, change.after]) if (row) touched.add((row as unknown as Allocation).entryId);
    }
  }
  if (touched.size === 0) return;
  const allocations = await after.by('allocations', 'entryId', [...touched]);
  if (allocations.length === 0) return;
  const sums = allocatedSeconds(allocations);
  const onDraft = new Set<Id>();
  for (const each of allocations) {
    if (each.amount !== null) continue;
    if (onDraft.has(each.entryId))
      throw new Fault('An entry can stand on one draft only.', 'entryId', { id: each.entryId });
    onDraft.add(each.entryId);
  }
  const ids = [...sums.keys()];
  const entries = await after.many('entries', ids);
  ids.forEach((id, index) => {
    const entry = entries[index];
    const sum = sums.get(id)!;
    if (!entry) return;
    if (sum < 0 || sum > billableOf(entry)) {
      throw new Fault('More of this entry would be invoiced than is billable.', 'seconds', {
        id,
        allocated: sum,
        billable: billableOf(entry),
      });
    }
  });
  await checkClients(
    after,
    allocations,
    new Map(entries.filter((row) => row !== undefined).map((row) => [row.id, row])),
  );
}

async function checkClients(
  after: Reader,
  allocations: readonly Allocation[],
  entries: ReadonlyMap<Id, { projectId: Id | null }>,
): Promise<void> {
  const invoiceIds = [...new Set(allocations.map((each) => each.invoiceId))];
  const invoices = new Map((await after.many('invoices', invoiceIds)).map((row) => [row?.id, row]));
  const projectIds = [...new Set([...entries.values()].map((row) => row.projectId).filter((each) => each !== null))];
  const projects = new Map((await after.many('projects', projectIds)).map((row) => [row?.id, row]));
  const sums = new Map<string, number>();
  for (const each of allocations) {
    const key = `${each.entryId} ${each.invoiceId}`;
    sums.set(key, (sums.get(key) ?? 0) + each.seconds);
  }
  for (const each of allocations) {
    // What a void invoice took has been given back: the entry is free to go elsewhere.
    if (sums.get(`${each.entryId} ${each.invoiceId}`) === 0) continue;
    const entry = entries.get(each.entryId);
    const project = entry?.projectId ? projects.get(entry.projectId) : undefined;
    const client = project?.clientId ?? null;
    if (project && each.amount === null && (project.kind === 'fixed price' || project.kind === 'internal')) {
      throw new Fault(`${project.name} is not invoiced by the hour. Take this entry off the draft first.`, 'projectId');
    }
    if (entry && client !== invoices.get(each.invoiceId)?.clientId) {
      throw new Fault('This entry is on an invoice of another client. Take it off that invoice first.', 'projectId');
    }
  }
}
