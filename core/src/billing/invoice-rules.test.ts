import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { serviceDefaults, taxDefaults } from '../model/defaults';
import { agreedDefaults, invoiceDefaults } from '../model/defaults-billing';
import { condensings, type Agreed, type Cost, type CostLine, type Invoice, type Markup } from '../model/records';
import { totalsOf } from '../money';
import { brokenRules } from '../testing/en16931';
import { bookOf, clientRow, costLineRow, costRow, markupRow, projectRow, rateLine } from '../testing/studio';
import {
  computeDraft,
  explainDraft,
  explainFrozen,
  explainLine,
  freeze,
  newAllocation,
  newDraft,
  Pricer,
  shareOfSources,
  type ChargeRows,
} from '.';
import { runs } from '../testing/runs';

const DAY = '2026-11-30';
const markup = (id: string, costType: Markup['costType'], percent: string) =>
  markupRow({ id, projectId: 'gallery', costType, percent });

const pricer = new Pricer(
  bookOf({
    clients: [clientRow('museum', 'Fernhill Folk Museum', { taxId: 'vat' })],
    projects: [projectRow('gallery', 'Museum gallery 3', 'museum', { kind: 'cost-plus' })],
    services: [{ ...serviceDefaults, id: 'design', name: 'Lighting design', costCodeId: 'labour', account: '4100' }],
    costCodes: [
      { id: 'labour', code: '10', name: 'Labour', costType: 'labour' },
      { id: 'lamps', code: '20', name: 'Lamps and gel', costType: 'material' },
      { id: 'riggers', code: '30', name: 'Riggers', costType: 'subcontract' },
    ],
    taxes: [
      { ...taxDefaults, id: 'vat', name: 'VAT', percent: '20', note: '' },
      { ...taxDefaults, id: 'low', name: 'VAT reduced', percent: '5', note: '' },
    ],
    rateLines: [rateLine('rate', { price: '85' })],
    // Practice of the trade, no published source.
    markups: [markup('m1', 'material', '35'), markup('m2', 'subcontract', '15')],
  }),
);

const costOf = (id: string, fields: Partial<Cost> = {}): Cost =>
  costRow({ id, kind: 'bill', day: '2026-11-10', supplier: 'Brightwater Supplies', ...fields });
const lineOf = (id: string, costId: string, amount: number, fields: Partial<CostLine> = {}): CostLine =>
  costLineRow({ id, costId, amount, text: `Lamps ${id}`, projectId: 'gallery', costCodeId: 'lamps', ...fields });
const agreedOf = (id: string, amount: number, fields: Partial<Agreed> = {}): Agreed => ({
  ...agreedDefaults,
  id,
  projectId: 'gallery',
  kind: 'extra',
  text: `Extra ${id}`,
  amount,
  agreedOn: '2026-11-02',
  ...fields,
});

const client = pricer.client.get('museum')!;
const invoiceOf = (fields: Partial<Invoice> = {}): Invoice => ({
  ...newDraft(client, { id: 'invoice', createdAt: 0 }),
  ...fields,
});

function draftOf(invoice: Invoice, rows: Partial<ChargeRows>, seconds: readonly number[] = []) {
  const entries = seconds.map((each, index) =>
    blankEntry({
      id: `e${index}`,
      memberId: 'imogen',
      day: `2026-11-${String(10 + (index % 15))}`,
      projectId: 'gallery',
      serviceId: 'design',
      note: 'Case lighting',
      seconds: each,
    }),
  );
  const all: ChargeRows = { costs: [], costLines: [], agreed: [], milestones: [], ...rows };
  const allocations = [
    ...entries.map((entry) =>
      newAllocation({ id: entry.id, invoiceId: 'invoice', entryId: entry.id, seconds: entry.seconds }),
    ),
    ...all.costLines.map((line) =>
      newAllocation({ id: line.id, invoiceId: 'invoice', costLineId: line.id, part: line.amount! }),
    ),
    ...all.agreed.map((row) => newAllocation({ id: row.id, invoiceId: 'invoice', agreedId: row.id, part: row.amount })),
  ];
  const deposits = [
    {
      id: 'paid',
      clientId: 'museum',
      projectId: null,
      day: '2026-10-01',
      amount: 1_000_000,
      currency: 'GBP',
      note: '',
    },
  ];
  const draft = computeDraft(pricer, { invoice, entries, allocations, day: DAY, rows: all, deposits });
  return { draft, send: () => freeze(pricer, draft, invoice, 1, DAY) };
}

