import {
  amountOfScaled,
  currencyDigits,
  divideRounded,
  minorPerMajor,
  spreadsheetAmount,
  sumExact,
  type RoundingRule,
} from '@half-penny/core/money';
import type { MeasureName, ReportSheet, SheetCell } from '@half-penny/core/reports';
import { columnName } from '../hours/table';
import { headRow, writeTables, type SheetCellWithValue, type Table } from '../sheet';

/** An entry behind a report, with what its amount is computed from. */
export interface ReportEntry {
  day: string;
  member: string;
  job: string;
  service: string;
  note: string;
  /** Recorded and billed seconds. */
  recorded: number;
  billed: number;
  /** Price of a unit in ten-thousandths of a major unit; null where no rate fits. */
  scaled: number | null;
  /** Seconds of a unit. */
  perSeconds: number;
  currency: string;
}

const DAY_SECONDS = 86_400;

/** How lengths are shown in a spreadsheet; they are parts of a day under it either way. */
export type LengthsShown = 'h:mm' | 'minutes';

/** Number formats of lengths: to the minute in groups, to the second for entries. */
const shown: Record<LengthsShown, { rough: string; exact: string }> = {
  'h:mm': { rough: '[h]:mm', exact: '[h]:mm:ss' },
  minutes: { rough: '[m]" min"', exact: '[m]" min"' },
};

/**
 * A report as a spreadsheet. On the first sheet innermost groups have their figures, all totals are sums of them, and rates and shares of
 * totals are worked out of those; on the second stands each entry, its amount a formula of its length and rate with the rounding inside,
 * so that it comes to our amount exactly.
 */
export function reportXlsx(
  sheet: ReportSheet,
  entries: readonly ReportEntry[],
  rule: RoundingRule,
  lengths: LengthsShown = 'h:mm',
): Promise<Blob> {
  const tables = [groupsTable(sheet, lengths)];
  if (entries.length > 0) tables.push(entriesTable(sheet, entries, rule, lengths));
  return writeTables(tables);
}

type Cell = SheetCellWithValue;

const text = (value: string, bold = false): Cell =>
  value === ''
    ? null
    : { value: value.slice(0, 32_767), type: String, ...(bold ? { fontWeight: 'bold' as const } : {}) };

/** A column of the spreadsheet for a measure, and one for each currency where there are several. */
interface Place {
  head: string;
  /** Which cell of a line. */
  cell: number;
  kind: SheetCell['kind'];
  /** Lengths stand twice: as hours and minutes, and as decimal hours. */
  decimal: boolean;
  currency: string;
  /** Number format of a length. */
  lengthFormat: string;
}

function placesOf(sheet: ReportSheet, lengthFormat: string): Place[] {
  const all = [...sheet.lines, sheet.total];
  return sheet.heads.flatMap(({ label, kind }, cell): Place[] => {
    if (kind === 'length') {
      return [false, true].map((decimal) => ({
        head: decimal ? `${label} (hours)` : label,
        cell,
        kind,
        decimal,
        currency: '',
        lengthFormat,
      }));
    }
    if (!kind.startsWith('money')) return [{ head: label, cell, kind, decimal: false, currency: '', lengthFormat }];
    const filled = [
      ...new Set(
        all.flatMap((line) => line.cells[cell]!.values.flatMap((each) => (each.value ? [each.currency] : []))),
      ),
    ].sort();
    // A column for a currency only where something stands in it.
    const currencies =
      filled.length > 0 ? filled : all[0]!.cells[cell]!.values.slice(0, 1).map((each) => each.currency);
    return currencies.map((currency) => ({
      head: currencies.length > 1 ? `${label}, ${currency}` : label,
      cell,
      kind,
      decimal: false,
      currency,
      lengthFormat,
    }));
  });
}

/** What a report is, of which time, and in which currencies its amounts are. */
function titleOf({ title, period, note, lines, total }: ReportSheet): string[] {
  const currencies = new Set(
    [...lines, total].flatMap((line) => line.cells.flatMap(({ values }) => values.map((each) => each.currency))),
  );
  const named = [...currencies].filter(Boolean).sort();
  return [
    title,
    [period, named.length > 0 && `amounts in ${named.join(', ')}`].filter(Boolean).join(' · '),
    note,
  ].filter(Boolean);
}

