import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { effectOf, Pricer, readBook, secondsDecided, toBill } from '../billing';
import type { CommandInput } from '../commands';
import type { Id } from '../model/ids';
import { freshStudio, work } from '../testing/studio';
import { addDays } from '../time/day';
import { burnLine, noTally, priceOfWork, standingOfBudget, sumTallies, tallyWork } from '.';
import { runs } from '../testing/runs';

const TODAY = '2026-11-12';
const HOUR = 3600;
let { store, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run, added } = await freshStudio()));

const pricer = async () => new Pricer(await readBook(store));
const hoursOn = (projectId: Id, hours: number, day = TODAY, more: Partial<CommandInput<'entry.add'>> = {}) =>
  added('entry.add', work(projectId, hours * HOUR, { day, ...more }));
const tallied = async () => tallyWork(await pricer(), store.rows('entries'), store.rows('allocations'));

describe('what projects come to', () => {
  it('is rolled up over everything that is part of them', async () => {
    const house = await added('project.add', { name: 'Front of house', parentId: at.rig });
    const bars = await added('project.add', { name: 'Advance bars', parentId: house });
    const plot = await added('task.add', { projectId: bars, name: 'Plot' });
    await run('costRate.add', { from: '2026-01-01', price: '40', unit: 'hour', currency: 'GBP' });
    await hoursOn(at.rig, 1);
    await hoursOn(house, 2);
    await hoursOn(bars, 4, TODAY, { taskId: plot });
    const { own, rolled, byTask } = await tallied();
    const worth = (hours: number) => ({ seconds: hours * HOUR, worth: hours * 8500, cost: hours * 4000 });
    expect(own.get(at.rig)).toMatchObject(worth(1));
    expect(rolled.get(at.rig)).toMatchObject({ ...worth(7), toBill: 59_500, invoiced: 0, uncosted: 0 });
    expect(rolled.get(house)).toMatchObject(worth(6));
    expect(byTask.get(plot)).toMatchObject(worth(4));
    expect(rolled.get(at.gallery)).toBeUndefined();
  });

  it('tells what is invoiced from what is to bill', async () => {
    const first = await hoursOn(at.rig, 2);
    await hoursOn(at.rig, 3);
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [first] });
    expect((await tallied()).own.get(at.rig)).toMatchObject({ invoiced: 0, toBill: 42_500 });
    await run('invoice.issue', { id });
    expect((await tallied()).own.get(at.rig)).toMatchObject({ invoiced: 17_000, toBill: 25_500, worth: 42_500 });
    await run('invoice.void', { id, reason: 'Wrong month' });
    expect((await tallied()).own.get(at.rig)).toMatchObject({ invoiced: 0, toBill: 42_500 });
  });

  it('has no hours to bill at a fixed price, and says what no cost rate tells', async () => {
    await run('project.edit', { id: at.rig, kind: 'fixed price', fixedPrice: 500_000 });
    await hoursOn(at.rig, 2);
    expect((await tallied()).own.get(at.rig)).toEqual({
      ...noTally,
      seconds: 2 * HOUR,
      worth: 17_000,
      uncosted: 2 * HOUR,
    });
  });

  it('sells for the fixed prices in it and the hours that none covers', async () => {
    const extras = await added('project.add', { name: 'Extras', parentId: at.rig });
    const covered = await added('project.add', { name: 'Second piece', parentId: at.rig, kind: 'fixed price' });
    await run('project.edit', { id: at.rig, kind: 'fixed price', fixedPrice: 500_000 });
    await hoursOn(at.rig, 2);
    await hoursOn(covered, 3);
    await hoursOn(extras, 4);
    expect(priceOfWork(await pricer(), await tallied(), at.rig)).toEqual({
      fixed: 500_000,
      hourly: 4 * 8500,
      covered: 5 * 8500,
    });
  });

  it('is the sum of its parts, however they nest', async () => {
    const ids = [at.rig];
    for (let i = 0; i < 6; i++) {
      ids.push(await added('project.add', { name: `Part ${i}`, parentId: ids[Math.floor(i / 2)]! }));
    }
    const book = await readBook(store);
    const anyWork = fc.array(
      fc.record({ part: fc.integer({ min: 0, max: 6 }), seconds: fc.integer({ min: 1, max: 9000 }) }),
    );
    const [like] = [await hoursOn(at.rig, 1)].map((id) => store.rows('entries').find((entry) => entry.id === id)!);
    fc.assert(
      fc.property(anyWork, (pieces) => {
        const entries = pieces.map(({ part, seconds }, index) => ({
          ...like!,
          id: String(index),
          projectId: ids[part]!,
          seconds,
        }));
        const { own, rolled } = tallyWork(new Pricer(book), entries, []);
        expect(rolled.get(at.rig) ?? noTally).toEqual(sumTallies(own.values()));
      }),
      { numRuns: runs(50) },
    );
  });
});

