import { currencyDigits, spreadsheetAmount } from '@half-penny/core/money';
import Papa from 'papaparse';
import writeExcel, { type SheetData } from 'write-excel-file/universal';
import { harmless } from '../hours';

/** An invoice or credit note as the register lists it. Amounts are in minor units. */
export interface RegisterLine {
  number: string;
  kind: string;
  client: string;
  day: string;
  dueDay: string;
  standing: string;
  currency: string;
  net: number;
  tax: number;
  total: number;
  payable: number;
  owed: number;
  purchaseOrder: string;
}

const HEAD = [
  'Number',
  'Kind',
  'Client',
  'Date',
  'Due',
  'Standing',
  'Currency',
  'Net',
  'Tax',
  'Total',
  'To pay',
  'Owed',
  'Client order',
] as const;

const amounts = (line: RegisterLine) => [line.net, line.tax, line.total, line.payable, line.owed];

/** A whole number of minor units as a plain decimal. */
export function plainOf(minor: number, currency: string): string {
  const digits = currencyDigits(currency);
  const text = String(Math.abs(minor)).padStart(digits + 1, '0');
  return `${minor < 0 ? '-' : ''}${digits === 0 ? text : `${text.slice(0, -digits)}.${text.slice(-digits)}`}`;
}

/** The register as CSV (RFC 4180, CRLF), with amounts as plain decimals. */
export function registerCsv(lines: readonly RegisterLine[]): string {
  const rows = lines.map((line) => [
    harmless(line.number),
    line.kind,
    harmless(line.client),
    line.day,
    line.dueDay,
    line.standing,
    line.currency,
    ...amounts(line).map((minor) => plainOf(minor, line.currency)),
    harmless(line.purchaseOrder),
  ]);
  return `${Papa.unparse([[...HEAD], ...rows], { newline: '\r\n' })}\r\n`;
}

/** The register as a spreadsheet (XLSX): days are days and amounts are numbers. */
export async function registerXlsx(lines: readonly RegisterLine[]): Promise<Blob> {
  const text = (value: string) => (value === '' ? null : ({ value, type: String } as const));
  const day = (value: string) =>
    value === '' ? null : ({ value: new Date(`${value}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd' } as const);
  const data: SheetData = [
    HEAD.map((value) => ({ value, fontWeight: 'bold' as const })),
    ...lines.map((line) => [
      text(line.number),
      text(line.kind),
      text(line.client),
      day(line.day),
      day(line.dueDay),
      text(line.standing),
      text(line.currency),
      ...amounts(line).map((minor) => {
        const digits = currencyDigits(line.currency);
        const format = digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
        return { value: spreadsheetAmount(minor, line.currency), type: Number, format } as const;
      }),
      text(line.purchaseOrder),
    ]),
  ];
  return writeExcel(data, { sheet: 'Invoices' }).toBlob();
}
