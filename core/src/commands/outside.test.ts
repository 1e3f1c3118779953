import { beforeEach, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import type { ToldClient, ToldTask } from '../outside';
import { fault } from '../testing/fault';
import { freshStudio, work } from '../testing/studio';
import { checkWorkspace } from './check-workspace';
import { readHoursToSend } from './outside';

let { store, test, executor, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
let list: Id;
beforeEach(async () => {
  ({ store, test, executor, at, run, added } = await freshStudio());
  list = await added('outside.follow', { name: 'Technical office', kind: 'tasks', via: 'service' });
});

const task = (source: string, more: Partial<ToldTask> = {}): ToldTask => ({
  source,
  project: { source: 'rig', name: 'Winter rig' },
  number: source.toUpperCase(),
  title: `Task ${source}`,
  assignee: '',
  state: 'To do',
  estimate: null,
  closed: false,
  address: '',
  ...more,
});
const take = (tasks: ToldTask[], cursor = '') => run('outside.heard', { listId: list, tasks, clients: [], cursor });
const takeAll = (tasks: ToldTask[]) => run('outside.take', { listId: list, tasks, clients: [] });
const projectOf = (name = 'Winter rig') => store.rows('outsideProjects').find((row) => row.name === name)!;
const map = (projectId: Id | null) => run('outside.map', { id: projectOf().id, projectId });
const own = () => store.rows('tasks').map(({ name, estimate, finished }) => [name, estimate, finished]);
const named = (name: string) => store.rows('tasks').find((row) => row.name === name)!;

describe('tasks from elsewhere', () => {
  it('become tasks once their project is mapped, and follow in name, estimate, state and closing', async () => {
    const stage = await added('stage.add', { name: 'In progress', order: 0, finished: false });
    await take([task('qp-1', { estimate: 7200 }), task('qp-2', { closed: true })], 'c1');
    expect(own()).toEqual([]);
    await map(at.rig);
    // What was closed before is not set up.
    expect(own()).toEqual([['QP-1 Task qp-1', 7200, false]]);
    expect(named('QP-1 Task qp-1').projectId).toBe(at.rig);
    await take([task('qp-1', { title: 'Refocus', estimate: 3600, state: 'in progress' }), task('qp-3')], 'c2');
    expect(own()).toEqual([
      ['QP-1 Refocus', 3600, false],
      ['QP-3 Task qp-3', null, false],
    ]);
    expect(named('QP-1 Refocus').stageId).toBe(stage);
    await take([task('qp-1', { title: 'Refocus', closed: true, state: 'Done' })], 'c3');
    expect(named('QP-1 Refocus')).toMatchObject({ finished: true, stageId: null, estimate: null });
    await take([task('qp-1', { title: 'Refocus', state: 'To do' })], 'c3');
    expect(named('QP-1 Refocus').finished).toBe(false);
    expect(store.rows('feeds')).toMatchObject([{ name: list, cursor: 'c3', readAt: test.now }]);
    expect(await checkWorkspace(store)).toEqual([]);
  });

  it('leave alone what the studio set otherwise, and change nothing where nothing changed', async () => {
    await take([task('qp-1', { estimate: 7200 })]);
    await map(at.rig);
    const { id } = store.rows('tasks')[0]!;
    await run('task.edit', { id, name: 'Bridge', estimate: 900, finished: true });
    await take([task('qp-1', { estimate: 10_800, title: 'Other', assignee: 'Asha Quill' })]);
    expect(own()).toEqual([['Bridge', 900, true]]);
    expect(store.rows('outsideTasks')[0]).toMatchObject({ title: 'Other', assignee: 'Asha Quill', estimate: 10_800 });
    test.wait(1);
    const row = await take([task('qp-1', { estimate: 10_800, title: 'Other', assignee: 'Asha Quill' })]);
    expect(row.changes.map((change) => change.table)).toEqual(['feeds']);
  });

  it('follow a task that is there by the same name instead of making a second', async () => {
    const id = await added('task.add', { projectId: at.rig, name: 'task QP-1', estimate: 60 });
    await take([task('qp-1', { estimate: 7200 })]);
    await map(at.rig);
    expect(own()).toEqual([['task QP-1', 60, false]]);
    expect(store.rows('outsideTasks')[0]!.taskId).toBe(id);
  });

  it('are closed where a file that tells everything does not tell them', async () => {
    await take([task('a'), task('b')]);
    await map(at.rig);
    await takeAll([task('b')]);
    expect(own()).toEqual([
      ['A Task a', null, true],
      ['B Task b', null, false],
    ]);
    expect(store.rows('outsideTasks').map((row) => row.closed)).toEqual([true, false]);
  });

  it('come again when they change after their task was deleted, and stay where their list is left', async () => {
    await take([task('a'), task('b')]);
    await map(at.rig);
    await run('task.remove', { id: named('A Task a').id });
    await take([task('a')]);
    expect(own()).toEqual([['B Task b', null, false]]);
    await take([task('a', { title: 'Again' })]);
    expect(own()).toHaveLength(2);
    await run('outside.leave', { id: list });
    expect(own()).toHaveLength(2);
    expect([store.rows('outsideTasks'), store.rows('outsideProjects'), store.rows('feeds')]).toEqual([[], [], []]);
  });

  it('are undone as one reading', async () => {
    await take([task('a')]);
    await map(at.rig);
    const row = await takeAll([task('a', { title: 'Later' }), task('b')]);
    await executor.undo(row.seq);
    expect(own()).toEqual([['A Task a', null, false]]);
  });

  it('do not stand between somebody and what they did last', async () => {
    await run('client.edit', { id: at.playhouse, email: 'box@playhouse.example' });
    await take([task('a')]);
    await map(at.rig);
    await take([task('b')]);
    expect(await executor.undo()).toMatchObject({ title: 'Undone: Outside project mapped' });
    await executor.undo();
    expect((await store.get('clients', at.playhouse))!.email).toBe('');
    await take([task('b')]);
    expect(await executor.redo()).toMatchObject({ title: 'Again: Client changed' });
  });

  it('are refused for a list of clients, under a name that is taken, and on a project that is gone', async () => {
    const clients = await added('outside.follow', { name: 'Addresses', kind: 'clients', via: 'file' });
    await expect(run('outside.take', { listId: clients, tasks: [task('a')], clients: [] })).rejects.toThrow(
      'Addresses is a list of clients, and this is not.',
    );
    await expect(run('outside.follow', { name: 'addresses ', kind: 'tasks', via: 'file' })).rejects.toThrow(
      fault('name-taken'),
    );
    await take([task('a')]);
    await expect(map(clients)).rejects.toThrow(fault('gone'));
    await expect(run('outside.edit', { id: clients, hours: 'as made' })).rejects.toThrow('not to one of clients');
  });
});

describe('hours that go back', () => {
  const due = async () =>
    (await readHoursToSend(store, list, test.now)).map(({ source, seconds, day, before }) => [
      source,
      seconds,
      day,
      before?.seconds ?? null,
    ]);
  const send = async () => {
    const hours = await readHoursToSend(store, list, test.now);
    await run('outside.sent', {
      listId: list,
      hours: hours.map(({ task: _task, before: _before, ...each }) => each),
    });
    return hours;
  };
  let entry: Id;
  beforeEach(async () => {
    await take([task('a'), task('b')]);
    await map(at.rig);
    entry = await added('entry.add', { ...work(at.rig, 600), taskId: named('A Task a').id });
    await added('entry.add', work(at.rig, 1200));
  });

  it('are those on tasks of the list since a day, once', async () => {
    expect(await due()).toEqual([['a', 600, '2026-11-12', null]]);
    await run('outside.edit', { id: list, hours: 'when asked', hoursSince: '2026-11-13' });
    expect(await due()).toEqual([]);
    await run('outside.edit', { id: list, hoursSince: '2026-11-12' });
    await send();
    expect(await due()).toEqual([]);
  });

  it('go again as a higher revision where they changed, moved to another task or were deleted', async () => {
    const [first] = await send();
    await run('entry.edit', { id: entry, seconds: 900 });
    expect(await due()).toEqual([['a', 900, '2026-11-12', 600]]);
    // Two in the same millisecond are told apart, too.
    const [second] = await send();
    expect(second!.revision).toBeGreaterThan(first!.revision);
    await run('entry.edit', { id: entry, taskId: named('B Task b').id });
    expect(await due()).toEqual([['b', 900, '2026-11-12', 900]]);
    await send();
    await run('entry.edit', { id: entry, taskId: null });
    expect(await due()).toEqual([['b', 0, '2026-11-12', 900]]);
    await send();
    expect(await due()).toEqual([]);
    await run('entry.edit', { id: entry, taskId: named('A Task a').id });
    await send();
    await run('entry.remove', { ids: [entry] });
    expect(await due()).toEqual([['a', 0, '2026-11-12', 900]]);
    await send();
    expect(await due()).toEqual([]);
    expect(store.rows('sentHours')).toHaveLength(1);
  });

  it('are not written down as older than they are, and never undone', async () => {
    const [hours] = await send();
    const { task: _task, before: _before, ...told } = hours!;
    await run('entry.edit', { id: entry, seconds: 900 });
    await send();
    await run('outside.sent', { listId: list, hours: [told] });
    expect(store.rows('sentHours')[0]!.seconds).toBe(900);
    const row = await run('outside.sent', { listId: list, hours: [{ ...told, revision: told.revision + 99 }] });
    await expect(executor.undo(row.seq)).rejects.toThrow(fault('outward'));
  });
});

describe('clients from elsewhere', () => {
  const client = (source: string, more: Partial<ToldClient> = {}): ToldClient => ({
    source,
    name: `Client ${source}`,
    address: '',
    email: '',
    taxNumber: '',
    gone: false,
    ...more,
  });
  let addresses: Id;
  const takeClients = (clients: ToldClient[]) =>
    run('outside.heard', { listId: addresses, tasks: [], clients, cursor: '' });
  const clientNamed = (name: string) => store.rows('clients').find((row) => row.name === name);
  beforeEach(async () => {
    addresses = await added('outside.follow', { name: 'Addresses', kind: 'clients', via: 'service' });
  });

  it('are set up, follow, and are archived where they go', async () => {
    await takeClients([
      client('1', { address: 'Harbour Road', email: 'a@one.example', taxNumber: 'GB1' }),
      client('2'),
    ]);
    expect(clientNamed('Client 1')).toMatchObject({
      ...{ address: 'Harbour Road', email: 'a@one.example', taxNumber: 'GB1', currency: 'GBP', taxId: at.tax },
    });
    await run('client.edit', { id: clientNamed('Client 1')!.id, email: 'accounts@one.example' });
    await takeClients([client('1', { name: 'One', address: 'Quay 2', email: 'b@one.example', taxNumber: 'GB1' })]);
    expect(clientNamed('One')).toMatchObject({ address: 'Quay 2', email: 'accounts@one.example' });
    await takeClients([client('2', { gone: true }), client('3', { gone: true })]);
    expect(clientNamed('Client 2')).toMatchObject({ archived: true });
    expect(clientNamed('Client 3')).toBeUndefined();
    await run('outside.take', { listId: addresses, tasks: [], clients: [client('2')] });
    expect([clientNamed('Client 2')!.archived, clientNamed('One')!.archived]).toEqual([false, true]);
  });

  it('follow one that is there by the same name, without taking what it has', async () => {
    await run('client.edit', { id: at.playhouse, email: 'box@playhouse.example' });
    const before = store.rows('clients').length;
    await takeClients([client('7', { name: 'quayside PLAYHOUSE', address: 'Elsewhere', email: 'x@y.example' })]);
    expect(store.rows('clients')).toHaveLength(before);
    expect(await store.get('clients', at.playhouse)).toMatchObject({
      ...{ name: 'Quayside Playhouse', address: 'Saltmere', email: 'box@playhouse.example', archived: false },
    });
    await takeClients([client('7', { name: 'Quayside Playhouse Ltd', address: 'Elsewhere', email: 'x@y.example' })]);
    expect((await store.get('clients', at.playhouse))!.name).toBe('Quayside Playhouse');
  });
});
