import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { explainPriced, Pricer, worthOf } from '../billing';
import { blankEntry } from '../entries/timer';
import type { CostRate, ExchangeRate, Markup, RateLine } from '../model/records';
import { bookOf, clientRow, projectRow, rateLine } from '../testing/studio';
import { ExchangeRates, marginOf, markupOn, WorkTree } from '.';

const costRate = (id: string, fields: Partial<CostRate> = {}): CostRate => ({
  id,
  memberId: null,
  role: null,
  from: '2026-01-01',
  price: '50',
  unit: 'hour',
  currency: 'GBP',
  ...fields,
});
const quote = (currency: string, rate: string, from = '2026-01-01', base = 'EUR'): ExchangeRate => ({
  id: `${base} ${currency} ${from}`,
  from,
  base,
  currency,
  rate,
  source: 'by hand',
});

const pricerWith = (costRates: CostRate[], rateLines: RateLine[], exchangeRates: ExchangeRate[] = []) =>
  new Pricer(
    bookOf({
      clients: [
        clientRow('museum', 'Fernhill Folk Museum'),
        clientRow('clairval', 'Maison Clairval', { currency: 'EUR' }),
      ],
      projects: [
        projectRow('gallery', 'Museum gallery 3', 'museum', { kind: 'cost-plus' }),
        projectRow('salon', 'Salon windows', 'clairval'),
      ],
      costRates,
      rateLines,
      exchangeRates,
    }),
  );

const hour = (projectId: string, day = '2026-06-01') =>
  blankEntry({ id: `${projectId} ${day}`, memberId: 'imogen', day, projectId, seconds: 3600 });

describe('a markup over what a member costs', () => {
  // Practice, without a source: a cost of 50 an hour and 70 % make 85.
  it('makes 85 of 50 and 70 %', () => {
    const pricer = pricerWith([costRate('any')], [rateLine('agreed', { role: 'principal', markup: '70' })]);
    expect(pricer.priceOf(hour('gallery'))).toMatchObject({ price: '85', unit: 'hour', currency: 'GBP' });
    const [priced] = worthOf(pricer, [hour('gallery')]);
    expect(priced!.amount).toBe(8500);
    const working = explainPriced(pricer, priced!);
    expect(working.result.figure).toEqual({ kind: 'amount', minor: 8500, currency: 'GBP' });
    expect(working.steps.map((step) => step.label)).toEqual(expect.arrayContaining(['Cost', 'Markup', 'Rate']));
  });

  it('follows the cost from its day on, the member before the role before anybody', () => {
    const pricer = pricerWith(
      [
        costRate('any', { price: '40' }),
        costRate('role', { role: 'principal', from: '2026-03-01' }),
        costRate('own', { memberId: 'imogen', from: '2026-05-01', price: '60' }),
      ],
      [rateLine('agreed', { markup: '50' })],
    );
    const on = (day: string) => pricer.priceOf(hour('gallery', day))?.price ?? null;
    expect(['2026-01-01', '2026-02-28', '2026-03-01', '2026-05-01'].map(on)).toEqual(['60', '60', '75', '90']);
    expect(on('2025-12-31')).toBeNull();
  });

  it('has no price without a cost, and the slip says so', () => {
    const pricer = pricerWith([], [rateLine('agreed', { markup: '50' })]);
    const [priced] = worthOf(pricer, [hour('gallery')]);
    expect(priced!.price).toBeNull();
    expect(explainPriced(pricer, priced!).steps.at(-1)).toMatchObject({ label: 'No cost rate' });
  });

  it('is rounded to four places, the cost and the price, so that both hold as printed', () => {
    const pricer = pricerWith(
      [costRate('any', { price: '33.3333' })],
      [rateLine('agreed', { markup: '12.3456' })],
      [quote('GBP', '0.85733')],
    );
    // 33.3333 × 1.123456 = 37.4484958…; 33.3333 ÷ 0.85733 = 38.8804 and × 1.123456 = 43.68041…: worked out by hand.
    expect(pricer.priceOf(hour('gallery'))?.price).toBe('37.4485');
    expect(pricer.priceOf(hour('salon'))).toMatchObject({ price: '43.6804', currency: 'EUR' });
  });

  it('says which exchange rate it went by, and that there is none', () => {
    const rateLines = [rateLine('agreed', { markup: '100' })];
    const pricer = pricerWith([costRate('any')], rateLines, [quote('GBP', '0.8'), quote('GBP', '0.9', '2026-06-15')]);
    const [priced] = worthOf(pricer, [hour('salon', '2026-06-14')]);
    expect(priced!.amount).toBe(12_500);
    expect(explainPriced(pricer, priced!).steps.find((step) => step.label === '1 EUR')).toMatchObject({
      figure: { text: '0.8 GBP' },
    });
    // 50 ÷ 0.9 is printed as 55.5556, and the price is that doubled.
    expect(pricer.priceOf(hour('salon', '2026-06-15'))).toMatchObject({ costPrice: '55.5556', price: '111.1112' });
    const without = pricerWith([costRate('any')], rateLines);
    const [unpriced] = worthOf(without, [hour('salon')]);
    expect(explainPriced(without, unpriced!).steps.at(-1)).toMatchObject({ label: 'No exchange rate' });
  });

  it('gives way to a rate agreed for one entry alone', () => {
    const pricer = pricerWith([costRate('any')], [rateLine('agreed', { markup: '62.5' })]);
    const entry = { ...hour('gallery'), rate: { price: '12.5', unit: 'minute' as const } };
    const [priced] = worthOf(pricer, [entry]);
    expect(priced!.amount).toBe(75_000);
    expect(explainPriced(pricer, priced!).result.figure).toEqual({ kind: 'amount', minor: 75_000, currency: 'GBP' });
  });

  it('comes to the same whether calculated or explained', () => {
    const decimal = fc.integer({ min: 1, max: 2_000_000 }).map((scaled) => String(scaled / 10_000));
    fc.assert(
      fc.property(decimal, decimal, fc.integer({ min: 1, max: 100_000 }), (price, markup, seconds) => {
        const pricer = pricerWith([costRate('any', { price })], [rateLine('agreed', { markup })]);
        const [priced] = worthOf(pricer, [{ ...hour('gallery'), seconds }]);
        const { figure } = explainPriced(pricer, priced!).result;
        expect(figure).toEqual({ kind: 'amount', minor: priced!.amount, currency: 'GBP' });
      }),
    );
  });
});