function groupsTable(sheet: ReportSheet, lengths: LengthsShown): Table {
  const { rough } = shown[lengths];
  const depth = sheet.levels.length;
  const places = placesOf(sheet, rough);
  const first = Math.max(1, depth);
  const title = titleOf(sheet);
  const before = headRow({ title });
  const rows: Cell[][] = [];
  const rowNumber = () => before + rows.length + 1;
  const summed = (kind: SheetCell['kind']) => kind === 'length' || kind === 'money' || kind === 'count';
  const cellOf = (place: Place, index: number, cells: readonly SheetCell[], rowsBelow: number[] | null): Cell => {
    if (place.decimal) return hoursOf(index, first, rowNumber(), lengthOf(place, cells));
    if (rowsBelow === null) return figure(place, cells[place.cell]!);
    if (summed(place.kind)) return total(place, formulaOfSum(columnName(first + index), rowsBelow), cells[place.cell]!);
    return quotient({ sheet, places, first }, place, cells, rowNumber()) ?? figure(place, cells[place.cell]!);
  };
  for (const [at, line] of sheet.lines.entries()) {
    const names = Array.from({ length: first }, (_, level) => text(line.path[level] ?? '', line.depth < depth));
    // A group sums what is in it by its own place in the sheet: those below it, one level deeper, until the next of its own.
    const below = line.depth < depth ? rowsUnder(sheet, at, rowNumber()) : null;
    rows.push([...names, ...places.map((place, index) => cellOf(place, index, line.cells, below))]);
  }
  const outermost = sheet.lines.flatMap((line, index) => (line.depth === 1 ? [before + index + 1] : []));
  rows.push([
    text('All', true),
    ...Array.from({ length: first - 1 }, () => null),
    ...places.map((place, index) => cellOf(place, index, sheet.total.cells, depth === 0 ? null : outermost)),
  ]);
  return {
    name: 'Report',
    title,
    head: [...(depth === 0 ? [''] : sheet.levels), ...places.map((place) => place.head)],
    widths: [...Array.from({ length: first }, () => 24), ...places.map(() => 13)],
    rows,
    sums: 1,
  };
}

const lengthOf = ({ cell }: Place, cells: readonly SheetCell[]): number => cells[cell]!.values[0]?.value ?? 0;

const decimalHours = (seconds: number): number => divideRounded(seconds * 10_000, 3600, 'half away from zero') / 10_000;

/** Decimal hours of the length to its left. */
const hoursOf = (index: number, first: number, row: number, seconds: number): Cell => ({
  value: `ROUND(${columnName(first + index - 1)}${row}*24,4)`,
  comesTo: decimalHours(seconds),
  type: 'Formula',
  format: '0.00',
});

/** Measures that are one other by another, where both stand in the report too. */
const quotients: Partial<Record<MeasureName, readonly [MeasureName, MeasureName]>> = {
  rate: ['worth', 'billed'],
  'margin percent': ['margin', 'price'],
  utilisation: ['billable', 'owed'],
};

/** A rate or share of a sum, as a formula of the figures beside it; null where those are not in the report. */
function quotient(
  { sheet, places, first }: { sheet: ReportSheet; places: readonly Place[]; first: number },
  place: Place,
  cells: readonly SheetCell[],
  row: number,
): Cell {
  const { measure } = sheet.heads[place.cell]!;
  const of = quotients[measure];
  if (!of) return null;
  const each = new Set(sheet.heads.map((head) => head.measure)).size;
  const block = Math.floor(place.cell / each);
  const letters = (name: MeasureName): string | null => {
    const at = places.findIndex(
      (other) =>
        sheet.heads[other.cell]!.measure === name &&
        Math.floor(other.cell / each) === block &&
        !other.decimal &&
        (other.currency === '' || place.currency === '' || other.currency === place.currency),
    );
    return at < 0 ? null : `${columnName(first + at)}${row}`;
  };
  const [part, whole] = [letters(of[0]), letters(of[1])];
  // Of several currencies a share would be one of each.
  if (!part || !whole || (place.currency === '' && places.filter((other) => other.currency).length > 2)) return null;
  const value = valueOf(place, cells[place.cell]!);
  if (value === null) return null;
  const ratio =
    measure === 'rate'
      ? `ROUND(${part}/(ROUND(${whole}*${DAY_SECONDS},0)/3600),${currencyDigits(place.currency)})`
      : `ROUND(${part}/${whole},4)`;
  const money = measure === 'rate';
  return {
    value: `IF(${whole}=0,"",${ratio})`,
    comesTo: money ? spreadsheetAmount(value, place.currency) : value / 10_000,
    type: 'Formula',
    format: money ? moneyFormat(place.currency) : '0.0%',
    fontWeight: 'bold',
  };
}

