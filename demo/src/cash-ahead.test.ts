import { Pricer, readBook, type InvoiceBalance } from '@half-penny/core/billing';
import { cashAhead, heldOut, type CashFacts } from '@half-penny/core/cash-ahead';
import { expect, it } from 'vitest';
import { makeDemo } from '.';

it('foresees the demo’s money, and was not far off with the weeks that went by', async () => {
  const store = await makeDemo({ now: Date.UTC(2026, 10, 28, 12) });
  const pricer = new Pricer(await readBook(store));
  const invoices: InvoiceBalance[] = store.rows('invoices').map((invoice) => ({
    invoice,
    payments: store.rows('payments').filter((row) => row.invoiceId === invoice.id),
    credits: store.rows('invoices').filter((row) => row.ofId === invoice.id),
  }));
  const facts: CashFacts = {
    today: '2026-11-28',
    invoices,
    atHome: (amount, { currency }) =>
      pricer.rates.exchange.convert(amount, currency, 'GBP', '2026-11-28', 'half away from zero'),
    repeats: [],
    sumOf: () => 0,
    toBill: new Map(),
    milestones: [],
    termsOf: () => 30,
  };
  const { weeks, items, unknown } = cashAhead(facts);
  expect(unknown).toBe(0);
  expect(new Set(items.map((item) => item.kind))).toEqual(new Set(['owed', 'pace']));
  expect(weeks.at(-1)!.likely).toBeGreaterThan(1_000_000);
  const past = heldOut(facts)!;
  expect(past.weeks.length).toBeGreaterThanOrEqual(4);
});
