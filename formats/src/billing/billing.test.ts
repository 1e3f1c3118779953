import Papa from 'papaparse';
import { readSheet } from 'read-excel-file/universal';
import { describe, expect, it } from 'vitest';
import { journalCsv, registerCsv, registerXlsx, type RegisterLine } from '.';

const line = (fields: Partial<RegisterLine> = {}): RegisterLine => ({
  number: 'SL-0131',
  kind: 'invoice',
  client: 'Quayside Playhouse',
  day: '2026-11-02',
  dueDay: '2026-12-02',
  standing: 'part paid',
  currency: 'GBP',
  sums: {
    net: 10_500,
    discount: -500,
    netAfter: 10_000,
    taxes: new Map([['VAT 20 %', 2000]]),
    rounding: 0,
    total: 12_000,
    deducted: -1000,
    payable: 11_000,
  },
  owed: 5005,
  purchaseOrder: '',
  ...fields,
});

describe('the register of invoices', () => {
  it('is read back from CSV as it was written', () => {
    const text = registerCsv([
      line(),
      line({
        client: '=SUM(A1)',
        currency: 'JPY',
        sums: { ...line().sums, net: -500, taxes: new Map([['VAT 5 %', 25]]) },
      }),
    ]);
    const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true });
    expect(data[0]!.slice(7)).toEqual([
      ...['Net', 'Discount', 'Net after discount', 'VAT 20 %', 'VAT 5 %', 'Rounding', 'Total', 'Deducted', 'To pay'],
      ...['Owed', 'Client order'],
    ]);
    expect(data[1]).toEqual([
      'SL-0131',
      'invoice',
      'Quayside Playhouse',
      '2026-11-02',
      '2026-12-02',
      'part paid',
      'GBP',
      ...['105.00', '-5.00', '100.00', '20.00', '0.00', '0.00', '120.00', '-10.00', '110.00', '50.05'],
      '',
    ]);
    expect(data[2]!.slice(2, 8)).toEqual(["'=SUM(A1)", '2026-11-02', '2026-12-02', 'part paid', 'JPY', '-500']);
  });

  it('is a spreadsheet with days and numbers', async () => {
    const rows = await readSheet(await registerXlsx([line()], ['Saltmere Lighting: invoices', '26 Nov 2026']));
    expect(rows[0]![0]).toBe('Saltmere Lighting: invoices');
    expect(rows[3]![0]).toBe('SL-0131');
    expect((rows[3]![3] as unknown as Date).toISOString().slice(0, 10)).toBe('2026-11-02');
    expect(rows[3]!.slice(7, 16)).toEqual([105, -5, 100, 20, 0, 120, -10, 110, 50.05]);
  });
});

describe('the journal for a bookkeeping', () => {
  it('balances row by row of each posting, in its currency and in the studio’s', () => {
    const bare = { taxCode: '', text: '' };
    const posting = {
      day: '2026-11-02',
      reference: 'SL-0131',
      text: 'Atelier Clairval: Invoice',
      clientCode: 'C-204',
      currency: 'EUR',
      lines: [
        { ...bare, account: '1100', debit: 12_000, credit: 0, home: { debit: 10_455, credit: 0 } },
        { ...bare, account: '4000', debit: 0, credit: 10_000, taxCode: 'T1', home: { debit: 0, credit: 8713 } },
        { ...bare, account: '2200', debit: 0, credit: 2000, taxCode: 'T1', home: { debit: 0, credit: 1742 } },
      ],
    };
    const { data } = Papa.parse<Record<string, string>>(journalCsv([posting], 'GBP'), {
      header: true,
      skipEmptyLines: true,
    });
    const sum = (field: string) => data.reduce((total, row) => total + Math.round(Number(row[field] || 0) * 100), 0);
    expect([sum('Debit'), sum('Credit'), sum('Debit, GBP'), sum('Credit, GBP')]).toEqual([
      12_000, 12_000, 10_455, 10_455,
    ]);
    expect(data.map((row) => [row.Account, row['Tax code'], row['Client code']])).toEqual([
      ['1100', '', 'C-204'],
      ['4000', 'T1', 'C-204'],
      ['2200', 'T1', 'C-204'],
    ]);
  });
});
