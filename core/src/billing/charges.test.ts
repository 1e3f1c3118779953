import { describe, expect, it } from 'vitest';
import { agreedDefaults } from '../model/defaults-billing';
import type { Agreed, Markup, Milestone } from '../model/records';
import { bookOf, clientRow, costLineRow, costRow, markupRow, projectRow } from '../testing/studio';
import { chargeMarkedUp, Charges, isDue, noCharges, type ChargeRows } from './charges';
import { Pricer, type PriceBook } from './pricer';
import type { Reservation } from './sources';

const markup = (id: string, costType: Markup['costType'], percent: string) =>
  markupRow({ id, projectId: 'gallery', costType, percent });
const pricer = (more: Partial<PriceBook> = {}) =>
  new Pricer(
    bookOf({
      clients: [clientRow('museum', 'Fernhill Folk Museum')],
      projects: [
        projectRow('gallery', 'Museum gallery 3', 'museum'),
        projectRow('own', 'Studio', null),
        projectRow('free', 'Favour', 'museum', { kind: 'internal' }),
      ],
      costCodes: [
        { id: 'labour', code: '10', name: 'Labour', costType: 'labour' },
        { id: 'lamps', code: '20', name: 'Lamps', costType: 'material' },
      ],
      markups: [markup('m', 'material', '35'), markup('s', 'subcontract', '15')],
      ...more,
    }),
  );
const line = (id: string, amount: number, fields: Partial<Parameters<typeof costLineRow>[0]> = {}) =>
  costLineRow({ id, amount, projectId: 'gallery', forClient: true, ...fields });
const agreed = (id: string, kind: Agreed['kind'], fields: Partial<Agreed> = {}): Agreed => ({
  ...agreedDefaults,
  id,
  projectId: 'gallery',
  kind,
  text: id,
  amount: 1000,
  ...fields,
});
const milestone = (id: string, reached: boolean, day = '2026-11-20') => ({ id, reached, day }) as Milestone;
const rows = (more: Partial<ChargeRows>): ChargeRows => ({ ...noCharges, costs: [costRow({ kind: 'bill' })], ...more });
const idsOf = (charges: Charges, takings: Reservation[] = []) => charges.toBill(takings).map((charge) => charge.id);
const taking = (fields: Partial<Reservation>): Reservation => ({
  entryId: null,
  costLineId: null,
  agreedId: null,
  seconds: 0,
  part: 0,
  ...fields,
});

it('an agreed amount is due by its kind', () => {
  const due = (row: Agreed, ...there: Milestone[]) => isDue(row, new Map(there.map((each) => [each.id, each])));
  expect(due(agreed('a', 'allowance'))).toBe(false);
  expect([due(agreed('a', 'estimate')), due(agreed('a', 'estimate', { billed: true }))]).toEqual([false, true]);
  expect([due(agreed('a', 'extra')), due(agreed('a', 'extra', { agreedOn: '2026-11-02' }))]).toEqual([false, true]);
  expect(due(agreed('a', 'fixed'))).toBe(true);
  const waiting = agreed('a', 'fixed', { milestoneId: 'premiere' });
  expect([due(waiting, milestone('premiere', false)), due(waiting, milestone('premiere', true))]).toEqual([
    false,
    true,
  ]);
  // A milestone that is gone keeps nobody waiting.
  expect(due(waiting)).toBe(true);
});

