import { Pricer, readBook, toBill } from '@half-penny/core/billing';
import { freshStudio, work } from '@half-penny/core/testing';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { billItems, partOf, pickedIds, sumOf } from './bill-item';
import { runs } from '@half-penny/core/testing';

describe('what can go on an invoice', () => {
  it('comes to what is to bill, one thing a line, and goes there as it was picked', async () => {
    const things = fc.array(
      fc.record({
        kind: fc.constantFrom('time', 'time', 'bill', 'extra') as fc.Arbitrary<'time' | 'bill' | 'extra'>,
        size: fc.integer({ min: 60, max: 40_000 }),
        day: fc.integer({ min: 1, max: 12 }).map((day) => `2026-11-${String(day).padStart(2, '0')}`),
      }),
      { minLength: 1, maxLength: 12 },
    );
    await fc.assert(
      fc.asyncProperty(things, async (list) => {
        const { store, run, at } = await freshStudio();
        for (const { kind, size, day } of list) {
          if (kind === 'time') await run('entry.add', { ...work(at.rig, size), day });
          else if (kind === 'bill')
            await run('cost.add', {
              kind: 'bill',
              day,
              currency: 'GBP',
              supplier: 'Tinsel & Reed',
              lines: [{ text: 'Lamps', amount: size, projectId: at.rig, forClient: true }],
            });
          else
            await run('agreed.add', {
              projectId: at.rig,
              kind: 'extra',
              text: 'Second venue',
              amount: size,
              agreedOn: day,
            });
        }
        const pricer = new Pricer(await readBook(store));
        const rows = {
          costs: store.rows('costs'),
          costLines: store.rows('costLines'),
          agreed: store.rows('agreed'),
          milestones: [],
        };
        const [own] = toBill(pricer, store.rows('entries'), [], rows);
        const items = billItems(pricer, own!, new Set());
        expect(items).toHaveLength(list.length);
        expect(sumOf(items, (item) => item.amount)).toBe(own!.amount);
        expect(items.map((item) => item.day)).toEqual(list.map((each) => each.day).sort());
        expect(items.every((item) => item.fault === null && partOf(item) > 0)).toBe(true);
        await run('invoice.draft', { clientId: at.playhouse, ...pickedIds(items) });
        const taken = [...store.rows('allocations')];
        expect(taken).toHaveLength(list.length);
        expect(toBill(pricer, store.rows('entries'), taken, rows)).toEqual([]);
      }),
      { numRuns: runs(30) },
    );
  });
});
