import { describe, expect, it } from 'vitest';
import type { CostRate, ExchangeRate } from '../model/records';
import { bookOf, clientRow, projectRow, rateLine } from '../testing/studio';
import { jobName, Pricer } from './pricer';

const DAY = '2026-06-01';
const policy = (minimum: number) => ({ increment: 360, direction: 'up' as const, minimum, per: 'entry' as const });
const costRate: CostRate = {
  id: 'cost',
  memberId: null,
  role: null,
  from: '2026-01-01',
  price: '48',
  unit: 'hour',
  currency: 'GBP',
};
const euro: ExchangeRate = {
  id: 'euro',
  base: 'EUR',
  currency: 'GBP',
  from: '2026-01-01',
  rate: '0.8',
  source: '',
};
const pricerWith = (more: object = {}) =>
  new Pricer(
    bookOf({
      clients: [
        clientRow('playhouse', 'Quayside Playhouse'),
        clientRow('salon', 'Maison Clairval', { currency: 'EUR', rounding: policy(1800) }),
      ],
      projects: [
        projectRow('rig', 'Winter season rig', 'playhouse', { rounding: policy(900) }),
        projectRow('bars', 'Advance bars', 'playhouse', { parentId: 'rig' }),
        projectRow('foyer', 'Foyer', 'playhouse'),
        projectRow('vitrine', 'Vitrine', 'salon'),
        projectRow('house', 'Studio', null),
      ],
      services: [{ id: 'design', name: 'Lighting design', costCodeId: 'labour' }],
      rateLines: [rateLine('always', { from: '2026-01-01', price: '78' })],
      ...more,
    } as never),
  );

describe('the rounding of a job', () => {
  it('is its own, that of what is around it, its client’s, or the studio’s', () => {
    const pricer = pricerWith();
    const usual = pricer.book.workspace.rounding;
    expect(pricer.onlyPolicy).toBeNull();
    expect(pricer.policyOf('rig')).toEqual(policy(900));
    expect(pricer.policyOf('bars')).toEqual(policy(900));
    expect(pricer.policyOf('vitrine')).toEqual(policy(1800));
    for (const other of ['foyer', 'house', null]) expect(pricer.policyOf(other)).toBe(usual);
    // Asked again it is the same.
    expect(pricer.policyOf('bars')).toBe(pricer.policyOf('bars'));
    const plain = pricerWith({
      clients: [clientRow('playhouse', 'Quayside Playhouse')],
      projects: [projectRow('rig', 'Winter season rig', 'playhouse')],
    });
    expect(plain.onlyPolicy).toBe(plain.book.workspace.rounding);
    expect(plain.policyOf('rig')).toBe(plain.book.workspace.rounding);
  });
});

describe('a markup of one invoice', () => {
  const marked = (pricer: Pricer, projectId: string | null = 'rig') =>
    pricer.priceMarkedUp({ projectId, memberId: 'imogen', day: DAY }, '25');

  it('makes the price of cost, markup and exchange rate, one object for one price', () => {
    const pricer = pricerWith({ costRates: [costRate], exchangeRates: [euro] });
    expect(marked(pricer)).toMatchObject({
      price: '60',
      costPrice: '48',
      markup: '25',
      currency: 'GBP',
      decided: null,
    });
    expect(marked(pricer, 'vitrine')).toMatchObject({ price: '75', costPrice: '60', currency: 'EUR' });
    expect(marked(pricer)).toBe(marked(pricer));
    expect(pricer.priceMarkedUp({ projectId: 'rig', memberId: 'imogen', day: DAY }, '50')!.price).toBe('72');
  });

  it('makes none without a cost, an exchange rate, or a client', () => {
    expect(marked(pricerWith({ exchangeRates: [euro] }))).toBeNull();
    expect(marked(pricerWith({ costRates: [costRate] }), 'vitrine')).toBeNull();
    expect(marked(pricerWith({ costRates: [costRate] }), null)).toBeNull();
    expect(
      pricerWith({ costRates: [costRate] }).priceMarkedUp(
        { projectId: 'rig', memberId: 'imogen', day: '2025-12-31' },
        '25',
      ),
    ).toBeNull();
  });
});

