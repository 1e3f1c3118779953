import type { Cell, Table } from './table';

/** What a column of a table of hours can mean. */
export const hourFields = [
  'day',
  'length',
  'from',
  'to',
  'note',
  'client',
  'project',
  'jobNumber',
  'unlisted',
  'task',
  'service',
  'member',
  'billable',
  'tags',
] as const;
export type HourField = (typeof hourFields)[number];

/** How lengths are written. */
export const lengthForms = ['h:mm', 'hours', 'minutes', 'seconds', 'days'] as const;
export type LengthForm = (typeof lengthForms)[number];

/** What a plain figure among lengths with colons can be. */
export const plainForms = ['hours', 'minutes'] as const;
export type PlainForm = (typeof plainForms)[number];

/** In which order a date like 3/12/2026 is written. */
export const dayOrders = ['day first', 'month first'] as const;
export type DayOrder = (typeof dayOrders)[number];

/** How a table is understood: which column, by its place, means what. */
export interface Mapping {
  columns: Partial<Record<HourField, number>>;
  lengthForm: LengthForm;
  dayOrder: DayOrder;
  /** What a plain figure is that stands among lengths with colons; asked while it is not said. */
  plain?: PlainForm;
}

/** Words in a head that tell what a column means; the earlier field takes a column first. */
const TELLING: readonly (readonly [HourField, RegExp])[] = [
  ['day', /^(?:date|day|datum|work date|entry date|start date)$/i],
  ['from', /^(?:from|start|start time|begin|in|von)$/i],
  ['to', /^(?:to|end|end time|stop|finish|out|bis)$/i],
  ['billable', /billable|chargeable/i],
  ['tags', /^(?:tags?|labels?|keywords?)$/i],
  ['length', /^(?:length|duration|hours|time|hrs|dauer|stunden|minutes|mins|seconds)\b/i],
  ['jobNumber', /\b(?:job|project) ?(?:no|number|code|nr)\b/i],
  ['unlisted', /not set up|unlisted/i],
  ['client', /client|customer|kunde/i],
  ['project', /project|job|projekt|matter/i],
  ['task', /task/i],
  ['service', /service|activity|work type|category/i],
  ['member', /member|person|employee|user|who|name|staff/i],
  ['note', /note|description|what|comment|details|memo|text/i],
];

/** What a table's columns likely mean, by their heads and by what stands in them. */
export function guessMapping(table: Table): Mapping {
  const columns: Partial<Record<HourField, number>> = {};
  const taken = new Set<number>();
  for (const [field, pattern] of TELLING) {
    const at = table.head.findIndex((head, index) => !taken.has(index) && pattern.test(head));
    if (at < 0) continue;
    columns[field] = at;
    taken.add(at);
  }
  const valuesOf = (at: number | undefined): Cell[] =>
    at === undefined ? [] : table.rows.slice(0, 500).map((row) => row[at] ?? null);
  return {
    columns,
    lengthForm: guessLengthForm(
      columns.length === undefined ? '' : table.head[columns.length]!,
      valuesOf(columns.length),
    ),
    dayOrder: guessDayOrder(valuesOf(columns.day)),
  };
}

function guessLengthForm(head: string, values: readonly Cell[]): LengthForm {
  if (values.some((value) => value instanceof Date)) return 'days';
  if (values.some((value) => typeof value === 'string' && value.includes(':'))) return 'h:mm';
  if (/sec/i.test(head)) return 'seconds';
  if (/min/i.test(head)) return 'minutes';
  return 'hours';
}

function guessDayOrder(values: readonly Cell[]): DayOrder {
  for (const value of values) {
    const parts = typeof value === 'string' ? /^(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}$/.exec(value.trim()) : null;
    if (parts && Number(parts[1]) > 12) return 'day first';
    if (parts && Number(parts[2]) > 12) return 'month first';
  }
  return 'day first';
}

/** By which a table is known again: its heads, one a line. */
export const headOf = (table: Pick<Table, 'head'>): string => table.head.join('\n');

/** A mapping as it is remembered: by the heads, so that columns may stand elsewhere next time. */
export function packMapping(
  table: Pick<Table, 'head'>,
  { columns, lengthForm, dayOrder }: Mapping,
): Record<string, string> {
  const named = Object.entries(columns).map(([field, at]) => [field, table.head[at]!]);
  return { ...Object.fromEntries(named), lengthForm, dayOrder };
}

/** A remembered mapping for a table; columns that are not there any more are left out. */
export function unpackMapping(table: Table, packed: Record<string, string>): Mapping {
  const guess = guessMapping(table);
  const columns: Partial<Record<HourField, number>> = {};
  for (const field of hourFields) {
    const at = packed[field] === undefined ? -1 : table.head.indexOf(packed[field]);
    if (at >= 0) columns[field] = at;
  }
  const lengthForm = lengthForms.find((form) => form === packed.lengthForm) ?? guess.lengthForm;
  const dayOrder = dayOrders.find((order) => order === packed.dayOrder) ?? guess.dayOrder;
  return { columns, lengthForm, dayOrder };
}