describe('markup and margin', () => {
  // The arithmetic table of the trade: 25 % markup is 20 % margin, 35 % is 25.93 %, 50 % is 33.33 %, 100 % is 50 %.
  it('are the pair of the published table', () => {
    expect(['25', '35', '50', '100', '0', '-50'].map(marginOf)).toEqual(['20', '25.93', '33.33', '50', '0', '-100']);
    expect(marginOf('-100')).toBeNull();
  });

  it('of a cost type is the narrowest place’s, the latest not after the day', () => {
    const tree = new WorkTree(
      [projectRow('gallery', 'Gallery 3', 'museum'), projectRow('cases', 'Cases', 'museum', { parentId: 'gallery' })],
      [],
    );
    const row = (id: string, fields: Partial<Markup>): Markup => ({
      id,
      clientId: null,
      contractId: null,
      projectId: null,
      costType: 'material',
      from: '2026-01-01',
      percent: '10',
      sentence: '',
      printed: false,
      ...fields,
    });
    const rows = [
      row('studio', {}),
      row('gallery', { projectId: 'gallery', from: '2026-03-01' }),
      row('gallery later', { projectId: 'gallery', from: '2026-09-01' }),
      row('riggers', { costType: 'subcontract' }),
    ];
    const on = (day: string, costType: Markup['costType'] = 'material') =>
      markupOn(rows, tree, { projectId: 'cases', costType, day })?.id;
    expect([on('2026-02-01'), on('2026-03-01'), on('2026-10-01'), on('2026-02-01', 'subcontract')]).toEqual([
      'studio',
      'gallery',
      'gallery later',
      'riggers',
    ]);
    expect(on('2026-02-01', 'expense')).toBeUndefined();
  });
});

describe('exchange rates', () => {
  const rates = new ExchangeRates([quote('GBP', '0.8'), quote('USD', '1.2'), quote('USD', '1.1', '2026-05-01')]);

  it('are straight, turned round, or by way of the euro', () => {
    const convert = (from: string, to: string, day = '2026-02-01') =>
      rates.convert(10_000, from, to, day, 'half away from zero');
    expect(convert('EUR', 'GBP')).toBe(8000);
    expect(convert('GBP', 'EUR')).toBe(12_500);
    expect(convert('GBP', 'USD')).toBe(15_000);
    expect(convert('GBP', 'USD', '2026-05-01')).toBe(13_750);
    expect(convert('GBP', 'GBP')).toBe(10_000);
    expect(convert('GBP', 'JPY')).toBeNull();
    expect(convert('EUR', 'GBP', '2025-12-31')).toBeNull();
  });

  it('keep the digits of each currency', () => {
    const yen = new ExchangeRates([quote('JPY', '163.06'), quote('KWD', '0.33123456')]);
    expect(yen.convert(100, 'EUR', 'JPY', '2026-01-01', 'half away from zero')).toBe(163);
    expect(yen.convert(100_000, 'EUR', 'KWD', '2026-01-01', 'half away from zero')).toBe(331_235);
  });
});
