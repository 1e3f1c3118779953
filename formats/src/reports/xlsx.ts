import { currencyDigits, minorPerMajor, type RoundingRule } from '@half-penny/core/money';
import type { ReportSheet, SheetCell } from '@half-penny/core/reports';
import writeExcel, { type SheetData } from 'write-excel-file/universal';

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
const HOURS = '[h]:mm';
const HOURS_EXACT = '[h]:mm:ss';

/**
 * A report as a spreadsheet. On the first sheet innermost groups have their figures and all totals are sums of them; on the second
 * stands each entry, its amount a formula of its length and rate with the rounding inside, so that it comes to our amount exactly.
 */
export async function reportXlsx(
  sheet: ReportSheet,
  entries: readonly ReportEntry[],
  rule: RoundingRule,
): Promise<Blob> {
  const sheets = [{ data: groupsSheet(sheet), sheet: 'Report' }];
  if (entries.length > 0) sheets.push({ data: entriesSheet(entries, rule), sheet: 'Entries' });
  return writeExcel(sheets).toBlob();
}

type Cell = SheetData[number][number];

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
}

function placesOf(sheet: ReportSheet): Place[] {
  const all = [...sheet.lines, sheet.total];
  return sheet.heads.flatMap(({ label, kind }, cell): Place[] => {
    if (kind === 'length') {
      return [false, true].map((decimal) => ({
        head: decimal ? `${label} (hours)` : label,
        cell,
        kind,
        decimal,
        currency: '',
      }));
    }
    if (!kind.startsWith('money')) return [{ head: label, cell, kind, decimal: false, currency: '' }];
    const currencies = [
      ...new Set(all.flatMap((line) => line.cells[cell]!.values.map((each) => each.currency))),
    ].sort();
    return currencies.map((currency) => ({
      head: currencies.length > 1 ? `${label}, ${currency}` : label,
      cell,
      kind,
      decimal: false,
      currency,
    }));
  });
}

/** "A" … "Z", "AA" …: the letters of a column, counted from 0. */
export function columnName(index: number): string {
  const letter = String.fromCharCode(65 + (index % 26));
  return index < 26 ? letter : columnName(Math.floor(index / 26) - 1) + letter;
}

function groupsSheet(sheet: ReportSheet): SheetData {
  const depth = sheet.levels.length;
  const places = placesOf(sheet);
  const first = Math.max(1, depth);
  const data: SheetData = [
    [
      ...(depth === 0 ? [text('', true)] : sheet.levels.map((level) => text(level, true))),
      ...places.map((place) => text(place.head, true)),
    ],
  ];
  const summed = (kind: SheetCell['kind']) => kind === 'length' || kind === 'money' || kind === 'count';
  for (const line of sheet.lines) {
    const names = Array.from({ length: first }, (_, level) => text(line.path[level] ?? '', line.depth < depth));
    data.push([
      ...names,
      ...places.map((place, index): Cell => {
        const letters = columnName(first + index);
        if (place.decimal) return hoursOf(index, first, data.length + 1);
        // A group sums what is in it by its own place in the sheet: those below it, one level deeper, until the next of its own.
        if (line.depth < depth && summed(place.kind)) return total(place, sumOf(sheet, line, letters, data.length + 1));
        return figure(place, line.cells[place.cell]!);
      }),
    ]);
  }
  const outermost = data.slice(1).flatMap((_, index) => (sheet.lines[index]!.depth === 1 ? [index + 2] : []));
  data.push([
    text('All', true),
    ...Array.from({ length: first - 1 }, () => null),
    ...places.map((place, index): Cell => {
      const letters = columnName(first + index);
      if (place.decimal) return hoursOf(index, first, data.length + 1);
      if (!summed(place.kind) || depth === 0) return figure(place, sheet.total.cells[place.cell]!);
      return total(place, formulaOfSum(letters, outermost));
    }),
  ]);
  return data;
}