/** The rows one level below a group; `row` is its own in the spreadsheet. */
function rowsUnder({ lines }: ReportSheet, at: number, row: number): number[] {
  const { depth } = lines[at]!;
  const rows: number[] = [];
  for (let next = at + 1; next < lines.length && lines[next]!.depth > depth; next++) {
    if (lines[next]!.depth === depth + 1) rows.push(row + next - at);
  }
  return rows;
}

/** A sum over rows; those that stand together as a range, so that a long report stays within a formula's length. */
function formulaOfSum(letters: string, rows: readonly number[]): string {
  const ranges: string[] = [];
  for (let i = 0; i < rows.length;) {
    let j = i;
    while (j + 1 < rows.length && rows[j + 1] === rows[j]! + 1) j++;
    ranges.push(i === j ? `${letters}${rows[i]}` : `${letters}${rows[i]}:${letters}${rows[j]}`);
    i = j + 1;
  }
  // A function takes at most 255 arguments (ECMA-376 implementations); sums of sums take any number.
  const parts: string[] = [];
  for (let i = 0; i < ranges.length; i += 200) parts.push(`SUM(${ranges.slice(i, i + 200).join(',')})`);
  return parts.length === 0 ? '0' : parts.join('+');
}

const moneyFormat = (currency: string): string => {
  const digits = currencyDigits(currency);
  return digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
};

const bold = { type: 'Formula', fontWeight: 'bold' } as const;

function total(place: Place, sum: string, cell: SheetCell): Cell {
  const { kind, currency } = place;
  const value = valueOf(place, cell) ?? 0;
  if (kind === 'length')
    return {
      ...bold,
      value: `ROUND((${sum})*${DAY_SECONDS},0)/${DAY_SECONDS}`,
      comesTo: value / DAY_SECONDS,
      format: place.lengthFormat,
    };
  if (kind === 'count') return { ...bold, value: sum, comesTo: value, format: '#,##0' };
  return {
    ...bold,
    value: `ROUND(${sum},${currencyDigits(currency)})`,
    comesTo: spreadsheetAmount(value, currency),
    format: moneyFormat(currency),
  };
}

const valueOf = ({ currency }: Place, { values }: SheetCell): number | null =>
  currency ? (values.find((each) => each.currency === currency)?.value ?? 0) : (values[0]?.value ?? null);

function figure(place: Place, cell: SheetCell): Cell {
  const value = valueOf(place, cell);
  if (value === null) return null;
  switch (place.kind) {
    case 'length':
      return { value: value / DAY_SECONDS, type: Number, format: place.lengthFormat };
    case 'percent':
      return { value: value / 10_000, type: Number, format: '0.0%' };
    case 'count':
      return { value, type: Number, format: '#,##0' };
    default:
      return {
        value: spreadsheetAmount(value, place.currency),
        type: Number,
        format: moneyFormat(place.currency),
      };
  }
}

const ENTRY_HEADS = [
  'Day',
  'Member',
  'Job',
  'Service',
  'Note',
  'Recorded',
  'Billed',
  'Billed (hours)',
  'Rate',
  'Amount',
  'Currency',
];

