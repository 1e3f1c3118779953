import type { Posting } from '@half-penny/core/billing';
import { plainAmount, type CurrencyCode } from '@half-penny/core/money';
import Papa from 'papaparse';
import { harmless } from '../hours';

const HEAD = [
  'Posting',
  'Date',
  'Reference',
  'Client code',
  'Text',
  'Account',
  'Tax code',
  'Debit',
  'Credit',
  'Currency',
  'Line',
] as const;

/**
 * Balanced postings as CSV (RFC 4180, CRLF) for a bookkeeping: one row a line, those of one posting under one number, with their value in the
 * studio's currency beside.
 */
export function journalCsv(postings: readonly Posting[], home: CurrencyCode): string {
  const amount = (minor: number | undefined, currency: CurrencyCode) => (minor ? plainAmount(minor, currency) : '');
  const rows = postings.flatMap((posting, index) =>
    posting.lines.map((line) => [
      String(index + 1),
      posting.day,
      harmless(posting.reference),
      harmless(posting.clientCode),
      harmless(posting.text),
      harmless(line.account),
      harmless(line.taxCode),
      amount(line.debit, posting.currency),
      amount(line.credit, posting.currency),
      posting.currency,
      harmless(line.text),
      amount(line.home?.debit, home),
      amount(line.home?.credit, home),
    ]),
  );
  return `${Papa.unparse([[...HEAD, `Debit, ${home}`, `Credit, ${home}`], ...rows], { newline: '\r\n' })}\r\n`;
}
