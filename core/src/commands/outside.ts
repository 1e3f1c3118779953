import * as z from 'zod';
import { command, defined, need, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { clientDefaults, taskDefaults } from '../model/defaults';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import * as R from '../model/records';
import { followed, hoursToSend, taskNameOf, toldClientSchema, toldTaskSchema, type HoursBack } from '../outside';
import { dayOf } from '../time/day';
import type { ToldClient, ToldTask } from '../outside';

// Lists that others keep and the studio follows. What a reading tells is held against what was told last: only what is different there
// changes anything here, so that what somebody set otherwise meanwhile stays.

const MOST = 50_000;

const listFields = z.strictObject(R.outsideListSchema.shape);

/** A list from elsewhere is followed from now on. */
export const followList = command({
  name: 'outside.follow',
  title: 'List followed',
  input: listFields.pick({ name: true, kind: true, via: true }).extend({ id: fields.id.optional() }),
  async plan(reader, { id, ...input }, { newId, now }) {
    const { zone } = await need(reader, 'workspace', R.WORKSPACE_ID, 'studio');
    await refuseSameName(reader, input.name, null);
    return new Plan().put('outsideLists', {
      ...input,
      id: id ?? newId(),
      hours: 'never',
      hoursSince: dayOf(now, zone),
    });
  },
});

/** What a list is called, and whether and since when hours go back to it. */
export const editList = command({
  name: 'outside.edit',
  title: 'List changed',
  input: listFields.pick({ name: true, hours: true, hoursSince: true }).partial().extend({ id: fields.id }),
  async plan(reader, input) {
    const before = await need(reader, 'outsideLists', input.id, 'list');
    if (input.name !== undefined) await refuseSameName(reader, input.name, input.id);
    return new Plan().put('outsideLists', { ...before, ...defined(input) });
  },
});

async function refuseSameName(reader: Reader, name: string, besides: Id | null): Promise<void> {
  const wanted = name.trim().toLowerCase();
  if (
    (await reader.all('outsideLists')).some((list) => list.id !== besides && list.name.trim().toLowerCase() === wanted)
  )
    throw new Fault('name-taken', `There is a list called ${name.trim()} already.`, 'name');
}

/** How far a list was read, and when; undefined before the first time. Apart from the list, so that what is set there can be undone. */
export const feedOf = async (reader: Reader, listId: Id): Promise<R.Feed | undefined> =>
  (await reader.all('feeds')).find((row) => row.name === listId);

/** A list is followed no more. Tasks and clients that followed it stay as they are. */
export const leaveList = command({
  name: 'outside.leave',
  title: 'List not followed any more',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }) {
    const plan = new Plan().remove('outsideLists', (await need(reader, 'outsideLists', id, 'list')).id);
    for (const table of ['outsideTasks', 'outsideProjects', 'outsideClients', 'sentHours'] as const)
      for (const row of await reader.by(table, 'listId', [id])) plan.remove(table, row.id);
    const feed = await feedOf(reader, id);
    return feed ? plan.remove('feeds', feed.id) : plan;
  },
});

const readingSchema = z.strictObject({
  listId: fields.id,
  tasks: z.array(toldTaskSchema).max(MOST),
  clients: z.array(toldClientSchema).max(MOST),
});
type Reading = z.output<typeof readingSchema>;

function sayRead({ tasks, clients }: { tasks: unknown[]; clients: unknown[] }): string {
  const count = tasks.length + clients.length;
  const [one, many] = clients.length > 0 ? ['client', 'clients'] : ['task', 'tasks'];
  return `${count} ${count === 1 ? one : many} read from elsewhere`;
}

/** A file of a list, which tells all there is: what was told before and is not in it is closed, or gone. */
export const takeOutside = command({
  name: 'outside.take',
  title: sayRead,
  input: readingSchema,
  plan: (reader, input, context) => planReading(reader, input, context, null),
});

/** What changed since a service was read last. */
export const hearOutside = command({
  name: 'outside.heard',
  title: sayRead,
  byItself: true,
  input: readingSchema.extend({
    /** How far the service was read with this. */
    cursor: R.feedSchema.shape.cursor,
  }),
  plan: (reader, { cursor, ...input }, context) => planReading(reader, input, context, cursor),
});

