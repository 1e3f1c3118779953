import * as z from 'zod';
import { clientDefaults, projectDefaults, rateDefaults, serviceDefaults, taskDefaults } from '../model/defaults';
import * as fields from '../model/fields';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { clientSchema, projectSchema, taskSchema, WORKSPACE_ID } from '../model/records';
import { ALWAYS } from '../time/day';
import { command, need, Plan } from '../engine/command';
import { putEntries } from './entry-writes';
import { overlay } from '../engine/overlay';
import type { Reader } from '../engine/store';

const target = z.union([
  z.strictObject({ projectId: fields.id }),
  z.strictObject({
    /** A client that is there, or the name of a new one; null for internal work. */
    client: z.union([z.strictObject({ id: fields.id }), z.strictObject({ name: clientSchema.shape.name })]).nullable(),
    project: z.strictObject(projectSchema.shape).pick({ name: true, jobNumber: true, colour: true }),
  }),
]);

/**
 * Files jobs that were recorded in words onto a project, which may be set up on the spot: their entries, planned time, costs and what runs
 * move, everybody's.
 */
export const fileJobs = command({
  name: 'job.file',
  title: ({ unlisted }: { unlisted: string[] }) =>
    unlisted.length === 1 ? `“${unlisted[0]!.slice(0, 60)}” filed` : `${unlisted.length} unlisted jobs filed`,
  input: z.strictObject({ unlisted: z.array(fields.name).min(1).max(1000), to: target }),
  async plan(reader, { unlisted, to }, { newId }) {
    const plan = new Plan();
    const projectId = 'projectId' in to ? (await need(reader, 'projects', to.projectId, 'project')).id : newId();
    if (!('projectId' in to)) {
      const clientId = to.client === null ? null : await clientFor(plan, reader, to.client, newId);
      const kind = clientId === null ? 'internal' : 'hourly';
      plan.put('projects', { ...projectDefaults, ...to.project, id: projectId, clientId, kind });
    }
    const entries = await reader.by('entries', 'unlisted', unlisted);
    const plans = await reader.by('plans', 'unlisted', unlisted);
    const timers = await reader.by('timers', 'unlisted', unlisted);
    const lines = await reader.by('costLines', 'unlisted', unlisted);
    if (entries.length + plans.length + timers.length + lines.length === 0) {
      throw new Fault('nothing-left', 'Nothing is recorded on this job any more.', 'unlisted', { unlisted });
    }
    const filed = { projectId, unlisted: '' };
    await putEntries(
      plan,
      reader,
      entries.map((entry) => [entry, { ...entry, ...filed }] as const),
    );
    for (const row of plans) plan.put('plans', { ...row, ...filed });
    for (const row of timers) plan.put('timers', { ...row, ...filed });
    for (const row of lines) plan.put('costLines', { ...row, ...filed });
    return plan;
  },
});

/** A job set up on the spot, as it is wanted: a task, its project and its client, each new or there already, and a service that is missing. */
export const addJob = command({
  name: 'job.add',
  title: ({ project, task }: { project: { id: Id } | { name: string }; task: string }) =>
    `“${(task || ('name' in project ? project.name : 'Job')).slice(0, 60)}” added`,
  input: z.strictObject({
    /** Null for internal work; of a project that is there it is that project's. */
    client: z.union([z.strictObject({ id: fields.id }), z.strictObject({ name: clientSchema.shape.name })]).nullable(),
    project: z.union([
      z.strictObject({ id: fields.id }),
      z.strictObject(projectSchema.shape).pick({ name: true, jobNumber: true, colour: true }),
    ]),
    /** Empty where time goes to the project itself. */
    task: fields.text,
    /** Empty where none is missing. */
    service: fields.text,
    /** Seconds that the task is expected to take. */
    estimate: taskSchema.shape.estimate.optional(),
    /** What an hour of it sells for, always; of the task, or of the project where there is no new task. */
    rate: fields.price.optional(),
  }),
  async plan(reader, { client, project, task, service, estimate = null, rate }, { newId }) {
    const plan = new Plan();
    let taskId: Id | null = null;
    let projectId: Id;
    if ('id' in project) projectId = (await need(reader, 'projects', project.id, 'project')).id;
    else {
      const clientId = client === null ? null : await clientFor(plan, reader, client, newId);
      projectId = newId();
      const kind = clientId === null ? 'internal' : 'hourly';
      const siblings = (await reader.all('projects')).filter((each) => each.clientId === clientId);
      const order = siblings.reduce((highest, each) => Math.max(highest, each.order), -1) + 1;
      plan.put('projects', { ...projectDefaults, ...project, id: projectId, clientId, kind, order });
    }
    if (task.trim()) {
      const there = await reader.by('tasks', 'projectId', [projectId]);
      refuseSame(there, task, 'task');
      taskId = newId();
      plan.put('tasks', { ...taskDefaults, id: taskId, projectId, name: task.trim(), order: there.length, estimate });
    }
    if (rate !== undefined) {
      const currency = await currencyOf(reader, plan, projectId);
      const subject = taskId === null ? { projectId } : { taskId };
      plan.put('rateLines', { ...rateDefaults, id: newId(), ...subject, price: rate, from: ALWAYS, currency });
    }
    if (service.trim()) {
      refuseSame(await reader.all('services'), service, 'service');
      plan.put('services', { ...serviceDefaults, id: newId(), name: service.trim() });
    }
    if (plan.rows.size === 0)
      throw new Fault('empty', 'Say what is to be added: a project, a task or a service.', 'task');
    return plan;
  },
});

/** What a client pays in: of a project that is there, or that is being added. */
async function currencyOf(reader: Reader, plan: Plan, projectId: Id): Promise<string> {
  const at = overlay(reader, plan.changes());
  const project = await need(at, 'projects', projectId, 'project');
  if (project.clientId === null) throw new Fault('internal', 'Internal work is not billed and has no rate.', 'rate');
  return (await need(at, 'clients', project.clientId, 'client')).currency;
}

function refuseSame(there: readonly { name: string }[], name: string, what: 'task' | 'service'): void {
  const wanted = name.trim().toLowerCase();
  if (there.some((each) => each.name.trim().toLowerCase() === wanted)) {
    throw new Fault('name-taken', `There is a ${what} called ${name.trim()} already. Choose it from the list.`, what);
  }
}

async function clientFor(
  plan: Plan,
  reader: Reader,
  client: { id: Id } | { name: string },
  newId: () => Id,
): Promise<Id> {
  if ('id' in client) return (await need(reader, 'clients', client.id, 'client')).id;
  const wanted = client.name.trim().toLowerCase();
  if ((await reader.all('clients')).some((each) => each.name.trim().toLowerCase() === wanted)) {
    throw new Fault(
      'name-taken',
      `There is a client called ${client.name.trim()} already. Choose it from the list.`,
      'to',
    );
  }
  const { currency } = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
  const [tax] = await reader.all('taxes');
  const id = newId();
  plan.put('clients', {
    ...clientDefaults,
    id,
    name: client.name.trim(),
    address: '',
    email: '',
    taxNumber: '',
    currency,
    taxId: tax?.id ?? null,
    termsDays: null,
    archived: false,
  });
  return id;
}
