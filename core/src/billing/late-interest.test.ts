import { describe, expect, it } from 'vitest';
import { invoiceDefaults } from '../model/defaults-billing';
import type { FrozenInvoice, Invoice, LatePayment, Payment } from '../model/records';
import { frozenInvoice, frozenLine } from '../testing/frozen';
import { slipOf } from '../testing/slip';
import { explainLate, lateClaim } from './late-interest';

const invoice = (amount: number, more: Partial<FrozenInvoice> = {}, fields: Partial<Invoice> = {}): Invoice => {
  const frozen = frozenInvoice([frozenLine(amount)], [], { dueDay: '2026-03-31', ...more });
  return {
    ...invoiceDefaults,
    id: 'invoice',
    clientId: 'playhouse',
    kind: 'invoice',
    currency: frozen.currency,
    createdAt: 0,
    condense: 'service',
    taxId: null,
    frozen,
    ...fields,
  };
};
const paid = (day: string, amount: number, kind: Payment['kind'] = 'payment'): Payment => ({
  id: day,
  invoiceId: 'invoice',
  kind,
  day,
  amount,
  currency: 'GBP',
  note: '',
});
const uk = (...baseRates: LatePayment['baseRates']): LatePayment => ({ law: 'UK', baseRates });
const half = { from: '2020-01-01', percent: '0.5' };
const claim = (of: Invoice, terms: LatePayment, to: string, payments: Payment[] = []) =>
  lateClaim({ invoice: of, payments, credits: [] }, terms, to);

describe('interest by law', () => {
  it('is base rate and eight points by the day, and a fixed sum', () => {
    // The worked example of the UK government's guidance (as remembered): £1,000 at 0.5 % makes £85 a year, 23p a day, £11.50 after 50 days.
    // It rounds the day first; by the fraction it is 1000 × 8.5 % × 50 ÷ 365 = 11.6438, so £11.64.
    const late = claim(invoice(100_000), uk(half), '2026-05-20')!;
    expect(late).toMatchObject({ daysLate: 50, interest: 1164, fixed: 7000, lacking: null });
    expect(claim(invoice(100_000), uk(half), '2027-03-31')!.interest).toBe(8500);
    expect(slipOf(explainLate(late, 'GBP', 'SL-0001')).join('\n')).toContain('8.5 % a year');
  });

  it('has fixed sums of £40, £70 and £100 by what was owed when it fell due, and of €40 in the EU', () => {
    const fixed = (amount: number) => claim(invoice(amount), uk(half), '2026-04-01')!.fixed;
    expect([99_999, 100_000, 999_999, 1_000_000].map(fixed)).toEqual([4000, 7000, 7000, 10_000]);
    const euro = invoice(5_000_000, { currency: 'EUR' });
    expect(claim(euro, { law: 'EU', baseRates: [half] }, '2026-04-01')!.fixed).toBe(4000);
    expect(claim(euro, uk(half), '2026-04-01')!.fixed).toBe(0);
  });

  it('runs on what is left, from the day after money came', () => {
    // 1,000.00 for 10 days, 400.00 for 40: 2.3288 and 3.7260.
    const late = claim(invoice(100_000), uk(half), '2026-05-20', [paid('2026-04-10', 60_000)])!;
    expect(late.spans.map((span) => [span.days, span.owed, span.interest])).toEqual([
      [10, 100_000, 233],
      [40, 40_000, 373],
    ]);
    // Paid in full, it stops.
    const done = claim(invoice(100_000), uk(half), '2026-12-31', [paid('2026-04-10', 100_000)])!;
    expect([done.daysLate, done.interest]).toEqual([10, 233]);
  });

  it('in the UK keeps the rate of the 30 June or 31 December before it began; in the EU it follows each half-year', () => {
    const rates = [
      { from: '2026-05-01', percent: '3' },
      { from: '2025-12-01', percent: '4' },
      { from: '2026-01-01', percent: '3.75' },
    ];
    const of = (law: LatePayment['law'], currency: string) =>
      claim(invoice(100_000, { currency }), { law, baseRates: rates }, '2026-07-10')!.spans.map((span) => [
        span.to,
        span.percent,
      ]);
    expect(of('UK', 'GBP')).toEqual([['2026-07-10', '12']]);
    expect(of('EU', 'EUR')).toEqual([
      ['2026-06-30', '11.75'],
      ['2026-07-10', '11'],
    ]);
  });

  it('says which base rate is not known', () => {
    expect(claim(invoice(100_000), uk(), '2026-05-20')).toMatchObject({ interest: 0, lacking: '2025-12-31' });
    const eu: LatePayment = { law: 'EU', baseRates: [] };
    expect(claim(invoice(100_000), eu, '2026-05-20')).toMatchObject({ lacking: '2026-01-01' });
  });

  it('is nothing on what is not late, was paid in time, or is no invoice any more', () => {
    const terms = uk(half);
    expect(claim(invoice(100_000), terms, '2026-03-31')).toBeNull();
    expect(claim(invoice(100_000), terms, '2026-06-01', [paid('2026-03-31', 100_000)])).toBeNull();
    const voided = invoice(100_000, {}, { voided: { at: 0, day: '2026-04-02', reason: 'x' } });
    expect(claim(voided, terms, '2026-06-01')).toBeNull();
    expect(claim(invoice(100_000, {}, { kind: 'credit note' }), terms, '2026-06-01')).toBeNull();
    expect(claim(invoice(100_000, {}, { frozen: null }), terms, '2026-06-01')).toBeNull();
  });

  it('comes to the same, day by day or at once, within a minor unit a day', () => {
    const whole = claim(invoice(123_457), uk(half), '2026-08-01')!;
    const parts = claim(
      invoice(123_457),
      uk(half),
      '2026-08-01',
      Array.from({ length: 60 }, (_, at) => ({
        ...paid(`2026-0${at < 29 ? 4 : 5}-${String((at % 29) + 1).padStart(2, '0')}`, 1),
        amount: 1,
      })),
    )!;
    expect(Math.abs(whole.interest - parts.interest)).toBeLessThanOrEqual(60);
    expect(parts.spans.reduce((sum, span) => sum + span.days, 0)).toBe(whole.daysLate);
  });
});
