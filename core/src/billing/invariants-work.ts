import { sourceTables, reservedBySource, type SourceTable } from './sources';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { changesIn, rowsAfter, type Change } from '../model/change';
import type { Allocation, Contact, Contract, Entry, ExchangeRate, Project, RateLine } from '../model/records';
import { tables, type Rows } from '../model/tables';
import { goesWith, MOST_LEVELS } from '../rates/tree';
import { showDayShort } from '../time/day';
import type { Reader } from '../engine/store';

// What must hold of projects, tasks and the cards that price them.

/**
 * What holds of projects, contracts, contacts, tasks and of all that is recorded on them, whatever command changed it.
 *
 * @throws Fault that names the row and field
 */
export async function checkWork(after: Reader, changes: readonly Change[]): Promise<void> {
  await checkProjects(after, rowsAfter(changes, 'projects'));
  await checkProjectClients(after, changes);
  await checkContracts(after, rowsAfter(changes, 'contracts'));
  await checkContacts(after, rowsAfter(changes, 'contacts'));
  await checkTasksStay(after, changes);
  for (const table of ['entries', 'timers', 'plans'] as const) await checkJobs(after, rowsAfter(changes, table));
  for (const table of ['rateLines', 'costRates', 'markups', 'exchangeRates'] as const) {
    await checkTwins(after, changes, table);
  }
}

/** A project is of the client of the one around it and of its contract, and no project is under itself. */
async function checkProjects(after: Reader, projects: readonly Project[]): Promise<void> {
  if (projects.length === 0) return;
  const all = new Map((await after.all('projects')).map((row) => [row.id, row]));
  const contracts = new Map((await after.all('contracts')).map((row) => [row.id, row]));
  const touched = new Set(projects.map((row) => row.id));
  for (const project of projects) {
    const parent = project.parentId === null ? undefined : all.get(project.parentId);
    if (parent && parent.clientId !== project.clientId) throw otherClient(project, parent);
    const contract = project.contractId === null ? undefined : contracts.get(project.contractId);
    if (contract && contract.clientId !== project.clientId) {
      throw new Fault('other-client', `${contract.name} is a contract with another client.`, 'contractId', {
        id: project.id,
      });
    }
    refuseCircle(project, all);
  }
  for (const part of all.values()) {
    // What is under a project goes with it, and as much deeper.
    if (part.parentId !== null && !touched.has(part.id)) refuseCircle(part, all);
    if (part.parentId === null || !touched.has(part.parentId)) continue;
    const parent = all.get(part.parentId)!;
    if (parent.clientId !== part.clientId) throw otherClient(part, parent);
  }
}

/** Who answers for projects is of the client whose they are. */
async function checkContacts(after: Reader, contacts: readonly Contact[]): Promise<void> {
  for (const contact of contacts) {
    for (const project of await after.many('projects', contact.projectIds ?? [])) {
      if (project?.clientId !== contact.clientId) {
        throw new Fault(
          'other-client',
          `${contact.name} can answer for projects of their own client only${project ? `; ${project.name} is another’s` : ''}.`,
          'projectIds',
          { id: contact.id },
        );
      }
    }
  }
}

const otherClient = (part: Project, parent: Project): Fault =>
  new Fault('other-client', `${part.name} is part of ${parent.name} and must be of the same client.`, 'clientId', {
    id: part.id,
  });

function refuseCircle(project: Project, all: ReadonlyMap<Id, Project>): void {
  const seen = new Set<Id>([project.id]);
  for (let id = project.parentId; id !== null; id = all.get(id)?.parentId ?? null) {
    if (seen.has(id))
      throw new Fault('circle', `${project.name} would be a part of itself.`, 'parentId', { id: project.id });
    seen.add(id);
    if (seen.size > MOST_LEVELS) {
      throw new Fault(
        'too-deep',
        `${project.name} would be a part of more than ${MOST_LEVELS - 1} others, each within the next.`,
        'parentId',
        { id: project.id },
      );
    }
  }
}

/** What stands on a client's invoices is that client's work: its project cannot become another's. */
async function checkProjectClients(after: Reader, changes: readonly Change[]): Promise<void> {
  for (const change of changes) {
    if (change.table !== 'projects' || !change.before || !change.after) continue;
    const { before } = change;
    if (before.clientId === change.after.clientId) continue;
    const allocations: Allocation[] = [];
    for (const table of Object.keys(sourceTables) as SourceTable[]) {
      const rows = await after.by(table, 'projectId', [change.id]);
      const ids = rows.map((row) => row.id);
      allocations.push(...(await after.by('allocations', sourceTables[table], ids)));
    }
    const standing = [...reservedBySource(allocations).values()].filter((sum) => sum !== 0).length;
    if (standing > 0) {
      const what = allocations.every((each) => each.entryId !== null)
        ? standing === 1
          ? 'entry'
          : 'entries'
        : 'entries and costs';
      throw new Fault(
        'in-use',
        `${standing} ${what} of ${before.name} stand on its client’s invoices; it stays with that client.`,
        'clientId',
      );
    }
  }
}

