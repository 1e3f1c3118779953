import { describe, expect, it } from 'vitest';
import { allocationDefaults, invoiceDefaults } from '../model/defaults-billing';
import type { Allocation, Deduction, FrozenInvoice, FrozenLine, Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import { bookOf } from '../testing/studio';
import { creditableOf, creditNote, type CreditInput } from './credit';
import { Pricer } from './pricer';
import { fault } from '../testing/fault';
import { frozenLine } from '../testing/frozen';

// Worked by hand: each figure follows from the ones above it on a pocket calculator.

const DAY = '2026-11-30';
const pricer = new Pricer(bookOf({}));

const line = (key: string, amount: Minor, taxId: string | null = 'vat', more: Partial<FrozenLine> = {}): FrozenLine =>
  frozenLine(amount, { key, text: key, seconds: 3600, price: '850', unit: 'hour', quantity: '1', taxId, ...more });
type Tax = FrozenInvoice['taxes'][number];
const tax = (basis: Minor, amount: Minor, more: Partial<Tax> = {}): Tax => ({
  id: 'vat',
  name: 'VAT',
  percent: '20',
  category: 'S',
  note: '',
  allowance: 0,
  basis,
  amount,
  home: null,
  ...more,
});
const frozen = (more: Partial<FrozenInvoice>): FrozenInvoice =>
  ({
    number: 'SL-0001',
    day: '2026-11-01',
    dueDay: '2026-12-01',
    currency: 'GBP',
    taxMethod: 'invoice',
    inclusive: false,
    allowance: null,
    taxes: [],
    home: null,
    rounding: 0,
    deductions: [],
    ...more,
  }) as FrozenInvoice;
const sent = (more: Partial<FrozenInvoice>, fields: Partial<Invoice> = {}): Invoice => ({
  ...invoiceDefaults,
  id: 'invoice',
  clientId: 'playhouse',
  currency: more.currency ?? 'GBP',
  createdAt: 0,
  condense: 'service',
  taxId: null,
  frozen: frozen(more),
  ...fields,
});
const credit = (invoice: Invoice, more: Partial<CreditInput> = {}) =>
  creditNote(pricer, { invoice, notes: [], allocations: [], reason: 'Cut', free: true, day: DAY, seq: 2, ...more });
const noteOf = (made: FrozenInvoice, fields: Partial<Invoice> = {}): Invoice => ({
  ...sent({}),
  id: 'note',
  kind: 'credit note',
  ofId: 'invoice',
  frozen: made,
  ...fields,
});

/** 850.00 taxed at 20 % and 150.00 untaxed, less 100.00: 765.00 and 135.00 are left of them, and 153.00 of tax. */
const discounted = sent({
  lines: [line('a', 85_000), line('b', 15_000, null)],
  allowance: { text: 'Discount', percent: '10', amount: 10_000 },
  taxes: [tax(76_500, 15_300, { allowance: 8500 })],
  net: 100_000,
  tax: 15_300,
  total: 105_300,
  payable: 105_300,
});

describe('a credit note', () => {
  it('takes back half of a line with half of its discount and tax, and leaves the others', () => {
    const { frozen: note } = credit(discounted, { lines: { a: 42_500 } });
    expect(note).toMatchObject({
      number: 'SL-0002',
      day: DAY,
      dueDay: DAY,
      net: -42_500,
      allowance: { amount: -4250 },
      tax: -7650,
      total: -45_900,
      payable: -45_900,
      rounding: 0,
      credits: { number: 'SL-0001', day: '2026-11-01', reason: 'Cut' },
    });
    expect(note.taxes).toEqual([tax(-38_250, -7650, { allowance: -4250 })]);
    expect(note.lines.map((each) => each.key)).toEqual(['a']);
  });

  it('that takes the rest takes the rest of everything, whatever came before', () => {
    const first = credit(discounted, { lines: { a: 10_001, b: 4999 } }).frozen;
    const second = credit(discounted, { lines: { a: 3333 }, notes: [noteOf(first)] }).frozen;
    const last = credit(discounted, { notes: [noteOf(first), noteOf(second, { id: 'second' })] }).frozen;
    const sum = (of: (note: FrozenInvoice) => number) => of(first) + of(second) + of(last);
    expect(sum((note) => note.total)).toBe(-105_300);
    expect(sum((note) => note.tax)).toBe(-15_300);
    expect(sum((note) => note.net)).toBe(-100_000);
    expect(sum((note) => note.allowance?.amount ?? 0)).toBe(-10_000);
    // A void one is as if it had never been.
    const again = credit(discounted, { notes: [noteOf(first, { voided: { at: 0, day: DAY, reason: '' } })] }).frozen;
    expect(again.total).toBe(-105_300);
    expect(again.taxes[0]).toMatchObject({ basis: -76_500, amount: -15_300, allowance: -8500 });
  });

  it('is refused where more would be taken back than is left, or of the other sign, or nothing', () => {
    expect(() => credit(discounted, { lines: { a: 85_001 } })).toThrow(
      'Of “a” £850.00 is left to credit; £850.01 is more.',
    );
    expect(() => credit(discounted, { lines: { a: -1 } })).toThrow(fault('more-than-left'));
    expect(() => credit(discounted, { lines: {} })).toThrow(fault('nothing-left'));
    const all = noteOf(credit(discounted).frozen);
    expect(creditableOf(discounted.frozen!.lines[0]!, [all])).toBe(0);
    expect(() => credit(discounted, { notes: [all] })).toThrow(fault('nothing-left'));
    expect(() => credit(discounted, { lines: { a: 1 }, notes: [all] })).toThrow('£0.00 is left to credit');
    const part = noteOf(credit(discounted, { lines: { a: 85_000 } }).frozen);
    expect(credit(discounted, { notes: [part] }).frozen.lines.map((each) => each.key)).toEqual(['b']);
  });

  it('turns a whole line round, and prints a part, or a line with a discount of its own, as one sum', () => {
    const refund = line('refund', -500, null);
    const cut = line('cut', 7650, null, { gross: 8500, discount: '10' });
    const invoice = sent({
      lines: [line('a', 85_000, null), refund, cut],
      net: 92_150,
      tax: 0,
      total: 92_150,
      payable: 92_150,
    });
    const [a, back, lump] = credit(invoice).frozen.lines;
    expect(a).toMatchObject({ seconds: -3600, quantity: '-1', unit: 'hour', price: '850', amount: -85_000 });
    expect(back).toMatchObject({ seconds: -3600, quantity: '-1', amount: 500 });
    expect(lump).toMatchObject({
      seconds: 0,
      quantity: '-1',
      unit: 'lump',
      price: '76.5',
      gross: -7650,
      discount: null,
    });
    const parts = credit(invoice, { lines: { a: 100, refund: -100 } }).frozen.lines;
    expect(parts.map((each) => [each.quantity, each.unit, each.price, each.amount])).toEqual([
      ['-1', 'lump', '1', -100],
      ['1', 'lump', '1', 100],
    ]);
  });

  it('takes tax line by line back line by line', () => {
    // 3 p at 20 % are 0.6, so 1 p on each line; on 6 p together it would be 1 p.
    const lines = [line('a', 3), line('b', 3), line('c', 3)];
    const invoice = sent({ taxMethod: 'line', lines, taxes: [tax(9, 3)], net: 9, tax: 3, total: 12, payable: 12 });
    expect(credit(invoice, { lines: { a: 3, b: 3 } }).frozen).toMatchObject({ net: -6, tax: -2, total: -8 });
    const plain = sent({ lines, taxes: [tax(9, 2)], net: 9, tax: 2, total: 11, payable: 11 });
    expect(credit(plain, { lines: { a: 3, b: 3 } }).frozen).toMatchObject({ net: -6, tax: -1, total: -7 });
  });

  it('gives back deposits and retention in proportion, and not what is owed by now', () => {
    const deductions: Deduction[] = [
      { kind: 'deposit', depositId: 'ahead', text: '', amount: 20_000, dueDay: null },
      { kind: 'retention', depositId: null, text: '', amount: 5000, dueDay: null },
    ];
    const figures = {
      lines: [line('a', 85_000)],
      taxes: [tax(85_000, 17_000)],
      net: 85_000,
      tax: 17_000,
      total: 102_000,
    };
    const invoice = sent({ ...figures, deductions, payable: 77_000 });
    const half = credit(invoice, { lines: { a: 42_500 } }).frozen;
    expect(half.deductions.map((each) => each.amount)).toEqual([-10_000, -2500]);
    expect(half).toMatchObject({ total: -51_000, payable: -38_500 });
    const rest = credit(invoice, { notes: [noteOf(half)] }).frozen;
    expect(rest.deductions.map((each) => each.amount)).toEqual([-10_000, -2500]);
    expect(half.payable + rest.payable).toBe(-77_000);
    const released = credit({ ...invoice, releasedOn: '2027-06-30' }).frozen;
    expect(released.deductions.map((each) => each.kind)).toEqual(['deposit']);
    expect(released.payable).toBe(-82_000);
  });

  it('takes back the tax in the studio’s currency by the invoice’s own rate, and the rest of it at the end', () => {
    const home = { currency: 'GBP', rates: [{ base: 'EUR', currency: 'GBP', rate: '0.8', from: '2026-01-01' }] };
    const invoice = sent({
      currency: 'EUR',
      lines: [line('a', 50_000)],
      taxes: [tax(50_000, 10_000, { home: 8001 })],
      home,
      net: 50_000,
      tax: 10_000,
      total: 60_000,
      payable: 60_000,
    });
    // A third is 166.67 with 33.33 of tax: 26.66 at home.
    const third = credit(invoice, { lines: { a: 16_667 } }).frozen;
    expect(third.taxes[0]).toMatchObject({ basis: -16_667, amount: -3333, home: -2666 });
    expect(credit(invoice, { notes: [noteOf(third)] }).frozen.taxes[0]).toMatchObject({ amount: -6667, home: -5335 });
  });
});

describe('what stood on a credited line', () => {
  const row = (id: string, amount: Minor, more: Partial<Allocation> = {}): Allocation => ({
    ...allocationDefaults,
    id,
    invoiceId: 'invoice',
    line: 'a',
    entryId: id,
    seconds: 3600,
    billed: 4000,
    amount,
    ...more,
  });
  const allocations = [row('one', 42_500), row('two', 42_500), row('other', 15_000, { line: 'b' })];

  it('is given back in proportion to the money, with its length, or stays given up', () => {
    const back = credit(discounted, { allocations, lines: { a: 17_000 } }).allocations;
    expect(back.map(({ entryId, seconds, billed, amount }) => [entryId, seconds, billed, amount])).toEqual([
      ['one', -720, -800, -8500],
      ['two', -720, -800, -8500],
    ]);
    const kept = credit(discounted, { allocations, lines: { a: 17_000 }, free: false }).allocations;
    expect(kept.map(({ seconds, billed, amount }) => [seconds, billed, amount])).toEqual([
      [0, 0, -8500],
      [0, 0, -8500],
    ]);
  });

  it('comes to the whole with the note that takes the rest', () => {
    const first = credit(discounted, { allocations, lines: { a: 10_001 } });
    const before = first.allocations.map((each, index) => ({ ...each, id: `back ${index}`, invoiceId: 'note' }));
    const last = credit(discounted, { allocations: [...allocations, ...before], notes: [noteOf(first.frozen)] });
    const back = [...first.allocations, ...last.allocations];
    for (const [id, amount] of [
      ['one', -42_500],
      ['two', -42_500],
      ['other', -15_000],
    ] as const) {
      const own = back.filter((each) => each.entryId === id);
      const sum = (of: (each: (typeof own)[0]) => number) => own.reduce((all, each) => all + of(each), 0);
      expect([sum((each) => each.amount ?? 0), sum((each) => each.seconds), sum((each) => each.billed ?? 0)]).toEqual([
        amount,
        -3600,
        -4000,
      ]);
    }
  });
});
