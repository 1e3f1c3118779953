import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import type { Allocation, CostLine, Deposit, Entry, Invoice } from '../model/records';
import { bookOf, clientRow, projectRow, rateLine, taskRow } from '../testing/studio';
import type { ChargeRows } from './charges';
import { computeDraft, newAllocation, newDraft } from './draft';
import { Pricer } from './pricer';

// Which lines a draft has, in which order, what they say, and what is taken off below them.

const DAY = '2026-11-12';
const service = (id: string, name: string, account = '') => ({ id, name, account, costCodeId: null, taxId: null });
const pricer = new Pricer(
  bookOf({
    clients: [clientRow('museum', 'Fernhill Folk Museum')],
    projects: [projectRow('gallery', 'Museum gallery 3', 'museum'), projectRow('foyer', 'Foyer refresh', 'museum')],
    tasks: [taskRow('plot', 'Plot', 'gallery')],
    services: [service('design', 'Lighting design', '4010'), service('focus', 'Focus', '4020')],
    taxes: [
      { id: 'vat', name: 'VAT', percent: '20', later: [{ from: '2026-12-01', percent: '21' }] },
      { id: 'low', name: 'Reduced', percent: '5', later: [] },
    ],
    rateLines: [
      rateLine('all', { price: '80' }),
      rateLine('focus', { price: '60', serviceId: 'focus' }),
      rateLine('dear', { price: '90', from: '2026-11-10', serviceId: 'design' }),
    ],
  } as never),
);
const museum = { ...pricer.client.get('museum')!, taxId: 'vat' };

const entry = (id: string, fields: Partial<Entry> = {}): Entry =>
  blankEntry({
    id,
    memberId: 'imogen',
    day: '2026-11-03',
    projectId: 'gallery',
    serviceId: 'design',
    seconds: 3600,
    note: `Note ${id}`,
    ...fields,
  });

interface Standing {
  invoice?: Partial<Invoice>;
  entries?: readonly Entry[];
  lines?: readonly CostLine[];
  deposits?: readonly Deposit[];
  /** Of allocations, by their source. */
  held?: Record<string, Partial<Allocation>>;
  day?: string;
}

function draftOf({ invoice = {}, entries = [], lines = [], deposits = [], held = {}, day = DAY }: Standing) {
  const rows: ChargeRows = {
    costs: lines.map((line) => ({
      ...costDefaults,
      id: line.costId,
      kind: 'bill' as const,
      day: line.costId.slice(-10),
      currency: 'GBP',
    })),
    costLines: lines,
    agreed: [],
    milestones: [],
  };
  const on = (fields: Partial<Allocation> & { id: string }) =>
    newAllocation({ invoiceId: 'draft', ...fields, ...held[fields.id] });
  return computeDraft(pricer, {
    invoice: { ...newDraft(museum, { id: 'draft', createdAt: 0 }), ...invoice },
    entries,
    allocations: [
      ...entries.map((each) => on({ id: each.id, entryId: each.id, seconds: each.seconds })),
      ...lines.map((line) => on({ id: line.id, costLineId: line.id, part: line.amount! })),
    ],
    rows,
    deposits,
    day,
  });
}

const costLine = (id: string, day: string, amount = 1000): CostLine => ({
  ...costLineDefaults,
  id,
  costId: `${id}-${day}`,
  text: `Bought ${id}`,
  amount,
  projectId: 'gallery',
});
const texts = (draft: ReturnType<typeof draftOf>) => draft.lines.map((line) => line.text);