const anyInvoice = fc.record({
  condense: fc.constantFrom(...condensings),
  lump: fc.boolean(),
  allowance: fc.option(fc.constantFrom('2.5', '10', '33.3333'), { nil: null }),
  retention: fc.option(fc.constantFrom('5', '2.5'), { nil: null }),
  deposit: fc.option(fc.integer({ min: 1, max: 5000 }), { nil: null }),
  seconds: fc.array(fc.integer({ min: 1, max: 30_000 }), { maxLength: 12 }),
  costs: fc.array(fc.integer({ min: 1, max: 80_000 }), { minLength: 1, maxLength: 12 }),
  extras: fc.array(fc.integer({ min: 1, max: 50_000 }), { maxLength: 3 }),
  hand: fc.option(
    fc.record({ quantity: fc.constantFrom('1', '2.5', '0.3333'), price: fc.constantFrom('9.99', '0.0125', '120') }),
    {
      nil: null,
    },
  ),
  discount: fc.option(fc.constantFrom('5', '12.5'), { nil: null }),
});

describe('every invoice', () => {
  it('holds the calculation rules of EN 16931, adds up, explains itself and is shared out without a rest', () => {
    fc.assert(
      fc.property(anyInvoice, (made) => {
        const invoice = invoiceOf({
          condense: made.condense,
          ways: made.lump ? { bill: { way: made.condense, lump: true }, time: { way: made.condense, lump: true } } : {},
          allowance: made.allowance === null ? null : { text: 'Discount', percent: made.allowance, amount: null },
          retention: made.retention,
          deposits: made.deposit === null ? [] : [{ depositId: 'paid', amount: made.deposit }],
          byHand: made.hand
            ? [
                {
                  key: 'hand',
                  text: 'Sundries',
                  unitName: '',
                  taxId: 'low',
                  account: '',
                  projectId: null,
                  ...made.hand,
                },
              ]
            : [],
          discounts: made.discount && made.hand ? { hand: made.discount } : {},
        });
        const { draft, send } = draftOf(
          invoice,
          {
            costs: [costOf('bill')],
            costLines: made.costs.map((amount, index) =>
              lineOf(`c${index}`, 'bill', amount, index % 3 === 0 ? { costCodeId: 'riggers' } : {}),
            ),
            agreed: made.extras.map((amount, index) => agreedOf(`x${index}`, amount)),
          },
          made.seconds,
        );
        for (const line of draft.lines) {
          expect(shareOfSources(pricer, line).reduce((sum, each) => sum + each, 0)).toBe(line.byHand ? 0 : line.amount);
          expect(explainLine(pricer, line, 'GBP').result.figure).toMatchObject({ minor: line.amount });
        }
        expect(explainDraft(pricer, draft, false, 'Draft').result.figure).toMatchObject({ minor: draft.payable });
        if (draft.payable < 0) {
          expect(send).toThrow('More is deducted');
          return;
        }
        const frozen = send();
        expect(brokenRules(frozen)).toEqual([]);
        expect(explainFrozen(frozen).result.figure).toMatchObject({ minor: frozen.payable });
        const held = frozen.deductions.reduce((sum, each) => sum + each.amount, 0);
        expect(frozen.net - draft.totals.allowance + frozen.tax - held).toBe(frozen.payable);
      }),
      { numRuns: runs(300) },
    );
  });

  it('the checker finds what is wrong', () => {
    const { send } = draftOf(invoiceOf(), { costs: [costOf('bill')], costLines: [lineOf('c', 'bill', 10_000)] });
    const sent = send();
    expect(brokenRules({ ...sent, net: sent.net + 1 })).toHaveLength(1);
    expect(brokenRules({ ...sent, taxes: [{ ...sent.taxes[0]!, amount: 1 }] }).length).toBeGreaterThan(1);
    expect(brokenRules({ ...sent, payable: sent.payable - 1 })).toHaveLength(1);
  });
});

describe('costs on an invoice', () => {
  const rows = {
    costs: [costOf('bill'), costOf('rigging')],
    costLines: [
      lineOf('a', 'bill', 12_000),
      lineOf('b', 'bill', 4550),
      lineOf('c', 'bill', 999),
      lineOf('d', 'rigging', 40_000, { costCodeId: 'riggers' }),
    ],
  };

  it('are marked up by the type of their heading, together where they stand together', () => {
    // Practice: 35 % on 120.00 + 45.50 + 9.99 = 175.49 is 236.9115, so 236.91; one by one 162.00 + 61.43 + 13.49 = 236.92.
    const { draft } = draftOf(invoiceOf(), rows);
    expect(draft.lines.map((line) => [line.text, line.cost, line.markup, line.amount])).toEqual([
      ['Lamps and gel', 17_549, '35', 23_691],
      ['Riggers', 40_000, '15', 46_000],
    ]);
    expect(draft.itemByItem - draft.totals.net).toBe(1);
  });

  it('stand item by item where that is liked, in the order they were bought', () => {
    const { draft } = draftOf(invoiceOf({ condense: 'item' }), rows);
    expect(draft.lines.map((line) => line.amount)).toEqual([16_200, 6143, 1349, 46_000]);
  });

  it('have a markup of this invoice’s own where one was said', () => {
    const invoice = invoiceOf({ condense: 'item' });
    const allocations = [newAllocation({ id: 'a', invoiceId: 'invoice', costLineId: 'a', part: 12_000, markup: '50' })];
    const draft = computeDraft(pricer, {
      invoice,
      entries: [],
      allocations,
      day: DAY,
      rows: { ...rows, agreed: [], milestones: [] },
    });
    expect(draft.lines.map((line) => [line.markup, line.amount])).toEqual([['50', 18_000]]);
  });

  it('print as one sum with time of the same heading, without moving the total', () => {
    const way = { way: 'project' as const, lump: true };
    const { draft } = draftOf(invoiceOf({ ways: { bill: way, time: way } }), rows, [3600, 1801]);
    expect(draft.lines).toHaveLength(1);
    expect(draft.totals.net).toBe(draft.itemByItem);
  });

  it('say what a small template says', () => {
    const says = '{heading}: {count} items from {supplier}';
    const { draft } = draftOf(invoiceOf({ says }), rows);
    expect(draft.lines[0]!.text).toBe('Lamps and gel: 3 items from Brightwater Supplies');
  });

  it('are printed with cost and markup for a client of open book, and only then', () => {
    const open = draftOf(invoiceOf({ openBook: true }), rows).send();
    expect(open.lines[0]).toMatchObject({ cost: 17_549, markup: '35', amount: 23_691 });
    expect(draftOf(invoiceOf(), rows).send().lines[0]).toMatchObject({ cost: null, markup: null });
  });
});

