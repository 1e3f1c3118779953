import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { invoiceDefaults } from '../model/defaults-billing';
import type { Deduction, Deposit, FrozenInvoice, Invoice, Payment } from '../model/records';
import { addDays } from '../time/day';
import { accountStatements, type AccountStatement } from './account-statement';
import type { InvoiceBalance } from './standing';

const START = '2026-06-01';
const day = (at: number) => addDays(START, at);

interface Paper {
  id: string;
  on: number;
  total: number;
  currency?: string;
  held?: number;
  ahead?: number;
  ofId?: string;
  voidedOn?: number;
  releasedOn?: number;
}

function paper({ id, on, total, currency = 'GBP', held = 0, ahead = 0, ofId, voidedOn, releasedOn }: Paper): Invoice {
  const deduction = (kind: Deduction['kind'], amount: number): Deduction[] =>
    amount === 0 ? [] : [{ kind, depositId: null, text: '', amount, dueDay: null }];
  const deductions = [...deduction('retention', held), ...deduction('deposit', ahead)];
  const frozen = {
    number: id,
    day: day(on),
    dueDay: day(on + 30),
    total,
    rounding: 0,
    deductions,
  } as unknown as FrozenInvoice;
  return {
    ...invoiceDefaults,
    id,
    clientId: 'playhouse',
    kind: ofId ? 'credit note' : 'invoice',
    ofId: ofId ?? null,
    currency,
    createdAt: 0,
    condense: 'service',
    taxId: null,
    frozen: { ...frozen, payable: total - held - ahead },
    voided: voidedOn === undefined ? null : { at: 0, day: day(voidedOn), reason: 'Wrong month' },
    releasedOn: releasedOn === undefined ? null : day(releasedOn),
  };
}
const paid = (invoiceId: string, on: number, amount: number, kind: Payment['kind'] = 'payment'): Payment => ({
  id: `${invoiceId} ${on} ${kind}`,
  invoiceId,
  kind,
  day: day(on),
  amount,
  currency: 'GBP',
  note: '',
});
const ahead = (on: number, amount: number): Deposit => ({
  id: `ahead ${on}`,
  clientId: 'playhouse',
  projectId: null,
  day: day(on),
  amount,
  currency: 'GBP',
  note: 'For lamps',
});
const balances = (papers: readonly Invoice[], payments: readonly Payment[]): InvoiceBalance[] =>
  papers.map((invoice) => ({
    invoice,
    payments: payments.filter((each) => each.invoiceId === invoice.id),
    credits: papers.filter((each) => each.ofId === invoice.id),
  }));
const written = ({ opening, lines, closing }: AccountStatement): string[] => [
  `before: ${opening}`,
  ...lines.map((line) => [line.day, line.move, line.number, line.amount, line.balance].join(' ')),
  `after: ${closing}`,
];

