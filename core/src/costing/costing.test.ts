import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { effectOf, invoicedParts, Pricer, readBook, secondsDecided, toBill } from '../billing';
import type { CommandInput } from '../commands';
import type { Id } from '../model/ids';
import { freshStudio, work } from '../testing/studio';
import { addDays } from '../time/day';
import { burnLine, contractMoney, noTally, priceOfWork, standingOfBudget, sumTallies, tallyWork } from '.';
import { runs } from '../testing/runs';
import { fault } from '../testing/fault';

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
    await expect(run('budget.add', { seconds: HOUR })).rejects.toThrow(fault('invalid'));
    await expect(run('budget.add', { projectId: at.rig })).rejects.toThrow(fault('invalid'));
    await expect(run('budget.add', { projectId: at.rig, seconds: HOUR, cap: true })).rejects.toThrow(fault('invalid'));
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

  it('counts what is asked for before tax: after the discount on the whole, and without the tax in prices', async () => {
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons', cap: 22_950 });
    await run('project.edit', { id: at.rig, contractId });
    const issue = async (hours: number, fields: Partial<CommandInput<'invoice.edit'>>) => {
      const id = await draftOf([await hoursOn(at.rig, hours)]);
      await run('invoice.edit', { id, ...fields });
      return run('invoice.issue', { id });
    };
    // 2 h at 85.00 less 10 % are 153.00; 1 h at 85.00 with the tax in it is 70.83.
    await issue(2, { allowance: { text: 'Discount', percent: '10', amount: null } });
    await issue(1, { inclusive: true });
    // 223.83 of 229.50 are invoiced: 5.67 are left, which is 0.1 h less a third, not 0.1 h.
    await expect(issue(0.1, {})).rejects.toThrow('capped at £229.50 and £223.83 is invoiced; this draft of £8.50');
    await expect(issue(0.1, { allowance: { text: 'Discount', percent: null, amount: 283 } })).resolves.toBeDefined();
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

describe('a contract', () => {
  const money = async (contractId: Id) => {
    const read = await pricer();
    const takings = [...store.rows('allocations'), ...store.rows('adjustments')];
    const parts = invoicedParts(store.rows('invoices'), store.rows('payments'), store.rows('allocations'));
    return contractMoney(read, contractId, {
      entries: store.rows('entries'),
      costs: store.rows('costs'),
      costLines: store.rows('costLines'),
      agreed: store.rows('agreed'),
      milestones: store.rows('milestones'),
      takings,
      parts,
    });
  };

  it('is one over all its projects: hours, worth, invoiced, paid, to bill and left against its cap', async () => {
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons', cap: 50_000 });
    const spring = await added('project.add', { name: 'Spring', clientId: at.playhouse, contractId });
    const bars = await added('project.add', { name: 'Advance bars', parentId: at.rig });
    await added('project.add', { name: 'Foyer', clientId: at.playhouse });
    await run('project.edit', { id: at.rig, contractId });
    const first = await hoursOn(at.rig, 2);
    await hoursOn(bars, 1);
    const second = await hoursOn(spring, 1);
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [first, second] });
    await run('invoice.edit', { id, allowance: { text: 'Discount', percent: '10', amount: null } });
    await added('agreed.add', { projectId: spring, kind: 'extra', text: 'Design', amount: 10_000, agreedOn: TODAY });
    const drafted = await money(contractId);
    expect(drafted.sum).toEqual({ seconds: 4 * HOUR, worth: 34_000, invoiced: 0, paid: 0, toBill: 44_000 });
    await run('invoice.issue', { id });
    // 229.50 before tax, 275.40 with it.
    await run('payment.add', { invoiceId: id, kind: 'payment', day: TODAY, amount: 27_540, note: '' });
    const { projects, sum, left } = await money(contractId);
    expect(
      projects.map(({ project, sums }) => [project.name, sums.seconds / HOUR, sums.invoiced, sums.toBill]),
    ).toEqual([
      ['Spring', 1, 7650, 10_000],
      ['Winter season rig', 2, 15_300, 0],
      ['Advance bars', 1, 0, 8500],
    ]);
    expect(sum).toEqual({ seconds: 4 * HOUR, worth: 34_000, invoiced: 22_950, paid: 22_950, toBill: 18_500 });
    expect(left).toBe(27_050);
    await run('contract.edit', { id: contractId, cap: null });
    expect((await money(contractId)).left).toBeNull();
    await expect(money('no such contract')).rejects.toThrow(fault('unknown'));
  });

  it('is none of what stands elsewhere, and of what is on a draft it is still to bill', async () => {
    const contractId = await added('contract.add', { clientId: at.playhouse, name: 'Seasons', cap: 50_000 });
    await run('project.edit', { id: at.rig, contractId });
    const foyer = await added('project.add', { name: 'Foyer', clientId: at.playhouse });
    const own = await hoursOn(at.rig, 1);
    const other = await hoursOn(foyer, 3);
    await added('entry.add', work(null, 2 * HOUR, { day: TODAY }));
    await run('cost.add', {
      kind: 'bill',
      day: TODAY,
      currency: 'GBP',
      supplier: 'Brightwater',
      lines: [
        { text: 'Lamps', amount: 1000, projectId: at.rig },
        { text: 'Chairs', amount: 2000, projectId: foyer },
        { text: 'Nobody’s', amount: 4000, projectId: null },
      ],
    });
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [own, other] });
    const open = { seconds: HOUR, worth: 8500, invoiced: 0, paid: 0 };
    const costs = (await money(contractId)).sum.toBill - 8500;
    expect(costs).toBeGreaterThanOrEqual(1000);
    expect((await money(contractId)).sum).toEqual({ ...open, toBill: 8500 + costs });
    await run('invoice.issue', { id });
    expect((await money(contractId)).sum).toEqual({ ...open, invoiced: 8500, toBill: costs });
    expect((await money(contractId)).left).toBe(41_500);
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
