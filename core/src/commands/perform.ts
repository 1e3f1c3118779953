import { sameData } from '../model/canonical';
import { currentImage } from '../model/migrations';
import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import type { Change, Entry, JournalRow } from '../model/records';
import type { TableName } from '../model/tables';
import { askAbout } from './ask';
import { commandNamed } from './catalogue';
import { faultOf, type Circumstances, type Command, type Plan } from './command';
import { checkInvariants } from './invariants';
import { collected } from './invoices';
import { CHAIN_START, sealed } from './journal';
import { BASE } from './replay';
import { overlay, type Transaction } from './store';

/** Who makes a change and from where. */
export interface Envelope extends Circumstances {
  device: Id;
}

/**
 * Carries out one command within a transaction: read and plan, check what must hold, write the rows and the journal row.
 * Nothing is written when anything is refused.
 *
 * @returns the journal row; its changes are empty when nothing was different
 * @throws Question where somebody is there to be asked and it may be a slip
 * @throws Fault with the field's path when the input or its effect cannot be accepted
 */
export async function perform(tx: Transaction, name: string, input: unknown, envelope: Envelope): Promise<JournalRow> {
  const command = commandNamed(name);
  const parsed = command.input.safeParse(input);
  if (!parsed.success) throw faultOf(parsed.error);
  const plan = await command.plan(tx, parsed.data as never, envelope);
  const changes = await changesOf(tx, plan);
  changes.push(...(await collect(tx, changes, envelope)));
  if (envelope.asks) await askAbout(tx, changes);
  const title = titleOf(command, parsed.data, changes);
  return commit(tx, envelope, { command: name, title, input: parsed.data, of: null, changes });
}

function titleOf(command: Command, input: unknown, changes: readonly Change[]): string {
  if (command.titleOf && changes.length > 0) return command.titleOf(changes);
  return typeof command.title === 'string' ? command.title : command.title(input as never);
}

/** Time that is new goes onto its client's draft, where one takes it. */
async function collect(tx: Transaction, changes: readonly Change[], envelope: Envelope): Promise<Change[]> {
  const fresh = changes.filter((change) => change.table === 'entries' && change.before === null);
  if (fresh.length === 0 || changes.some((change) => change.table === 'allocations')) return [];
  const rows = await collected(
    tx,
    fresh.map((change) => change.after as unknown as Entry),
    envelope,
  );
  return rows.map((row) => ({ table: 'allocations', id: row.id, before: null, after: row }));
}

/** The newest change that can be taken back, and the newest taken back that can be repeated. */
export interface UndoStanding {
  undo: JournalRow | null;
  redo: JournalRow | null;
}

/** How far back undo looks. */
const UNDO_DEPTH = 300;

export async function undoStanding(tx: Transaction, device: Id): Promise<UndoStanding> {
  const rows = (await tx.newest(device, UNDO_DEPTH)).filter((row) => row.command !== BASE).reverse();
  const bySeq = new Map(rows.map((row) => [row.seq, row]));
  let done: JournalRow[] = [];
  let undone: JournalRow[] = [];
  for (const row of rows) {
    const target = row.of === null ? undefined : bySeq.get(row.of);
    if (row.of === null) {
      done.push(row);
      undone = [];
    } else if (target && row.command === 'undo') {
      done = done.filter((each) => each !== target);
      undone.push(target);
    } else if (target) {
      undone = undone.filter((each) => each !== target);
      done.push(target);
    }
  }
  return { undo: done.at(-1) ?? null, redo: undone.at(-1) ?? null };
}

/**
 * Takes back a change: the newest, or the one numbered `seq`.
 *
 * @throws Fault when there is none, when what it touched was changed since, or when the outside world has seen it
 */
