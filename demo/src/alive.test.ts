import { Pricer, readBook, standingOf } from '@half-penny/core/billing';
import { standingOfBudget } from '@half-penny/core/costing';
import type { MemoryStore } from '@half-penny/core/engine';
import { addDays, dayOf, type Day } from '@half-penny/core/time';
import { beforeAll, describe, expect, test } from 'vitest';
import { makeDemo, workingDaysBefore } from '.';

const HOUR = 3600;
const ZONE = 'Europe/London';

/** Early, late, at the weekend, at the turn of months and years, on days the clocks change, on a leap day. */
const moments = [
  '2026-11-12T15:10:00Z',
  '2026-11-27T07:00:00Z',
  '2026-11-29T23:30:00Z',
  '2026-12-01T03:40:00Z',
  '2027-01-02T12:00:00Z',
  '2027-03-28T09:15:00Z',
  '2028-02-29T18:45:00Z',
];

describe.each(moments)('the demo at %s', (moment) => {
  const now = Date.parse(moment);
  const today = dayOf(now, ZONE);
  let store: MemoryStore;
  /** Imogen's seconds on a day. */
  const on = (day: Day) => {
    const [imogen] = store.rows('members');
    return store
      .rows('entries')
      .reduce((sum, entry) => sum + (entry.memberId === imogen!.id && entry.day === day ? entry.seconds : 0), 0);
  };

  beforeAll(async () => {
    store = await makeDemo({ now });
  });

  test('has full days behind it but for the one that waits to be sifted, and something of today', () => {
    const days = workingDaysBefore(today, 10);
    const waiting = days.at(-2)!;
    for (const day of days) {
      if (day === waiting) expect(on(day), day).toBeLessThan(4.5 * HOUR);
      else expect(on(day), day).toBeGreaterThan(4 * HOUR);
    }
    expect(on(today)).toBeGreaterThan(0.5 * HOUR);
    const [timer] = store.rows('timers');
    expect(now - timer!.startedAt).toBeGreaterThan(40 * 60_000);
    // Nothing is recorded that is not over.
    for (const { spans } of store.rows('entries'))
      for (const { end } of spans) expect(end).toBeLessThanOrEqual(timer!.startedAt);
  });

  test('has an overdue invoice, a draft, and a budget near its end', async () => {
    const rows = store.rows('invoices');
    const standings = rows.map((invoice) =>
      standingOf(
        {
          invoice,
          payments: store.rows('payments').filter((each) => each.invoiceId === invoice.id),
          credits: [],
        },
        today,
      ),
    );
    expect(standings).toContain('overdue');
    expect(standings).toContain('draft');
    const pricer = new Pricer(await readBook(store));
    const used = store.rows('budgets').flatMap((budget) => {
      const { hours } = standingOfBudget(pricer, budget, store.rows('entries'), store.rows('allocations'), today);
      return hours ? [hours.used / hours.of] : [];
    });
    expect(used.some((share) => share >= 0.88 && share < 1)).toBe(true);
  });

  test('has reports that are kept, weight groups and reasons to open a document', () => {
    const [workspace] = store.rows('workspace');
    expect(store.rows('reports').length).toBeGreaterThan(1);
    expect(workspace!.weights.length).toBeGreaterThan(1);
    expect(workspace!.openedFor.length).toBeGreaterThan(1);
    const known = new Set(store.rows('projects').map((project) => project.id));
    for (const { projectIds } of workspace!.weights) for (const id of projectIds) expect(known).toContain(id);
  });

  test('plans for working days to come', () => {
    const planned = new Set(store.rows('plans').map((plan) => plan.day));
    expect([...planned].some((day) => day > today && day <= addDays(today, 7))).toBe(true);
  });
});
