import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Pricer, readBook } from '../billing';
import { runs } from '../testing/runs';
import { freshStudio, work } from '../testing/studio';
import { addDays, daysBetween } from '../time';
import { standingOfBudget } from '.';

// The pace of a budget, worked out a second time by going on day after day.

const TODAY = '2026-11-12';

it('a budget is used up on the day on which going on at the pace of the last four weeks passes it', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.integer({ min: -5, max: 60 }), fc.integer({ min: 1, max: 40 })), { maxLength: 12 }),
      fc.integer({ min: 1, max: 400 }),
      async (list, quarters) => {
        const { run, added, at, store } = await freshStudio();
        for (const [daysAgo, length] of list)
          await added('entry.add', work(at.rig, length * 900, { day: addDays(TODAY, -daysAgo) }));
        await run('budget.add', { projectId: at.rig, seconds: quarters * 900 });
        const pricer = new Pricer(await readBook(store));
        const [budget] = store.rows('budgets');
        const { hours, over } = standingOfBudget(pricer, budget!, store.rows('entries'), [], TODAY);
        const used = list.reduce((sum, [, length]) => sum + length, 0);
        // In quarters of an hour; four weeks are today and the 27 days before.
        const lately = list.filter(([ago]) => ago >= 0 && ago < 28).reduce((sum, [, length]) => sum + length, 0);
        expect(hours).toMatchObject({ used: used * 900, left: (quarters - used) * 900 });
        expect(hours!.percent).toBe(Math.floor((used * 100) / quarters));
        expect(over).toBe(used > quarters);
        if (used > quarters || lately === 0) {
          expect(hours!.usedUpOn).toBeNull();
          return;
        }
        let days = 0;
        // Whole numbers: after n days 28 × used + n × lately quarters of an hour, in twenty-eighths.
        while (28 * used + days * lately <= 28 * quarters) days++;
        if (days < 365) expect(daysBetween(TODAY, hours!.usedUpOn!)).toBe(days);
      },
    ),
    { numRuns: runs(30) },
  );
});
