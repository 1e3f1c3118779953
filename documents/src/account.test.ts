import { accountStatements, type AccountPaper, type AccountStatement } from '@half-penny/core/billing';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { accountPdf } from './node';

/** The text of a PDF, as pdftotext (poppler-utils) reads it. */
function textOf(bytes: Uint8Array): string {
  const path = join(mkdtempSync(join(tmpdir(), 'half-penny-account-')), 'account.pdf');
  writeFileSync(path, bytes);
  return execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
}

const statement: AccountStatement = {
  currency: 'EUR',
  opening: -5000,
  lines: Array.from({ length: 90 }, (_, at) => ({
    day: '2026-09-02',
    move: 'invoice',
    number: `SL-${at + 1}`,
    invoiceId: `${at}`,
    note: '',
    amount: 100,
    balance: (at + 1) * 100 - 5000,
  })),
  closing: 4000,
  open: [{ invoiceId: '1', number: 'SL-1', day: '2026-09-02', dueDay: '2026-10-02', owed: 100, held: 25, late: 1 }],
  ahead: 5000,
};
const paper: AccountPaper = {
  studio: { name: 'Saltmere Lighting', address: '14 Lantern Row\nSaltmere', email: '', paper: 'A4' },
  client: { name: 'Maison Clairval', address: '3 quai des Lampes' },
  from: '2026-09-01',
  to: '2026-10-03',
  statements: [statement],
};

it('a statement of account is printed whole, over as many pages as it takes', async () => {
  const text = textOf(await accountPdf(paper));
  const pages = text.split('\f').filter((page) => page.trim() !== '');
  expect(pages.length).toBeGreaterThan(2);
  pages.forEach((page, at) => expect(page).toContain(`page ${at + 1} of ${pages.length}`));
  for (let at = 1; at <= 90; at++) expect(text).toMatch(new RegExp(`Invoice SL-${at} +€1\\.00`));
  expect(text).toMatch(/Brought forward +−?-?€50\.00|Brought forward +€−50\.00/);
  expect(text).toMatch(/Owed +€40\.00/);
  expect(text).toMatch(/SL-1, 1 day late +2 Oct 2026 +€0\.25 +€1\.00/);
  expect(text).toContain('Paid ahead and not taken by an invoice yet: €50.00');
  expect(text).toContain('3 quai des Lampes');
});

it('says so where nothing moved', async () => {
  const none = accountStatements([], [], paper.from, paper.to);
  expect(textOf(await accountPdf({ ...paper, statements: none }))).toContain(
    'Nothing was invoiced or paid up to 3 Oct 2026.',
  );
});
