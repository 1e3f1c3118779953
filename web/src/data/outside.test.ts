import 'fake-indexeddb/auto';
import { fault, setUp, TestContext, work, type Studio } from '@half-penny/core/testing';
import type { Id, OutsideList } from '@half-penny/core/model';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WorkspaceDatabase } from './database';
import { DexieExecutor, DexieReader } from './executor';
import { followOnce, readListFile, readService, saveHours, sendHours, UnreadableList } from './outside';
import type { Changes, Session } from './session';
import { makeUnsettled } from './unsettled';

const { saved } = vi.hoisted(() => ({ saved: [] as { text: Promise<string>; name: string }[] }));
vi.mock('./workspaces', () => ({
  save: (blob: Blob, name: string) => void saved.push({ text: blob.text(), name }),
}));

const task = (id: string, more: object = {}) => ({
  ...{ id, project: { id: 'rig', name: 'Winter rig' }, number: id.toUpperCase(), title: `Task ${id}`, assignee: null },
  ...{ state: 'To do', estimate: null, closed: false, address: '', ...more },
});
interface HoursTold {
  id: string;
  revision: number;
  task: string;
  seconds: number;
}

/** A tracker that tells two tasks at once, and takes hours by revision. */
class Tracker {
  changes: ReturnType<typeof task>[] = [];
  hours = new Map<string, HoursTold>();
  /** What the next answers are instead. */
  readonly next: (() => Promise<Response> | Response)[] = [];
  asked = 0;

  readonly fetch = async (path: string, init: RequestInit = {}): Promise<Response> => {
    this.asked++;
    if (path === '/tracker/hours') {
      const { hours } = JSON.parse(init.body as string) as { hours: HoursTold[] };
      const known = (each: HoursTold) => !each.task.startsWith('gone');
      for (const each of hours.filter(known))
        if (each.revision > (this.hours.get(each.id)?.revision ?? 0)) this.hours.set(each.id, each);
      return (
        (await this.next.shift()?.()) ??
        Response.json({
          taken: hours.filter(known).map(({ id }) => id),
          refused: hours.filter((each) => !known(each)).map(({ id }) => ({ id, why: 'There is no such task.' })),
        })
      );
    }
    const instead = this.next.shift();
    if (instead) return instead();
    const after = Number(/after=(\d*)/.exec(path)![1]);
    const tasks = this.changes.slice(after, after + 2);
    const cursor = String(after + tasks.length);
    return Response.json({ tasks, cursor, more: after + tasks.length < this.changes.length });
  };
}

let count = 0;
let session: Session;
let at: Studio;
let tracker: Tracker;
let list: OutsideList;
let test: TestContext;
const signal = new AbortController().signal;
const run = <N extends Parameters<Changes['run']>[0]>(name: N, input: Parameters<Changes['run']>[1]) =>
  session.executor.run(name, input as never);
const readList = async () => (list = (await session.reader.all('outsideLists')).find(({ id }) => id === list.id)!);
const ownTasks = async () => (await session.reader.all('tasks')).map(({ name }) => name).sort();

beforeEach(async () => {
  const database = new WorkspaceDatabase(`outside-${++count}`);
  const reader = new DexieReader(database);
  await makeUnsettled(database, reader);
  test = new TestContext();
  const executor = new DexieExecutor(database, test.context);
  at = await setUp(executor, test);
  const entry = { id: 'w', name: 'Saltmere Lighting' } as Session['entry'];
  session = { entry, database, executor, reader, memberId: at.member, workAs: async () => undefined };
  const row = await executor.run('outside.follow', { name: 'Technical office', kind: 'tasks', via: 'service' });
  list = row.changes[0]!.after as OutsideList;
  tracker = new Tracker();
  tracker.changes = ['a', 'b', 'c', 'd', 'e'].map((id) => task(id));
  vi.stubGlobal('localStorage', { getItem: () => 'abcdefgh' });
  vi.stubGlobal('fetch', tracker.fetch);
});
afterEach(() => {
  vi.unstubAllGlobals();
  saved.length = 0;
  session.database.close();
});

/** Its tasks are on the rig, and a quarter of an hour is recorded on the first. */
async function recorded(): Promise<Id> {
  await readService(session, list, signal);
  const [project] = await session.reader.all('outsideProjects');
  await run('outside.map', { id: project!.id, projectId: at.rig });
  const [first] = await session.reader.all('tasks');
  return (await run('entry.add', work(at.rig, 900, { taskId: first!.id }))).changes[0]!.id;
}

