import type { RegisterSums } from '@half-penny/core/billing';
import { currencyDigits, plainAmount, spreadsheetAmount } from '@half-penny/core/money';
import Papa from 'papaparse';
import { harmless } from '../hours';
import { writeTables } from '../sheet';

/** An invoice or credit note as the register lists it. Amounts are in minor units. */
export interface RegisterLine {
  number: string;
  kind: string;
  client: string;
  day: string;
  dueDay: string;
  standing: string;
  currency: string;
  sums: RegisterSums;
  owed: number;
  purchaseOrder: string;
}

const BEFORE = ['Number', 'Kind', 'Client', 'Date', 'Due', 'Standing', 'Currency'] as const;

interface AmountColumn {
  head: string;
  of: (line: RegisterLine) => number;
}

/** From the net to what is to be paid each row adds up; a tax that none of the lines bears has no column. */
function amountColumns(lines: readonly RegisterLine[]): AmountColumn[] {
  const taxes = [...new Set(lines.flatMap((line) => [...line.sums.taxes.keys()]))].sort();
  const column = (head: string, of: (line: RegisterLine) => number): AmountColumn => ({ head, of });
  return [
    column('Net', ({ sums }) => sums.net),
    column('Discount', ({ sums }) => sums.discount),
    column('Net after discount', ({ sums }) => sums.netAfter),
    ...taxes.map((tax) => column(tax, ({ sums }) => sums.taxes.get(tax) ?? 0)),
    column('Rounding', ({ sums }) => sums.rounding),
    column('Total', ({ sums }) => sums.total),
    column('Deducted', ({ sums }) => sums.deducted),
    column('To pay', ({ sums }) => sums.payable),
    column('Owed', ({ owed }) => owed),
  ];
}

/** The register as CSV (RFC 4180, CRLF), with amounts as plain decimals. */
export function registerCsv(lines: readonly RegisterLine[]): string {
  const columns = amountColumns(lines);
  const rows = lines.map((line) => [
    harmless(line.number),
    line.kind,
    harmless(line.client),
    line.day,
    line.dueDay,
    line.standing,
    line.currency,
    ...columns.map(({ of }) => plainAmount(of(line), line.currency)),
    harmless(line.purchaseOrder),
  ]);
  const head = [...BEFORE, ...columns.map((column) => harmless(column.head)), 'Client order'];
  return `${Papa.unparse([head, ...rows], { newline: '\r\n' })}\r\n`;
}

/** The register as a spreadsheet (XLSX): days are days and amounts are numbers. */
export function registerXlsx(lines: readonly RegisterLine[], title: readonly string[]): Promise<Blob> {
  const columns = amountColumns(lines);
  const text = (value: string) => (value === '' ? null : ({ value, type: String } as const));
  const day = (value: string) =>
    value === '' ? null : ({ value: new Date(`${value}T00:00:00Z`), type: Date, format: 'd mmm yyyy' } as const);
  return writeTables([
    {
      name: 'Invoices',
      title,
      head: [...BEFORE, ...columns.map((column) => column.head), 'Client order'],
      widths: [12, 12, 26, 12, 12, 12, 9, ...columns.map(() => 12), 16],
      rows: lines.map((line) => [
        text(line.number),
        text(line.kind),
        text(line.client),
        day(line.day),
        day(line.dueDay),
        text(line.standing),
        text(line.currency),
        ...columns.map(({ of }) => {
          const digits = currencyDigits(line.currency);
          const format = digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
          return { value: spreadsheetAmount(of(line), line.currency), type: Number, format } as const;
        }),
        text(line.purchaseOrder),
      ]),
    },
  ]);
}
