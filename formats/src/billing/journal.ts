import type { Posting } from '@half-penny/core/billing';
import Papa from 'papaparse';
import { harmless } from '../hours';
import { plainOf } from './register';

const HEAD = ['Posting', 'Date', 'Reference', 'Text', 'Account', 'Debit', 'Credit', 'Currency', 'Line'] as const;

/**
 * Balanced postings as CSV (RFC 4180, CRLF) for a bookkeeping: one row a line, those of one posting under one number.
 */
export function journalCsv(postings: readonly Posting[]): string {
  const rows = postings.flatMap((posting, index) =>
    posting.lines.map((line) => [
      String(index + 1),
      posting.day,
      harmless(posting.reference),
      harmless(posting.text),
      harmless(line.account),
      line.debit === 0 ? '' : plainOf(line.debit, posting.currency),
      line.credit === 0 ? '' : plainOf(line.credit, posting.currency),
      posting.currency,
      harmless(line.text),
    ]),
  );
  return `${Papa.unparse([[...HEAD], ...rows], { newline: '\r\n' })}\r\n`;
}
