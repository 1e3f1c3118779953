import { checkedStandings } from '../checking/standing';
import { projectName } from '../billing/pricer';
import { showDayShort, weekdayOf, WEEKDAY_NAMES, addDays, MONTH_NAMES } from '../time/day';
import { periodOf, weekPeriodOf } from '../time/periods';
import type { Dimension } from './column-store/dimensions';
import type { Dictionaries } from './dictionaries';

/** What reports group, filter and split by. */
export const fieldNames = [
  'client',
  'contract',
  'project',
  'part',
  'part of part',
  'whole project',
  'task',
  'stage',
  'service',
  'kind of work',
  'member',
  'role',
  'checker',
  'cost code',
  'cost type',
  'day',
  'week',
  'month',
  'quarter',
  'year',
  'billing period',
  'weekday',
  'hour',
  'billable',
  'standing',
  'approval',
  'approved by',
  'what',
  'note',
  'tag',
  'entry',
  'reason',
  'currency',
  'program',
  'site',
  'folder',
  'document',
  'opened for',
] as const;
export type FieldName = (typeof fieldNames)[number];

/** Fields that columns can be made of: periods, and what repeats in them. */
export const columnFields = [
  'day',
  'week',
  'month',
  'quarter',
  'year',
  'billing period',
  'weekday',
  'hour',
] as const satisfies readonly FieldName[];

/** Fields that only the trail fills. */
export const trailFields: readonly FieldName[] = ['program', 'site', 'folder', 'document', 'opened for'];

interface Field {
  /** As it stands at the head of a column. */
  label: string;
  dimension: Dimension;
  /** By which a group is known again: an id, a day, a name. Empty where there is nothing. */
  key(words: Dictionaries, word: string): string;
  /** What a group is called; asked once a group, with its key. */
  show(words: Dictionaries, key: string): string;
  /** What the group without a key is called. */
  none: string;
  /** What a filter can ask of a group; the group itself where not given. */
  within?(key: string): readonly string[];
  /** Places keys in an order of their own; by what they are called where there is none. */
  rank?(words: Dictionaries, key: string): number | string;
}

const same = (_: Dictionaries, word: string): string => word;

/** A field whose key is the id that stands in the columns. */
const record = (
  label: string,
  dimension: Dimension,
  none: string,
  show: Field['show'],
  rank?: Field['rank'],
): Field => ({
  label,
  dimension,
  key: same,
  show,
  none,
  ...(rank ? { rank } : {}),
});

const gone = 'No longer there';

/** Between the tags of one fact; no tag has a comma. */
export const TAG_BREAK = ', ';

const upFrom = (words: Dictionaries, id: string) => words.pricer.tree.upFrom(id);
const projectShown: Field['show'] = ({ pricer }, key) =>
  pricer.project.get(key)?.name ?? (key.startsWith('“') ? key : gone);

/** The project around a project that lies so many steps below the top. */
const atDepth = (label: string, depth: number): Field => ({
  label,
  dimension: 'project',
  key: (words, id) => {
    const path = upFrom(words, id);
    return path.length === 0 ? (depth === 0 ? id : '') : (path[path.length - 1 - depth]?.id ?? '');
  },
  show: projectShown,
  none: depth === 0 ? 'No job yet' : 'On the whole',
});

/** A field of days: the word is a day. */
const ofDay = (label: string, key: Field['key'], show: Field['show'], rank: Field['rank'] = same): Field => ({
  label,
  dimension: 'day',
  key: (words, day) => (day ? key(words, day) : ''),
  show,
  none: 'No day',
  rank,
});

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const inOrder =
  (order: readonly string[]): NonNullable<Field['rank']> =>
  (_, key) =>
    order.indexOf(key);

