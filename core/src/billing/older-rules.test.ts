import { describe, expect, it } from 'vitest';
import type { FrozenInvoice, Invoice } from '../model/records';
import { ledger } from '../testing/ledger';
import { olderRules, paperFaults } from '.';

/** An issued paper as it was made before the rules of now, with the sums that it had then. */
const older = (invoice: Invoice, sums: Partial<FrozenInvoice>): Invoice => ({
  ...invoice,
  frozen: { ...invoice.frozen!, amountRounding: null, ...sums },
});

describe('papers made by older rules', () => {
  it('are listed with the difference, too much or too little, and are no fault', async () => {
    const { byHand, hand, issue, invoice } = await ledger();
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const id = await byHand([hand('850'), hand('-10', { taxId: null })], { allowance });
    await issue(id);
    const now = invoice(id);
    expect(olderRules([now])).toEqual([]);
    // The whole discount was taken off what is taxed: 766.00, 153.20 of tax. The rules of now make 909.00 of it.
    const [tax] = now.frozen!.taxes;
    const then = older(now, {
      taxes: [{ ...tax!, allowance: null, basis: 76_600, amount: 15_320 }],
      tax: 15_320,
      total: 84_000 - 8400 + 15_320,
      payable: 84_000 - 8400 + 15_320,
    });
    expect(paperFaults(then, [])).toEqual([]);
    expect(olderRules([then])).toEqual([{ invoice: then, issued: 90_920, byRule: 90_900, tooMuch: 20, why: 'totals' }]);
  });

  it('are listed where all was credited and the sums do not come to the invoice', async () => {
    const { byHand, hand, issue, credit, invoice } = await ledger();
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const id = await byHand([hand('850')], { allowance });
    await issue(id);
    const note = await credit(id);
    expect(olderRules([invoice(id), note])).toEqual([]);
    // 850.00 less 10 % with VAT is 918.00; it was credited with 935.00.
    const then = older(note, { total: -93_500, tax: -17_000 });
    expect(olderRules([older(invoice(id), {}), then])).toEqual([
      expect.objectContaining({ issued: 93_500, byRule: 91_800, tooMuch: -1700, why: 'credits' }),
    ]);
  });

  it('are not looked for among drafts, void ones, and what the rules of now would refuse', async () => {
    const { byHand, hand, issue, invoice, run } = await ledger();
    const draft = await byHand([hand('5')]);
    const id = await byHand([hand('5')]);
    await issue(id);
    const sent = older(invoice(id), { total: 700, payable: 700 });
    expect(olderRules([invoice(draft), sent])).toHaveLength(1);
    await run('invoice.void', { id, reason: 'Wrong' });
    expect(olderRules([{ ...sent, voided: invoice(id).voided }])).toEqual([]);
  });
});
