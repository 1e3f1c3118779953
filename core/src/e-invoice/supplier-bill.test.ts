import { beforeEach, expect, it } from 'vitest';
import { taxDefaults } from '../model/defaults';
import type { Tax } from '../model/records';
import { fault } from '../testing/fault';
import { freshStudio } from '../testing/studio';
import type { ReadInvoice, ReadInvoiceLine } from './read-invoice';
import { supplierBills } from './supplier-bill';

const party = {
  name: 'Brightwater Supplies',
  address: '',
  country: 'GB',
  vatId: '',
  taxNumber: '',
  endpoint: null,
  contact: { name: '', telephone: '', email: '' },
};
const line = (net: number, percent: string, more: Partial<ReadInvoiceLine> = {}): ReadInvoiceLine => ({
  id: '1',
  text: 'Lamps',
  quantity: '1',
  unit: 'C62',
  price: String(net / 100),
  per: '1',
  allowances: [],
  net,
  tax: { category: 'S', percent },
  ...more,
});
const tax = (percent: string, basis: number, amount: number) => ({ category: 'S', percent, basis, amount, reason: '' });
const read = (more: Partial<ReadInvoice>, totals: Partial<ReadInvoice['totals']> = {}): ReadInvoice => ({
  syntax: 'ubl',
  specification: 'urn:cen.eu:en16931:2017',
  type: '380',
  number: 'B-77',
  issued: '2026-11-03',
  due: '2026-12-03',
  taxPoint: '',
  delivered: '',
  currency: 'GBP',
  buyerReference: '',
  purchaseOrder: '',
  preceding: '',
  notes: '',
  seller: party,
  buyer: party,
  paymentMeans: '30',
  account: '',
  terms: '',
  lines: [],
  allowances: [],
  taxes: [],
  totals: {
    lines: 0,
    allowances: null,
    charges: null,
    net: 0,
    tax: null,
    gross: 0,
    prepaid: null,
    rounding: null,
    due: 0,
    ...totals,
  },
  ...more,
});
const vat: Tax = {
  ...taxDefaults,
  id: 'vat',
  name: 'VAT',
  percent: '17.5',
  note: '',
  later: [{ from: '2026-01-01', percent: '20' }],
};
const sums = (bills: ReturnType<typeof supplierBills>) =>
  bills.map((bill) => [bill.taxId, bill.lines.reduce((sum, each) => sum + (each.amount ?? 0), 0)]);

it('a bill has the supplier’s lines with a tax that the studio knows by its percentage on that day', () => {
  const [bill, ...others] = supplierBills(
    read({
      lines: [line(10_000, '20.00'), line(2550, '20', { text: 'Gel\nroll', quantity: '3', price: '8.50' })],
      allowances: [{ charge: false, amount: 550, reason: 'Trade', tax: { category: 'S', percent: '20' } }],
      taxes: [tax('20', 12_000, 2400)],
    }),
    [vat],
  );
  expect(others).toEqual([]);
  expect(bill).toMatchObject({
    supplier: 'Brightwater Supplies',
    reference: 'B-77',
    day: '2026-11-03',
    dueDay: '2026-12-03',
    currency: 'GBP',
    taxId: 'vat',
  });
  expect(bill!.lines.map((each) => [each.text, each.amount])).toEqual([
    ['Lamps', 10_000],
    ['Gel, roll, 3 at 8.50', 2550],
    ['Trade', -550],
  ]);
});

it('taxes stand apart; one that the studio does not know is part of what was paid, and so is the rounding', () => {
  const bills = supplierBills(
    read(
      {
        currency: 'EUR',
        lines: [line(10_000, '20'), line(5000, '7'), line(300, '0', { tax: { category: 'E', percent: '0' } })],
        taxes: [tax('20', 10_000, 2000), tax('7', 5000, 350), { ...tax('0', 300, 0), category: 'E', reason: 'Stamps' }],
      },
      { gross: 17_650, rounding: -2 },
    ),
    [vat],
  );
  // 100.00 less 0.02, taxed by the cost; 50.00 and its 3.50; 3.00 untaxed. With 20.00 of tax that is the total and its rounding.
  expect(sums(bills)).toEqual([
    ['vat', 9998],
    [null, 5350],
    [null, 300],
  ]);
  expect(bills[1]!.lines.at(-1)).toMatchObject({ text: 'Tax 7 %', amount: 350 });
});

it('a credit note takes off, and more lines than a cost holds are put together', () => {
  const [note] = supplierBills(read({ type: '381', lines: [line(999, '20')], taxes: [tax('20', 999, 200)] }), [vat]);
  expect(note!.lines.map((each) => each.amount)).toEqual([-999]);
  const long = read({ lines: Array.from({ length: 612 }, () => line(10, '20')), taxes: [tax('20', 6120, 1224)] });
  const [bill] = supplierBills(long, [vat]);
  expect(bill!.lines).toHaveLength(500);
  expect([bill!.lines.at(-1)!.text, sums([bill!])[0]![1]]).toEqual(['113 more lines', 6120]);
});

let { store, at, run } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run } = await freshStudio()));

it('all bills of an invoice come in by one command, or none does, and go by one undo', async () => {
  const where = { projectId: at.rig, forClient: true };
  const bills = supplierBills(
    read({ lines: [line(10_000, '20'), line(5000, '7')], taxes: [tax('20', 10_000, 2000), tax('7', 5000, 350)] }),
    [],
  ).map((bill) => ({ ...bill, kind: 'bill' as const, lines: bill.lines.map((each) => ({ ...each, ...where })) }));
  const wrong = bills.map((bill, index) => (index === 0 ? bill : { ...bill, receiptIds: [at.rig] }));
  await expect(run('bill.take', { bills: wrong })).rejects.toThrow(fault('unknown', 'receiptIds'));
  expect(store.rows('costs')).toEqual([]);
  await run('bill.take', { bills });
  expect(store.rows('costs').map((cost) => [cost.kind, cost.reference])).toEqual([
    ['bill', 'B-77'],
    ['bill', 'B-77'],
  ]);
  expect(store.rows('costLines').reduce((sum, row) => sum + (row.amount ?? 0), 0)).toBe(17_350);
});
