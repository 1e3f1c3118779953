import { mayBegin, readHoursToSend } from '@half-penny/core/commands';
import { Fault, type Id, type OutsideList } from '@half-penny/core/model';
import type { HoursBack } from '@half-penny/core/outside';
import {
  hoursMessage,
  readClientPage,
  readClientTable,
  readHoursTaken,
  readTaskPage,
  readTaskTable,
  readTodos,
  writeHoursBack,
} from '@half-penny/formats/outside';
import { readTable, TableError } from '@half-penny/formats/hours';
import { rightsOf } from '@half-penny/core/rights';
import type { Changes, Session } from './session';
import { askServer } from './server';
import { save } from './workspaces';

// Lists from elsewhere, as the simulated tracker of the local server tells them or as files do.

/** Longer than a slow answer, shorter than anybody's patience. */
const PATIENCE = 20_000;
const AT_ONCE = 500;

const within = (signal: AbortSignal): AbortSignal => AbortSignal.any([signal, AbortSignal.timeout(PATIENCE)]);

async function ask(path: string, signal: AbortSignal, init: RequestInit = {}): Promise<unknown> {
  let answer: Response;
  try {
    answer = await askServer(path, { ...init, signal: within(signal) });
  } catch (thrown) {
    if (thrown instanceof DOMException && thrown.name === 'TimeoutError')
      throw new Fault('too-late', 'The tracker did not answer in time.');
    throw thrown;
  }
  try {
    return await answer.json();
  } catch {
    throw new Fault('unreadable', 'The tracker answered something that cannot be read.');
  }
}

/**
 * Reads what changed of a list since it was read last, page by page: what was read stays, whatever comes after.
 *
 * @returns how many tasks or clients were told
 * @throws Error in words when the tracker does not answer, or not as it should
 */
export async function readService(session: Session, list: OutsideList, signal: AbortSignal): Promise<number> {
  const { reader, executor } = session;
  const feed = (await reader.all('feeds')).find((row) => row.name === list.id);
  let cursor = feed?.cursor ?? '';
  let read = 0;
  for (let more = true; more;) {
    const answer = await ask(`/tracker/${list.kind}?after=${encodeURIComponent(cursor)}`, signal);
    const tasks = list.kind === 'tasks' ? readTaskPage(answer) : null;
    const clients = list.kind === 'clients' ? readClientPage(answer) : null;
    const page = tasks ?? clients!;
    if (page.told.length > 0 || page.cursor !== cursor) {
      const told = { tasks: tasks?.told ?? [], clients: clients?.told ?? [] };
      await executor.run('outside.heard', { listId: list.id, ...told, cursor: page.cursor });
    }
    read += page.told.length;
    more = page.more && page.cursor !== cursor;
    cursor = page.cursor;
  }
  return read;
}

/** What of a file cannot be read, each with its place. */
export class UnreadableList extends Error {
  override name = 'UnreadableList';
  readonly places: readonly string[];
  constructor(places: readonly string[]) {
    super('This file cannot be read. Nothing was changed.');
    this.places = places;
  }
}

/**
 * Reads a file of a list: VTODO of RFC 5545, or a table. It tells all there is.
 *
 * @throws UnreadableList where any of it cannot be read: nothing is taken then
 */
export async function readListFile({ run }: Changes, list: OutsideList, file: File): Promise<void> {
  const told = { tasks: [], clients: [], listId: list.id };
  const text = /\.(?:ics|ical|ifb)$/i.test(file.name) ? await file.text() : null;
  if (text !== null) {
    if (list.kind === 'clients') throw new UnreadableList(['A calendar file holds no clients; choose a table.']);
    const { tasks, faults } = readTodos(text);
    refuse(faults.map(({ line, column, message }) => `Line ${line}, column ${column}: ${message}`));
    await run('outside.take', { ...told, tasks });
    return;
  }
  const table = await readTable(file).catch((thrown: unknown) => {
    if (thrown instanceof TableError) refuse(thrown.faults.map(sayPlace));
    throw thrown;
  });
  if (list.kind === 'tasks') {
    const { told: tasks, faults } = readTaskTable(table);
    refuse(faults.map(sayPlace));
    await run('outside.take', { ...told, tasks });
  } else {
    const { told: clients, faults } = readClientTable(table);
    refuse(faults.map(sayPlace));
    await run('outside.take', { ...told, clients });
  }
}