async function planReading(
  reader: Reader,
  input: Reading,
  context: CommandContext,
  cursor: string | null,
): Promise<Plan> {
  const list = await need(reader, 'outsideLists', input.listId, 'list');
  const wrong = list.kind === 'tasks' ? input.clients.length : input.tasks.length;
  if (wrong > 0) throw new Fault('other-file', `${list.name} is a list of ${list.kind}, and this is not.`, 'listId');
  const plan = new Plan();
  const whole = cursor === null;
  if (list.kind === 'tasks') await new TasksFollowed(reader, plan, list, context).take(input.tasks, whole);
  else await takeClients(reader, plan, list, input.clients, { ...context, whole });
  const feed = await feedOf(reader, list.id);
  return plan.put('feeds', {
    id: feed?.id ?? context.newId(),
    name: list.id,
    cursor: cursor ?? '',
    readAt: context.now,
  });
}

/** Says once which project of the studio a project of a list is: its open tasks become tasks there. */
export const mapOutside = command({
  name: 'outside.map',
  title: ({ projectId }: { projectId: Id | null }) =>
    projectId ? 'Outside project mapped' : 'Outside project not mapped',
  input: z.strictObject({ id: fields.id, projectId: fields.id.nullable() }),
  async plan(reader, { id, projectId }, context) {
    const before = await need(reader, 'outsideProjects', id, 'outside project');
    if (projectId !== null) await need(reader, 'projects', projectId, 'project');
    const plan = new Plan().put('outsideProjects', { ...before, projectId });
    if (projectId === null) return plan;
    const list = await need(reader, 'outsideLists', before.listId, 'list');
    const rows = await reader.by('outsideTasks', 'outsideProjectId', [id]);
    await new TasksFollowed(reader, plan, list, context).place(rows, projectId);
    return plan;
  },
});

/** Makes the studio's tasks follow those of a list. */
class TasksFollowed {
  readonly #reader: Reader;
  readonly #plan: Plan;
  readonly #list: R.OutsideList;
  readonly #context: CommandContext;
  /** Stages of the studio by their names, for states that are called the same. */
  #stages = new Map<string, Id>();
  /** Of each project, its tasks by name, with those that are planned. */
  readonly #there = new Map<Id, { byName: Map<string, R.Task>; order: number }>();

  constructor(reader: Reader, plan: Plan, list: R.OutsideList, context: CommandContext) {
    this.#reader = reader;
    this.#plan = plan;
    this.#list = list;
    this.#context = context;
  }

