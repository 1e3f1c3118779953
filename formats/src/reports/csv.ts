import { divideRounded, fromScaled } from '@half-penny/core/money';
import type { ReportSheet, SheetCell } from '@half-penny/core/reports';
import Papa from 'papaparse';
import { plainOf } from '../billing';
import { harmless } from '../hours';

/** How lengths stand in a file: as hours and minutes, as decimal hours to four places, or in tenths of an hour, each begun one counted. */
export type LengthAs = 'h:mm' | 'decimal' | 'tenths';

/**
 * A report as CSV (RFC 4180, CRLF): a row for each innermost group, with the groups around it in columns of their own. Amounts are
 * plain decimals with their currency beside them; a group with several currencies has a row for each.
 */
export function reportCsv(sheet: ReportSheet, lengths: LengthAs): string {
  const depth = sheet.levels.length;
  const isMoney = sheet.heads.some(({ kind }) => kind.startsWith('money'));
  const inner = depth === 0 ? [sheet.total] : sheet.lines.filter((line) => line.depth === depth);
  const rows = inner.flatMap((line) => {
    const currencies = [
      ...new Set(
        line.cells
          .filter((cell) => cell.kind.startsWith('money'))
          .flatMap((cell) => cell.values.map((each) => each.currency)),
      ),
    ];
    return (isMoney && currencies.length > 0 ? currencies : ['']).map((currency, index) => [
      ...(depth === 0 ? [] : line.path.map(harmless)),
      ...line.cells.map((cell) => plainCell(cell, currency, index === 0, lengths)),
      ...(isMoney ? [currency] : []),
    ]);
  });
  const head = [...sheet.levels, ...sheet.heads.map((each) => headOf(each, lengths)), ...(isMoney ? ['Currency'] : [])];
  return `${Papa.unparse([head.map(harmless), ...rows], { newline: '\r\n' })}\r\n`;
}

const headOf = ({ label, kind }: ReportSheet['heads'][number], lengths: LengthAs): string =>
  kind === 'percent' ? `${label} (percent)` : kind === 'length' && lengths !== 'h:mm' ? `${label} (hours)` : label;

/** Lengths and counts stand in the first row of a group alone, as they are of no currency. */
function plainCell({ kind, values }: SheetCell, currency: string, first: boolean, lengths: LengthAs): string {
  if (kind.startsWith('money')) {
    const own = values.find((each) => each.currency === currency);
    return own ? (own.value === null ? '' : plainOf(own.value, currency)) : plainOf(0, currency);
  }
  const value = values[0]?.value ?? null;
  if (value === null || !first) return '';
  if (kind === 'percent') return fromScaled(value * 100);
  return kind === 'length' ? plainLength(value, lengths) : String(value);
}

/** A length in a file; decimal hours are rounded half away from nothing, tenths up. */
export function plainLength(seconds: number, as: LengthAs): string {
  switch (as) {
    case 'decimal':
      return fromScaled(divideRounded(seconds * 10_000, 3600, 'half away from zero'));
    case 'tenths':
      return fromScaled(Math.ceil(seconds / 360) * 1000);
    case 'h:mm': {
      const whole = Math.abs(seconds);
      const two = (part: number) => String(part).padStart(2, '0');
      const rest = whole % 60 > 0 ? `:${two(whole % 60)}` : '';
      return `${seconds < 0 ? '-' : ''}${Math.floor(whole / 3600)}:${two(Math.floor((whole % 3600) / 60))}${rest}`;
    }
  }
}

/** A report as tab-separated text with its totals, as spreadsheets and letters take it from the clipboard. */
export function reportText(sheet: ReportSheet): string {
  const flat = (text: string) => harmless(text.replace(/[\t\r\n]+/g, ' '));
  const row = (name: string, cells: readonly SheetCell[]) =>
    [flat(name), ...cells.map((cell) => cell.text.replaceAll('\n', ' '))].join('\t');
  return [
    ['', ...sheet.heads.map(({ label }) => flat(label))].join('\t'),
    ...sheet.lines.map((line) => row(`${'  '.repeat(line.depth - 1)}${line.path.at(-1)}`, line.cells)),
    row('All', sheet.total.cells),
  ].join('\n');
}