const sayPlace = ({ row, column, message }: { row: number; column: string; message: string }): string =>
  `Row ${row}${column && `, column ${column}`}: ${message}`;

function refuse(places: readonly string[]): void {
  if (places.length > 0) throw new UnreadableList(places);
}

/** What is to go back to a list now. */
export const hoursDue = ({ database, reader }: Session, listId: Id): Promise<HoursBack[]> =>
  database.transaction('r', database.tables, () => readHoursToSend(reader, listId, Date.now()));

const written = ({ executor }: Session, listId: Id, hours: readonly HoursBack[]) =>
  executor.run('outside.sent', { listId, hours: hours.map(({ task: _task, before: _before, ...each }) => each) });

/** What became of hours that were sent. */
export interface HoursSent {
  sent: number;
  refused: { hours: HoursBack; why: string }[];
}

/**
 * Sends the hours that are due to the tracker. What it took is written down at once; where its answer is lost they go again, and count
 * there once, by their ids and revisions.
 *
 * @throws Error in words when the tracker does not answer, or not as it should
 */
export async function sendHours(session: Session, list: OutsideList, signal: AbortSignal): Promise<HoursSent> {
  const due = await hoursDue(session, list.id);
  const sent: HoursSent = { sent: 0, refused: [] };
  for (let at = 0; at < due.length; at += AT_ONCE) {
    const part = due.slice(at, at + AT_ONCE);
    const { taken, refused } = readHoursTaken(
      await ask('/tracker/hours', signal, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(hoursMessage(part)),
      }),
    );
    const took = part.filter((each) => taken.has(each.entryId));
    if (took.length > 0) await written(session, list.id, took);
    sent.sent += took.length;
    for (const { id, why } of refused) {
      const hours = part.find((each) => each.entryId === id);
      if (hours) sent.refused.push({ hours, why });
    }
  }
  return sent;
}

/** Hands the hours that are due to the person as a file; they count as sent from then on. @returns how many those were */
export async function saveHours(session: Session, list: OutsideList, today: string): Promise<number> {
  const due = await hoursDue(session, list.id);
  if (due.length === 0) return 0;
  saveTable(due, list, today);
  await written(session, list.id, due);
  return due.length;
}

/** All hours that were sent to a list so far as a file, as they were sent last: for when an earlier one was lost. */
export async function saveSentHours({ reader }: Session, list: OutsideList, today: string): Promise<void> {
  const titles = new Map((await reader.by('outsideTasks', 'listId', [list.id])).map((row) => [row.source, row.title]));
  const sent = await reader.by('sentHours', 'listId', [list.id]);
  const hours = sent.map((row): HoursBack => ({ ...row, task: titles.get(row.source) ?? '', before: row }));
  saveTable(
    hours.sort((a, b) => (a.day < b.day ? -1 : 1)),
    list,
    today,
  );
}

function saveTable(hours: readonly HoursBack[], list: OutsideList, today: string): void {
  const name = list.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-');
  save(new Blob([`\ufeff${writeHoursBack(hours)}`], { type: 'text/csv;charset=utf-8' }), `hours-${name}-${today}.csv`);
}

/** Reads every list that a service tells, and sends what goes as it is made; one that cannot be had keeps no other from it. */
export async function followOnce(session: Session, lists: readonly OutsideList[], signal: AbortSignal): Promise<void> {
  const reads = await mayRead(session);
  for (const list of lists) {
    if (reads) await readService(session, list, signal).catch(() => undefined);
    if (list.hours === 'as made') await sendHours(session, list, signal).catch(() => undefined);
  }
}

async function mayRead({ reader, memberId }: Session): Promise<boolean> {
  const member = memberId === null ? undefined : await reader.get('members', memberId);
  return !member || mayBegin(rightsOf(member, await reader.all('rightSets')), 'outside.heard');
}
