import { describe, expect, it } from 'vitest';
import { invoiceDefaults } from '../model/defaults-billing';
import type { FrozenInvoice, Invoice, Payment } from '../model/records';
import { deductedOf, remainingOfDeposit } from './deposits';
import {
  dueDayOf,
  heldOn,
  owedOn,
  paidOf,
  releasedOn,
  standingOf,
  type InvoiceBalance,
  type Standing,
} from './standing';

// What an invoice's standing follows from: figures of a hundred pounds, due on the 12th.

const DUE = '2026-12-12';
const [ON_TIME, LATE] = [DUE, '2026-12-13'];

const frozen = (payable: number, more: Partial<FrozenInvoice> = {}): FrozenInvoice =>
  ({ payable, dueDay: DUE, deductions: [], ...more }) as FrozenInvoice;
const retention = (amount: number) => ({ kind: 'retention' as const, depositId: null, text: '', amount, dueDay: null });
const invoice = (fields: Partial<Invoice> = {}): Invoice => ({
  ...invoiceDefaults,
  id: 'invoice',
  clientId: 'playhouse',
  currency: 'GBP',
  createdAt: 0,
  condense: 'service',
  taxId: null,
  frozen: frozen(10_000),
  ...fields,
});
const note = (payable: number, fields: Partial<Invoice> = {}): Invoice =>
  invoice({ id: 'note', kind: 'credit note', ofId: 'invoice', frozen: frozen(payable), ...fields });
const paid = (amount: number, kind: Payment['kind'] = 'payment') => ({ amount, kind }) as Payment;
const voided = { at: 0, day: DUE, reason: 'Wrong month' };
const owing = (payments: Payment[] = [], fields: Partial<Invoice> = {}, credits: Invoice[] = []): InvoiceBalance => ({
  invoice: invoice(fields),
  payments,
  credits,
});

describe('what is owed on an invoice', () => {
  it('is what it asks for less what came in, was paid back, written off and credited', () => {
    expect(paidOf([paid(3000), paid(1000), paid(500, 'refund'), paid(900, 'write-off')])).toBe(3500);
    expect(owedOn(owing([paid(3000), paid(500, 'refund'), paid(900, 'write-off')], {}, [note(-1000)]))).toBe(5600);
    expect(owedOn(owing([paid(10_500)]))).toBe(-500);
    // A void credit note takes nothing off.
    expect(owedOn(owing([], {}, [note(-1000, { voided }), note(-2000)]))).toBe(8000);
  });

  it('is nothing for drafts, void invoices and credit notes', () => {
    expect(owedOn(owing([], { frozen: null }))).toBe(0);
    expect(owedOn(owing([], { voided }))).toBe(0);
    expect(owedOn({ invoice: note(-1000), payments: [], credits: [] })).toBe(0);
  });

  it('has what was held back in it once that is released, less what credits gave back of it', () => {
    const held = { frozen: frozen(9500, { deductions: [retention(500), { ...retention(77), kind: 'deposit' }] }) };
    const half = note(-4750, { frozen: frozen(-4750, { deductions: [retention(-250)] }) });
    expect(heldOn(owing([], held))).toBe(500);
    expect(heldOn(owing([], held, [half]))).toBe(250);
    expect(heldOn(owing([], held, [{ ...half, voided }]))).toBe(500);
    expect(heldOn(owing([], held, [note(0, { frozen: null })]))).toBe(500);
    expect([releasedOn(owing([], held)), owedOn(owing([], held))]).toEqual([0, 9500]);
    const released = { ...held, releasedOn: '2027-06-30' };
    expect([releasedOn(owing([], released)), owedOn(owing([], released))]).toEqual([500, 10_000]);
  });
});

it('is due on its day, or on the later one on which what was held back became due', () => {
  expect(dueDayOf(invoice())).toBe(DUE);
  expect(dueDayOf(invoice({ releasedOn: '2026-12-01' }))).toBe(DUE);
  expect(dueDayOf(invoice({ releasedOn: '2027-06-30' }))).toBe('2027-06-30');
});

describe('an invoice', () => {
  it.each<[Standing, InvoiceBalance, string]>([
    ['draft', owing([], { frozen: null }), LATE],
    ['void', owing([paid(10_000)], { voided }), LATE],
    ['issued', owing(), ON_TIME],
    ['overdue', owing(), LATE],
    ['part paid', owing([paid(1)]), ON_TIME],
    ['issued', owing([paid(1), paid(1, 'refund')]), ON_TIME],
    ['overdue', owing([paid(9999)]), LATE],
    ['paid', owing([paid(10_000)]), LATE],
    ['paid', owing([paid(9000), paid(1000, 'write-off')]), LATE],
    ['overpaid', owing([paid(10_001)]), LATE],
    ['written off', owing([paid(10_000, 'write-off')]), LATE],
    ['credited', owing([], {}, [note(-10_000)]), LATE],
    ['credited', owing([], {}, [note(-4000, { voided }), note(-10_000)]), LATE],
    ['overdue', owing([], {}, [note(-10_000, { voided })]), LATE],
    ['overpaid', owing([paid(10_000)], {}, [note(-10_000)]), LATE],
    // Nothing was to pay from the beginning.
    ['paid', owing([], { frozen: frozen(0) }), LATE],
    ['issued', owing([], { releasedOn: '2027-06-30' }), LATE],
  ])('is %s', (standing, of, today) => {
    expect(standingOf(of, today)).toBe(standing);
  });
});

describe('a credit note', () => {
  const of = (about: InvoiceBalance | undefined): Standing =>
    standingOf({ invoice: note(-1000), payments: [], credits: [], ...(about ? { of: about } : {}) }, LATE);

  it('is open while the client has money to come, refunded once it was paid back, and else set off', () => {
    expect(of(owing([paid(10_000)], {}, [note(-1000)]))).toBe('open');
    expect(of(owing([paid(10_000), paid(1000, 'refund')], {}, [note(-1000)]))).toBe('refunded');
    expect(of(owing([paid(9000)], {}, [note(-1000)]))).toBe('set off');
    expect(of(owing([], {}, [note(-1000)]))).toBe('set off');
    expect(of(undefined)).toBe('set off');
  });
});

it('money paid ahead is used up by what invoices deduct of it, void ones aside', () => {
  const deducting = (amount: number, fields: Partial<Invoice> = {}) =>
    invoice({
      deposits: [
        { depositId: 'ahead', amount },
        { depositId: 'other', amount: 7 },
      ],
      ...fields,
    });
  const invoices = [deducting(300), deducting(200, { voided }), deducting(100, { frozen: null })];
  expect(deductedOf('ahead', invoices)).toBe(400);
  expect(deductedOf('other', invoices)).toBe(14);
  expect(deductedOf('none', invoices)).toBe(0);
  expect(remainingOfDeposit({ amount: 1000 } as never, 400)).toBe(600);
});