describe('the order of a draft’s lines', () => {
  it('puts condensed lines by what they say, and the dearer first where they say the same', () => {
    const draft = draftOf({
      entries: [
        entry('a', { serviceId: 'focus' }),
        entry('b', { day: '2026-11-03' }),
        entry('c', { day: '2026-11-11' }),
        entry('d', { serviceId: 'focus' }),
      ],
    });
    expect(draft.lines.map(({ text, unitPrice, billed }) => [text, unitPrice, billed])).toEqual([
      ['Museum gallery 3: Focus', '60', 7200],
      ['Museum gallery 3: Lighting design', '90', 3600],
      ['Museum gallery 3: Lighting design', '80', 3600],
    ]);
  });

  it('puts single ones in the order they happened, whatever the order they came in', () => {
    const entries = [entry('c', { day: '2026-11-05' }), entry('a', { day: '2026-11-04' }), entry('b')];
    const lines = [costLine('y', '2026-11-02'), costLine('z', '2026-11-01'), costLine('x', '2026-11-02')];
    const draft = draftOf({ invoice: { condense: 'item' }, entries, lines });
    expect(draft.lines.map((line) => line.key)).toEqual(['b', 'a', 'c', 'z', 'x', 'y']);
  });

  it('takes lines as they were put, the others behind them as they were', () => {
    const entries = ['a', 'b', 'c', 'd'].map((id, index) => entry(id, { day: `2026-11-0${index + 1}` }));
    const invoice: Partial<Invoice> = { condense: 'item', order: ['d', 'gone', 'b'] };
    expect(draftOf({ invoice, entries }).lines.map((line) => line.key)).toEqual(['d', 'b', 'a', 'c']);
  });

  it('puts a heading above its line and above no other', () => {
    const entries = [entry('a'), entry('b', { day: '2026-11-04' })];
    const invoice: Partial<Invoice> = { condense: 'item', headings: [{ id: 'h', before: 'b', text: 'Second visit' }] };
    expect(draftOf({ invoice, entries }).lines.map((line) => line.heading)).toEqual(['', 'Second visit']);
    expect(draftOf({ invoice: { condense: 'item' }, entries }).lines.map((line) => line.heading)).toEqual(['', '']);
  });
});

describe('what a draft’s lines say', () => {
  it('says what was written by hand, and says that it was', () => {
    const entries = [entry('a'), entry('b', { serviceId: 'focus' })];
    const usual = draftOf({ entries });
    const key = usual.lines.find((line) => line.text.endsWith('Focus'))!.key;
    const draft = draftOf({ entries, invoice: { texts: { [key]: 'Focusing on site' } } });
    expect(draft.lines.map(({ text, written }) => [text, written])).toEqual([
      ['Focusing on site', true],
      ['Museum gallery 3: Lighting design', false],
    ]);
  });

  it('fills the names in braces from what stands on the line; spaces alone say nothing of their own', () => {
    const entries = [entry('a'), entry('b', { day: '2026-11-04' })];
    expect(texts(draftOf({ entries, invoice: { says: '{service}: {note}' } }))).toEqual([
      'Lighting design: Note a, Note b',
    ]);
    expect(texts(draftOf({ entries, invoice: { says: '  ' } }))).toEqual(['Museum gallery 3: Lighting design']);
  });

  it('names hours at an agreed price by what was written, and without that by what they are', () => {
    const held = { a: { dealId: 'one' }, b: { dealId: 'two' }, c: { dealId: 'two' } };
    const entries = [entry('a'), entry('b'), entry('c', { serviceId: 'focus' }), entry('d')];
    const deals = [
      { id: 'one', text: '  ', amount: 50_00, price: null },
      { id: 'two', text: ' The opening night ', amount: null, price: '70' },
    ];
    const draft = draftOf({ entries, held, invoice: { deals } });
    expect(draft.lines.map(({ text, amount, account }) => [text, amount, account])).toEqual([
      ['Hours, at the price agreed', 50_00, '4010'],
      ['Museum gallery 3: Lighting design', 80_00, '4010'],
      // Of two services with accounts of their own, it is booked to neither.
      ['The opening night', 140_00, ''],
    ]);
    // What an agreed price gives away is none of condensing's doing.
    expect([draft.itemByItem, draft.condensing]).toEqual([300_00, 0]);
  });

  it('tells apart what was marked up on this draft, and what was agreed for an entry alone', () => {
    const entries = [
      entry('a'),
      entry('b', { rate: { price: '99', unit: 'hour' } }),
      entry('c'),
      entry('d', { rate: { price: '99', unit: 'hour' } }),
    ];
    const draft = draftOf({ entries });
    expect(draft.lines.map(({ unitPrice, billed }) => [unitPrice, billed])).toEqual([
      ['99', 7200],
      ['80', 7200],
    ]);
  });

  it('leaves out what no rate fits, and what is in another currency', () => {
    const dollars = new Pricer({
      ...pricer.book,
      rateLines: [rateLine('usd', { currency: 'USD', serviceId: 'focus' }), rateLine('gbp', { serviceId: 'design' })],
    });
    const entries = [entry('a'), entry('b', { serviceId: 'focus' }), entry('c', { serviceId: null })];
    const draft = computeDraft(dollars, {
      invoice: newDraft(museum, { id: 'draft', createdAt: 0 }),
      entries,
      allocations: entries.map((each) =>
        newAllocation({ id: each.id, invoiceId: 'draft', entryId: each.id, seconds: each.seconds }),
      ),
      day: DAY,
    });
    expect(draft.unpriced.map((each) => each.id)).toEqual(['b', 'c']);
    expect(draft.totals.net).toBe(80_00);
  });
});

