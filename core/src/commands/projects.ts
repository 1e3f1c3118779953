import * as z from 'zod';
import { projectDefaults, rateDefaults, taskDefaults } from '../model/defaults';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import * as R from '../model/records';
import { WorkTree } from '../rates/tree';
import { command, defined, need, Plan, needAll } from '../engine/command';
import { plainCommands } from '../engine/crud';
import type { Reader } from '../engine/store';

const projectFields = z.strictObject(R.projectSchema.shape);
const plainProjects = plainCommands('projects', 'project', 'Project', projectFields, projectDefaults);

const readTree = async (reader: Reader): Promise<WorkTree> => new WorkTree(await reader.all('projects'), []);

/** One place after the last of those beside it. */
const lastPlace = (siblings: readonly { order: number }[]): number =>
  siblings.reduce((highest, each) => Math.max(highest, each.order), -1) + 1;

/** A project, and at once what an hour of it sells for where that is said. A part of another is of the same client. */
export const addProject = command({
  name: 'project.add',
  title: 'Project added',
  input: projectFields
    .partial({ id: true, clientId: true, kind: true, ...optional(projectDefaults) })
    .extend({ rate: z.strictObject({ price: fields.price, from: fields.day }).optional() }),
  async plan(reader, { rate, ...input }, { newId }) {
    const parent = input.parentId ? await need(reader, 'projects', input.parentId, 'project') : null;
    const clientId = input.clientId ?? parent?.clientId ?? null;
    const beside = (each: R.Project) => each.clientId === clientId && each.parentId === (parent?.id ?? null);
    const siblings = (await reader.all('projects')).filter(beside);
    const project: R.Project = {
      ...projectDefaults,
      colour: parent?.colour ?? projectDefaults.colour,
      order: lastPlace(siblings),
      kind: clientId === null ? 'internal' : 'hourly',
      ...defined(input),
      clientId,
      id: input.id ?? newId(),
    };
    const plan = new Plan().put('projects', project);
    if (!rate) return plan;
    if (clientId === null) throw new Fault('internal', 'Internal work is not billed and has no rate.', 'rate');
    const { currency } = await need(reader, 'clients', clientId, 'client');
    return plan.put('rateLines', { ...rateDefaults, id: newId(), projectId: project.id, ...rate, currency });
  },
});

/** What a project is. Its parts follow it to another client; where it stands is changed by moving it. */
export const editProject = command({
  name: 'project.edit',
  title: 'Project changed',
  input: projectFields.omit({ parentId: true, order: true }).partial().extend({ id: fields.id }),
  async plan(reader, { id, ...input }) {
    const before = await need(reader, 'projects', id, 'project');
    const clientId = input.clientId === undefined ? before.clientId : input.clientId;
    const moved = clientId !== before.clientId;
    const after: R.Project = { ...before, ...(moved ? { parentId: null, contractId: null } : {}), ...defined(input) };
    // What no longer fits the kind goes with it.
    if (after.clientId === null) after.kind = 'internal';
    else if (moved && before.clientId === null && input.kind === undefined) after.kind = 'hourly';
    if (after.kind !== 'fixed price') after.fixedPrice = null;
    if (after.kind !== before.kind) await refuseOnDraft(reader, before, after.kind);
    const plan = new Plan().put('projects', after);
    if (moved) await followClient(reader, plan, await readTree(reader), after);
    return plan;
  },
});

/** A project under another or at the top, before one of those there or after the last. */
export const moveProject = command({
  name: 'project.move',
  title: 'Project moved',
  input: z.strictObject({ id: fields.id, parentId: fields.id.nullable(), before: fields.id.nullable() }),
  async plan(reader, input) {
    const project = await need(reader, 'projects', input.id, 'project');
    const parent = input.parentId === null ? null : await need(reader, 'projects', input.parentId, 'project');
    const tree = await readTree(reader);
    if (parent && tree.upFrom(parent.id).some((each) => each.id === project.id)) {
      throw new Fault(
        'circle',
        parent.id === project.id
          ? `${project.name} cannot be a part of itself.`
          : `${project.name} cannot become a part of ${parent.name}, which is a part of it. Move ${parent.name} out first.`,
        'parentId',
      );
    }
    const clientId = parent ? parent.clientId : project.clientId;
    const siblings = tree
      .partsOf(input.parentId)
      .filter((each) => each.id !== project.id && each.clientId === clientId);
    const place = input.before === null ? siblings.length : siblings.findIndex((each) => each.id === input.before);
    if (place < 0) throw new Fault('gone', 'What it was to stand before is not there any more.', 'before');
    const moved = clientId !== project.clientId;
    const after = { ...project, parentId: input.parentId, clientId, ...(moved ? { contractId: null } : {}) };
    const plan = new Plan();
    siblings.toSpliced(place, 0, after).forEach((each, order) => {
      if (each.id === project.id || each.order !== order) plan.put('projects', { ...each, order });
    });
    if (moved) await followClient(reader, plan, tree, after);
    return plan;
  },
});

