import { describe, expect, it } from 'vitest';
import { invoiceDefaults } from '../model/defaults-billing';
import type { FrozenInvoice, Invoice, Payment } from '../model/records';
import { moneyPath, thicknessOf } from './money-path';
import type { InvoiceBalance } from './standing';
import type { ToBill } from './to-bill';

// Where money stands on 12 November, 30 days back being 14 October.

const TODAY = '2026-11-12';

const balance = (dueDay: string | null, payments: Partial<Payment>[] = [], more: Partial<Invoice> = {}) =>
  ({
    invoice: {
      ...invoiceDefaults,
      currency: 'GBP',
      frozen: dueDay === null ? null : ({ payable: 10_000, dueDay, deductions: [] } as unknown as FrozenInvoice),
      ...more,
    },
    payments: payments.map((each) => ({ kind: 'payment', day: TODAY, ...each })),
    credits: [],
  }) as unknown as InvoiceBalance;
const waiting = (amount: number, currency: string, seconds: number, unapproved = 0) =>
  ({ amount, currency, seconds, waiting: { entries: 1, seconds: unapproved, amount: 9 } }) as ToBill;
const plain = (...of: Parameters<typeof moneyPath>) => {
  const { sums, ...rest } = moneyPath(...of);
  return { ...rest, sums: Object.fromEntries(Object.entries(sums).map(([stage, by]) => [stage, [...by]])) };
};

describe('where money stands', () => {
  it('is nowhere where there is nothing', () => {
    expect(plain([], [], TODAY)).toEqual({
      drafts: 0,
      seconds: 0,
      sums: { 'to bill': [], 'not due': [], late: [], paid: [] },
    });
    expect(thicknessOf(moneyPath([], [], TODAY), 'GBP')).toEqual({ 'to bill': 0, 'not due': 0, late: 0, paid: 0 });
  });

  it('is summed by currency and stage', () => {
    const path = plain(
      [waiting(5000, 'GBP', 3600), waiting(700, 'EUR', 60), waiting(250, 'GBP', 20, 10)],
      [
        balance(TODAY),
        balance('2026-11-11', [{ amount: 4000 }]),
        balance('2026-12-01', [], { currency: 'EUR' }),
        balance(null),
        balance('2026-01-01', [], { voided: { at: 0, day: TODAY, reason: 'Twice' } }),
      ],
      TODAY,
    );
    expect(path).toEqual({
      drafts: 1,
      seconds: 3690,
      sums: {
        'to bill': [
          ['GBP', 5250],
          ['EUR', 700],
        ],
        // Due today is not late.
        'not due': [
          ['GBP', 10_000],
          ['EUR', 10_000],
        ],
        late: [['GBP', 6000]],
        paid: [['GBP', 4000]],
      },
    });
  });

  it('counts what came in in the last thirty days, less what was paid back; what was overpaid is no debt', () => {
    const payments: Partial<Payment>[] = [
      { amount: 1000, day: '2026-10-13' },
      { amount: 2000, day: '2026-10-14' },
      { amount: 9500, day: TODAY },
      { amount: 300, kind: 'refund' },
      { amount: 800, kind: 'write-off' },
      { amount: 50, day: '2026-11-13' },
    ];
    const path = plain([], [balance('2026-11-01', payments)], TODAY);
    expect(path.sums).toMatchObject({ paid: [['GBP', 11_200]], late: [], 'not due': [] });
    const settled = balance('2026-11-01', [{ amount: 10_000 }], { voided: { at: 0, day: TODAY, reason: 'Twice' } });
    expect(plain([], [settled], TODAY).sums.paid).toEqual([]);
  });

  it('is drawn as thick as its share of the most in one currency', () => {
    const path = moneyPath(
      [waiting(5000, 'GBP', 0), waiting(-20_000, 'USD', 0)],
      [balance('2026-12-01', [{ amount: 2500 }])],
      TODAY,
    );
    expect(thicknessOf(path, 'GBP')).toEqual({ 'to bill': 5000 / 7500, 'not due': 1, late: 0, paid: 2500 / 7500 });
    expect(thicknessOf(path, 'USD')['to bill']).toBe(0);
    expect(thicknessOf(path, 'EUR')['not due']).toBe(0);
  });
});