describe('reading a list', () => {
  it('goes on page by page from where it stood, and writes nothing where nothing changed', async () => {
    expect(await readService(session, list, signal)).toBe(5);
    expect(tracker.asked).toBe(3);
    const before = await session.database.journal.count();
    expect(await readService(session, list, signal)).toBe(0);
    expect(await session.database.journal.count()).toBe(before);
    tracker.changes.push(task('a', { title: 'Another' }));
    expect(await readService(session, list, signal)).toBe(1);
  });

  it('keeps what was read before a page that cannot be read, and goes on from there', async () => {
    const page = { tasks: tracker.changes.slice(0, 2), cursor: '2', more: true };
    tracker.next.push(() => Response.json(page));
    tracker.next.push(() => Response.json({ tasks: [{ id: 7 }], cursor: '9', more: false }));
    await expect(readService(session, list, signal)).rejects.toThrow(fault('unreadable'));
    expect(await session.reader.all('outsideTasks')).toHaveLength(2);
    expect(await readService(session, list, signal)).toBe(3);
    tracker.next.push(() => new Response('<html>', { status: 200 }));
    await expect(readService(session, list, signal)).rejects.toThrow('something that cannot be read');
    tracker.next.push(() => Response.json({ message: 'The tracker has a fault of its own.' }, { status: 500 }));
    await expect(readService(session, list, signal)).rejects.toThrow('The tracker has a fault of its own.');
  });
});

describe('sending hours', () => {
  it('writes down what was taken, and counts once what had to go again', async () => {
    const id = await recorded();
    tracker.next.push(() => Response.json({ message: 'The answer was lost.' }, { status: 502 }));
    await expect(sendHours(session, list, signal)).rejects.toThrow('The answer was lost.');
    expect(tracker.hours.get(id)).toMatchObject({ seconds: 900 });
    expect(await sendHours(session, list, signal)).toEqual({ sent: 1, refused: [] });
    expect(await sendHours(session, list, signal)).toEqual({ sent: 0, refused: [] });
    expect([...tracker.hours.values()].map(({ seconds }) => seconds)).toEqual([900]);
  });

  it('tells what was refused, and keeps that to be sent', async () => {
    const id = await recorded();
    const [outside] = await session.reader.all('outsideTasks');
    await session.database.rows('outsideTasks').put({ ...outside!, source: 'gone' });
    const { sent, refused } = await sendHours(session, list, signal);
    expect([sent, refused]).toMatchObject([0, [{ hours: { entryId: id }, why: 'There is no such task.' }]]);
    expect(await session.reader.all('sentHours')).toEqual([]);
  });

  it('happens by itself only where hours go as they are made', async () => {
    await recorded();
    await followOnce(session, [await readList()], signal);
    expect(tracker.hours.size).toBe(0);
    await run('outside.edit', { id: list.id, hours: 'as made' });
    await followOnce(session, [await readList()], signal);
    expect(tracker.hours.size).toBe(1);
  });

  it('reads nothing for somebody who may not set up work, and sends their hours', async () => {
    await recorded();
    await run('outside.edit', { id: list.id, hours: 'as made' });
    const set = (await run('rightSet.add', { name: 'Member', grants: [{ right: 'record own', only: null }] }))
      .changes[0]!;
    const owed = [0, 0, 0, 0, 0, 0, 0];
    const person = { name: 'Asha Quill', role: '', zone: 'UTC', owed, checkerId: null, rightSetId: set.id };
    const asha = (await run('member.add', person)).changes[0]!.id;
    tracker.changes.push(task('f'));
    test.memberId = asha;
    await followOnce({ ...session, memberId: asha }, [await readList()], signal);
    expect(await ownTasks()).not.toContain('F Task f');
    expect(tracker.hours.size).toBe(1);
  });

  it('as a file marks what is in it', async () => {
    await recorded();
    expect(await saveHours(session, list, '2026-11-12')).toBe(1);
    expect(saved[0]!.name).toBe('hours-technical-office-2026-11-12.csv');
    expect(await saved[0]!.text).toMatch(/,a,A Task a,2026-11-12,900,0\.2500,Imogen Vale,Plot sheet 4\r\n/);
    expect(await saveHours(session, list, '2026-11-12')).toBe(0);
    expect(saved).toHaveLength(1);
  });
});

describe('files of a list', () => {
  const changes = { run } as unknown as Changes;
  const file = (name: string, text: string) => new File([text], name);

  it('are taken as a whole, or not at all', async () => {
    await readListFile(changes, list, file('tasks.csv', 'Id,Title\n1,Lamps\n2,Gel\n'));
    expect((await session.reader.all('outsideTasks')).map(({ title }) => title).sort()).toEqual(['Gel', 'Lamps']);
    const broken = readListFile(changes, list, file('tasks.csv', 'Id,Title,Estimate\n1,Lamps,soon\n'));
    await expect(broken).rejects.toMatchObject({
      places: ['Row 2, column C: “soon” is not a number of hours, such as 40 or 12.5.'],
    });
    await expect(readListFile(changes, list, file('tasks.csv', 'Id,"Title\n'))).rejects.toThrow(UnreadableList);
    expect((await session.reader.all('outsideTasks')).every(({ closed }) => !closed)).toBe(true);
    await expect(
      readListFile(changes, { ...list, kind: 'clients' }, file('a.ics', 'BEGIN:VCALENDAR')),
    ).rejects.toMatchObject({
      places: ['A calendar file holds no clients; choose a table.'],
    });
  });
});
