import type { BudgetStanding } from '../costing/budget';
import type { CurrencyCode } from '../money/currency';
import { bands, type AgedRow } from './ageing';
import { figureAt, type ReportResult } from './answer';
import { columnFields, type FieldName } from './fields';
import { plainDefinition, type Definition } from './definition';
import { measureOf, type MeasureKind, type MeasureName } from './measures';

/** A report in small: its outermost groups by one measure. */
export interface SmallPicture {
  measure: MeasureName;
  kind: MeasureKind;
  /** By day, week or hour: read from left to right; else the largest first. */
  overTime: boolean;
  points: { label: string; value: number }[];
  /** Of all groups, also of those that are not drawn; in the currency drawn. */
  whole: number | null;
  /** What money is drawn in; there is as well some in another where `others`. */
  currency: string;
  others: boolean;
}

/** So many bars are told apart in small. */
const MOST_OVER_TIME = 14;
const MOST_GROUPS = 5;

const isOverTime = (field: FieldName): boolean => (columnFields as readonly FieldName[]).includes(field);

/** What a report's small picture asks: its outermost level and one measure, of the same days and with the same filters. */
export function smallQuestion(definition: Definition, measure?: MeasureName): Definition {
  const own = measure ?? definition.sortBy ?? definition.measures[0]!;
  const level = definition.rows[0] ?? definition.columns;
  return {
    ...plainDefinition,
    rows: level ? [level] : [],
    measures: [own],
    filters: definition.filters,
    when: definition.when,
    sortBy: level && isOverTime(level) ? null : own,
  };
}

/** The picture of an answer to a small question; null where there is nothing to draw. */
export function smallPicture(answer: ReportResult): SmallPicture | null {
  const measure = answer.definition.measures[0]!;
  const { kind } = measureOf(measure);
  const level = answer.definition.rows[0];
  const overTime = level !== undefined && isOverTime(level);
  const inCurrency = (at: number) =>
    answer.rows.flatMap(({ depth, label }, row) => {
      const value = depth === 1 ? figureAt(answer, measure, row, undefined, at) : null;
      return value === null || value === 0 ? [] : [{ label, value }];
    });
  const isMoney = kind === 'money' || kind === 'money an hour';
  const drawable = answer.currencies.map((_, at) => (at === 0 || isMoney ? inCurrency(at) : []));
  const at = drawable.findIndex((points) => points.length > 0);
  if (at === -1) return null;
  const points = drawable[at]!;
  return {
    measure,
    kind,
    overTime,
    points: overTime
      ? points.slice(-MOST_OVER_TIME)
      : points.toSorted((a, b) => b.value - a.value).slice(0, MOST_GROUPS),
    whole: figureAt(answer, measure, 0, undefined, at),
    currency: answer.currencies[at]!,
    others: drawable.some((each, other) => other !== at && each.length > 0),
  };
}

/** Amounts by age, of all clients together, in the studio’s currency where there are any, else in another; what is not due yet first, where there is such a thing. */
export function agedPicture(
  rows: readonly AgedRow[],
  home: CurrencyCode,
  { ahead, measure }: { ahead: boolean; measure: MeasureName },
): SmallPicture | null {
  const some = rows.filter(({ all }) => all !== 0);
  const currency = some.some((row) => row.currency === home) ? home : some[0]?.currency;
  if (currency === undefined) return null;
  const own = some.filter((row) => row.currency === currency);
  const sum = (of: (row: AgedRow) => number) => own.reduce((all, row) => all + of(row), 0);
  const points = bands.map((band) => ({ label: `${band} days`, value: sum((row) => row.bands[band]) }));
  return {
    measure,
    kind: 'money',
    overTime: true,
    points: ahead ? [{ label: 'Not due yet', value: sum((row) => row.ahead) }, ...points] : points,
    whole: sum((row) => row.all),
    currency,
    others: own.length < some.length,
  };
}

/** How much of each budget is used, the fullest first. */
export function budgetPicture(
  standings: readonly BudgetStanding[],
  nameOf: (standing: BudgetStanding) => string,
): SmallPicture | null {
  const points = standings
    .map((standing) => {
      const percent = Math.max(standing.hours?.percent ?? 0, standing.money?.percent ?? 0);
      return { label: nameOf(standing), value: percent * 100 };
    })
    .sort((a, b) => b.value - a.value)
    .slice(0, MOST_GROUPS);
  if (points.length === 0) return null;
  return { measure: 'utilisation', kind: 'percent', overTime: false, points, whole: null, currency: '', others: false };
}
