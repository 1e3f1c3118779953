import type { Table } from '../hours/table';

/** What a column of a list of clients, projects, tasks and services can mean. */
export const workFields = [
  'client',
  'address',
  'email',
  'taxNumber',
  'currency',
  'project',
  'jobNumber',
  'kind',
  'stage',
  'task',
  'estimate',
  'service',
  'code',
] as const;
export type WorkField = (typeof workFields)[number];

/** Which column, by its place, means what. */
export type WorkMapping = Partial<Record<WorkField, number>>;

/** What our own lists call their columns. */
export const workHeads: Record<WorkField, string> = {
  client: 'Client',
  address: 'Address',
  email: 'E-mail',
  taxNumber: 'Tax number',
  currency: 'Currency',
  project: 'Project',
  jobNumber: 'Job number',
  kind: 'Kind',
  stage: 'Stage',
  task: 'Task',
  estimate: 'Estimate, hours',
  service: 'Service',
  code: 'Code',
};

/** Words in a head that tell what a column means; the earlier field takes a column first. */
const TELLING: readonly (readonly [WorkField, RegExp])[] = [
  ['address', /address|street|adresse/i],
  ['email', /mail/i],
  ['taxNumber', /\b(?:tax|vat)\b.*(?:no|number|id|nr)|\buid\b/i],
  ['currency', /currency|währung/i],
  ['jobNumber', /\b(?:job|project) ?(?:no|number|code|nr)\b/i],
  ['code', /code/i],
  ['estimate', /estimate|budget(?:ed)? hours/i],
  ['kind', /kind|type/i],
  ['stage', /stage|status|phase/i],
  ['client', /client|customer|company|kunde/i],
  ['task', /task/i],
  ['project', /project|job|projekt|matter/i],
  ['service', /service|activity/i],
];

/** What a table's columns likely mean, by their heads. */
export function guessWorkMapping(table: Pick<Table, 'head'>): WorkMapping {
  const mapping: WorkMapping = {};
  const taken = new Set<number>();
  for (const [field, pattern] of TELLING) {
    const at = table.head.findIndex((head, index) => !taken.has(index) && pattern.test(head));
    if (at < 0) continue;
    mapping[field] = at;
    taken.add(at);
  }
  return mapping;
}