  async take(told: readonly ToldTask[], whole: boolean): Promise<void> {
    await this.#readStages();
    const listId = this.#list.id;
    const known = new Map((await this.#reader.by('outsideTasks', 'listId', [listId])).map((row) => [row.source, row]));
    const projects = new Map(
      (await this.#reader.by('outsideProjects', 'listId', [listId])).map((row) => [row.source, row]),
    );
    // The last word on a task counts.
    const last = new Map(told.map((each) => [each.source, each]));
    const followers = await this.#followersOf([...known.values()]);
    const fresh = new Map<Id, R.OutsideTask[]>();
    for (const { project, ...fields } of last.values()) {
      const of = this.#projectOf(projects, project);
      const before = known.get(fields.source);
      const row = { ...before, ...fields, listId, outsideProjectId: of.id };
      if (before && same(before, row)) continue;
      const after: R.OutsideTask = {
        ...row,
        id: before?.id ?? this.#context.newId(),
        changedAt: this.#context.now,
        taskId: before?.taskId ?? null,
      };
      const own = after.taskId === null ? undefined : followers.get(after.taskId);
      if (own) this.#follow(own, before!, after);
      else if (of.projectId !== null) fresh.set(of.projectId, [...(fresh.get(of.projectId) ?? []), after]);
      this.#plan.put('outsideTasks', after);
    }
    if (whole)
      this.#close(
        [...known.values()].filter((row) => !last.has(row.source) && !row.closed),
        followers,
      );
    for (const [projectId, rows] of fresh) await this.place(rows, projectId);
  }

  /** Makes tasks of a project of those that are open and followed by none; one that is there by the same name follows from now on. */
  async place(rows: readonly R.OutsideTask[], projectId: Id): Promise<void> {
    if (!(await this.#reader.get('projects', projectId))) return;
    if (this.#stages.size === 0) await this.#readStages();
    const followers = await this.#followersOf(rows);
    const there = await this.#tasksOf(projectId);
    for (const row of rows) {
      if (row.closed || (row.taskId !== null && followers.has(row.taskId))) continue;
      const name = taskNameOf(row);
      const known = there.byName.get(key(name)) ?? there.byName.get(key(row.title));
      const task: R.Task = known
        ? { ...known, estimate: known.estimate ?? row.estimate, finished: false }
        : {
            ...taskDefaults,
            id: this.#context.newId(),
            projectId,
            name,
            order: there.order++,
            estimate: row.estimate,
            stageId: this.#stageOf(row.state),
          };
      // Another task of the same name does not follow with it.
      there.byName.delete(key(task.name));
      this.#plan.put('tasks', task);
      this.#plan.put('outsideTasks', { ...row, taskId: task.id });
    }
  }

  #follow(own: R.Task, before: R.OutsideTask, after: R.OutsideTask): void {
    const task: R.Task = {
      ...own,
      name: followed(own.name, taskNameOf(before), taskNameOf(after)),
      estimate: followed(own.estimate, before.estimate, after.estimate),
      stageId: followed(own.stageId, this.#stageOf(before.state), this.#stageOf(after.state)),
      finished: before.closed === after.closed ? own.finished : after.closed,
    };
    this.#plan.put('tasks', task);
  }

  #close(rows: readonly R.OutsideTask[], followers: ReadonlyMap<Id, R.Task>): void {
    for (const row of rows) {
      this.#plan.put('outsideTasks', { ...row, closed: true, changedAt: this.#context.now });
      const own = row.taskId === null ? undefined : followers.get(row.taskId);
      if (own) this.#plan.put('tasks', { ...own, finished: true });
    }
  }

  #projectOf(known: Map<string, R.OutsideProject>, { source, name }: ToldTask['project']): R.OutsideProject {
    const before = known.get(source);
    if (before && before.name === name) return before;
    const row = {
      ...(before ?? { id: this.#context.newId(), listId: this.#list.id, source, projectId: null }),
      name,
    };
    known.set(source, row);
    this.#plan.put('outsideProjects', row);
    return row;
  }

  async #readStages(): Promise<void> {
    this.#stages = new Map((await this.#reader.all('stages')).map((row) => [key(row.name), row.id]));
  }

  #stageOf(state: string): Id | null {
    return this.#stages.get(key(state)) ?? null;
  }

  async #followersOf(rows: readonly R.OutsideTask[]): Promise<Map<Id, R.Task>> {
    const ids = rows.flatMap((row) => row.taskId ?? []);
    const tasks = await this.#reader.many('tasks', [...new Set(ids)]);
    return new Map(tasks.flatMap((task) => (task ? [[task.id, task] as const] : [])));
  }

  async #tasksOf(projectId: Id) {
    let there = this.#there.get(projectId);
    if (!there) {
      const rows = await this.#reader.by('tasks', 'projectId', [projectId]);
      const following = new Set(
        (
          await this.#reader.by(
            'outsideTasks',
            'taskId',
            rows.map((row) => row.id),
          )
        ).map((row) => row.taskId),
      );
      const free = rows.filter((row) => !following.has(row.id));
      there = {
        byName: new Map(free.map((row) => [key(row.name), row])),
        order: rows.reduce((highest, row) => Math.max(highest, row.order + 1), 0),
      };
      this.#there.set(projectId, there);
    }
    return there;
  }
}

const key = (text: string): string => text.trim().toLowerCase();

const toldFields = [
  'number',
  'title',
  'assignee',
  'state',
  'estimate',
  'closed',
  'address',
  'outsideProjectId',
] as const;
const same = (a: R.OutsideTask, b: Pick<R.OutsideTask, (typeof toldFields)[number]>): boolean =>
  toldFields.every((field) => a[field] === b[field]);

