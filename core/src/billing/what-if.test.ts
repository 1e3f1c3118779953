import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { bookOf, clientRow, projectRow, rateLine } from '../testing/studio';
import { exactly } from '../time/rounding';
import { asItWas, perHour, Pricer, tryTerms } from '.';
import { runs } from '../testing/runs';

const pricer = new Pricer(
  bookOf({
    clients: [clientRow('playhouse', 'Quayside Playhouse')],
    projects: [
      projectRow('rig', 'Winter season rig', 'playhouse'),
      projectRow('foyer', 'Foyer refresh', 'playhouse', {
        rounding: { increment: 900, direction: 'up', minimum: 0, per: 'entry' },
      }),
    ],
    rateLines: [rateLine('all', { price: '80' }), rateLine('foyer', { projectId: 'foyer', price: '62.5' })],
    costRates: [
      { id: 'cost', memberId: null, role: null, from: '2026-01-01', price: '50', unit: 'hour', currency: 'GBP' },
    ],
  }),
);
let count = 0;
const work = (projectId: string, minutes: number) =>
  blankEntry({ id: String(++count), memberId: 'imogen', day: '2026-11-12', projectId, seconds: minutes * 60 });
const RULE = 'half away from zero';

describe('other terms', () => {
  const entries = [work('rig', 60), work('rig', 90), work('foyer', 50)];
  // 2:30 at 80 is 200.00; 50 min are billed as an hour at 62.50.
  const was = { billed: 3.5 * 3600, amount: 26_250, unpriced: 0 };

  it('that change nothing come to what it was', () => {
    const tried = tryTerms(pricer, entries, asItWas);
    expect(tried).toMatchObject({ was, would: was });
    expect(tried.projects.map((each) => [each.projectId, each.was.amount])).toEqual([
      ['rig', 20_000],
      ['foyer', 6250],
    ]);
  });

  it.each([
    ['one price', { price: { price: '1.5', unit: 'minute' as const } }, 31_500],
    ['prices raised', { change: '10' }, 28_875],
    ['prices lowered', { change: '-20' }, 21_000],
    // Practice: 50 + 70 % = 85 an hour.
    ['labour at cost with a markup', { markup: '70' }, 29_750],
    // 50 min at 62.50 to the second, and 2:30 at 80.
    ['no rounding', { rounding: exactly }, 20_000 + 5208],
    ['a fixed price', { fixedPrice: 30_000 }, 30_000],
  ])('%s', (_name, terms, amount) => {
    const tried = tryTerms(pricer, entries, { ...asItWas, ...terms });
    expect([tried.was, tried.would.amount]).toEqual([was, amount]);
  });

  it('are told by the hour', () => {
    const { was: outcome, would } = tryTerms(pricer, entries, { ...asItWas, fixedPrice: 30_000 });
    expect([perHour(outcome, RULE), perHour(would, RULE)]).toEqual([7500, 8571]);
    expect(perHour({ billed: 0, amount: 0, unpriced: 0 }, RULE)).toBeNull();
  });

  it('leave the work and the cards as they are, and sum up by project', () => {
    const anyChange = fc.integer({ min: -999_999, max: 3_000_000 }).map((scaled) => String(scaled / 10_000));
    fc.assert(
      fc.property(anyChange, (change) => {
        const before = structuredClone([entries, pricer.book]);
        const tried = tryTerms(pricer, entries, { ...asItWas, change });
        expect([entries, pricer.book]).toEqual(before);
        expect(tried.projects.reduce((sum, each) => sum + each.would.amount, 0)).toBe(tried.would.amount);
      }),
      { numRuns: runs(40) },
    );
  });
});