/** What reports can be grouped and filtered by, and how each is shown and sorted. */
export const fields: Readonly<Record<FieldName, Field>> = {
  client: record('Client', 'client', 'No client', ({ pricer }, key) => pricer.client.get(key)?.name ?? gone),
  contract: {
    label: 'Contract',
    dimension: 'project',
    key: ({ pricer }, id) => pricer.tree.contractOf(id) ?? '',
    show: ({ pricer }, key) => pricer.contract.get(key)?.name ?? gone,
    none: 'No contract',
  },
  project: atDepth('Project', 0),
  part: atDepth('Part', 1),
  'part of part': atDepth('Part of the part', 2),
  'whole project': record('Project in full', 'project', 'No job yet', ({ pricer }, key) =>
    pricer.project.has(key) ? projectName(pricer, key) : projectShown({ pricer } as Dictionaries, key),
  ),
  task: record('Task', 'task', 'No task', ({ pricer }, key) => pricer.task.get(key)?.name ?? gone),
  stage: record(
    'Stage',
    'stage',
    'No stage',
    ({ pricer }, key) => pricer.stage.get(key)?.name ?? gone,
    ({ pricer }, key) => pricer.stage.get(key)?.order ?? 0,
  ),
  service: record('Service', 'service', 'No service', ({ pricer }, key) => pricer.service.get(key)?.name ?? gone),
  'kind of work': record(
    'Kind of work',
    'kindOfWork',
    'No kind',
    ({ pricer }, key) => pricer.kindOfWork.get(key)?.name ?? gone,
  ),
  member: record('Member', 'member', 'Nobody', ({ pricer }, key) => pricer.member.get(key)?.name ?? gone),
  role: {
    label: 'Role',
    dimension: 'member',
    key: ({ pricer }, id) => pricer.member.get(id)?.role ?? '',
    show: same,
    none: 'No role',
  },
  checker: {
    label: 'Checker',
    dimension: 'member',
    key: ({ pricer }, id) => pricer.member.get(id)?.checkerId ?? '',
    show: ({ pricer }, key) => pricer.member.get(key)?.name ?? gone,
    none: 'No checker',
  },
  'cost code': record(
    'Cost code',
    'costCode',
    'No cost code',
    ({ pricer }, key) => {
      const code = pricer.costCode.get(key);
      return code ? `${code.code} ${code.name}` : gone;
    },
    ({ pricer }, key) => pricer.costCode.get(key)?.code ?? '\uffff',
  ),
  'cost type': record('Cost type', 'costType', 'No cost type', (_, key) => capital(key)),
  day: ofDay('Day', same, (_, key) => showDayShort(key)),
  week: ofDay(
    'Week',
    ({ pricer }, day) => weekPeriodOf(day, pricer.book.workspace.cutOff).from,
    ({ pricer }, key) => weekPeriodOf(key, pricer.book.workspace.cutOff).name,
  ),
  month: ofDay(
    'Month',
    (_, day) => day.slice(0, 7),
    (_, key) => `${MONTH_NAMES[Number(key.slice(5)) - 1]} ${key.slice(0, 4)}`,
  ),
  quarter: ofDay(
    'Quarter',
    (_, day) => `${day.slice(0, 4)}-Q${Math.ceil(Number(day.slice(5, 7)) / 3)}`,
    (_, key) => `${key.slice(5)} ${key.slice(0, 4)}`,
  ),
  year: ofDay('Year', (_, day) => day.slice(0, 4), same),
  'billing period': ofDay(
    'Billing period',
    ({ pricer }, day) => periodOf(pricer.book.workspace.periods, day)?.from ?? '',
    ({ pricer }, key) => periodOf(pricer.book.workspace.periods, key)?.name ?? key,
  ),
  weekday: ofDay(
    'Weekday',
    (_, day) => String(weekdayOf(day)),
    (_, key) => WEEKDAY_NAMES[Number(key) - 1] ?? '',
  ),
  hour: {
    label: 'Hour',
    dimension: 'hour',
    key: same,
    show: (_, key) => `${String(Number(key) - 1).padStart(2, '0')}:00`,
    none: 'No time of day',
    rank: (_, key) => Number(key),
  },
  billable: record(
    'Billable',
    'billable',
    '—',
    (_, key) => capital(key),
    inOrder(['billable', 'billable in part', 'not billable']),
  ),
  standing: record(
    'Standing',
    'standing',
    '—',
    (_, key) => capital(key),
    inOrder(['to bill', 'on a draft', 'invoiced', 'paid', 'written down', 'not to bill']),
  ),
  approval: record('Approval', 'approval', '—', (_, key) => capital(key), inOrder(checkedStandings)),
  'approved by': record(
    'Approved by',
    'approver',
    'Nobody yet',
    ({ pricer }, key) => pricer.member.get(key)?.name ?? gone,
  ),
  what: record(
    'What',
    'what',
    '—',
    (_, key) => capital(whatShown[key] ?? key),
    inOrder(['time', 'expense', 'bill', 'ledger', 'agreed']),
  ),
  note: record('Note', 'note', 'No note', same),
  // What has several tags stands in a group of them together, so that groups come to the whole.
  tag: { ...record('Tag', 'tags', 'No tag', same), within: (key) => key.split(TAG_BREAK) },
  entry: record('Single entry', 'source', '—', same, () => 0),
  reason: record('Reason', 'reason', 'No reason', same),
  currency: record('Currency', 'currency', '—', same),
  program: record('Program', 'program', 'No program', same),
  site: record('Site', 'site', 'No site', same),
  folder: record('Folder', 'folder', 'No folder', same),
  document: record('Document', 'document', 'No document', same),
  'opened for': record(
    'Opened for',
    'opened for',
    'Not said',
    ({ pricer }, key) => pricer.book.workspace.openedFor.find((each) => each.id === key)?.name ?? gone,
  ),
};

const whatShown: Record<string, string> = {
  bill: 'supplier bill',
  ledger: 'ledger line',
  agreed: 'agreed amount',
  day: 'owed time',
  plan: 'planned time',
  adjustment: 'written down',
  trail: 'noticed activity',
};

/** The word of a code: an id or name from the dictionary, a day, an hour as its number. */
export function wordOf(words: Dictionaries, dimension: Dimension, code: number): string {
  if (code === 0) return '';
  if (dimension === 'day') return addDays('1970-01-01', code);
  if (dimension === 'hour') return String(code);
  return words.of(dimension).word(code);
}

/** Whether a field says a day. */
export const isDayField = (name: FieldName): boolean => fields[name].dimension === 'day';