describe('what an estimate covers', () => {
  const estimate = (fields: object = {}) => ({
    id: 'estimate',
    projectId: 'rig',
    kind: 'estimate',
    text: '',
    amount: 100,
    cost: null,
    costCodeId: null,
    agreedOn: null,
    agreedBy: '',
    milestoneId: null,
    billed: true,
    ...fields,
  });
  const bills = (pricer: Pricer, projectId: string | null, serviceId: string | null = null) =>
    pricer.billsEntry({ projectId, serviceId });

  it('is what stands under its heading, of its project and its parts', () => {
    const none = pricerWith();
    expect([bills(none, 'rig'), bills(none, 'house'), bills(none, null)]).toEqual([true, false, false]);
    const headed = pricerWith({ agreed: [estimate({ costCodeId: 'labour' })] });
    expect([bills(headed, 'rig', 'design'), bills(headed, 'bars', 'design'), bills(headed, 'rig')]).toEqual([
      false,
      false,
      true,
    ]);
    expect([bills(headed, 'foyer', 'design'), bills(headed, 'rig', 'gone')]).toEqual([true, true]);
    const plain = pricerWith({ agreed: [estimate()] });
    expect([bills(plain, 'rig'), bills(plain, 'rig', 'design'), bills(plain, 'rig', 'gone')]).toEqual([
      false,
      true,
      false,
    ]);
    expect(plain.estimateOver(null, null)).toBeNull();
    // One that is only thought of, and an amount of another kind, cover nothing.
    for (const other of [estimate({ billed: false }), estimate({ kind: 'extra' })])
      expect(bills(pricerWith({ agreed: [other] }), 'rig')).toBe(true);
  });
});

describe('a price that was agreed for one entry', () => {
  it('has the client’s currency, and needs one', () => {
    const pricer = pricerWith();
    const asked = (projectId: string | null) =>
      pricer.priceOf({
        projectId,
        taskId: null,
        memberId: 'imogen',
        serviceId: null,
        day: DAY,
        rate: { price: '1.5', unit: 'minute' },
      });
    expect(asked('rig')).toMatchObject({ price: '1.5', unit: 'minute', currency: 'GBP', perSeconds: 60 });
    expect(asked('vitrine')).toMatchObject({ currency: 'EUR' });
    expect(asked(null)).toBeNull();
    expect(pricer.amount(90, asked('rig')!)).toBe(225);
  });
});

describe('what time costs', () => {
  it('is that of the rate of the day, in its currency or another', () => {
    const pricer = pricerWith({ costRates: [costRate], exchangeRates: [euro] });
    expect(pricer.costOf('imogen', DAY, 5400)).toEqual({ amount: 7200, currency: 'GBP', rate: costRate });
    expect(pricer.costOf('imogen', '2025-12-31', 5400)).toBeNull();
    expect(pricer.costIn('imogen', DAY, 5400, 'EUR')).toBe(9000);
    expect(pricer.costIn('imogen', DAY, 5400, 'USD')).toBeNull();
    expect(pricer.costIn('imogen', '2025-12-31', 5400, 'GBP')).toBeNull();
    // A day is as long as the studio's.
    const daily = pricerWith({ costRates: [{ ...costRate, unit: 'day', price: '300' }] });
    expect(daily.costOf('imogen', DAY, daily.book.workspace.daySeconds / 2)!.amount).toBe(15_000);
  });
});

describe('a job in words', () => {
  it('is the project with its client, what was written, or none', () => {
    const pricer = pricerWith();
    expect(jobName(pricer, 'bars')).toBe('Winter season rig › Advance bars · Quayside Playhouse');
    expect(jobName(pricer, 'house')).toBe('Studio');
    expect(jobName(pricer, null)).toBe('No job yet');
    expect(jobName(pricer, null, 'New foyer')).toBe('New foyer');
    expect(jobName(pricer, 'gone')).toBe('No job yet');
    expect(jobName(pricer, 'gone', 'New foyer')).toBe('New foyer');
    expect(jobName(pricer, 'house', 'New foyer')).toBe('Studio');
  });
});