/** A contract's projects are its client's. */
async function checkContracts(after: Reader, contracts: readonly Contract[]): Promise<void> {
  if (contracts.length === 0) return;
  const projects = await after.by(
    'projects',
    'contractId',
    contracts.map((row) => row.id),
  );
  for (const project of projects) {
    const contract = contracts.find((row) => row.id === project.contractId)!;
    if (contract.clientId !== project.clientId) {
      throw new Fault(
        'other-client',
        `${project.name} stands under ${contract.name} and is another client’s.`,
        'clientId',
      );
    }
  }
}

/** A task stays with its project or its kind of work: what is recorded on it would otherwise change hands unseen. */
async function checkTasksStay(reader: Reader, changes: readonly Change[]): Promise<void> {
  for (const { id, before: was, after: is } of changesIn(changes, 'tasks')) {
    if (!was || !is) continue;
    if (was.projectId !== is.projectId) {
      throw new Fault('stays', 'A task stays with its project. Add it to the other one instead.', 'projectId');
    }
    if (was.free === is.free) continue;
    const used =
      (await reader.by('entries', 'taskId', [id])).length + (await reader.by('plans', 'taskId', [id])).length;
    if (used > 0) {
      throw new Fault(
        'in-use',
        `${is.name} has time for ${was.free} on it. Add another task for ${is.free} instead.`,
        'free',
      );
    }
  }
}

/** The task of recorded or planned time is one of its project, the kind of work one of its service. */
async function checkJobs(
  after: Reader,
  rows: readonly Pick<Entry, 'id' | 'projectId' | 'taskId' | 'serviceId' | 'kindOfWorkId'>[],
): Promise<void> {
  const taskIds = [...new Set(rows.map((row) => row.taskId).filter((id) => id !== null))];
  const kindIds = [...new Set(rows.map((row) => row.kindOfWorkId).filter((id) => id !== null))];
  const tasks = new Map((await after.many('tasks', taskIds)).map((row) => [row?.id, row]));
  const kinds = new Map((await after.many('kindsOfWork', kindIds)).map((row) => [row?.id, row]));
  if (tasks.size === 0 && kinds.size === 0) return;
  const projectIds = [...new Set(rows.map((row) => row.projectId).filter((each) => each !== null))];
  const projects = new Map((await after.many('projects', projectIds)).map((row) => [row?.id, row]));
  for (const { id, projectId, taskId, serviceId, kindOfWorkId } of rows) {
    const task = taskId === null ? undefined : tasks.get(taskId);
    if (task && !goesWith(task, projects.get(projectId ?? ''))) {
      const why = task.free
        ? `goes with ${task.free === 'internal' ? 'internal work' : 'a client’s work'} only`
        : 'is a task of another project';
      throw new Fault('other-project', `${task.name} ${why}.`, 'taskId', { id });
    }
    const kind = kindOfWorkId === null ? undefined : kinds.get(kindOfWorkId);
    if (kind && kind.serviceId !== serviceId) {
      throw new Fault('other-service', `${kind.name} belongs to another service.`, 'kindOfWorkId', { id });
    }
  }
}

const TWIN_FIELDS = {
  rateLines: ['clientId', 'contractId', 'projectId', 'taskId', 'memberId', 'role', 'serviceId', 'from', 'currency'],
  costRates: ['memberId', 'role', 'from'],
  markups: ['clientId', 'contractId', 'projectId', 'costType', 'from'],
  exchangeRates: ['base', 'currency', 'from'],
} as const;

/** Two lines for the same thing from the same day would leave it to chance which holds. */
async function checkTwins(after: Reader, changes: readonly Change[], table: keyof typeof TWIN_FIELDS): Promise<void> {
  const touched = rowsAfter(changes, table);
  if (touched.length === 0) return;
  const keyOf = (row: object) => TWIN_FIELDS[table].map((field) => (row as Record<string, unknown>)[field]).join(' ');
  const keys = new Set(touched.map(keyOf));
  const ids = new Set(touched.map((row) => row.id));
  const met = new Map<string, Rows[typeof table]>();
  for (const row of await after.all(table)) {
    const key = keyOf(row);
    if (!keys.has(key)) continue;
    const twin = met.get(key);
    if (twin) throw twinFault(table, ids.has(twin.id) ? row : twin);
    met.set(key, row);
  }
}

function twinFault(table: keyof typeof TWIN_FIELDS, there: Rows[keyof typeof TWIN_FIELDS]): Fault {
  const line = there as RateLine & ExchangeRate & { percent?: string };
  const holds = line.price ?? line.rate ?? `${line.markup ?? line.percent} %`;
  const what = table === 'exchangeRates' ? `${line.currency} in ${line.base}` : 'the same work';
  return new Fault(
    'overlap',
    `There is a ${tables[table].one} for ${what} from ${showDayShort(there.from)} already: ${holds}. Change that one.`,
    'from',
    { id: there.id },
  );
}