/** Projects over, or open again. What is still to bill of them stays to bill. */
export const finishProjects = command({
  name: 'project.finish',
  title: ({ ids, finished }: { ids: Id[]; finished: boolean }) =>
    `${ids.length === 1 ? 'Project' : `${ids.length} projects`} ${finished ? 'finished' : 'brought back'}`,
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(20_000), finished: z.boolean() }),
  async plan(reader, { ids, finished }) {
    const plan = new Plan();
    for (const project of await needAll(reader, 'projects', ids, 'project')) {
      plan.put('projects', { ...project, finished });
    }
    return plan;
  },
});

const removeProject = command({
  ...plainProjects.remove,
  async plan(reader, input) {
    const { id } = await need(reader, 'projects', input.id, 'project');
    const plan = new Plan().remove('projects', id);
    await leaveContacts(reader, plan, [id]);
    return plan;
  },
});

/** The commands of projects. */
export const projects = { add: addProject, edit: editProject, move: moveProject, remove: removeProject };

const taskFields = z.strictObject(R.taskSchema.shape);
const plainTasks = plainCommands('tasks', 'task', 'Task', taskFields, taskDefaults);

/** A task, after those that the project has; or one that stands by itself, after the others that do. */
const addTask = command({
  ...plainTasks.add,
  async plan(reader, input, { newId }) {
    const { projectId } = input;
    if (projectId !== null) await need(reader, 'projects', projectId, 'project');
    const beside =
      projectId === null
        ? (await reader.all('tasks')).filter((task) => task.projectId === null)
        : await reader.by('tasks', 'projectId', [projectId]);
    const order = lastPlace(beside);
    return new Plan().put('tasks', { ...taskDefaults, order, ...defined(input), id: input.id ?? newId() } as R.Task);
  },
});
/** The commands of tasks. */
export const tasks = { ...plainTasks, add: addTask };
/** Days by which something of a project is to be reached; agreed amounts can wait for it. */
export const milestones = plainCommands('milestones', 'milestone', 'Milestone', R.milestoneSchema, { reached: false });

async function followClient(reader: Reader, plan: Plan, tree: WorkTree, project: R.Project): Promise<void> {
  const { clientId } = project;
  for (const part of tree.downFrom(project.id).slice(1)) {
    const kind =
      clientId === null ? 'internal' : part.kind === 'internal' && part.clientId === null ? 'hourly' : part.kind;
    const fixedPrice = kind === 'fixed price' ? part.fixedPrice : null;
    plan.put('projects', { ...part, clientId, contractId: null, kind, fixedPrice });
  }
  const ids = tree.downFrom(project.id).map((part) => part.id);
  await leaveContacts(reader, plan, ids);
}

/** Nobody answers for what is gone, or is another client's. */
async function leaveContacts(reader: Reader, plan: Plan, projectIds: readonly Id[]): Promise<void> {
  const gone = new Set(projectIds);
  for (const contact of await reader.all('contacts')) {
    const left = contact.projectIds?.filter((id) => !gone.has(id));
    if (left && left.length < contact.projectIds!.length) plan.put('contacts', { ...contact, projectIds: left });
  }
}

/** Hours that are about to be invoiced by the hour stop the project from becoming one whose hours are not. */
async function refuseOnDraft(reader: Reader, project: R.Project, kind: R.ProjectKind): Promise<void> {
  if (kind === 'hourly' || kind === 'cost-plus') return;
  const entries = await entriesOf(reader, project.id);
  const allocations = await reader.by(
    'allocations',
    'entryId',
    entries.map((entry) => entry.id),
  );
  const drafted = allocations.filter((each) => each.amount === null).length;
  if (drafted > 0) {
    throw new Fault(
      'already-drafted',
      `${drafted} ${drafted === 1 ? 'entry is' : 'entries are'} on a draft. Take them off or issue it first.`,
      'kind',
    );
  }
}

/** Entries of one project, through the index over project and day. */
const entriesOf = (reader: Reader, projectId: Id): Promise<R.Entry[]> => reader.by('entries', 'projectId', [projectId]);

function optional<D extends object>(defaults: D): { [K in keyof D]: true } {
  return Object.fromEntries(Object.keys(defaults).map((field) => [field, true])) as { [K in keyof D]: true };
}