describe('a budget', () => {
  const standing = async (today = TODAY) =>
    standingOfBudget(
      await pricer(),
      store.rows('budgets')[0]!,
      store.rows('entries'),
      store.rows('allocations'),
      today,
    );

  it('knows used, left, and the day it is used up at the present pace', async () => {
    await run('budget.add', { projectId: at.rig, seconds: 100 * HOUR, money: 1_000_000 });
    // 28 hours in the last 28 days are an hour a day: what is left of 100 lasts 72 days more.
    for (let day = 0; day < 28; day++) await hoursOn(at.rig, 1, addDays(TODAY, -day));
    const { hours, money, notice, over } = await standing();
    expect(hours).toEqual({
      of: 100 * HOUR,
      used: 28 * HOUR,
      left: 72 * HOUR,
      percent: 28,
      pace: HOUR,
      usedUpOn: addDays(TODAY, 73),
    });
    expect(money).toMatchObject({ used: 28 * 8500, left: 1_000_000 - 28 * 8500, percent: 23 });
    expect([notice, over]).toEqual([false, false]);
  });

  it('wants attention from its share on, and says when it is passed', async () => {
    await run('budget.add', { projectId: at.rig, seconds: 10 * HOUR, noticeAt: 75 });
    await hoursOn(at.rig, 7.4);
    expect((await standing()).notice).toBe(false);
    await hoursOn(at.rig, 0.1);
    expect(await standing()).toMatchObject({ notice: true, over: false });
    await hoursOn(at.rig, 3);
    expect(await standing()).toMatchObject({ over: true, hours: { left: -0.5 * HOUR, usedUpOn: null } });
  });

  it('of a task, a contract or a cost code counts just what falls under it', async () => {
    const plot = await added('task.add', { projectId: at.rig, name: 'Plot' });
    const costCodeId = await added('costCode.add', { code: '20', name: 'Design', costType: 'labour' });
    await run('service.edit', { id: at.design, costCodeId });
    await hoursOn(at.rig, 1);
    await hoursOn(at.rig, 2, TODAY, { taskId: plot });
    await hoursOn(at.rig, 4, TODAY, { serviceId: at.design });
    await hoursOn(at.gallery, 8, TODAY, { serviceId: at.design });
    const used = async (fields: Partial<CommandInput<'budget.add'>>) => {
      const id = await added('budget.add', { seconds: HOUR, ...fields });
      const result = (await standing()).tally.seconds / HOUR;
      await run('budget.remove', { id });
      return result;
    };
    expect(await used({ projectId: at.rig })).toBe(7);
    expect(await used({ taskId: plot })).toBe(2);
    expect(await used({ projectId: at.rig, costCodeId })).toBe(4);
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons' });
    await run('project.edit', { id: at.rig, contractId });
    expect(await used({ contractId })).toBe(7);
  });

  it('draws a line that ends where the budget is used up', async () => {
    await run('budget.add', { projectId: at.rig, seconds: 30 * HOUR });
    for (let day = 0; day < 28; day++) await hoursOn(at.rig, 1, addDays(TODAY, -day));
    const entries = store.rows('entries');
    const points = burnLine(await pricer(), await standing(), entries, [], TODAY);
    expect(points[0]).toEqual({ day: addDays(TODAY, -27), used: HOUR, forecast: null });
    expect(points.find((point) => point.day === TODAY)).toEqual({ day: TODAY, used: 28 * HOUR, forecast: 28 * HOUR });
    expect(points.find((point) => point.day === addDays(TODAY, 2))).toMatchObject({ used: null, forecast: 30 * HOUR });
  });

  it('that is for nothing, or a cap on nothing, is refused', async () => {
    await expect(run('budget.add', { seconds: HOUR })).rejects.toThrow('A budget is for one project, one task or one');
    await expect(run('budget.add', { projectId: at.rig })).rejects.toThrow('A budget has hours, money or both.');
    await expect(run('budget.add', { projectId: at.rig, seconds: HOUR, cap: true })).rejects.toThrow(
      'A cap is on money',
    );
  });
});

