import { plainAmount, spreadsheetAmount } from '@half-penny/core/money';
import Papa from 'papaparse';
import { harmless } from './harmless';
import { writeTables } from '../sheet';
import type { HoursLine } from './line';

const HEAD = [
  'Day',
  'From',
  'To',
  'Length',
  'Hours',
  'Billable',
  'Member',
  'Client',
  'Project',
  'Job number',
  'Job not set up',
  'Task',
  'Service',
  'Note',
  'Tags',
  'Worth',
  'Currency',
] as const;

/** Hours as CSV (RFC 4180, CRLF); text that a spreadsheet would take for a formula is made harmless with an apostrophe. */
export function writeCsv(lines: readonly HoursLine[]): string {
  const rows = lines.map((line) => [
    line.day,
    line.from,
    line.to,
    line.length,
    decimal(line.seconds),
    decimal(line.billableSeconds),
    ...[
      line.member,
      line.client,
      line.project,
      line.jobNumber,
      line.unlisted,
      line.task,
      line.service,
      line.note,
      line.tags,
    ].map(harmless),
    line.amount === null ? '' : plainAmount(line.amount, line.currency),
    line.currency,
  ]);
  return `${Papa.unparse([[...HEAD], ...rows], { newline: '\r\n' })}\r\n`;
}

/** Hours to four places, halves up, in whole numbers. */
export function decimal(seconds: number): string {
  const scaled = Math.floor((seconds * 10_000 * 2 + 3600) / 7200);
  return `${Math.floor(scaled / 10_000)}.${String(scaled % 10_000).padStart(4, '0')}`;
}

const DAY_SECONDS = 86_400;
const HOURS = '[h]:mm:ss';
const CLOCK = 'hh:mm';

/** Hours as a spreadsheet (XLSX): days are days and lengths are fractions of a day shown as hours, so that they can be summed. */
export function writeXlsx(lines: readonly HoursLine[]): Promise<Blob> {
  const clock = (text: string) => {
    if (text === '') return null;
    const [hour, minute] = text.split(':').map(Number) as [number, number];
    return { value: (hour * 60 + minute) / 1440, type: Number, format: CLOCK } as const;
  };
  const length = (seconds: number) => ({ value: seconds / DAY_SECONDS, type: Number, format: HOURS }) as const;
  const text = (value: string) => (value === '' ? null : ({ value: value.slice(0, 32_767), type: String } as const));
  return writeTables([
    {
      name: 'Hours',
      head: HEAD,
      widths: [11, 7, 7, 9, 8, 9, 16, 20, 22, 12, 18, 16, 16, 40, 18, 10, 9],
      rows: lines.map((line) => [
        { value: new Date(`${line.day}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd' } as const,
        clock(line.from),
        clock(line.to),
        length(line.seconds),
        { value: line.seconds / 3600, type: Number, format: '0.00' } as const,
        length(line.billableSeconds),
        text(line.member),
        text(line.client),
        text(line.project),
        text(line.jobNumber),
        text(line.unlisted),
        text(line.task),
        text(line.service),
        text(line.note),
        text(line.tags),
        line.amount === null
          ? null
          : ({ value: spreadsheetAmount(line.amount, line.currency), type: Number, format: '#,##0.00' } as const),
        text(line.currency),
      ]),
    },
  ]);
}