export async function undo(tx: Transaction, envelope: Envelope, seq?: number): Promise<JournalRow> {
  const target =
    seq === undefined ? (await undoStanding(tx, envelope.device)).undo : await tx.journalRow(envelope.device, seq);
  if (!target) throw new Fault('There is nothing to undo.');
  const { outward } = commandNamed(target.command);
  if (outward) throw new Fault(outward, '', { command: target.command });
  if (seq !== undefined && !(await isDone(tx, envelope.device, target)))
    throw new Fault('That has been undone already.');
  const changes = current(target.changes).map(({ table, id, before, after }) => ({
    table,
    id,
    before: after,
    after: before,
  }));
  await checkUnchanged(tx, changes, target.title);
  return commit(tx, envelope, {
    command: 'undo',
    title: `Undone: ${target.title}`,
    input: null,
    of: target.seq,
    changes,
  });
}

/** Repeats the change that was taken back last. */
export async function redo(tx: Transaction, envelope: Envelope): Promise<JournalRow> {
  const target = (await undoStanding(tx, envelope.device)).redo;
  if (!target) throw new Fault('There is nothing to redo.');
  const { title, seq } = target;
  const changes = current(target.changes);
  await checkUnchanged(tx, changes, title);
  return commit(tx, envelope, { command: 'redo', title: `Again: ${title}`, input: null, of: seq, changes });
}

/** Changes of the history with their images in the shape that rows have now. */
const current = (changes: readonly Change[]): Change[] =>
  changes.map((change) => ({
    ...change,
    before: currentImage(change.table as TableName, change.before),
    after: currentImage(change.table as TableName, change.after),
  }));

async function isDone(tx: Transaction, device: Id, target: JournalRow): Promise<boolean> {
  for (const row of await tx.newest(device, UNDO_DEPTH)) {
    if (row.of === target.seq) return row.command === 'redo';
    if (row.seq === target.seq) return true;
  }
  return true;
}

async function checkUnchanged(tx: Transaction, changes: readonly Change[], title: string): Promise<void> {
  for (const [table, ids] of idsByTable(changes)) {
    const rows = await tx.many(table, ids);
    const expected = new Map(changes.filter((each) => each.table === table).map((each) => [each.id, each.before]));
    ids.forEach((id, index) => {
      if (!sameData(rows[index] ?? null, expected.get(id) ?? null)) {
        throw new Fault(`“${title}” cannot be undone: what it touched has been changed since. Nothing was changed.`);
      }
    });
  }
}

function idsByTable(changes: readonly Change[]): Map<TableName, Id[]> {
  const ids = new Map<TableName, Id[]>();
  for (const change of changes) {
    const table = change.table as TableName;
    const list = ids.get(table);
    if (list) list.push(change.id);
    else ids.set(table, [change.id]);
  }
  return ids;
}

async function changesOf(tx: Transaction, plan: Plan): Promise<Change[]> {
  const planned = [...plan.rows.values()].map(
    ({ table, id, after }) => ({ table, id, before: null, after }) as unknown as Change,
  );
  const befores = new Map<string, unknown>();
  for (const [table, ids] of idsByTable(planned)) {
    const rows = await tx.many(table, ids);
    ids.forEach((id, index) => befores.set(`${table} ${id}`, rows[index] ?? null));
  }
  return planned
    .map((change) => ({ ...change, before: befores.get(`${change.table} ${change.id}`) as Change['before'] }))
    .filter((change) => !sameData(change.before, change.after));
}

type Content = Pick<JournalRow, 'command' | 'title' | 'input' | 'of' | 'changes'>;

async function commit(tx: Transaction, envelope: Envelope, content: Content): Promise<JournalRow> {
  await checkInvariants(overlay(tx, content.changes), content.changes);
  const [last] = await tx.newest(envelope.device, 1);
  const row = sealed({
    device: envelope.device,
    seq: (last?.seq ?? 0) + 1,
    at: envelope.now,
    memberId: envelope.memberId,
    ...content,
    previous: last?.hash ?? CHAIN_START,
  });
  if (content.changes.length > 0) await tx.write(content.changes, row);
  return row;
}