describe('a cap', () => {
  const draftOf = (entryIds: Id[]) => added('invoice.draft', { clientId: at.playhouse, entryIds });

  it('of a contract may be reached and not passed', async () => {
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons', cap: 34_000 });
    await run('project.edit', { id: at.rig, contractId });
    await run('invoice.issue', { id: await draftOf([await hoursOn(at.rig, 3)]) });
    const another = await draftOf([await hoursOn(at.rig, 1), await hoursOn(at.rig, 0.5)]);
    await expect(run('invoice.issue', { id: another })).rejects.toThrow(
      'Seasons is capped at £340.00 and £255.00 is invoiced; this draft of £127.50 would exceed it by £42.50.',
    );
    expect((await store.get('invoices', another))!.frozen).toBeNull();
    await run('contract.edit', { id: contractId, cap: 38_250 });
    await expect(run('invoice.issue', { id: another })).resolves.toBeDefined();
  });

  it('of a budget covers the project with its parts and nothing else', async () => {
    const house = await added('project.add', { name: 'Front of house', parentId: at.rig });
    const foyer = await added('project.add', { name: 'Foyer', clientId: at.playhouse });
    await run('budget.add', { projectId: at.rig, money: 10_000, cap: true });
    await run('invoice.issue', { id: await draftOf([await hoursOn(foyer, 9)]) });
    await expect(run('invoice.issue', { id: await draftOf([await hoursOn(house, 2)]) })).rejects.toThrow(
      'Winter season rig is capped at £100.00 and £0.00 is invoiced',
    );
  });
});

describe('the effect of a change', () => {
  it('names the entries it touches, before and after, and leaves the past alone from a later date', async () => {
    await hoursOn(at.rig, 1, '2026-10-01');
    await hoursOn(at.rig, 2, '2026-11-02');
    await hoursOn(at.gallery, 1);
    const before = await pricer();
    const line = before.book.rateLines.find((each) => each.clientId === at.playhouse)!;
    const changed = (from: string) =>
      new Pricer({ ...before.book, rateLines: [...before.book.rateLines, { ...line, id: 'new', from, price: '95' }] });
    const entries = store.rows('entries');
    const late = effectOf(before, changed('2026-11-01'), entries, []);
    expect(late.affected.map((each) => [each.entry!.day, each.before, each.after])).toEqual([
      ['2026-11-02', 17_000, 19_000],
    ]);
    expect(late.sums.get('GBP')).toEqual({ before: 17_000, after: 19_000 });
    expect(effectOf(before, changed('2026-09-01'), entries, []).affected).toHaveLength(2);
    expect(effectOf(before, changed('2027-01-01'), entries, []).affected).toEqual([]);
    const decided = secondsDecided(toBill(before, entries, []).flatMap((client) => client.items));
    expect(decided.get(line.id)).toBe(3 * HOUR);
  });
});
