import { Pricer, readBook, type InvoiceBalance } from '@half-penny/core/billing';
import { offersFor } from '@half-penny/core/money-in';
import { readCamt053 } from '@half-penny/formats/ledger';
import { describe, expect, it } from 'vitest';
import { makeDemo } from '.';
import { bankStatement } from './bank';

describe('the demo’s bank', () => {
  it('tells of transfers that are matched to what is owed, and of two that are not', async () => {
    const now = Date.UTC(2026, 10, 28, 12);
    const store = await makeDemo({ now });
    const balances: InvoiceBalance[] = store.rows('invoices').map((invoice) => ({
      invoice,
      payments: store.rows('payments').filter((row) => row.invoiceId === invoice.id),
      credits: store.rows('invoices').filter((row) => row.ofId === invoice.id),
    }));
    const { exchange } = new Pricer(await readBook(store)).rates;
    const text = bankStatement(balances, 'GBP', exchange, '2026-11-28');
    const { moneyIn, lines } = readCamt053(new TextEncoder().encode(text), 'bank.xml');
    expect(lines).toEqual([]);
    const sums = moneyIn.map((line, index) => ({ ...line, id: `sum ${index}`, setAside: null }));
    const found = offersFor(sums, {
      invoices: balances,
      clients: store.rows('clients'),
      moneyIn: sums,
      deposits: store.rows('deposits'),
      exchange,
      rounding: 'half away from zero',
    });
    const offers = sums.map((sum) => found.get(sum.id)!);
    expect(offers.filter((offer) => offer.sure).length).toBeGreaterThanOrEqual(2);
    const twice = offers.find((offer) => offer.ahead !== null)!;
    expect(twice.reasons[0]).toMatch(/is paid/);
    expect(offers.at(-1)).toMatchObject({ parts: [], ahead: null, sure: false });
  });
});
