import { Fault } from '@half-penny/core/model';
import { isDay } from '@half-penny/core/time';
import type { DayOrder, Cell, Table } from '../hours';
import {
  currencyOf,
  minorOf,
  oneLine,
  spent,
  withIds,
  type ReadLine,
  type Statement,
  type StatementOptions,
} from './lines';

/** What a column of a table of transactions can mean. */
export const ledgerFields = ['day', 'supplier', 'text', 'reference', 'amount', 'out', 'in', 'currency', 'id'] as const;
export type LedgerField = (typeof ledgerFields)[number];

export interface LedgerMapping {
  columns: Partial<Record<LedgerField, number>>;
  dayOrder: DayOrder;
  /** Whether money spent stands below nothing, as banks write it. */
  spentNegative: boolean;
  /** The currency where no column tells it. */
  currency: string;
}

const TELLING: readonly (readonly [LedgerField, RegExp])[] = [
  ['day', /^(?:date|day|booking date|transaction date|posted|posting date)$/i],
  ['supplier', /^(?:supplier|payee|merchant|name|counterparty|to|paid to)$/i],
  ['out', /^(?:out|debit|paid out|money out|withdrawal|spent)$/i],
  ['in', /^(?:in|credit|paid in|money in|deposit|received)$/i],
  ['amount', /^(?:amount|value|sum|total)$/i],
  ['currency', /^(?:currency|ccy)$/i],
  // A reference is often that of a contract, the same every month: it is no number of a line.
  ['id', /^(?:id|transaction id|transaction number|fitid)$/i],
  ['reference', /^(?:reference|payment reference|ref|end to end id)$/i],
  ['text', /^(?:text|description|details|memo|narrative|note|particulars)$/i],
];

/**
 * A mapping as the heads and values suggest it.
 *
 * @param wanted what is looked for: a list that somebody has for what came in has it without a sign, as banks write it
 */
export function guessLedgerMapping(
  table: Table,
  currency: string,
  wanted: 'spent' | 'came in' = 'spent',
): LedgerMapping {
  const columns: LedgerMapping['columns'] = {};
  const taken = new Set<number>();
  for (const [field, pattern] of TELLING) {
    const at = table.head.findIndex((head, index) => !taken.has(index) && pattern.test(head.trim()));
    if (at < 0) continue;
    columns[field] = at;
    taken.add(at);
  }
  const amounts = table.rows.map((row) => String(row[columns.amount ?? -1] ?? '').trim()).filter(Boolean);
  const negative = amounts.filter((text) => text.startsWith('-') || text.startsWith('(')).length;
  const parts = table.rows.map((row) =>
    /^(\d{1,2})[/.-](\d{1,2})[/.-]\d{2,4}$/.exec(String(row[columns.day ?? -1] ?? '').trim()),
  );
  const monthFirst = parts.some((part) => part && Number(part[2]) > 12);
  return {
    columns,
    dayOrder: monthFirst ? 'month first' : 'day first',
    spentNegative: wanted === 'came in' || amounts.length === 0 || negative * 2 >= amounts.length,
    currency,
  };
}

/** A row that cannot be read, counted as spreadsheets count. */
export interface LedgerFault {
  row: number;
  message: string;
}

/** What a table of transactions becomes; rows that cannot be read are named, and none is taken while there are any. */
export function mapLedger(
  table: Table,
  mapping: LedgerMapping,
  options: StatementOptions = {},
): Statement & { faults: LedgerFault[] } {
  const faults: LedgerFault[] = [];
  const lines: ReadLine[] = [];
  const { columns } = mapping;
  if (columns.day === undefined || (columns.amount === undefined && columns.out === undefined)) {
    return {
      lines: [],
      incoming: 0,
      moneyIn: [],
      faults: [{ row: 1, message: 'Say which columns are the day and the amount.' }],
    };
  }
  table.rows.forEach((row, index) => {
    const number = table.firstRow + index;
    const cell = (field: LedgerField): Cell => (columns[field] === undefined ? null : (row[columns[field]] ?? null));
    try {
      const currency =
        columns.currency === undefined
          ? mapping.currency
          : currencyOf(cell('currency') || mapping.currency, `row ${number}`);
      const amount = amountOf(cell, mapping, currency, number);
      if (amount === 0) return;
      const day = dayOf(cell('day'), mapping.dayOrder, number);
      const supplier = oneLine(cell('supplier'));
      const text = oneLine(cell('text'), 2000);
      const given = oneLine(cell('id'), 100);
      const reference = oneLine(cell('reference'), 200);
      lines.push({ account: '', given, day, supplier, text, reference, amount, currency, withdrawn: false });
    } catch (thrown) {
      if (!(thrown instanceof Fault)) throw thrown;
      faults.push({ row: number, message: thrown.message });
    }
  });
  return { ...spent(withIds('statement', lines), options), faults };
}

function amountOf(cell: (field: LedgerField) => Cell, mapping: LedgerMapping, currency: string, row: number): number {
  const place = `row ${row}`;
  const read = (value: Cell) => {
    const text = String(value ?? '')
      .trim()
      .replace(/^\((.*)\)$/, '-$1')
      .replace(/\p{Sc}/gu, '')
      .replace(/(\d),(?=\d{3}(\D|$))/g, '$1')
      .replace(/\s/g, '');
    return text === '' ? 0 : minorOf(text, currency, place);
  };
  if (mapping.columns.amount !== undefined) {
    const amount = read(cell('amount'));
    return (mapping.spentNegative ? -amount : amount) || 0;
  }
  return Math.abs(read(cell('out'))) - Math.abs(read(cell('in')));
}

function dayOf(value: Cell, order: DayOrder, row: number): string {
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  const text = String(value ?? '').trim();
  const iso = /^(\d{4})-?(\d{2})-?(\d{2})/.exec(text);
  if (iso) {
    const day = `${iso[1]}-${iso[2]}-${iso[3]}`;
    if (isDay(day)) return day;
  }
  const parts = /^(\d{1,2})[/. -](\d{1,2})[/. -](\d{2}|\d{4})$/.exec(text);
  if (parts) {
    const [date, month] = order === 'day first' ? [parts[1]!, parts[2]!] : [parts[2]!, parts[1]!];
    const year = parts[3]!.length === 2 ? `20${parts[3]}` : parts[3]!;
    const day = `${year}-${month.padStart(2, '0')}-${date.padStart(2, '0')}`;
    if (isDay(day)) return day;
  }
  throw new Fault('not-a-day', `row ${row}: “${text.slice(0, 30)}” is not a day.`, 'file');
}
