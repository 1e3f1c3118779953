import { describe, expect, it } from 'vitest';
import type { Payment } from '../model/records';
import { ledger } from '../testing/ledger';
import { slipOf } from '../testing/slip';
import { work } from '../testing/studio';
import {
  Charges,
  computeDraft,
  explainCharge,
  explainDraft,
  explainFrozen,
  explainLine,
  explainOwed,
  explainPayment,
  explainShare,
  Pricer,
  readBook,
} from '.';

// Slips of invoices, read as a person reads them.

const DAY = '2026-11-12';
const RATE =
  'Rate: 85.00 /h (Quayside Playhouse card, from 1 Jan 2026; beats 78.00 /h on Saltmere Lighting card, from 1 Jan 2026: less specific about where)';
const ROUNDED = '(up to the next 6 min, entry by entry)';

async function desk() {
  const made = await ledger();
  const { store, run, added, at } = made;
  const lamps = await added('costCode.add', { code: '20', name: 'Lamps', costType: 'material' });
  await run('markup.add', { projectId: at.rig, costType: 'material', from: '2026-01-01', percent: '28' });
  const rows = () => ({
    costs: store.rows('costs'),
    costLines: store.rows('costLines'),
    agreed: store.rows('agreed'),
    milestones: store.rows('milestones'),
  });
  const pricer = async () => new Pricer(await readBook(store));
  const draft = async (id: string) => {
    const allocations = store.rows('allocations').filter((row) => row.invoiceId === id);
    const on = new Set(allocations.map((row) => row.entryId));
    const entries = store.rows('entries').filter((row) => on.has(row.id));
    return computeDraft(await pricer(), { invoice: made.invoice(id), entries, allocations, rows: rows(), day: DAY });
  };
  const lines = async (id: string) => {
    const read = await pricer();
    const { lines: all, currency } = await draft(id);
    return new Map(all.map((line) => [line.text, slipOf(explainLine(read, line, currency)).slice(1)]));
  };
  const whole = async (id: string) =>
    slipOf(explainDraft(await pricer(), await draft(id), made.invoice(id).inclusive, 'Draft'));
  const hours = (seconds: number, more: object = {}) => added('entry.add', work(at.rig, seconds, more));
  const bought = async (list: object[], more: object = {}) => {
    const cost = await run('cost.add', {
      kind: 'bill',
      day: DAY,
      currency: 'GBP',
      supplier: 'Brightwater',
      lines: list.map((line) => ({ projectId: at.rig, costCodeId: lamps, ...line })),
      ...more,
    } as never);
    return cost.changes.filter(({ table }) => table === 'costLines').map(({ id }) => id);
  };
  const charge = async (id: string) => {
    const read = await pricer();
    const found = new Charges(read, rows()).toBill([]).find((each) => each.id === id)!;
    return slipOf(explainCharge(read, found));
  };
  return { ...made, lamps, pricer, draft, lines, whole, hours, bought, charge };
}