describe('prices agreed for hours', () => {
  it('are one sum, or one price an hour, shared over the entries by their lengths', () => {
    const deal = { id: 'deal', text: 'Case lighting, as agreed', amount: 50_000, price: null };
    const invoice = invoiceOf({ deals: [deal] });
    const entries = [3600, 7200].map((seconds, index) =>
      blankEntry({ id: `e${index}`, memberId: 'imogen', day: '2026-11-12', projectId: 'gallery', seconds, note: '' }),
    );
    const allocations = entries.map((entry) =>
      newAllocation({ id: entry.id, invoiceId: 'invoice', entryId: entry.id, seconds: entry.seconds, dealId: 'deal' }),
    );
    const one = computeDraft(pricer, { invoice, entries, allocations, day: DAY });
    expect(one.lines.map((line) => [line.text, line.amount])).toEqual([['Case lighting, as agreed', 50_000]]);
    expect(shareOfSources(pricer, one.lines[0]!)).toEqual([16_667, 33_333]);
    const hourly = { ...invoice, deals: [{ ...deal, amount: null, price: '70' }] };
    expect(computeDraft(pricer, { invoice: hourly, entries, allocations, day: DAY }).totals.net).toBe(21_000);
  });
});

describe('lines of a draft', () => {
  it('stand in the order chosen, under headings, with taxes and discounts of their own', () => {
    const hand = (key: string, price: string) => ({
      key,
      text: key,
      quantity: '1',
      unitName: '',
      price,
      taxId: 'vat',
      account: '',
      projectId: null,
    });
    const invoice = invoiceOf({
      byHand: [hand('a', '100'), hand('b', '50'), hand('c', '10')],
      order: ['c', 'a', 'b'],
      headings: [{ id: 'h', text: 'Phase two', before: 'a' }],
      lineTaxes: { b: 'low', c: '' },
      discounts: { a: '10' },
    });
    const sent = draftOf(invoice, {}).send();
    expect(sent.lines.map((line) => [line.key, line.heading, line.amount, line.taxId])).toEqual([
      ['c', '', 1000, null],
      ['a', 'Phase two', 9000, 'vat'],
      ['b', '', 5000, 'low'],
    ]);
    expect(sent.taxes.map((tax) => [tax.basis, tax.amount])).toEqual([
      [9000, 1800],
      [5000, 250],
    ]);
    expect(brokenRules(sent)).toEqual([]);
  });

  it('have the tax in them where the invoice is inclusive', () => {
    // 120.00 with 20 % in it is 100.00 and 20.00; 50.00 with 5 % in it is 47.62 and 2.38 (arithmetic).
    const taxes = [
      { id: 'vat', name: 'VAT', percent: '20' },
      { id: 'low', name: 'VAT reduced', percent: '5' },
    ];
    const lines = [
      { amount: 12_000, taxId: 'vat' },
      { amount: 5000, taxId: 'low' },
    ];
    const totals = totalsOf(lines, taxes, 'invoice', { inclusive: true });
    expect(totals).toMatchObject({ net: 17_000, tax: 2238, total: 17_000 });
    expect(totals.taxes.map((part) => part.basis)).toEqual([10_000, 4762]);
  });

  it('refuse a discount of more than there is, and a text with a name that means nothing', () => {
    const hand = {
      key: 'a',
      text: 'a',
      quantity: '1',
      unitName: '',
      price: '10',
      taxId: null,
      account: '',
      projectId: null,
    };
    const invoice = invoiceOf({ byHand: [hand], allowance: { text: 'Discount', percent: null, amount: 1001 } });
    expect(draftOf(invoice, {}).send).toThrow(/less than nothing|discount is more/);
    expect(invoiceDefaults.says).toBe('');
  });
});