async function takeClients(
  reader: Reader,
  plan: Plan,
  list: R.OutsideList,
  told: readonly ToldClient[],
  { newId, whole }: CommandContext & { whole: boolean },
): Promise<void> {
  const { currency } = await need(reader, 'workspace', R.WORKSPACE_ID, 'studio');
  const [tax] = await reader.all('taxes');
  const rows = await reader.by('outsideClients', 'listId', [list.id]);
  const known = new Map(rows.map((row) => [row.source, row]));
  const clients = new Map((await reader.all('clients')).map((row) => [row.id, row]));
  const following = new Set(rows.map((row) => row.clientId));
  const byName = new Map(
    [...clients.values()].filter(({ id }) => !following.has(id)).map((row) => [key(row.name), row]),
  );
  const last = new Map(told.map((each) => [each.source, each]));
  const gone = whole ? rows.filter((row) => !last.has(row.source) && !row.gone) : [];
  for (const each of [...last.values(), ...gone.map((row) => ({ ...row, gone: true }))]) {
    const before = known.get(each.source);
    const own = before && clients.get(before.clientId);
    // One that was deleted here, or never was here, does not come in order to go.
    if (!own && each.gone) continue;
    const there = own ?? byName.get(key(each.name));
    const client = there ?? {
      ...{ ...clientDefaults, id: newId(), currency, taxId: tax?.id ?? null, termsDays: null, archived: false },
      ...{ name: each.name, address: each.address, email: each.email, taxNumber: each.taxNumber },
    };
    byName.delete(key(each.name));
    const base = before ?? { ...each, address: '', email: '', taxNumber: '', gone: false };
    plan.put('clients', {
      ...client,
      name: followed(client.name, base.name, each.name),
      address: followed(client.address, base.address, each.address),
      email: followed(client.email, base.email, each.email),
      taxNumber: followed(client.taxNumber, base.taxNumber, each.taxNumber),
      archived: base.gone === each.gone ? client.archived : each.gone,
    });
    plan.put('outsideClients', { ...each, id: before?.id ?? newId(), listId: list.id, clientId: client.id });
  }
}

/**
 * What is to go back to a list now, read from the records.
 *
 * @throws Fault when there is no such list
 */
export async function readHoursToSend(reader: Reader, listId: Id, now: number): Promise<HoursBack[]> {
  const list = await need(reader, 'outsideLists', listId, 'list');
  const tasks = await reader.by('outsideTasks', 'listId', [listId]);
  const sent = await reader.by('sentHours', 'listId', [listId]);
  const onTasks = await reader.by('entries', 'taskId', [...new Set(tasks.flatMap((row) => row.taskId ?? []))]);
  const members = new Map((await reader.all('members')).map((row) => [row.id, row.name]));
  return hoursToSend({ list, tasks, entries: onTasks, sent, nameOf: (id) => members.get(id) ?? '' }, now);
}

/** Writes down what went back, so that it does not go again. */
export const tellSent = command({
  name: 'outside.sent',
  title: ({ hours }: { hours: unknown[] }) =>
    `Hours of ${hours.length} ${hours.length === 1 ? 'entry' : 'entries'} sent`,
  outward: 'The hours are there now. Change the entry: the difference goes there as well.',
  byItself: true,
  input: z.strictObject({
    listId: fields.id,
    hours: z
      .array(
        R.sentHoursSchema.pick({
          entryId: true,
          source: true,
          revision: true,
          day: true,
          seconds: true,
          member: true,
          note: true,
        }),
      )
      .min(1)
      .max(MOST),
  }),
  async plan(reader, { listId, hours }, { newId, now }) {
    await need(reader, 'outsideLists', listId, 'list');
    const before = new Map((await reader.by('sentHours', 'listId', [listId])).map((row) => [row.entryId, row]));
    const plan = new Plan();
    for (const each of hours) {
      const last = before.get(each.entryId);
      if (last && last.revision >= each.revision) continue;
      plan.put('sentHours', { ...each, id: last?.id ?? newId(), listId, at: now });
    }
    return plan;
  },
});