describe('a statement of account', () => {
  const papers = [
    paper({ id: 'INV-1', on: 0, total: 10_000 }),
    paper({ id: 'INV-2', on: 20, total: 50_000, held: 2500, ahead: 5000 }),
    paper({ id: 'INV-3', on: 25, total: 900, voidedOn: 40 }),
    paper({ id: 'CN-1', on: 26, total: -1000, ofId: 'INV-2' }),
    paper({ id: 'INV-4', on: 27, total: 700, currency: 'EUR' }),
    paper({ id: 'INV-5', on: 60, total: 1 }),
  ];
  const payments = [
    paid('INV-1', 10, 4000),
    paid('INV-1', 22, 6500),
    paid('INV-1', 23, 500, 'refund'),
    paid('INV-2', 31, 20_000),
    paid('INV-2', 31, 100, 'write-off'),
  ];
  const statement = (from: number, to: number) =>
    accountStatements(balances(papers, payments), [ahead(5, 8000)], day(from), day(to));

  it('carries what was owed before, moves by day, and ends with what is owed, in each currency by itself', () => {
    const [euros, pounds] = statement(20, 35);
    expect([euros!.currency, ...written(euros!)]).toEqual([
      'EUR',
      'before: 0',
      '2026-06-28 invoice INV-4 700 700',
      'after: 700',
    ]);
    expect(written(pounds!)).toEqual([
      // 100.00 invoiced, 40.00 paid, 80.00 paid ahead.
      'before: -2000',
      '2026-06-21 invoice INV-2 50000 48000',
      '2026-06-23 payment INV-1 -6500 41500',
      '2026-06-24 refund INV-1 500 42000',
      '2026-06-26 invoice INV-3 900 42900',
      '2026-06-27 credit note CN-1 -1000 41900',
      '2026-07-02 payment INV-2 -20000 21900',
      '2026-07-02 written off INV-2 -100 21800',
      'after: 21800',
    ]);
  });

  it('tells the open items of its last day, what is held back, what is late, and what was paid ahead and not taken', () => {
    const [, then] = statement(20, 35);
    expect(then!.open).toEqual([
      // 500.00 less 25.00 held and 50.00 taken from what was paid ahead, 10.00 credited, 201.00 settled.
      { invoiceId: 'INV-2', number: 'INV-2', day: day(20), dueDay: day(50), owed: 21_400, held: 2500, late: -15 },
      // Made void only later.
      { invoiceId: 'INV-3', number: 'INV-3', day: day(25), dueDay: day(55), owed: 900, held: 0, late: -20 },
    ]);
    expect(then!.ahead).toBe(3000);
    const [, later] = statement(36, 59);
    expect(written(later!)).toEqual(['before: 21800', '2026-07-11 void INV-3 -900 20900', 'after: 20900']);
    expect(later!.open.map(({ number, late }) => [number, late])).toEqual([['INV-2', 9]]);
    expect(statement(-20, -10)).toEqual([]);
  });

  it('closes with its open items, what is held back among them, less what was paid ahead', () => {
    const amount = fc.integer({ min: 1, max: 1_000_000 });
    const on = fc.integer({ min: 0, max: 100 });
    const account = fc.array(
      fc.record({
        on,
        total: amount,
        share: fc.nat(40),
        credit: fc.nat(100),
        paid: amount,
        back: fc.nat(500),
        kind: fc.nat(3),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(account, fc.array(fc.tuple(on, amount), { maxLength: 4 }), on, on, (rows, deposits, a, b) => {
        const papers: Invoice[] = [];
        const payments: Payment[] = [];
        rows.forEach((row, at) => {
          const id = `INV-${at}`;
          const held = Math.floor((row.total * row.share) / 100);
          papers.push(
            paper({
              id,
              on: row.on,
              total: row.total,
              held,
              ahead: Math.floor(held / 3),
              ...(row.kind === 1 ? { voidedOn: row.on + 7 } : {}),
              ...(row.kind === 2 ? { releasedOn: row.on + 9 } : {}),
            }),
          );
          if (row.kind === 1) return;
          if (row.credit > 50) papers.push(paper({ id: `CN-${at}`, on: row.on + 2, total: -row.credit, ofId: id }));
          payments.push(paid(id, row.on + 3, row.paid));
          if (row.back > 0) payments.push(paid(id, row.on + 4, row.back, row.back > 250 ? 'refund' : 'write-off'));
        });
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const given = balances(papers, payments);
        const aheads = deposits.map(([on, amount]) => ahead(on, amount));
        for (const each of accountStatements(given, aheads, day(from), day(to))) {
          const open = each.open.reduce((sum, item) => sum + item.owed + item.held, 0);
          expect(each.closing).toBe(open - each.ahead);
          expect(each.lines.reduce((sum, line) => sum + line.amount, each.opening)).toBe(each.closing);
          // Where one ends the next begins.
          const [next] = accountStatements(given, aheads, day(to + 1), day(to + 1));
          expect(next!.opening).toBe(each.closing);
        }
      }),
    );
  });
});
