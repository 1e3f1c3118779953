import { Pricer, readBook, type InvoiceMakings } from '@half-penny/core/billing';
import { checkPage, pageOfInvoice, usualPage } from '@half-penny/core/client-page';
import type { MemoryStore } from '@half-penny/core/engine';
import { describe, expect, it } from 'vitest';
import { makeDemo } from '.';

const makingsOf = (store: MemoryStore, invoice: InvoiceMakings['invoice']): InvoiceMakings => ({
  invoice,
  allocations: store.rows('allocations').filter((row) => row.invoiceId === invoice.id),
  entries: store.rows('entries'),
  rows: {
    costs: store.rows('costs'),
    costLines: store.rows('costLines'),
    agreed: store.rows('agreed'),
    milestones: store.rows('milestones'),
  },
});

describe('the pages of the demo’s invoices', () => {
  it('add up, from what stands on each line to what is to be paid', async () => {
    const store = await makeDemo({ now: Date.UTC(2026, 10, 28, 12) });
    const pricer = new Pricer(await readBook(store));
    const issued = store.rows('invoices').filter((row) => row.frozen);
    let items = 0;
    for (const invoice of issued) {
      const page = pageOfInvoice(pricer, makingsOf(store, invoice), {
        shows: usualPage,
        rest: null,
        pay: null,
        made: '2026-11-28',
      });
      items += page.items.length;
      const { sums, wrong } = checkPage(page);
      expect(wrong, invoice.frozen!.number).toEqual([]);
      expect(sums).toBeGreaterThan(page.frozen.lines.length);
      expect(JSON.stringify(page)).not.toMatch(/"account":"[^"]/);
    }
    expect(issued.length).toBeGreaterThan(10);
    expect(items).toBeGreaterThan(200);
  });
});
