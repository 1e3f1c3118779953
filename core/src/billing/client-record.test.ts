import { describe, expect, it } from 'vitest';
import { invoiceDefaults } from '../model/defaults-billing';
import type { FrozenInvoice, Invoice, Payment } from '../model/records';
import { clientRecords, RECORD_MONTHS } from './client-record';
import type { InvoiceBalance } from './standing';

// Twelve months up to 12 November 2026: from 1 December 2025.

const TODAY = '2026-11-12';

interface Paper {
  day: string;
  /** Of its one line, in minor units; the tax on it is 20 %. */
  net: number;
  hours?: number;
  clientId?: string;
  dueDay?: string;
  payments?: Partial<Payment>[];
  more?: Partial<Invoice>;
}

function paper({
  day,
  net,
  hours = 0,
  clientId = 'playhouse',
  dueDay = '2026-12-12',
  payments = [],
  more = {},
}: Paper) {
  const tax = net / 5;
  const frozen = {
    day,
    dueDay,
    deductions: [],
    total: net + tax,
    tax,
    payable: net + tax,
    lines: [{ amount: net, taxId: 'vat', seconds: hours * 3600 }],
    taxes: [{ id: 'vat', basis: net, amount: tax }],
  } as unknown as FrozenInvoice;
  const invoice = { ...invoiceDefaults, clientId, currency: 'GBP', frozen, ...more } as Invoice;
  return { invoice, payments: payments.map((each) => ({ kind: 'payment', ...each })), credits: [] } as InvoiceBalance;
}

const of = (papers: Paper[], clientId = 'playhouse') => clientRecords(papers.map(paper), TODAY).get(clientId);
const months = (papers: Paper[]) => of(papers)!.months;

describe('what a client was worth', () => {
  it('is nothing where there is no paper, or only drafts and void ones', () => {
    expect(of([])).toBeUndefined();
    const voided = { voided: { at: 0, day: TODAY, reason: 'Twice' } };
    expect(
      of([
        { day: TODAY, net: 100, more: voided },
        { day: TODAY, net: 100, more: { frozen: null } },
      ]),
    ).toBeUndefined();
  });

  it('is net of tax by month, credit notes taken off, within twelve months', () => {
    const got = months([
      { day: '2025-11-30', net: 9900 },
      { day: '2025-12-01', net: 1000 },
      { day: '2026-11-12', net: 2000 },
      { day: '2026-11-01', net: 500 },
      { day: '2026-11-02', net: -300, more: { kind: 'credit note', ofId: 'other' } },
      { day: '2026-11-13', net: 7700 },
    ]);
    expect(got).toHaveLength(RECORD_MONTHS);
    expect(got[0]).toBe(1000);
    expect(got[11]).toBe(2200);
    expect(got.slice(1, 11).every((net) => net === 0)).toBe(true);
  });

  it('is by the hour of what hours earned, rounded once', () => {
    // 100.00 in 3 hours and 50.05 in 1.5: 150.05 ÷ 4.5 = 33.344…, which is 33.34.
    expect(
      of([
        { day: TODAY, net: 10_000, hours: 3 },
        { day: TODAY, net: 5005, hours: 1.5 },
      ])!.perHour,
    ).toBe(3334);
    // A sum that was agreed has no hours in it, and takes no part.
    expect(
      of([
        { day: TODAY, net: 10_000, hours: 2 },
        { day: TODAY, net: 90_000 },
      ])!.perHour,
    ).toBe(5000);
    expect(of([{ day: TODAY, net: 90_000 }])!.perHour).toBeNull();
    // What was credited in full leaves no hours to divide by.
    const credited = { kind: 'credit note', ofId: 'other' } as const;
    expect(
      of([
        { day: TODAY, net: 1000, hours: 2 },
        { day: TODAY, net: -1000, hours: -2, more: credited },
      ])!.perHour,
    ).toBeNull();
  });

  it('keeps clients apart', () => {
    const papers: Paper[] = [
      { day: TODAY, net: 1000 },
      { day: TODAY, net: 3000, clientId: 'museum' },
    ];
    expect(of(papers)!.owed).toBe(1200);
    expect(of(papers, 'museum')!.owed).toBe(3600);
  });
});

describe('how a client pays', () => {
  const paidAfter = (days: number, day = '2026-06-01') => ({
    day,
    net: 1000,
    payments: [{ amount: 1200, day: new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10) }],
  });

  it('is the day in the middle of what was paid in full', () => {
    expect(of([paidAfter(40), paidAfter(10), paidAfter(20)])!.daysToPay).toBe(20);
    expect(of([paidAfter(40), paidAfter(10), paidAfter(20), paidAfter(90)])!.daysToPay).toBe(20);
    expect(of([paidAfter(0)])!.daysToPay).toBe(0);
  });

  it('counts to the last of several payments, and leaves out what is open, written off or long ago', () => {
    const parts = { day: '2026-06-01', net: 1000 };
    const first = { amount: 700, day: '2026-06-11' };
    expect(of([{ ...parts, payments: [first, { amount: 500, day: '2026-06-21' }] }])!.daysToPay).toBe(20);
    expect(of([{ ...parts, payments: [first] }])!.daysToPay).toBeNull();
    const writtenOff = { kind: 'write-off', amount: 1200, day: '2026-06-05' } as const;
    expect(of([{ ...parts, payments: [writtenOff] }])!.daysToPay).toBeNull();
    expect(of([paidAfter(5, '2025-11-01')])!.daysToPay).toBeNull();
  });

  it('tells what is owed and what of it is late, however old', () => {
    const record = of([
      { day: '2024-01-01', net: 1000, dueDay: '2024-02-01', payments: [{ amount: 200, day: '2024-01-05' }] },
      { day: '2026-11-01', net: 2000 },
      { day: '2026-11-02', net: 500, payments: [{ amount: 900, day: TODAY }] },
    ])!;
    expect([record.owed, record.late]).toEqual([3400, 1000]);
  });
});
