import * as z from 'zod';
import { Fault } from '../faults/fault';
import { currentDefinition } from '../model/migrations';
import { fieldNames, columnFields, trailFields } from './fields';
import { measureNames, trailMeasures, type MeasureName } from './measures';
import { whenSchema } from './when';

/** Only facts of these, or all but these. An empty key is what has none. */
export const filterSchema = z.strictObject({
  field: z.enum(fieldNames),
  keys: z.array(z.string().max(2000)).max(5000),
  without: z.boolean(),
});

/** With what figures stand side by side. */
export const comparisons = ['before', 'year before'] as const;

/** How a report is drawn. */
export const chartKinds = ['bars', 'shares', 'heat', 'line'] as const;

/** What a report asks. It holds no data: kept, it is run again on what there is then. */
export const definitionSchema = z.strictObject({
  /** Grouped by these, the first outermost. */
  rows: z.array(z.enum(fieldNames)).max(8, 'A report has at most eight levels.'),
  columns: z.enum(columnFields).nullable(),
  measures: z
    .array(z.enum(measureNames as [MeasureName, ...MeasureName[]]))
    .min(1, 'A report measures something.')
    .max(12, 'A report has at most twelve measures.'),
  filters: z.array(filterSchema).max(40),
  when: whenSchema,
  compare: z.enum(comparisons).nullable(),
  /** By what is measured, the most first; by what groups are called where null. */
  sortBy: z.enum(measureNames as [MeasureName, ...MeasureName[]]).nullable(),
  chart: z.enum(chartKinds).nullable(),
});

export type ReportFilter = z.infer<typeof filterSchema>;
export type Comparison = (typeof comparisons)[number];
export type ChartKind = (typeof chartKinds)[number];
export type Definition = z.infer<typeof definitionSchema>;

/** What a new report begins with. */
export const plainDefinition: Definition = {
  rows: ['client', 'project'],
  columns: null,
  measures: ['recorded', 'billable', 'worth'],
  filters: [],
  when: { kind: 'moving', name: 'this month' },
  compare: null,
  sortBy: null,
  chart: null,
};

/** What of a definition is not known here any more, or not yet, and was left out. */
export interface ReadDefinition {
  definition: Definition;
  left: string[];
}

/**
 * Reads a definition from a file or an address. Fields, measures and filters that mean nothing here are left out and named, so that what
 * is left of the report still runs.
 *
 * @throws Fault when it is no definition at all, or when nothing is left to measure
 */
export function readDefinition(value: unknown): ReadDefinition {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new Fault('other-file', 'This is not a report of Half Penny.', 'report');
  }
  const raw: Record<string, unknown> = { ...plainDefinition, ...currentDefinition(value as Record<string, unknown>) };
  const left: string[] = [];
  const known = (list: unknown, names: readonly string[], what: string): string[] =>
    (Array.isArray(list) ? list : []).filter((each): each is string => {
      const fine = typeof each === 'string' && names.includes(each);
      if (!fine) left.push(`${what} “${String(each).slice(0, 40)}”`);
      return fine;
    });
  raw.rows = [...new Set(known(raw.rows, fieldNames, 'the group'))];
  raw.measures = [...new Set(known(raw.measures, measureNames, 'the measure'))];
  raw.filters = (Array.isArray(raw.filters) ? raw.filters : []).filter((each: { field?: unknown } | null) => {
    const fine = (fieldNames as readonly unknown[]).includes(each?.field);
    if (!fine) left.push(`the filter on “${String(each?.field).slice(0, 40)}”`);
    return fine;
  });
  const optional = (key: 'columns' | 'compare' | 'sortBy' | 'chart', names: readonly string[], what: string) => {
    if (raw[key] === null || names.includes(raw[key] as string)) return;
    left.push(`${what} “${String(raw[key]).slice(0, 40)}”`);
    raw[key] = null;
  };
  optional('columns', columnFields, 'the columns');
  optional('compare', comparisons, 'the comparison');
  optional('sortBy', measureNames, 'the order by');
  optional('chart', chartKinds, 'the chart');
  const parsed = definitionSchema.safeParse(
    Object.fromEntries(Object.keys(plainDefinition).map((key) => [key, raw[key]])),
  );
  if (parsed.success) return { definition: parsed.data, left };
  const [issue] = parsed.error.issues;
  throw new Fault('invalid', issue?.message ?? 'This is not a report of Half Penny.', issue?.path.join('.') ?? '', {
    left,
  });
}

/** Whether a report asks for what only the trail knows. */
export const asksTrail = ({ rows, measures, filters, sortBy }: Definition): boolean =>
  [...rows, ...filters.map((each) => each.field)].some((field) => trailFields.includes(field)) ||
  [...measures, sortBy].some((measure) => measure !== null && trailMeasures.includes(measure));
