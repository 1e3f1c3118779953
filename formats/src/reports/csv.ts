import { divideRounded, fromScaled, plainAmount, shareOut, sumExact } from '@half-penny/core/money';
import { grouped } from '@half-penny/core/model';
import type { ReportSheet, SheetCell } from '@half-penny/core/reports';
import Papa from 'papaparse';
import { harmless } from '../hours';

/**
 * How lengths stand in a file: as hours and minutes, as decimal hours to four places, in tenths of an hour, or in minutes with the word.
 *
 * Tenths are the nearest that come to the day's: each member's day is rounded to whole tenths, and shared by largest remainder. The billed
 * length stands as it is billed, which is in whole tenths where the policy is one of six minutes.
 */
export type LengthAs = 'h:mm' | 'decimal' | 'tenths' | 'minutes';

/**
 * A report as CSV (RFC 4180, CRLF): a row for each innermost group, with the groups around it in columns of their own. Amounts are
 * plain decimals with their currency beside them; a group with several currencies has a row for each.
 */
export function reportCsv(sheet: ReportSheet, lengths: LengthAs): string {
  const depth = sheet.levels.length;
  const isMoney = sheet.heads.some(({ kind }) => kind.startsWith('money'));
  const inner = depth === 0 ? [sheet.total] : sheet.lines.filter((line) => line.depth === depth);
  const tenths = lengths === 'tenths' ? tenthsOf(sheet, inner) : null;
  const rows = inner.flatMap((line, at) => {
    const currencies = [
      ...new Set(
        line.cells
          .filter((cell) => cell.kind.startsWith('money'))
          .flatMap((cell) => cell.values.map((each) => each.currency)),
      ),
    ];
    return (isMoney && currencies.length > 0 ? currencies : ['']).map((currency, index) => [
      ...(depth === 0 ? [] : line.path.map(harmless)),
      ...line.cells.map((cell, place) => {
        const own = index === 0 ? tenths?.get(place)?.[at] : undefined;
        return own === undefined ? plainCell(cell, currency, index === 0, lengths) : fromScaled(own * 1000);
      }),
      ...(isMoney ? [currency] : []),
    ]);
  });
  const head = [...sheet.levels, ...sheet.heads.map((each) => headOf(each, lengths)), ...(isMoney ? ['Currency'] : [])];
  return `${Papa.unparse([head.map(harmless), ...rows], { newline: '\r\n' })}\r\n`;
}

const headOf = ({ label, kind }: ReportSheet['heads'][number], lengths: LengthAs): string =>
  kind === 'percent'
    ? `${label} (percent)`
    : kind === 'length' && (lengths === 'decimal' || lengths === 'tenths')
      ? `${label} (hours)`
      : label;

/** Lengths and counts stand in the first row of a group alone, as they are of no currency. */
function plainCell({ kind, values }: SheetCell, currency: string, first: boolean, lengths: LengthAs): string {
  if (kind.startsWith('money')) {
    const own = values.find((each) => each.currency === currency);
    return own ? (own.value === null ? '' : plainAmount(own.value, currency)) : plainAmount(0, currency);
  }
  const value = values[0]?.value ?? null;
  if (value === null || !first) return '';
  if (kind === 'percent') return fromScaled(value * 100);
  return kind === 'length' ? plainLength(value, lengths) : String(value);
}

const TENTH = 360;

/** Lengths of each column in whole tenths of an hour, by line: those of a member's day come to the day's nearest tenths. */
function tenthsOf({ heads, levelFields }: ReportSheet, lines: ReportSheet['lines']): Map<number, number[]> {
  const keyed = levelFields.flatMap((field, level) => (field === 'day' || field === 'member' ? [level] : []));
  const together = grouped(lines.keys(), (at) => keyed.map((level) => lines[at]!.path[level]).join('\n'));
  const tenths = new Map<number, number[]>();
  heads.forEach(({ kind, measure }, place) => {
    if (kind !== 'length' || measure === 'billed') return;
    const own = new Array<number>(lines.length).fill(0);
    for (const group of together.values()) {
      const seconds = group.map((at) => Math.max(0, lines[at]!.cells[place]!.values[0]?.value ?? 0));
      const whole = divideRounded(sumExact(seconds), TENTH, 'half away from zero');
      shareOut(whole, seconds).forEach((share, index) => (own[group[index]!] = share));
    }
    tenths.set(place, own);
  });
  return tenths;
}

/** A length in a file; decimal hours are rounded half away from nothing. */
export function plainLength(seconds: number, as: LengthAs): string {
  switch (as) {
    case 'decimal':
      return fromScaled(divideRounded(seconds * 10_000, 3600, 'half away from zero'));
    case 'tenths':
      return plainLength(seconds, 'decimal');
    case 'minutes':
      return `${fromScaled(divideRounded(seconds * 10_000, 60, 'half away from zero'))} min`;
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