describe('what is charged for a line of a cost', () => {
  it('is its cost with the markup of its kind of cost, which its heading says, or what it is', () => {
    const charges = new Charges(pricer(), rows({}));
    expect(charges.ofLine(line('a', 1000, { costCodeId: 'lamps' }), 1000)).toMatchObject({
      costType: 'material',
      markup: '35',
      markupId: 'm',
      amount: 1350,
      fault: null,
    });
    expect(charges.ofLine(line('a', 1000), 1000)).toMatchObject({ costType: 'subcontract', amount: 1150 });
    // Labour is marked up by its rates alone.
    expect(charges.ofLine(line('a', 1000, { costCodeId: 'labour' }), 1000)).toMatchObject({
      markup: '0',
      markupId: null,
      amount: 1000,
    });
    expect(charges.ofLine(line('a', 1000, { costCodeId: 'lamps' }), 400, '10')).toMatchObject({
      markup: '10',
      markupId: null,
      amount: 440,
    });
  });

  it('is nothing without a cost, a client or a project, and is a fault where no exchange rate tells it', () => {
    const charges = new Charges(pricer(), rows({ costs: [costRow({ currency: 'EUR' })] }));
    expect(charges.ofLine(line('a', 1000, { costId: 'gone' }), 1000)).toBeNull();
    expect(charges.ofLine(line('a', 1000, { projectId: 'own' }), 1000)).toBeNull();
    expect(charges.ofLine(line('a', 1000, { projectId: null }), 1000)).toBeNull();
    const priced = charges.ofLine(line('a', 1000), 1000)!;
    expect(priced).toMatchObject({ costAmount: null, amount: 0, fault: 'no exchange rate from EUR' });
    expect(chargeMarkedUp(pricer(), priced, '20')).toBe(priced);
    const known = new Charges(pricer(), rows({})).ofLine(line('a', 1000), 1000)!;
    expect(chargeMarkedUp(pricer(), known, '20')).toMatchObject({ amount: 1200, markup: '20', markupId: null });
  });
});

describe('what is charged for an agreed amount', () => {
  it('stands on the day it was agreed, or that of its milestone, under its heading or labour', () => {
    const charges = new Charges(pricer(), rows({ milestones: [milestone('premiere', true)] }));
    expect(
      charges.ofAgreed(agreed('a', 'extra', { agreedOn: '2026-11-02', milestoneId: 'premiere' }), 400),
    ).toMatchObject({
      day: '2026-11-02',
      amount: 400,
      costType: 'labour',
    });
    const fixed = agreed('a', 'fixed', { milestoneId: 'premiere', costCodeId: 'lamps' });
    expect(charges.ofAgreed(fixed, 400)).toMatchObject({ day: '2026-11-20', costType: 'material' });
    expect(charges.ofAgreed(agreed('a', 'fixed'), 400)).toMatchObject({ day: '' });
    expect(charges.ofAgreed(agreed('a', 'allowance'), 400)).toBeNull();
    expect(charges.ofAgreed(agreed('a', 'fixed', { projectId: 'own' }), 400)).toBeNull();
  });
});

describe('everything besides time that is to bill', () => {
  it('has something left, with its own sign, and is of somebody', () => {
    const charges = new Charges(
      pricer(),
      rows({
        costLines: [
          line('whole', 1000),
          line('part', 1000),
          line('gone', 1000),
          line('refund', -500),
          line('refunded', -500),
          line('ours', 1000, { forClient: false }),
          line('own', 1000, { projectId: 'own' }),
          line('favour', 1000, { projectId: 'free' }),
          line('loose', 1000, { projectId: null }),
          line('lost', 1000, { costId: 'gone' }),
          line('nothing', 0),
        ],
        agreed: [
          agreed('extra', 'extra', { agreedOn: '2026-11-02' }),
          agreed('billed', 'fixed'),
          agreed('maybe', 'extra'),
        ],
      }),
    );
    const takings = [
      taking({ costLineId: 'part', part: 400 }),
      taking({ costLineId: 'gone', part: 1000 }),
      taking({ costLineId: 'refunded', part: -500 }),
      taking({ agreedId: 'billed', part: 1000 }),
    ];
    const open = charges.toBill(takings);
    expect(open.map((charge) => [charge.id, charge.part])).toEqual([
      ['extra', 1000],
      ['part', 600],
      ['refund', -500],
      ['whole', 1000],
    ]);
    // Taken by more than there is, a cost is not turned into a refund.
    expect(idsOf(charges, [...takings, taking({ costLineId: 'whole', part: 1200 })])).not.toContain('whole');
  });

  it('comes by day, and on one day by id', () => {
    const charges = new Charges(pricer(), {
      ...noCharges,
      costs: [costRow({ id: 'late', day: '2026-11-20' }), costRow({ id: 'early', day: '2026-11-01' })],
      costLines: [
        line('b', 1, { costId: 'late' }),
        line('c', 1, { costId: 'early' }),
        line('a', 1, { costId: 'late' }),
      ],
    });
    expect(idsOf(charges)).toEqual(['c', 'a', 'b']);
  });
});
