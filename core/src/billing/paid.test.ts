import { describe, expect, it } from 'vitest';
import { freshStudio, work, DAY } from '../testing';
import { allocationDefaults, invoiceDefaults } from '../model/defaults-billing';
import type { Allocation, FrozenInvoice, Invoice, Payment } from '../model/records';
import { invoicedParts, lineNets, netOf, netShares, paidOnNet } from './paid';

async function invoiced(
  seconds: readonly number[],
  payments: readonly [kind: 'payment' | 'write-off', amount: number][],
) {
  const { store, run, at } = await freshStudio();
  for (const each of seconds) await run('entry.add', work(at.rig, each));
  const entryIds = store.rows('entries').map((row) => row.id);
  const id = (await run('invoice.draft', { clientId: at.playhouse, entryIds })).changes.find(
    ({ table }) => table === 'invoices',
  )!.id;
  await run('invoice.issue', { id });
  for (const [kind, amount] of payments)
    await run('payment.add', { invoiceId: id, day: DAY, amount, note: 'agreed', kind });
  const parts = invoicedParts(store.rows('invoices'), store.rows('payments'), store.rows('allocations'));
  const net = netOf(store.rows('invoices')[0]!.frozen!);
  const sum = (of: 'paid' | 'writtenOff') => [...parts.values()].reduce((total, part) => total + part[of], 0);
  return { parts, net, paid: sum('paid'), writtenOff: sum('writtenOff') };
}

describe('what was paid, before tax', () => {
  it('is all of what was asked once the whole came in', async () => {
    // £85.00 and £170.00 with 20 % on top.
    expect(await invoiced([3600, 7200], [['payment', 30_600]])).toMatchObject({
      net: 25_500,
      paid: 25_500,
      writtenOff: 0,
    });
  });

  it('is a share of net and tax alike, and the parts add up', async () => {
    const { parts, paid } = await invoiced([3600, 3600, 3600], [['payment', 10_000]]);
    // 25,500 × 10,000 ÷ 30,600, half up; over three alike by largest remainder.
    expect(paid).toBe(8333);
    expect([...parts.values()].map((part) => part.paid)).toEqual([2778, 2778, 2777]);
  });

  it('is never more than was asked for, and what is given up is the rest', async () => {
    expect((await invoiced([3600], [['payment', 50_000]])).paid).toBe(8500);
    const given = await invoiced(
      [3600],
      [
        ['payment', 5100],
        ['write-off', 5100],
      ],
    );
    expect([given.paid, given.writtenOff]).toEqual([4250, 4250]);
  });

  it('is nothing before anything came', async () => {
    expect(await invoiced([3600], [])).toMatchObject({ net: 8500, paid: 0, writtenOff: 0 });
  });
});

