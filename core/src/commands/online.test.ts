import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { owedOn, paidBackOf, postingsOf, Pricer, readBook } from '../billing';
import type { MemoryStore } from '../engine';
import type { Id } from '../model/ids';
import { sumExact } from '../money';
import { runs } from '../testing';
import { ledger } from '../testing/ledger';
import type { OnlineEvent } from './online';

const AT = Date.UTC(2026, 10, 13, 10);

/** An issued invoice of £120.00. */
async function studioWithInvoice() {
  const made = await ledger();
  const id = await made.byHand([made.hand('120', { taxId: null })]);
  await made.issue(id);
  return { ...made, id };
}

const event = (invoiceId: Id, payment: number, kind: OnlineEvent['kind'] = 'paid', amount = 12_000): OnlineEvent => ({
  id: `${kind} ${payment}`,
  kind,
  at: AT + payment * 1000 + (kind === 'paid' ? 0 : 500_000),
  payment: {
    id: `payment ${payment}`,
    reference: invoiceId,
    number: 'SL-0001',
    payer: 'Quayside Playhouse',
    amount,
    fee: 200,
    currency: 'GBP',
  },
});

const facts = (store: MemoryStore) => ({
  sums: store.rows('moneyIn').map(({ id: _, ...row }) => row),
  payments: store.rows('payments').map(({ kind, amount, fee }) => ({ kind, amount, fee })),
  ahead: store.rows('deposits').map((row) => row.amount - paidBackOf(row)),
});

describe('what a payment service tells', () => {
  it('pays the invoice, and books what the service kept', async () => {
    const { store, run, id, owing } = await studioWithInvoice();
    await run('online.take', { events: [event(id, 1)] });
    expect(owedOn(owing(id))).toBe(0);
    expect(facts(store)).toMatchObject({ sums: [{ amount: 11_800, source: 'online:payment 1' }], ahead: [] });
    expect(facts(store).payments).toEqual([{ kind: 'payment', amount: 12_000, fee: 200 }]);
  });

  it('keeps a second payment of the same invoice as paid ahead, and gives that back first', async () => {
    const { store, run, id, owing } = await studioWithInvoice();
    await run('online.take', { events: [event(id, 1), event(id, 2)] });
    expect([owedOn(owing(id)), facts(store).ahead]).toEqual([0, [12_000]]);
    await run('online.take', { events: [event(id, 2, 'refunded'), event(id, 2)] });
    expect([owedOn(owing(id)), facts(store).ahead]).toEqual([0, [0]]);
    const pricer = new Pricer(await readBook(store));
    const postings = postingsOf(pricer, {
      invoices: store.rows('invoices'),
      payments: store.rows('payments'),
      deposits: store.rows('deposits'),
    });
    for (const { lines } of postings) expect(sumExact(lines.map(({ debit, credit }) => debit - credit))).toBe(0);
    expect(postings.flatMap(({ lines }) => lines).filter((line) => line.text === 'Charges')).toHaveLength(2);
  });

  it('owes an invoice again when the bank takes a payment back', async () => {
    const { store, run, id, owing } = await studioWithInvoice();
    await run('online.take', { events: [event(id, 1)] });
    await run('online.take', { events: [event(id, 1, 'charged back')] });
    expect(owedOn(owing(id))).toBe(12_000);
    await run('online.take', { events: [event(id, 1, 'charged back'), event(id, 1)] });
    expect(facts(store).payments.map((row) => row.kind)).toEqual(['payment', 'refund']);
  });

  it('lets wait what is for a void invoice or none, and sets it aside when it goes back', async () => {
    const { store, run, id } = await studioWithInvoice();
    await run('invoice.void', { id, reason: 'Wrong client' });
    await run('online.take', { events: [event(id, 1), event('nothing known', 2)] });
    expect(facts(store).payments).toEqual([]);
    await run('online.take', { events: [event(id, 1, 'refunded')] });
    expect(store.rows('moneyIn').map((row) => row.setAside)).toEqual([
      expect.stringContaining('Paid back online'),
      null,
    ]);
  });

  it('comes to the same in whatever order and however often it is told', async () => {
    const kinds = fc.constantFrom('paid', 'refunded', 'charged back' as const);
    const one = fc.tuple(fc.integer({ min: 1, max: 3 }), kinds as fc.Arbitrary<OnlineEvent['kind']>);
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(one, { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 5 }),
        async (batches) => {
          const { store, run, id, owing } = await studioWithInvoice();
          // A payment goes back in one way: the service knows what it said.
          const ways = new Map<number, OnlineEvent['kind']>();
          for (const [payment, kind] of batches.flat())
            if (kind !== 'paid' && !ways.has(payment)) ways.set(payment, kind);
          for (const batch of batches)
            await run('online.take', {
              events: batch.map(([payment, kind]) => event(id, payment, kind === 'paid' ? kind : ways.get(payment)!)),
            });
          const seen = new Set(batches.flat().map(([payment]) => payment));
          expect(store.rows('moneyIn')).toHaveLength(seen.size);
          // What came in and stayed is on the invoice or ahead of it, and nowhere twice.
          const stayed = 12_000 * (seen.size - ways.size);
          const ahead = sumExact(facts(store).ahead);
          expect(12_000 - owedOn(owing(id)) + ahead).toBe(stayed);
        },
      ),
      { numRuns: runs(40) },
    );
  });
});