describe('the slip of a line', () => {
  it('lists what stands on it, with rate and product', async () => {
    const { draftOf, lines, hours, at } = await desk();
    const id = await draftOf({ entryIds: [await hours(4000), await hours(1000, { serviceId: at.design })] });
    expect([...(await lines(id))]).toEqual([
      [
        'Winter season rig',
        [
          '12 Nov 2026 Imogen Vale: 1 h 12 min',
          '— Recorded: 1 h 6 min 40 s',
          `Rounded: 1 h 12 min ${ROUNDED}`,
          RATE,
          '— 1 h 12 min × 85.00 ÷ 1 h',
          '= Line: £102.00',
        ],
      ],
      [
        'Winter season rig: Lighting design',
        [
          '12 Nov 2026 Imogen Vale: 18 min',
          '— Recorded: 16 min 40 s',
          `Rounded: 18 min ${ROUNDED}`,
          RATE,
          '— 18 min × 85.00 ÷ 1 h',
          '= Line: £25.50',
        ],
      ],
    ]);
  });

  it('of a price for all of the hours says so, and one of a price an hour shows it', async () => {
    const { run, draftOf, lines, hours, invoice } = await desk();
    const entryIds = [await hours(3600)];
    const id = await draftOf({ entryIds });
    await run('invoice.deal', { id, entryIds, text: 'Night work', amount: 9999 });
    const listed = ['12 Nov 2026 Imogen Vale: 1 h', '— Recorded: 1 h', `Rounded: 1 h ${ROUNDED}`];
    expect((await lines(id)).get('Night work')).toEqual([
      ...listed,
      '— Agreed for these hours: £99.99',
      '= Line: £99.99',
    ]);
    expect(invoice(id).deals).toHaveLength(1);
    await run('invoice.deal', { id, entryIds, text: 'Night work', price: '91.5' });
    expect((await lines(id)).get('Night work')).toEqual([
      ...listed,
      'Agreed for these hours (whatever their rates)',
      '— 1 h × 91.50 ÷ 1 h',
      '= Line: £91.50',
    ]);
  });

  it('of costs shows cost and markup, or what each comes to where markups differ', async () => {
    const { run, draftOf, lines, bought, hand, added, at } = await desk();
    const costLineIds = await bought([
      { text: 'Lamps', quantity: '3', unit: 'boxes', price: '12.5' },
      { text: '', amount: 1000 },
    ]);
    const extra = await added('agreed.add', {
      projectId: at.rig,
      kind: 'extra',
      text: 'One more',
      amount: 5000,
      agreedOn: DAY,
    });
    const id = await draftOf({ costLineIds, agreedIds: [extra] });
    await run('invoice.edit', { id, byHand: [hand('3.3333', { quantity: '1.5', unitName: 'day' }), hand('7')] });
    const all = await lines(id);
    expect(all.get('Lamps')).toEqual([
      '12 Nov 2026 Lamps, 3 boxes: £37.50',
      '12 Nov 2026 Brightwater: £10.00',
      '— Cost: £47.50',
      'Markup: + 28 %',
      '= Line: £60.80',
    ]);
    expect(all.get('One more')).toEqual(['12 Nov 2026 One more: £50.00', 'As agreed: £50.00', '= Line: £50.00']);
    expect(all.get('At 3.3333')).toEqual(['1.5 day × 3.3333 (written by hand)', '= Line: £5.00']);
    expect(all.get('At 7')).toEqual(['1 × 7 (written by hand)', '= Line: £7.00']);
    const [one] = costLineIds;
    await run('invoice.markUp', { id, sourceIds: [one!], markup: '10' });
    const lump = { way: 'project', lump: true } as const;
    await run('invoice.edit', { id, ways: { time: lump, bill: lump }, byHand: [] });
    expect((await lines(id)).get('Winter season rig')).toEqual([
      '12 Nov 2026 Lamps, 3 boxes: £37.50',
      '12 Nov 2026 Brightwater: £10.00',
      'Costs, each with its markup: £54.05',
      '= Line: £54.05',
    ]);
  });

  it('that holds hundreds lists 200 and adds up the others', async () => {
    const { draftOf, lines, store, bought, hours } = await desk();
    const ids: string[] = [];
    for (let index = 0; index < 202; index++) ids.push(await hours(360 + index));
    const [all] = [...(await lines(await draftOf({ entryIds: ids }))).values()];
    // The first is 6 minutes, each after it is rounded up to 12.
    expect(all!.filter((step) => step.startsWith('12 Nov 2026'))).toHaveLength(200);
    expect(all![200]).toBe('and 2 more: 24 min');
    expect(all!.find((step) => step.startsWith('Rounded'))).toBe(
      `Rounded: ${Math.floor((6 + 201 * 12) / 60)} h ${(6 + 201 * 12) % 60} min ${ROUNDED}`,
    );
    // One more than 200 is listed rather than told as "one more".
    const [exact] = [...(await lines(await draftOf({ entryIds: await again(201) }))).values()];
    async function again(many: number) {
      const made: string[] = [];
      for (let index = 0; index < many; index++) made.push(await hours(360));
      return made;
    }
    expect(exact!.filter((step) => step.startsWith('12 Nov 2026'))).toHaveLength(201);
    expect(exact!.some((step) => step.includes('more'))).toBe(false);
    const costs = await bought(Array.from({ length: 203 }, (_, index) => ({ text: `Lamp ${index}`, amount: 100 })));
    const [paid] = [...(await lines(await draftOf({ costLineIds: costs }))).values()];
    expect(paid!.slice(199, 204)).toEqual([
      expect.stringContaining('Lamp'),
      'and 3 more: £3.00',
      '— Cost: £203.00',
      'Markup: + 28 %',
      '= Line: £259.84',
    ]);
    expect(store.rows('costLines')).toHaveLength(203);
  });

  it('with a discount of its own takes it off at the end', async () => {
    const { run, draftOf, lines, draft, hours } = await desk();
    const id = await draftOf({ entryIds: [await hours(3600)] });
    const [line] = (await draft(id)).lines;
    await run('invoice.edit', { id, discounts: { [line!.key]: '12.5' } });
    // 12.5 % of 85.00 is 10.625, which is 10.63.
    expect((await lines(id)).get('Winter season rig')!.slice(-2)).toEqual(['— Less 12.5 %: −£10.63', '= Line: £74.37']);
  });

  it('of an open book shows what the hours cost, for information', async () => {
    const { run, draftOf, lines, hours, at } = await desk();
    await run('costRate.add', { from: '2026-01-01', price: '48', unit: 'hour', currency: 'GBP' });
    await run('rate.add', { projectId: at.rig, from: '2026-01-01', markup: '62.5' });
    const id = await draftOf({ entryIds: [await hours(3600)] });
    const [slip] = [...(await lines(id)).values()];
    expect(slip!.slice(3)).toEqual([
      'Cost: 48.00 /h (anybody, from 1 Jan 2026)',
      expect.stringMatching(/^Markup: \+ 62\.5 % \(Winter season rig card, from 1 Jan 2026; beats 85\.00/),
      '— Rate: 78.00 /h',
      expect.stringMatching(/^Cost of these hours: £48\.00 \(For information\./),
      '— 1 h × 78.00 ÷ 1 h',
      '= Line: £78.00',
    ]);
  });
});

describe('the slip of an invoice', () => {
  it('goes from the lines by discount, tax and what was paid ahead to what is to pay', async () => {
    const { run, at, byHand, hand, low, whole, issue } = await desk();
    await run('deposit.add', { clientId: at.playhouse, day: DAY, amount: 2500, currency: 'GBP' });
    const id = await byHand([hand('100'), hand('20', { taxId: low })], {
      allowance: { text: 'Discount', percent: '10', amount: null },
      retention: '5',
    });
    const before = await whole(id);
    expect(before).toEqual([
      'Draft',
      '2 lines, net: £120.00',
      'Discount: −£12.00',
      'VAT 20 %: £18.00 (on 90.00, rounded once)',
      'VAT reduced 5 %: £0.90 (on 18.00, rounded once)',
      '— Total: £126.90',
      'Retention, 5 %: −£5.40',
      '= To pay: £121.50',
    ]);
    const issued = slipOf(explainFrozen(await issue(id)));
    expect(issued.slice(1)).toEqual(before.slice(1));
  });

  it('with tax in its prices says what of the sum is tax, and what is rounded', async () => {
    const { byHand, hand, whole } = await desk();
    const id = await byHand([hand('100')], { inclusive: true });
    expect(await whole(id)).toEqual([
      'Draft',
      '1 line, with tax: £100.00',
      'of that VAT 20 %: £16.67 (on 83.33, rounded once)',
      '= Total: £100.00',
    ]);
    // 0.03 with a fifth: the basis is 0.03 (0.025), its tax 0.01 (0.006), so a penny is rounded off.
    const small = await byHand([hand('0.03')], { inclusive: true });
    expect((await whole(small)).slice(1)).toEqual([
      '1 line, with tax: £0.03',
      'of that VAT 20 %: £0.01 (on 0.03, rounded once)',
      'Rounding: −£0.01 (between net + tax and the prices that include tax)',
      '= Total: £0.03',
    ]);
  });

  it('taxed line by line says so', async () => {
    const { run, byHand, hand, whole } = await desk();
    await run('workspace.edit', { taxMethod: 'line' });
    expect((await whole(await byHand([hand('0.03'), hand('0.03')])))[2]).toBe(
      'VAT 20 %: £0.02 (on 0.06, rounded line by line)',
    );
  });
});

describe('the slip of a cost', () => {
  it('shows pieces, cost, markup and where it was agreed', async () => {
    const { bought, charge, at } = await desk();
    const [pieces, sum] = await bought(
      [
        { text: 'Lamps', quantity: '3', unit: '', price: '12.5' },
        { text: 'Gel', amount: 1000 },
      ],
      { taxId: at.tax, taxIncluded: true },
    );
    // 37.50 and 10.00 with a sixth of tax in them.
    expect(await charge(pieces!)).toEqual([
      'Lamps',
      '3 pieces at 12.5 GBP (Brightwater)',
      'Cost: 31.25 GBP (Brightwater, 12 Nov 2026, without tax)',
      'Markup: + 28 % (material, Winter season rig, from 1 Jan 2026)',
      '= Price: £40.00',
    ]);
    expect((await charge(sum!)).slice(1, 2)).toEqual(['Cost: 8.33 GBP (Brightwater, 12 Nov 2026, without tax)']);
    const [kept] = await bought([{ text: 'Hire', amount: 1000 }], { taxId: at.tax, taxReclaimed: false });
    expect((await charge(kept!))[1]).toBe('Cost: 12.00 GBP (Brightwater, 12 Nov 2026, with tax)');
  });

  it('says which exchange rate is missing, and goes by it where there is one', async () => {
    const { bought, charge, run } = await desk();
    const [far] = await bought([{ text: 'Far lamps', amount: 1000 }], { currency: 'EUR' });
    expect((await charge(far!)).slice(1)).toEqual([
      'Cost: 10.00 EUR (Brightwater, 12 Nov 2026, without tax)',
      expect.stringMatching(/^No exchange rate \(.+\)$/),
      expect.stringMatching(/^= Price/),
    ]);
    await run('exchange.add', { from: '2026-01-01', base: 'EUR', currency: 'GBP', rate: '0.8', source: 'by hand' });
    expect((await charge(far!)).slice(1)).toEqual([
      'Cost: 10.00 EUR (Brightwater, 12 Nov 2026, without tax)',
      'In GBP: £8.00',
      'Markup: + 28 % (material, Winter season rig, from 1 Jan 2026)',
      '= Price: £10.24',
    ]);
  });

  it('names the place of its markup: contract, client, studio, or none', async () => {
    const { bought, charge, run, added, at, store, lamps } = await desk();
    const [id] = await bought([{ text: 'Gel', amount: 1000 }]);
    const place = async () => (await charge(id!)).find((step) => step.startsWith('Markup'));
    for (const row of store.rows('markups')) await run('markup.remove', { id: row.id });
    expect(await place()).toMatch(/^Markup: \+ 0 % \(for this invoice, or none agreed\)$/);
    await run('markup.add', { costType: 'material', from: '2026-01-01', percent: '8' });
    expect(await place()).toBe('Markup: + 8 % (material, Saltmere Lighting, from 1 Jan 2026)');
    await run('markup.add', { clientId: at.playhouse, costType: 'material', from: '2026-01-01', percent: '9' });
    expect(await place()).toBe('Markup: + 9 % (material, Quayside Playhouse, from 1 Jan 2026)');
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons' });
    await run('project.edit', { id: at.rig, contractId });
    await run('markup.add', { contractId, costType: 'material', from: '2026-01-01', percent: '10' });
    expect(await place()).toBe('Markup: + 10 % (material, Seasons contract, from 1 Jan 2026)');
    // Under an estimate that is billed itself it is no charge; the slip says which.
    await run('agreed.add', { projectId: at.rig, kind: 'estimate', text: 'Rig', amount: 1, costCodeId: lamps });
    expect(await place()).toBeDefined();
  });

  it('of an agreed amount says who agreed to it and when', async () => {
    const { added, charge, at } = await desk();
    const extra = (fields: object) =>
      added('agreed.add', {
        projectId: at.rig,
        kind: 'extra',
        text: 'One more',
        amount: 5000,
        agreedOn: DAY,
        ...fields,
      });
    expect(await charge(await extra({ agreedBy: 'the stage manager' }))).toEqual([
      'One more',
      'Agreed: £50.00 (agreed by the stage manager, 12 Nov 2026)',
      '= Price: £50.00',
    ]);
    expect((await charge(await extra({})))[1]).toBe('Agreed: £50.00 (12 Nov 2026)');
    const estimate = await added('agreed.add', {
      projectId: at.rig,
      kind: 'estimate',
      text: 'Rig',
      amount: 9000,
      billed: true,
    });
    expect((await charge(estimate)).slice(1)).toEqual([
      'Agreed: £90.00',
      'By estimate (“Rig” of Winter season rig, no cost code is billed in place of the hours and costs under it, parts of the project included.)',
      '= Price: £90.00',
    ]);
  });
});

describe('the slip of what was issued', () => {
  it('of a source’s share tells the line and what it was shared by', async () => {
    const { draftOf, issue, hours, bought, store, run } = await desk();
    const entryIds = [await hours(3600), await hours(1800)];
    const id = await draftOf({ entryIds, costLineIds: await bought([{ text: 'Gel', amount: 1000 }]) });
    const issued = await issue(id);
    const allocation = (key: 'entryId' | 'costLineId', source?: string) =>
      store.rows('allocations').find((row) => row[key] !== null && (source === undefined || row[key] === source))!;
    expect(slipOf(explainShare(issued, allocation('entryId', entryIds[1]), 2))).toEqual([
      'Winter season rig',
      'Line: 1 h 30 min (at 85.00 /h, as issued)',
      '— Amount of the line: £127.50',
      'This entry, recorded: 30 min (shared over 2 entries by billed length, left-over pennies to the largest remainders)',
      '= Its share: £42.50',
    ]);
    expect(slipOf(explainShare(issued, allocation('costLineId'), 1)).slice(1)).toEqual([
      'Line (one sum, as issued)',
      '— Amount of the line: £12.80',
      'Its part (all of the line)',
      '= Its share: £12.80',
    ]);
    const more = [await hours(3600), await hours(3600)];
    const lump = await draftOf({ entryIds: more });
    await run('invoice.deal', { id: lump, entryIds: more, text: 'Night work', amount: 10_001 });
    const deal = await issue(lump);
    expect(slipOf(explainShare(deal, allocation('entryId', more[0]), 2)).slice(1, 4)).toEqual([
      'Line (one sum, as issued)',
      '— Amount of the line: £100.01',
      'This entry, recorded: 1 h (shared over 2 entries by what each is worth, left-over pennies to the largest remainders)',
    ]);
  });

  it('of a payment says what kind it was', () => {
    const payment = (fields: Partial<Payment>) =>
      slipOf(
        explainPayment({
          id: 'p',
          invoiceId: 'i',
          kind: 'payment',
          day: DAY,
          amount: 100,
          currency: 'GBP',
          note: ' ',
          ...fields,
        } as Payment),
      );
    expect(payment({})).toEqual(['Payment', 'Recorded as paid: 12 Nov 2026', '= Paid: £1.00']);
    expect(payment({ note: ' By cheque ' })[0]).toBe('By cheque');
    expect(payment({ kind: 'write-off' })).toEqual(['Written off', 'Written off: 12 Nov 2026', '= Given up: £1.00']);
    expect(payment({ kind: 'refund' })).toEqual([
      'Paid back',
      'Recorded as paid back: 12 Nov 2026',
      '= Paid back: £1.00',
    ]);
  });

  it('of what is owed adds credits, payments and refunds to what was asked for', async () => {
    const { byHand, hand, issue, credit, run, owing } = await desk();
    const id = await byHand([hand('100'), hand('50')]);
    const { number, lines } = await issue(id);
    await run('payment.add', { invoiceId: id, kind: 'payment', day: DAY, amount: 15_000, note: '' });
    await credit(id, { [lines[1]!.key]: 5000 });
    const owed = () => slipOf(explainOwed(owing(id)));
    expect(owed()).toEqual([
      `Owed on ${number}`,
      `${number}, to pay: £180.00`,
      expect.stringMatching(/^Credited, SL-\S+: −£60\.00$/),
      'Paid 12 Nov 2026: −£150.00',
      '= Overpaid: −£30.00',
    ]);
    await run('payment.add', { invoiceId: id, kind: 'refund', day: DAY, amount: 3000, note: '' });
    expect(owed().slice(-2)).toEqual(['Paid back 12 Nov 2026: £30.00', '= Still owed: £0.00']);
  });
});