describe('what each part of an invoice earns', () => {
  type Line = FrozenInvoice['lines'][number];
  const line = (key: string, amount: number, taxId: string | null = null) => ({ key, amount, taxId }) as Line;
  const frozen = (
    lines: Line[],
    taxes: { id: string; basis: number; amount: number }[],
    more: Partial<FrozenInvoice> = {},
  ) => {
    const tax = taxes.reduce((sum, each) => sum + each.amount, 0);
    return { lines, taxes, tax, total: 0, rounding: 0, deductions: [], ...more } as unknown as FrozenInvoice;
  };
  const row = (id: string, key: string, amount: number | null) =>
    ({ ...allocationDefaults, id, invoiceId: 'invoice', line: key, entryId: id, amount }) as Allocation;
  const invoice = (made: FrozenInvoice | null, more: Partial<Invoice> = {}) =>
    ({ ...invoiceDefaults, id: 'invoice', kind: 'invoice', frozen: made, voided: null, ...more }) as Invoice;
  const paid = (amount: number, kind: Payment['kind'] = 'payment') =>
    ({ invoiceId: 'invoice', amount, kind }) as Payment;

  it('is its amount, and after a discount on the whole its share of its own basis', () => {
    const plain = frozen([line('a', 8500, 'vat'), line('b', 1500)], [{ id: 'vat', basis: 8500, amount: 1700 }], {
      total: 11_700,
    });
    expect(lineNets(plain)).toEqual([8500, 1500]);
    // 85.00 and 15.00 less 10 %: 76.50 of the taxed, 13.50 of what has no tax, or one that is not on the invoice.
    const lines = [line('a', 5000, 'vat'), line('b', 3500, 'vat'), line('c', 1500, 'gone')];
    const cut = frozen(lines, [{ id: 'vat', basis: 7650, amount: 1530 }], { total: 10_530 });
    expect(lineNets(cut)).toEqual([4500, 3150, 1350]);
  });

  it('is shared over lines that come to nothing together by their size', () => {
    const lines = [line('a', 500, 'vat'), line('b', -500, 'vat'), line('c', 1000)];
    expect(lineNets(frozen(lines, [{ id: 'vat', basis: -10, amount: -2 }], { total: 988 }))).toEqual([495, -505, 1000]);
    expect(lineNets(frozen([line('c', 1000)], [{ id: 'vat', basis: 0, amount: 0 }], { total: 1000 }))).toEqual([1000]);
  });

  it('is shared over what stands on it, also where a void invoice gave it all back', () => {
    const cut = frozen([line('a', 1000), line('hand', 1000)], [], { total: 1800 });
    const rows = [row('one', 'a', 750), row('two', 'a', 250)];
    const shares = netShares(invoice(cut), rows);
    expect([...shares.byAllocation]).toEqual([
      ['one', 675],
      ['two', 225],
    ]);
    expect([...shares.byLine]).toEqual([['hand', 900]]);
    const back = [row('three', 'a', -750), row('four', 'a', -250), row('draft', 'a', null)];
    const voided = netShares(invoice(cut, { voided: { at: 0, day: DAY, reason: '' } }), [...rows, ...back]);
    expect([...voided.byAllocation.values()]).toEqual([675, 225, -675, -225, 0]);
    const whole = netShares(invoice(frozen([line('a', 1000)], [], { total: 1000 })), rows);
    expect([...whole.byAllocation.values()]).toEqual([750, 250]);
    const nothing = netShares(invoice(frozen([line('a', 0), line('b', 900)], [], { total: 810 })), [
      row('one', 'a', 0),
    ]);
    expect([...nothing.byAllocation.values()]).toEqual([0]);
  });

  it('counts what was paid ahead, and nothing beyond the whole; what is held back is not paid', () => {
    const figures = { total: 12_000, tax: 2000, rounding: 0 };
    const deductions = [
      { kind: 'deposit' as const, depositId: 'ahead', text: '', amount: 3000, dueDay: null },
      { kind: 'retention' as const, depositId: null, text: '', amount: 600, dueDay: null },
    ];
    const held = { ...frozen([line('a', 10_000)], []), ...figures, deductions } as FrozenInvoice;
    expect(paidOnNet(held, [])).toEqual({ paid: 2500, writtenOff: 0 });
    expect(paidOnNet(held, [paid(6000), paid(600, 'refund')])).toEqual({ paid: 7000, writtenOff: 0 });
    expect(paidOnNet(held, [paid(50_000)])).toEqual({ paid: 10_000, writtenOff: 0 });
    expect(paidOnNet(held, [paid(6000), paid(9000, 'write-off')])).toEqual({ paid: 7500, writtenOff: 2500 });
    expect(paidOnNet(held, [paid(9000, 'refund')])).toEqual({ paid: 0, writtenOff: 0 });
    const rounded = { ...held, deductions: [], rounding: 1, total: 11_999, tax: 1999 } as FrozenInvoice;
    expect(paidOnNet(rounded, [paid(12_000)])).toEqual({ paid: 10_000, writtenOff: 0 });
    const free = { ...held, deductions: [], total: 0, tax: 0 } as FrozenInvoice;
    expect(paidOnNet(free, [])).toEqual({ paid: 0, writtenOff: 0 });
  });

  it('is told of issued invoices alone; void ones and credit notes are paid by nobody', () => {
    const made = frozen([line('a', 1000), line('hand', 500)], [], { total: 1500 });
    const of = (more: Partial<Invoice>) => [
      ...invoicedParts([invoice(made, more)], [paid(1500)], [row('one', 'a', 1000)]),
    ];
    expect(of({})).toEqual([
      ['one', { net: 1000, paid: 1000, writtenOff: 0 }],
      ['invoice hand', { net: 500, paid: 500, writtenOff: 0 }],
    ]);
    for (const more of [{ kind: 'credit note' as const }, { voided: { at: 0, day: DAY, reason: '' } }])
      expect(of(more).map(([, part]) => part.paid)).toEqual([0, 0]);
    expect(of({ frozen: null })).toEqual([]);
  });
});
