import Papa from 'papaparse';
import { readSheet } from 'read-excel-file/universal';
import { describe, expect, it } from 'vitest';
import { journalCsv, plainOf, registerCsv, registerXlsx, type RegisterLine } from '.';

const line = (fields: Partial<RegisterLine> = {}): RegisterLine => ({
  number: 'SL-0131',
  kind: 'invoice',
  client: 'Quayside Playhouse',
  day: '2026-11-02',
  dueDay: '2026-12-02',
  standing: 'part paid',
  currency: 'GBP',
  net: 10_000,
  tax: 2000,
  total: 12_000,
  payable: 12_000,
  owed: 5005,
  purchaseOrder: '',
  ...fields,
});

describe('the register of invoices', () => {
  it('is read back from CSV as it was written', () => {
    const text = registerCsv([line(), line({ client: '=SUM(A1)', currency: 'JPY', net: -500 })]);
    const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true });
    expect(data[0]!.slice(0, 3)).toEqual(['Number', 'Kind', 'Client']);
    expect(data[1]).toEqual([
      'SL-0131',
      'invoice',
      'Quayside Playhouse',
      '2026-11-02',
      '2026-12-02',
      'part paid',
      'GBP',
      '100.00',
      '20.00',
      '120.00',
      '120.00',
      '50.05',
      '',
    ]);
    expect(data[2]!.slice(2, 8)).toEqual(["'=SUM(A1)", '2026-11-02', '2026-12-02', 'part paid', 'JPY', '-500']);
  });

  it('is a spreadsheet with days and numbers', async () => {
    const rows = await readSheet(await registerXlsx([line()]));
    expect(rows[1]![0]).toBe('SL-0131');
    expect((rows[1]![3] as unknown as Date).toISOString().slice(0, 10)).toBe('2026-11-02');
    expect(rows[1]!.slice(7, 12)).toEqual([100, 20, 120, 120, 50.05]);
  });
});

describe('the journal for a bookkeeping', () => {
  it('balances row by row of each posting', () => {
    const posting = {
      day: '2026-11-02',
      reference: 'SL-0131',
      text: 'Quayside Playhouse: Invoice',
      currency: 'GBP',
      lines: [
        { account: '1100', debit: 12_000, credit: 0, text: 'To be paid' },
        { account: '4000', debit: 0, credit: 10_000, text: 'Income' },
        { account: '2200', debit: 0, credit: 2000, text: 'VAT 20 %' },
      ],
    };
    const { data } = Papa.parse<Record<string, string>>(journalCsv([posting]), { header: true, skipEmptyLines: true });
    const sum = (field: string) => data.reduce((total, row) => total + Number(row[field] || 0), 0);
    expect([sum('Debit'), sum('Credit')]).toEqual([120, 120]);
    expect(data.map((row) => row.Account)).toEqual(['1100', '4000', '2200']);
  });

  it('writes amounts in the digits of their currency', () => {
    expect([plainOf(-5, 'GBP'), plainOf(1234, 'JPY'), plainOf(1234, 'KWD')]).toEqual(['-0.05', '1234', '1.234']);
  });
});
