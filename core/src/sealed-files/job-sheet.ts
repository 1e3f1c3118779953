import { need } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { derivedId } from '../model/derived-id';
import { momentOfId, type Id } from '../model/ids';
import {
  WORKSPACE_ID,
  type Client,
  type Contract,
  type Grant,
  type Limit,
  type Member,
  type Project,
  type RateLine,
  type Right,
  type RightSet,
} from '../model/records';
import { placeOfProject, rightsOf, type Rights } from '../rights';
import { addDays, dayOf } from '../time/day';
import type { JobSheet, Making } from './content';
import { byName, clientForMember, contractForMember, projectForMember, studioForMember } from './narrowed';

/** Days back from which planned time is sent. */
const PLANNED_SINCE = 60;

/**
 * What a member needs to record in a workspace of their own: the work that their right holds for, with what is planned for them, what they
 * must say and which days are closed. No rates unless they may see them, no costs, and of other people only the names of those who check them.
 *
 * @throws Fault when there is no such member, or they may not record
 */
export async function jobSheetFor(reader: Reader, memberId: Id, byId: Id, making: Making): Promise<JobSheet> {
  const [studio, member] = [
    await need(reader, 'workspace', WORKSPACE_ID, 'studio'),
    await need(reader, 'members', memberId, 'member'),
  ];
  const rights = rightsOf(member, await reader.all('rightSets'));
  if (!rights.has('record own'))
    throw new Fault('no-right', `${member.name} may not record time, so there is nothing to send.`, 'memberId');
  const work = await workFor(reader, rights);
  const withRates = rights.has('see rates');
  const contracts = withRates ? await contractsOf(reader, work.projects) : [];
  const closings = (await reader.all('closings')).filter((row) => row.memberId === null || row.memberId === memberId);
  const checkerId = member.checkerId ?? byId;
  const named = [byId, checkerId, member.deputyId, ...closings.flatMap((row) => [row.byId, row.reopened?.byId])];
  const others = await othersNamed(reader, memberId, named, studio.zone);
  const set = ownRights(memberId, rights, work);
  const kept = { clients: idsOf(work.clients), projects: idsOf(work.projects), tasks: idsOf(work.tasks) };
  const since = addDays(dayOf(making.madeAt, member.zone), -PLANNED_SINCE);
  const plans = (await reader.by('plans', 'memberId', [memberId])).filter(
    (row) => row.day >= since && (row.projectId === null || kept.projects.has(row.projectId)),
  );

  return {
    kind: 'job sheet',
    ...making,
    memberId,
    byId,
    rows: {
      workspace: [studioForMember(studio, memberId, kept.projects)],
      rightSets: [set],
      members: [
        ...others,
        {
          ...member,
          pinned: member.pinned.filter((each) => kept.projects.has(each) || kept.tasks.has(each)),
          checkerId,
          rightSetId: set.id,
        },
      ],
      taxes: await reader.all('taxes'),
      costCodes: await reader.all('costCodes'),
      services: await reader.all('services'),
      kindsOfWork: await reader.all('kindsOfWork'),
      stages: await reader.all('stages'),
      clients: work.clients.map(clientForMember),
      contracts: contracts.map(contractForMember),
      projects: work.projects.map((project) => projectForMember(project, withRates)),
      tasks: work.tasks,
      rateLines: withRates ? ratesFor(await reader.all('rateLines'), member, kept, idsOf(contracts)) : [],
      plans: plans.map((plan) => ({ ...plan, source: '', guests: '' })),
      absences: (await reader.all('absences')).filter((row) => row.memberId === null || row.memberId === memberId),
      unitRates: await reader.all('unitRates'),
      closings,
    },
  };
}

const idsOf = (rows: readonly { id: Id }[]): ReadonlySet<Id> => new Set(rows.map(({ id }) => id));

interface Work {
  clients: Client[];
  projects: Project[];
  tasks: JobSheet['rows']['tasks'];
}

/** The work that somebody may record on; a project comes with those that it is a part of. */
async function workFor(reader: Reader, rights: Rights): Promise<Work> {
  const all = new Map((await reader.all('projects')).map((project) => [project.id, project]));
  const ids = new Set<Id>();
  for (const project of all.values()) {
    const place = placeOfProject(project, (id) => all.get(id));
    if (rights.covers('record own', place)) for (const id of place.projectIds) ids.add(id);
  }
  const projects = [...all.values()].filter(({ id }) => ids.has(id));
  const whose = new Set(projects.map(({ clientId }) => clientId));
  const clients = (await reader.all('clients')).filter(({ id }) => rights.hasForAll('record own') || whose.has(id));
  const tasks = (await reader.all('tasks')).filter(({ projectId }) => projectId === null || ids.has(projectId));
  return { clients, projects, tasks };
}

async function contractsOf(reader: Reader, projects: readonly Project[]): Promise<Contract[]> {
  const ids = [...new Set(projects.flatMap(({ contractId }) => contractId ?? []))];
  return (await reader.many('contracts', ids)).filter((row) => row !== undefined);
}

/** What the member's own work sells for: not what others sell for, and not what anybody costs. */
function ratesFor(
  lines: readonly RateLine[],
  member: Member,
  kept: Record<'clients' | 'projects' | 'tasks', ReadonlySet<Id>>,
  contracts: ReadonlySet<Id>,
): RateLine[] {
  const within = (ids: ReadonlySet<Id>, id: Id | null) => id === null || ids.has(id);
  return lines.filter(
    (line) =>
      line.markup === null &&
      (line.memberId === null || line.memberId === member.id) &&
      (line.role === null || line.role === member.role) &&
      within(kept.clients, line.clientId) &&
      within(kept.projects, line.projectId) &&
      within(kept.tasks, line.taskId) &&
      within(contracts, line.contractId),
  );
}

/** Names of those who check a member, or did something that the member sees. */
export async function othersNamed(
  reader: Reader,
  memberId: Id,
  ids: readonly (Id | null | undefined)[],
  zone: string,
): Promise<Member[]> {
  const others = [...new Set(ids)].filter((id): id is Id => id !== null && id !== undefined && id !== memberId);
  return (await reader.many('members', others)).flatMap((row) => (row ? [byName(row, zone)] : []));
}

/** In a workspace of their own a member records and reads; all else is the studio's. */
const CARRIED: readonly Right[] = ['record own', 'billable part', 'see rates'];

function ownRights(memberId: Id, rights: Rights, work: Work): RightSet {
  const [clients, projects] = [idsOf(work.clients), idsOf(work.projects)];
  const sent = (only: Limit): Limit => ({
    clientIds: only.clientIds.filter((id) => clients.has(id)),
    projectIds: only.projectIds.filter((id) => projects.has(id)),
  });
  const grants = CARRIED.flatMap((right): Grant[] => {
    if (!rights.has(right)) return [];
    const limit = rights.limitOf(right);
    if (limit === null) return [{ right, only: null }];
    const only = sent(limit);
    return only.clientIds.length + only.projectIds.length > 0 ? [{ right, only }] : [];
  });
  return {
    id: derivedId(`rights in the workspace of ${memberId}`, momentOfId(memberId)),
    name: 'Own workspace',
    grants: [...grants, { right: 'reports', only: null }],
  };
}
