import type { Definition } from './definition';
import { plainDefinition } from './definition';
import type { MeasureName } from './measures';

/** What a report is asked about. */
export type ReportGroup = 'money' | 'hours' | 'attention';

/** A report that comes with the product: a question as anybody could ask it. */
export interface ReadyMade {
  key: string;
  group: ReportGroup;
  name: string;
  /** What it is for, in one sentence. */
  says: string;
  definition: Definition;
  /** What its small picture shows, where that is neither what it is sorted by nor its first measure. */
  picture?: MeasureName;
}

const made = (
  group: ReportGroup,
  key: string,
  name: string,
  says: string,
  definition: Partial<Definition>,
  picture?: MeasureName,
): ReadyMade => ({
  key,
  group,
  name,
  says,
  definition: { ...plainDefinition, when: { kind: 'moving', name: 'last month' }, ...definition },
  ...(picture && { picture }),
});

const money: MeasureName[] = [
  'recorded',
  'estimate',
  'worth',
  'labour cost',
  'other cost',
  'price',
  'margin',
  'effective rate',
  'invoiced',
  'to bill',
];
const onlyTime = [{ field: 'what' as const, keys: ['time'], without: false }];

/** Questions that most studios ask, in the order of the month. */
export const readyMade: readonly ReadyMade[] = [
  made(
    'hours',
    'billable',
    'Hours for a client',
    'In all, billable and not, with rate and amount, by task and member.',
    {
      rows: ['client', 'project', 'task', 'member'],
      measures: ['recorded', 'billable', 'not billable', 'billed', 'rate', 'worth'],
      filters: [...onlyTime],
    },
  ),
  made(
    'hours',
    'log',
    'Full log for a client',
    'Every entry with its day, note and amount.',
    {
      rows: ['client', 'day', 'note', 'member'],
      measures: ['recorded', 'billed', 'rate', 'worth'],
      filters: [...onlyTime],
    },
    'worth',
  ),
  made('hours', 'member', 'A member’s time', 'What somebody worked on, day by day.', {
    rows: ['member', 'day', 'whole project', 'note'],
    measures: ['recorded', 'billable', 'not billable'],
    when: { kind: 'moving', name: 'last week' },
  }),
  made('hours', 'team', 'Team by week', 'Recorded against billable and owed, week by week.', {
    rows: ['member', 'week'],
    measures: ['recorded', 'billable', 'not billable', 'owed', 'utilisation'],
    when: { kind: 'moving', name: 'this quarter' },
    chart: 'bars',
  }),
  made('money', 'money', 'Project money', 'What each project is worth, what it cost, and what an hour of it earned.', {
    rows: ['client', 'project'],
    measures: money,
    when: { kind: 'all' },
    sortBy: 'price',
  }),
  made(
    'hours',
    'utilisation',
    'Utilisation and realisation',
    'How much of the hours owed was billable, and how much of its worth was invoiced.',
    {
      rows: ['role', 'member', 'month'],
      measures: ['recorded', 'billable', 'owed', 'utilisation', 'worth', 'invoiced', 'realisation', 'effective rate'],
      when: { kind: 'moving', name: 'this quarter' },
    },
    'utilisation',
  ),
  made(
    'money',
    'codes',
    'Costs by code',
    'What was spent and worked under each heading.',
    {
      rows: ['cost type', 'cost code', 'client'],
      measures: ['labour cost', 'other cost', 'cost', 'markup', 'price', 'margin percent'],
      when: { kind: 'moving', name: 'this quarter' },
      chart: 'shares',
    },
    'cost',
  ),
  made(
    'attention',
    'documents',
    'Documents',
    'In view, hands on and kept, of each document, by this computer’s trail.',
    {
      rows: ['folder', 'document'],
      measures: ['in view', 'hands on', 'kept'],
      when: { kind: 'moving', name: 'last 30 days' },
      sortBy: 'in view',
    },
  ),
  made('attention', 'attention', 'Attention', 'Where the time in front went, by this computer’s trail.', {
    rows: ['program', 'site', 'document'],
    measures: ['front'],
    when: { kind: 'moving', name: 'last 30 days' },
    sortBy: 'front',
    chart: 'shares',
  }),
  made('attention', 'hours', 'Attention by weekday and hour', 'When this computer saw work, hour by hour.', {
    rows: ['weekday'],
    columns: 'hour',
    measures: ['front'],
    when: { kind: 'moving', name: 'last 30 days' },
    chart: 'heat',
  }),
  made('attention', 'spent', 'Weighted time', 'By job and week, as the studio’s own groups weigh it.', {
    rows: ['week', 'client', 'project'],
    measures: ['front', 'weighted share'],
    when: { kind: 'moving', name: 'last 30 days' },
  }),
  made('money', 'down', 'Written down, by reason', 'What will not be billed, and what was invoiced and given up.', {
    rows: ['reason', 'client', 'member'],
    measures: ['written down', 'written off'],
    when: { kind: 'moving', name: 'this year' },
    sortBy: 'written down',
  }),
  made('hours', 'tenths', 'For another system', 'Entries in tenths of an hour, a line each.', {
    rows: ['day', 'member', 'whole project', 'service', 'entry'],
    measures: ['recorded', 'billed', 'worth'],
    filters: [...onlyTime],
  }),
];