describe('what is computed below the lines', () => {
  const entries = [entry('a')];

  it('takes each tax as it is on the day of issue, or on the tax point', () => {
    expect(draftOf({ entries }).totals.tax).toBe(16_00);
    expect(draftOf({ entries, day: '2026-12-01' }).totals.tax).toBe(16_80);
    expect(draftOf({ entries, day: '2026-12-01', invoice: { taxPoint: '2026-11-30' } }).totals.tax).toBe(16_00);
    const low = draftOf({ entries, invoice: { taxId: 'low' }, day: '2026-12-01' });
    expect(low.totals.tax).toBe(4_00);
  });

  it('says of a deposit when it was paid and what was said of it, and deducts what was asked', () => {
    const deposit = { id: 'paid', clientId: 'museum', projectId: null, amount: 40_00, currency: 'GBP' };
    const deposits: Deposit[] = [
      { ...deposit, id: 'other', day: '2026-01-05', note: 'Another' },
      { ...deposit, day: '2026-10-01', note: ' For lamps ' },
    ];
    const invoice = { deposits: [{ depositId: 'paid', amount: 30_00 }] };
    const draft = draftOf({ entries, deposits, invoice });
    expect(draft.deductions).toEqual([
      { kind: 'deposit', depositId: 'paid', text: 'Paid ahead, 1 Oct 2026, For lamps', amount: 30_00, dueDay: null },
    ]);
    expect(draft.payable).toBe(66_00);
    expect(draftOf({ entries, invoice }).deductions[0]!.text).toBe('Paid ahead');
  });

  it('says why there is nothing to take a discount off', () => {
    const allowance = { text: 'Loyal', percent: null, amount: 10_00 };
    const empty = draftOf({ invoice: { allowance } });
    expect([empty.discountFault, empty.totals.allowance]).toEqual([
      'There is nothing to take the discount off: the lines come to 0.',
      0,
    ]);
    const refund = draftOf({ invoice: { allowance }, lines: [costLine('back', '2026-11-02', -500)] });
    expect(refund.discountFault).toBe(
      'There is nothing to take the discount off: the lines come to less than nothing.',
    );
    const some = draftOf({ invoice: { allowance }, entries });
    expect([some.discountFault, some.totals.allowance, some.totals.total]).toEqual([null, 10_00, 84_00]);
    // A discount of nothing asks for nothing.
    expect(draftOf({ invoice: { allowance: { ...allowance, amount: 0 } } }).discountFault).toBeNull();
  });

  it('says what condensing adds or takes off', () => {
    // Three times ten minutes at 80: 13.33 each, 40.00 together.
    const ten = ['a', 'b', 'c'].map((id) => entry(id, { seconds: 600 }));
    const exact = new Pricer({
      ...pricer.book,
      workspace: { ...pricer.book.workspace, rounding: { increment: 1, direction: 'up', minimum: 0, per: 'entry' } },
    });
    const input = {
      invoice: newDraft(museum, { id: 'draft', createdAt: 0 }),
      entries: ten,
      allocations: ten.map((each) =>
        newAllocation({ id: each.id, invoiceId: 'draft', entryId: each.id, seconds: each.seconds }),
      ),
      day: DAY,
    };
    const draft = computeDraft(exact, input);
    expect([draft.totals.net, draft.itemByItem, draft.condensing]).toEqual([40_00, 39_99, 1]);
  });

  it('adds what was bought to what was worked, each on its own line', () => {
    const draft = draftOf({ entries, lines: [costLine('gel', '2026-11-02', 12_50)] });
    expect(draft.totals.net).toBe(92_50);
    expect([draft.itemByItem, draft.condensing]).toEqual([92_50, 0]);
    expect(draft.lines.map((line) => [line.sources.length, line.charges.length])).toEqual([
      [1, 0],
      [0, 1],
    ]);
  });
});