/** Decimal hours of the length to its left. */
const hoursOf = (index: number, first: number, row: number): Cell => ({
  value: `ROUND(${columnName(first + index - 1)}${row}*24,4)`,
  type: 'Formula',
  format: '0.00',
});

/** The rows one level below a group. */
function sumOf(sheet: ReportSheet, line: ReportSheet['lines'][number], letters: string, row: number): string {
  const at = sheet.lines.indexOf(line);
  const rows: number[] = [];
  for (let next = at + 1; next < sheet.lines.length && sheet.lines[next]!.depth > line.depth; next++) {
    if (sheet.lines[next]!.depth === line.depth + 1) rows.push(row + next - at);
  }
  return formulaOfSum(letters, rows);
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

function total({ kind, currency }: Place, sum: string): Cell {
  if (kind === 'length')
    return {
      value: `ROUND((${sum})*${DAY_SECONDS},0)/${DAY_SECONDS}`,
      type: 'Formula',
      format: HOURS,
      fontWeight: 'bold',
    };
  if (kind === 'count') return { value: `${sum}`, type: 'Formula', format: '#,##0', fontWeight: 'bold' };
  return {
    value: `ROUND(${sum},${currencyDigits(currency)})`,
    type: 'Formula',
    format: moneyFormat(currency),
    fontWeight: 'bold',
  };
}

function figure({ kind, currency }: Place, cell: SheetCell): Cell {
  const value = currency
    ? (cell.values.find((each) => each.currency === currency)?.value ?? 0)
    : (cell.values[0]?.value ?? null);
  if (value === null) return null;
  switch (kind) {
    case 'length':
      return { value: value / DAY_SECONDS, type: Number, format: HOURS };
    case 'percent':
      return { value: value / 10_000, type: Number, format: '0.0%' };
    case 'count':
      return { value, type: Number, format: '#,##0' };
    default:
      return { value: value / minorPerMajor(currency), type: Number, format: moneyFormat(currency) };
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
function entriesSheet(entries: readonly ReportEntry[], rule: RoundingRule): SheetData {
  const data: SheetData = [ENTRY_HEADS.map((head) => text(head, true))];
  for (const entry of entries) {
    const row = data.length + 1;
    const length = (seconds: number): Cell => ({ value: seconds / DAY_SECONDS, type: Number, format: HOURS_EXACT });
    data.push([
      { value: new Date(`${entry.day}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd' },
      text(entry.member),
      text(entry.job),
      text(entry.service),
      text(entry.note),
      length(entry.recorded),
      length(entry.billed),
      { value: `ROUND(G${row}*24,4)`, type: 'Formula', format: '0.00' },
      entry.scaled === null ? null : { value: entry.scaled / 10_000, type: Number, format: '#,##0.00##' },
      entry.scaled === null
        ? null
        : { value: `${amountFormula(entry, rule, row)}`, type: 'Formula', format: moneyFormat(entry.currency) },
      text(entry.currency),
    ]);
  }
  const last = data.length;
  for (const currency of [...new Set(entries.map((entry) => entry.currency))].sort()) {
    const sum = (letters: string) => `SUMIF(K2:K${last},"${currency}",${letters}2:${letters}${last})`;
    const hours = (letters: string): Cell => ({
      value: `ROUND(${sum(letters)}*${DAY_SECONDS},0)/${DAY_SECONDS}`,
      type: 'Formula',
      format: HOURS_EXACT,
      fontWeight: 'bold',
    });
    data.push([
      text(`All in ${currency}`, true),
      null,
      null,
      null,
      null,
      hours('F'),
      hours('G'),
      { value: `ROUND(G${data.length + 1}*24,4)`, type: 'Formula', format: '0.00', fontWeight: 'bold' },
      null,
      {
        value: `ROUND(${sum('J')},${currencyDigits(currency)})`,
        type: 'Formula',
        format: moneyFormat(currency),
        fontWeight: 'bold',
      },
      text(currency, true),
    ]);
  }
  return data;
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
