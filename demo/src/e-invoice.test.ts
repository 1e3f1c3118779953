import { eInvoiceKinds, eInvoiceOf, lackingFor, rulesBrokenBy } from '@half-penny/core/e-invoice';
import { readEInvoice, writeEInvoice } from '@half-penny/formats/e-invoice';
import { expect, it } from 'vitest';
import { makeDemo } from '.';

it('every invoice and credit note of the studio can go out as an e-invoice that holds the rules of EN 16931', async () => {
  const store = await makeDemo({ now: Date.parse('2026-11-12T15:00:00Z') });
  const [workspace] = store.rows('workspace');
  const clients = new Map(store.rows('clients').map((row) => [row.id, row]));
  let complete = 0;
  for (const { frozen, clientId } of store.rows('invoices')) {
    if (!frozen) continue;
    const client = clients.get(clientId)!;
    const present = {
      seller: workspace!.asSeller,
      buyer: client.asBuyer,
      taxPlace: client.taxPlace,
      clientEmail: client.email,
    };
    expect(lackingFor('factur-x', frozen, present), frozen.number).toEqual([]);
    complete += eInvoiceKinds.filter((kind) => lackingFor(kind, frozen, present).length === 0).length;
    const invoice = eInvoiceOf(frozen, present);
    for (const kind of ['peppol', 'xrechnung'] as const) {
      const read = readEInvoice(await writeEInvoice(kind, invoice), `${frozen.number} ${kind}`);
      expect(rulesBrokenBy(read), frozen.number).toEqual([]);
      expect(read.lines).toHaveLength(frozen.lines.length);
      const held = frozen.deductions.reduce((sum, each) => sum + (each.kind === 'retention' ? each.amount : 0), 0);
      expect(read.totals.due).toBe(Math.abs(frozen.payable + held));
    }
  }
  expect(complete).toBeGreaterThan(15);
});
