import { showAmount } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { fromScaled, showDecimal } from '../money/decimal';
import { divideRounded } from '../money/rational';
import { showDayShort } from '../time/day';
import { showLength, type LengthStyle } from '../time/length';
import { figureAt, type ReportResult } from './answer';
import { fields, type FieldName } from './fields';
import { measureOf, type MeasureKind, type MeasureName } from './measures';
import { movings, type Range } from './when';
import type {} from './definition';
import type { When } from './when';

/** Hundredths of a percent as percent with one decimal: 8578 → "85.8 %". */
export const showPercent = (hundredths: number): string =>
  `${showDecimal(fromScaled(divideRounded(hundredths, 10, 'half away from zero') * 1000), 1)} %`;

/** A figure as it stands in a table; a dash where it means nothing. */
export function showFigure(
  value: number | null,
  kind: MeasureKind,
  currency: CurrencyCode,
  style: LengthStyle,
): string {
  if (value === null) return '–';
  switch (kind) {
    case 'length':
      return style === 'h:mm' ? withSeconds(value) : showLength(value, style);
    case 'money':
      return showAmount(value, currency);
    case 'money an hour':
      return `${showAmount(value, currency)}/h`;
    case 'percent':
      return showPercent(value);
    case 'count':
      return showDecimal(String(value), 0);
  }
}

/** h:mm; what has seconds shows them, so that a column adds up. */
function withSeconds(seconds: number): string {
  const rest = Math.abs(seconds) % 60;
  const whole = showLength(Math.abs(seconds), 'h:mm');
  return `${seconds < 0 ? '−' : ''}${whole}${rest > 0 ? `:${String(rest).padStart(2, '0')}` : ''}`;
}

/** "last month", "1 Oct 2026 – 31 Oct 2026". */
export function showWhen(when: When): string {
  if (when.kind === 'all') return 'all time';
  return when.kind === 'fixed' ? showRange(when) : movings[when.name].toLowerCase();
}

/** The days of a report, from the first to the last. */
export const showRange = ({ from, to }: Range): string => `${showDayShort(from)} – ${showDayShort(to)}`;

/** A cell of a printed report: what it says, and the figures it stands for, one a currency. */
export interface SheetCell {
  kind: MeasureKind;
  values: { value: number | null; currency: CurrencyCode }[];
  text: string;
}

export interface SheetLine {
  /** 1 for the outermost groups, 0 for the whole. */
  depth: number;
  /** What it and the groups around it are called, outermost first. */
  path: string[];
  cells: SheetCell[];
}

/** A report as it is printed or written out: the same lines and figures that the screen has, in words. */
export interface ReportSheet {
  title: string;
  note: string;
  period: string;
  /** What its levels are called. */
  levels: string[];
  levelFields: readonly FieldName[];
  heads: { label: string; kind: MeasureKind; measure: MeasureName }[];
  lines: SheetLine[];
  total: SheetLine;
}

/** Makes what is printed of an answer. */
export function sheetOf(answer: ReportResult, title: string, note: string, style: LengthStyle): ReportSheet {
  const { definition, columns } = answer;
  const split = columns.length > 1;
  const heads = columns.flatMap((column) =>
    definition.measures.map((measure) => {
      const { label, kind } = measureOf(measure);
      const named = split
        ? `${column.label}${definition.measures.length > 1 ? `, ${label.toLowerCase()}` : ''}`
        : label;
      return { label: named, kind, measure };
    }),
  );
  const cellsOf = (row: number): SheetCell[] =>
    columns.flatMap((_, c) => definition.measures.map((measure) => cellOf(answer, measure, row, c, style)));
  const path: string[] = [];
  const lines = answer.rows.slice(1).map((row, at): SheetLine => {
    path.length = row.depth - 1;
    path.push(row.label);
    return { depth: row.depth, path: [...path], cells: cellsOf(at + 1) };
  });
  return {
    title,
    note,
    period: answer.range ? showRange(answer.range) : 'All time',
    levels: definition.rows.map((name) => fields[name].label),
    levelFields: definition.rows,
    heads,
    lines,
    total: { depth: 0, path: ['All'], cells: cellsOf(0) },
  };
}

function cellOf(
  answer: ReportResult,
  measure: MeasureName,
  row: number,
  column: number,
  style: LengthStyle,
): SheetCell {
  const { kind } = measureOf(measure);
  const isMoney = kind === 'money' || kind === 'money an hour';
  const all = (isMoney ? answer.currencies : answer.currencies.slice(0, 1)).map((currency, c) => ({
    currency,
    value: figureAt(answer, measure, row, column, c),
  }));
  const told = all.filter(({ value }) => value);
  const values = told.length > 0 ? told : all.slice(0, 1);
  // Among several currencies, nothing at all is of none of them.
  const nothing = told.length === 0 && isMoney && answer.currencies.length > 1;
  const text = nothing ? '–' : values.map((each) => showFigure(each.value, kind, each.currency, style)).join('\n');
  return { kind, values, text };
}