/** Entries with amounts as formulas. One currency after the other is summed at the foot. */
function entriesTable(
  sheet: ReportSheet,
  entries: readonly ReportEntry[],
  rule: RoundingRule,
  lengths: LengthsShown,
): Table {
  const { exact } = shown[lengths];
  const title = titleOf(sheet);
  const head = headRow({ title });
  const last = head + entries.length;
  const length = (seconds: number): Cell => ({ value: seconds / DAY_SECONDS, type: Number, format: exact });
  const decimal = (row: number, seconds: number): Cell => ({
    type: 'Formula',
    value: `ROUND(G${row}*24,4)`,
    comesTo: decimalHours(seconds),
    format: '0.00',
  });
  const amountOf = ({ scaled, billed, perSeconds, currency }: ReportEntry): number =>
    scaled === null ? 0 : amountOfScaled(billed, scaled, perSeconds, minorPerMajor(currency), rule);
  const rows = entries.map((entry, index): Cell[] => {
    const row = head + index + 1;
    return [
      { value: new Date(`${entry.day}T00:00:00Z`), type: Date, format: 'd mmm yyyy' },
      text(entry.member),
      text(entry.job),
      text(entry.service),
      text(entry.note),
      length(entry.recorded),
      length(entry.billed),
      decimal(row, entry.billed),
      entry.scaled === null ? null : { value: entry.scaled / 10_000, type: Number, format: '#,##0.00##' },
      entry.scaled === null
        ? null
        : {
            type: 'Formula',
            value: amountFormula(entry, rule, row),
            comesTo: spreadsheetAmount(amountOf(entry), entry.currency),
            format: moneyFormat(entry.currency),
          },
      text(entry.currency),
    ];
  });
  const currencies = [...new Set(entries.map((entry) => entry.currency))].sort();
  for (const [index, currency] of currencies.entries()) {
    const own = entries.filter((entry) => entry.currency === currency);
    const sum = (letters: string) =>
      `SUMIF(K${head + 1}:K${last},"${currency}",${letters}${head + 1}:${letters}${last})`;
    const seconds = (of: (entry: ReportEntry) => number) => own.reduce((all, entry) => all + of(entry), 0);
    const hours = (letters: string, whole: number): Cell => ({
      ...bold,
      value: `ROUND(${sum(letters)}*${DAY_SECONDS},0)/${DAY_SECONDS}`,
      comesTo: whole / DAY_SECONDS,
      format: exact,
    });
    const billed = seconds((entry) => entry.billed);
    rows.push([
      text(`All in ${currency}`, true),
      null,
      null,
      null,
      null,
      hours(
        'F',
        seconds((entry) => entry.recorded),
      ),
      hours('G', billed),
      decimal(last + index + 1, billed),
      null,
      {
        ...bold,
        value: `ROUND(${sum('J')},${currencyDigits(currency)})`,
        comesTo: spreadsheetAmount(sumExact(own.map(amountOf)), currency),
        format: moneyFormat(currency),
      },
      text(currency, true),
    ]);
  }
  return {
    name: 'Entries',
    title,
    head: ENTRY_HEADS,
    widths: [12, 16, 28, 18, 40, 10, 10, 10, 10, 12, 9],
    rows,
    sums: currencies.length,
  };
}

/**
 * Length × rate with our rounding. Both are brought to whole numbers first, whose product and quotient are exact where they lie half way
 * between two amounts, so that no spreadsheet rounds another way than we do.
 */
export function amountFormula(
  { perSeconds, currency }: Pick<ReportEntry, 'perSeconds' | 'currency'>,
  rule: RoundingRule,
  row: number,
): string {
  const units = minorPerMajor(currency);
  const exact = `ROUND(G${row}*${DAY_SECONDS},0)*ROUND(I${row}*10000,0)/${(perSeconds * 10_000) / units}`;
  switch (rule) {
    case 'half away from zero':
      return `ROUND(${exact},0)/${units}`;
    case 'away from zero':
      return `ROUNDUP(${exact},0)/${units}`;
    case 'towards zero':
      return `ROUNDDOWN(${exact},0)/${units}`;
    case 'half to even':
      return `IF(${exact}-ROUNDDOWN(${exact},0)=0.5,2*ROUND(${exact}/2,0),ROUND(${exact},0))/${units}`;
  }
}
