import { clientDefaults, memberDefaults, workspaceDefaults } from '../model/defaults';
import type { Client, Contract, Cost, CostLine, Entry, Member, Project, Workspace } from '../model/records';

// What of a record goes to somebody else: field by field, so that a field that comes later stays at home until somebody says otherwise.

/** The studio, as its members' workspaces know it. */
export const studioForMember = (studio: Workspace, memberId: string, projectIds: ReadonlySet<string>): Workspace => ({
  ...workspaceDefaults,
  id: studio.id,
  name: studio.name,
  address: '',
  email: '',
  taxNumber: '',
  paymentDetails: '',
  currency: studio.currency,
  zone: studio.zone,
  daySeconds: studio.daySeconds,
  amountRounding: studio.amountRounding,
  taxMethod: studio.taxMethod,
  rounding: studio.rounding,
  numberPrefix: '',
  numberDigits: studio.numberDigits,
  firstNumber: 1,
  termsDays: studio.termsDays,
  paper: studio.paper,
  lengthStyle: studio.lengthStyle,
  numberStyle: studio.numberStyle,
  clockStyle: studio.clockStyle,
  breakRule: studio.breakRule && {
    ...studio.breakRule,
    projectId: projectIds.has(studio.breakRule.projectId ?? '') ? studio.breakRule.projectId : null,
  },
  periods: studio.periods,
  cutOff: studio.cutOff,
  receiptOver: studio.receiptOver,
  ...(studio.handsIn && { handsIn: studio.handsIn }),
  ...(studio.places && { places: studio.places }),
  ...(studio.receiptPolicy && { receiptPolicy: studio.receiptPolicy }),
  ofMember: memberId,
});

/** Somebody else, by name alone. */
export const byName = ({ id, name }: Member, zone: string): Member => ({
  ...memberDefaults,
  id,
  name,
  role: '',
  zone,
  owed: [0, 0, 0, 0, 0, 0, 0],
});

/** Of a client what a member's job sheet tells. */
export const clientForMember = (client: Client): Client => ({
  ...clientDefaults,
  id: client.id,
  name: client.name,
  address: '',
  email: '',
  taxNumber: '',
  currency: client.currency,
  taxId: null,
  termsDays: null,
  archived: client.archived,
  rounding: client.rounding,
  costCodeIds: client.costCodeIds,
});

/** Of a contract what a member's job sheet tells. */
export const contractForMember = ({ id, clientId, name }: Contract): Contract => ({
  id,
  clientId,
  name,
  terms: '',
  cap: null,
  termsDays: null,
});

/** @param withRates whether the member sees what work is sold for, and so what it is sold by */
export const projectForMember = (project: Project, withRates: boolean): Project => ({
  id: project.id,
  clientId: project.clientId,
  parentId: project.parentId,
  order: project.order,
  name: project.name,
  jobNumber: project.jobNumber,
  colour: project.colour,
  kind: project.kind,
  fixedPrice: null,
  contractId: withRates ? project.contractId : null,
  stageId: project.stageId,
  finished: project.finished,
  rounding: project.rounding,
  costCodeIds: project.costCodeIds,
  ...(project.places && { places: project.places }),
  ...(project.tags && { tags: project.tags }),
});

/** Recorded time without what is its maker's alone: the trail that it came of, calendars, and what others decided of it. */
export const entryForStudio = (entry: Entry): Entry => ({
  id: entry.id,
  memberId: entry.memberId,
  day: entry.day,
  laterDays: entry.laterDays,
  projectId: entry.projectId,
  unlisted: entry.unlisted,
  taskId: entry.taskId,
  serviceId: entry.serviceId,
  kindOfWorkId: entry.kindOfWorkId,
  note: entry.note,
  seconds: entry.seconds,
  spans: entry.spans,
  billableSeconds: entry.billableSeconds,
  rate: null,
  planId: entry.planId,
  source: '',
  stretchIds: [],
  ...(entry.tags && { tags: entry.tags }),
  ...(entry.recordedFrom && { recordedFrom: entry.recordedFrom }),
});

/** The same with what was decided of it. */
export const entryForMember = (entry: Entry): Entry => ({
  ...entryForStudio(entry),
  ...(entry.approval && { approval: entry.approval }),
  ...(entry.sentBack && { sentBack: entry.sentBack }),
});

/** An expense, without the studio's own side of it. */
export const costForStudio = ({ approval: _looks, sentBack: _given, ...cost }: Cost): Cost => ({
  ...cost,
  paidBackOn: null,
  dueMilestoneId: null,
  source: '',
  since: null,
});

/** Of a cost what its member is answered. */
export const costForMember = (cost: Cost): Cost => ({
  ...costForStudio(cost),
  paidBackOn: cost.paidBackOn,
  ...(cost.approval && { approval: cost.approval }),
  ...(cost.sentBack && { sentBack: cost.sentBack }),
});

/** A line of a cost without what only the studio knows. */
export const lineForOther = (line: CostLine): CostLine => ({ ...line, orderId: null, agreedId: null });
