import fc from 'fast-check';
import { expect, it } from 'vitest';
import { freshStudio, work, ZONE } from '../testing';
import { runs } from '../testing/runs';
import { instantAt } from '../time';
import { figureAt, OpenReport } from './answer';
import { plainDefinition } from './definition';
import { FactStore } from './fact-store';

// Reports by day of entries across midnight, worked out a second time minute by minute on a wall calendar.

const MINUTE = 60_000;
const wall = new Intl.DateTimeFormat('en-CA', { timeZone: ZONE, year: 'numeric', month: '2-digit', day: '2-digit' });

it('reports by day say of entries across midnight what a wall calendar says, and count each once', async () => {
  const start = fc
    .tuple(fc.constantFrom('2026-03-28', '2026-10-24', '2026-11-10'), fc.integer({ min: 0, max: 2 * 1440 }))
    .map(([day, minutes]) => instantAt(day, 0, ZONE) + minutes * MINUTE);
  const pieces = fc.array(fc.tuple(start, fc.integer({ min: 1, max: 2000 })), { minLength: 1, maxLength: 4 });
  await fc.assert(
    fc.asyncProperty(pieces, async (list) => {
      const { store, run, at } = await freshStudio();
      const minutes = new Map<string, number>();
      for (const [from, length] of list) {
        const spans = [{ start: from, end: from + length * MINUTE }];
        const day = wall.format(from);
        await run('entry.add', work(at.rig, length * 60, { day, spans }));
        for (let moment = from; moment < spans[0]!.end; moment += MINUTE) {
          const own = wall.format(moment);
          minutes.set(own, (minutes.get(own) ?? 0) + 60);
        }
      }
      const facts = await FactStore.read(store, '2026-11-12');
      const definition = {
        ...plainDefinition,
        rows: ['day' as const],
        measures: ['recorded' as const, 'count' as const],
        filters: [{ field: 'what' as const, keys: ['time'], without: false }],
        when: { kind: 'all' as const },
      };
      const report = new OpenReport(facts.words, facts.days, { definition, runOn: '2026-11-12' });
      for (const _ of report.run(facts.table));
      const answer = report.answer();
      const said = answer.rows.flatMap((row, index) =>
        row.depth === 1 ? [[row.key, figureAt(answer, 'recorded', index)] as const] : [],
      );
      expect(new Map(said)).toEqual(minutes);
      expect(figureAt(answer, 'count', 0)).toBe(list.length);
    }),
    { numRuns: runs(25) },
  );
});
