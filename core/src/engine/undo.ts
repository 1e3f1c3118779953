import { Fault } from '../faults/fault';
import { sameData } from '../model/canonical';
import type { Id } from '../model/ids';
import { currentImage } from '../model/migrations';
import { changeOf, type Change, type JournalRow } from '../model/change';
import { rowsBefore } from './changes';
import type { Domain } from './domain';
import { BASE } from './replay';
import type { Transaction } from './store';

// Undo walks a device's history from its newest row back. The newest word on a change counts: taken back, or done again after that.

/** The newest change that can be taken back, and the newest taken back that can be repeated. */
export interface UndoStanding {
  undo: JournalRow | null;
  /** Why the newest change is not undone but reversed by a counter-document; null where it can be undone. */
  outward: string | null;
  redo: JournalRow | null;
}

/** Why a change is not undone; null where it is. */
const outwardOf = ({ catalogue }: Domain, row: JournalRow): string | null =>
  (Object.hasOwn(catalogue, row.command) ? catalogue[row.command]!.outward : undefined) ?? null;

/** Whether nobody pressed anything for it: what somebody did before it is still what they did last. */
const isByItself = ({ catalogue }: Domain, row: JournalRow): boolean =>
  Object.hasOwn(catalogue, row.command) && catalogue[row.command]!.byItself === true;

/** Mostly the newest row is enough; each further look is four times as far. */
const NEAR = 4;

/** What undo and redo would do now; nothing more of the history is read than tells it. */
export async function undoStanding(tx: Transaction, device: Id, domain: Domain): Promise<UndoStanding> {
  for (let count = NEAR; ; count *= 4) {
    const rows = await tx.newest(device, count);
    const { undo, redoOf, sure } = walk(rows, domain);
    if (!sure && rows.length === count) continue;
    const redo = redoOf === null ? undefined : await tx.journalRow(device, redoOf);
    return { undo, outward: undo && outwardOf(domain, undo), redo: redo ?? null };
  }
}

/** Walks rows, newest first. It is sure when it met the change that is undone next, or the beginning of what can be. */
function walk(
  rows: readonly JournalRow[],
  domain: Domain,
): { undo: JournalRow | null; redoOf: number | null; sure: boolean } {
  const isDone = new Map<number, boolean>();
  let redoOf: number | null = null;
  for (const row of rows) {
    if (row.command === BASE) return { undo: null, redoOf, sure: true };
    if (row.of === null) {
      if (!isByItself(domain, row) && (isDone.get(row.seq) ?? true)) return { undo: row, redoOf, sure: true };
      continue;
    }
    if (isDone.has(row.of)) continue;
    isDone.set(row.of, row.command === 'redo');
    if (row.command === 'undo') redoOf ??= row.of;
  }
  return { undo: null, redoOf, sure: false };
}

/** The changes that take a change back, checked to be of what is there now. */
export async function changesBack(
  tx: Transaction,
  device: Id,
  domain: Domain,
  seq?: number,
): Promise<{ row: JournalRow; changes: Change[] }> {
  const row = seq === undefined ? (await undoStanding(tx, device, domain)).undo : await tx.journalRow(device, seq);
  if (!row) throw new Fault('nothing-to-undo', 'There is nothing to undo.');
  const why = outwardOf(domain, row);
  if (why) throw new Fault('outward', why, '', { command: row.command });
  if (seq !== undefined && !(await isDone(tx, device, row)))
    throw new Fault('nothing-to-undo', 'That has been undone already.');
  const changes = current(row.changes).map(({ table, id, before, after }) => changeOf(table, id, after, before));
  await checkUnchanged(tx, changes, row);
  return { row, changes };
}

/** The changes that repeat what was taken back last, checked likewise. */
export async function changesForth(
  tx: Transaction,
  device: Id,
  domain: Domain,
): Promise<{ row: JournalRow; changes: Change[] }> {
  const { redo: row } = await undoStanding(tx, device, domain);
  if (!row) throw new Fault('nothing-to-undo', 'There is nothing to redo.');
  const changes = current(row.changes);
  await checkUnchanged(tx, changes, row);
  return { row, changes };
}

/** Changes of the history with their images in the shape that rows have now. */
const current = (changes: readonly Change[]): Change[] =>
  changes.map(({ table, id, before, after }) =>
    changeOf(table, id, currentImage(table, before), currentImage(table, after)),
  );

async function isDone(tx: Transaction, device: Id, target: JournalRow): Promise<boolean> {
  const [last] = await tx.newest(device, 1);
  const since = await tx.newest(device, (last?.seq ?? target.seq) - target.seq);
  return since.find((row) => row.of === target.seq)?.command !== 'undo';
}

async function checkUnchanged(tx: Transaction, changes: readonly Change[], undone: JournalRow): Promise<void> {
  const now = await rowsBefore(tx, changes);
  const touched = changes.find(({ table, id, before }) => !sameData(now(table, id), before));
  if (!touched) return;
  const since = await tx.lastChange?.(touched.table, touched.id);
  // Of one's own changes one knows; of those of others one is told whose they are.
  const by = since && since.device !== undone.device && since.memberId && (await tx.get('members', since.memberId));
  const why = by ? `${by.name} has changed it since (“${since.title}”)` : 'what it touched has been changed since';
  throw new Fault('changed-since', `“${undone.title}” cannot be undone: ${why}. Nothing was changed.`, '', {
    ...(by && { member: by.name }),
  });
}
