import { accountStatements, postingsOf, Pricer, readBook } from '@half-penny/core/billing';
import { addDays } from '@half-penny/core/time';
import { expect, it } from 'vitest';
import { makeDemo } from '.';

it('statements of account come to what the journal has on the accounts of what clients owe', async () => {
  const store = await makeDemo({ now: Date.parse('2026-11-12T15:00:00Z') });
  const pricer = new Pricer(await readBook(store));
  const { receivables, retention, deposits: aheadAccount } = pricer.book.workspace.accounts;
  const owed = new Set([receivables, retention, aheadAccount]);
  let compared = 0;
  for (const client of pricer.book.clients) {
    const invoices = store.rows('invoices').filter((row) => row.clientId === client.id);
    const deposits = store.rows('deposits').filter((row) => row.clientId === client.id);
    const payments = store.rows('payments').filter((row) => invoices.some((invoice) => invoice.id === row.invoiceId));
    const journal = postingsOf(pricer, { invoices, payments, deposits });
    const balances = invoices.map((invoice) => ({
      invoice,
      payments: payments.filter((row) => row.invoiceId === invoice.id),
      credits: invoices.filter((row) => row.ofId === invoice.id),
    }));
    for (let back = 0; back < 100; back += 7) {
      const to = addDays('2026-11-12', -back);
      for (const statement of accountStatements(balances, deposits, addDays(to, -30), to)) {
        const booked = journal
          .filter((posting) => posting.day <= to && posting.currency === statement.currency)
          .flatMap((posting) => posting.lines)
          .filter((line) => owed.has(line.account))
          .reduce((sum, line) => sum + line.debit - line.credit, 0);
        expect([client.name, to, statement.closing]).toEqual([client.name, to, booked]);
        compared++;
      }
    }
  }
  expect(compared).toBeGreaterThan(50);
});
