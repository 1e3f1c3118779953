import { expect, it } from 'vitest';
import { bandOf, shareOfBand } from './project-band';
import type { HeadingMoney, Sum } from './project-money';

const sum = (amount: number): Sum => ({ amount, parts: [] });

function heading(costCodeId: string | null, figures: Partial<Record<string, number>>): HeadingMoney {
  const of = (name: string) => figures[name] ?? 0;
  return {
    costCodeId,
    agreed: { estimate: sum(of('estimate')), allowances: sum(of('allowances')), extras: sum(of('extras')) },
    happened: { committed: sum(of('ordered')), spent: sum(of('spent')), worked: sum(of('worked')) },
    asked: { invoiced: sum(of('invoiced')), paid: of('paid'), toBill: sum(of('toBill')) },
    thoughtCost: of('thought'),
    forecastCost: of('forecast'),
  };
}

it('a project’s bars add up its headings and share one scale, as long as the longest of them', () => {
  const band = bandOf([
    heading('design', { estimate: 90_000, extras: 5000, worked: 41_000, invoiced: 30_000, paid: 12_000, toBill: 8000 }),
    heading('lamps', { allowances: 20_000, spent: 7000, ordered: 3000, forecast: 140_000, toBill: 7700 }),
    heading(null, {}),
  ]);
  expect(band).toMatchObject({
    agreed: { amount: 115_000, by: [{ costCodeId: 'design', amount: 95_000 }, { costCodeId: 'lamps' }] },
    worked: { amount: 41_000 },
    bought: { amount: 7000 },
    ordered: { amount: 3000 },
    invoiced: { amount: 30_000 },
    paid: 12_000,
    toBill: { amount: 15_700 },
    expected: { amount: 140_000 },
    widest: 140_000,
  });
  expect(shareOfBand(35_000, band)).toBe(0.25);
});

it('cost or bills may be the longest bar; a refund takes no room, and nothing has no scale', () => {
  expect(bandOf([heading(null, { worked: 60, spent: 50, ordered: 40, estimate: 100 })]).widest).toBe(150);
  expect(bandOf([heading(null, { invoiced: 90, toBill: 70, estimate: 100 })]).widest).toBe(160);
  const refunded = bandOf([heading(null, { spent: -500 })]);
  expect(refunded.widest).toBe(0);
  expect(shareOfBand(-500, refunded)).toBe(0);
  expect(shareOfBand(-500, { widest: 1000 })).toBe(0);
  expect(shareOfBand(10, bandOf([]))).toBe(0);
});
