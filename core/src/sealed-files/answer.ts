import { need } from '../engine/command';
import type { Reader } from '../engine/store';
import type { Id } from '../model/ids';
import {
  WORKSPACE_ID,
  type Client,
  type Correction,
  type KindOfWork,
  type Project,
  type Service,
  type Task,
  type Timesheet,
} from '../model/records';
import type { Day } from '../time/day';
import type { Answer, Making } from './content';
import { othersNamed } from './job-sheet';
import { clientForMember, costForMember, entryForMember, lineForOther, projectForMember } from './narrowed';
import { byId as indexed, handInsOf, recordedOn, type Recorded } from './sheets';

/**
 * What became of what a member handed in, from a day on: corrections, approvals, what was sent back and why, which days are closed. It says
 * how things are, not what changed since the last one: should one be lost, the next says it all.
 *
 * @throws Fault when there is no such member
 */
export async function answerFor(reader: Reader, memberId: Id, byId: Id, since: Day, making: Making): Promise<Answer> {
  const studio = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
  await need(reader, 'members', memberId, 'member');
  const timesheets = (await reader.by('timesheets', 'memberId', [memberId])).filter(({ to }) => to >= since);
  const recorded: Recorded = { entries: [], costs: [], costLines: [], receipts: [] };
  const handIns: Answer['rows']['handIns'] = [];
  for (const sheet of timesheets) {
    const last = (await handInsOf(reader, sheet)).at(-1);
    if (last) handIns.push(last);
    // What was handed in and is on another day now is told as well.
    const also = { entries: idsIn(last?.entries), costs: idsIn(last?.costs) };
    const found = await recordedOn(reader, memberId, sheet, also);
    recorded.entries.push(...found.entries);
    recorded.costs.push(...found.costs);
    recorded.costLines.push(...found.costLines);
    recorded.receipts.push(...found.receipts);
  }
  const entries = [...indexed(recorded.entries).values()];
  const costs = [...indexed(recorded.costs).values()];
  const costLines = [...indexed(recorded.costLines).values()];
  const corrections = (await reader.by('corrections', 'memberId', [memberId])).filter((row) => isOn(row, timesheets));
  const closings = (await reader.all('closings')).filter((row) => row.memberId === null || row.memberId === memberId);
  const named = [
    byId,
    ...timesheets.flatMap(({ steps }) => steps.map((each) => each.byId)),
    ...handIns.map((each) => each.byId),
    ...[...entries, ...costs].flatMap(({ approval, sentBack }) => [
      ...(approval?.looks.map((look) => look.byId) ?? []),
      sentBack?.byId,
    ]),
    ...corrections.map((each) => each.byId),
    ...closings.flatMap((row) => [row.byId, row.reopened?.byId]),
  ];
  const work = await workOf(reader, { entries, costs, costLines, receipts: [] });
  return {
    kind: 'answer',
    ...making,
    memberId,
    byId,
    rows: {
      members: await othersNamed(reader, memberId, named, studio.zone),
      ...work,
      projects: work.projects.map((project) => projectForMember({ ...project, stageId: null }, false)),
      timesheets,
      handIns,
      entries: entries.map(entryForMember),
      costs: costs.map(costForMember),
      costLines: costLines.map(lineForOther),
      receipts: [...indexed(recorded.receipts).values()],
      corrections,
      closings,
    },
  };
}

const idsIn = (rows: readonly { id: Id }[] = []): Id[] => rows.map(({ id }) => id);

const isOn = ({ before, after }: Correction, sheets: readonly Timesheet[]): boolean =>
  [before?.day, after?.day].some(
    (day) => day !== undefined && sheets.some((sheet) => sheet.from <= day && day <= sheet.to),
  );

/** What the entries and costs are on: a checker may have filed them on work that the member has not heard of yet. */
async function workOf(
  reader: Reader,
  { entries, costLines }: Recorded,
): Promise<{ clients: Client[]; projects: Project[]; tasks: Task[]; services: Service[]; kindsOfWork: KindOfWork[] }> {
  const all = indexed(await reader.all('projects'));
  const ids = new Set<Id>();
  for (const { projectId } of [...entries, ...costLines])
    for (let at = projectId; at !== null && !ids.has(at); at = all.get(at)?.parentId ?? null) ids.add(at);
  const projects = [...ids].flatMap((id) => all.get(id) ?? []);
  const named = (field: 'taskId' | 'serviceId' | 'kindOfWorkId') => [
    ...new Set(entries.flatMap((row) => row[field] ?? [])),
  ];
  const tasks = await reader.many('tasks', named('taskId'));
  const services = await reader.many('services', named('serviceId'));
  const kinds = await reader.many('kindsOfWork', named('kindOfWorkId'));
  const clientIds = [...new Set(projects.flatMap(({ clientId }) => clientId ?? []))];
  const clients = await reader.many('clients', clientIds);
  const found = <Row>(rows: (Row | undefined)[]): Row[] => rows.filter((row): row is Row => row !== undefined);
  return {
    clients: found(clients).map(clientForMember),
    projects,
    tasks: found(tasks).map((task) => ({ ...task, stageId: null })),
    services: found(services).map((service) => ({ ...service, costCodeId: null, taxId: null })),
    kindsOfWork: found(kinds),
  };
}
