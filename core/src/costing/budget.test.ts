import { beforeEach, describe, expect, it } from 'vitest';
import { Pricer, readBook } from '../billing';
import type { CommandInput } from '../commands';
import type { Id } from '../model/ids';
import { freshStudio, work } from '../testing/studio';
import { addDays, type Day } from '../time';
import { burnLine, capsOf, fallsUnder, nameOf, projectsUnder, standingOfBudget } from '.';

// Budgets at their edges: what they are called, what falls under them, and the line they are used along.

const TODAY = '2026-11-12';
const HOUR = 3600;

let fresh: Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => {
  fresh = await freshStudio();
});

const pricer = async () => new Pricer(await readBook(fresh.store));
async function budgetOf(input: CommandInput<'budget.add'>) {
  const id = await fresh.added('budget.add', input);
  return fresh.store.rows('budgets').find((each) => each.id === id)!;
}
const hoursOn = (projectId: Id | null, hours: number, day: Day = TODAY, more: object = {}) =>
  fresh.added('entry.add', work(projectId, hours * HOUR, { day, ...more }));

describe('a budget', () => {
  it('is called by what it is for, and knows which projects can use it', async () => {
    const { at, added, run } = fresh;
    const bars = await added('project.add', { name: 'Advance bars', parentId: at.rig });
    const plot = await added('task.add', { projectId: at.rig, name: 'Plot' });
    const lamps = await added('costCode.add', { code: '20', name: 'Lamps', costType: 'material' });
    const seasons = await added('contract.add', { clientId: at.playhouse, name: 'Seasons' });
    await run('project.edit', { id: at.rig, contractId: seasons });
    const known = async (input: CommandInput<'budget.add'>) => {
      const budget = await budgetOf({ seconds: HOUR, ...input });
      const read = await pricer();
      return [nameOf(read, budget), projectsUnder(read, budget).sort()];
    };
    expect(await known({ projectId: at.rig })).toEqual(['Winter season rig', [at.rig, bars].sort()]);
    expect(await known({ projectId: bars, costCodeId: lamps })).toEqual([
      'Winter season rig › Advance bars, Lamps',
      [bars],
    ]);
    expect(await known({ taskId: plot })).toEqual(['Plot', [at.rig]]);
    expect(await known({ taskId: plot, costCodeId: lamps })).toEqual(['Plot, Lamps', [at.rig]]);
    expect(await known({ contractId: seasons })).toEqual(['Seasons', [at.rig, bars].sort()]);
    expect(await known({ contractId: seasons, costCodeId: lamps })).toEqual(['Seasons, Lamps', [at.rig, bars].sort()]);
  });

  it('counts nothing that is on no project, and under a heading what has that heading, by its service or its own', async () => {
    const { at, added, run } = fresh;
    const lamps = await added('costCode.add', { code: '20', name: 'Lamps', costType: 'material' });
    await run('service.edit', { id: at.design, costCodeId: lamps });
    const whole = await budgetOf({ projectId: at.rig, seconds: HOUR });
    const headed = await budgetOf({ projectId: at.rig, costCodeId: lamps, seconds: HOUR });
    const read = await pricer();
    const source = { projectId: at.rig, taskId: null, serviceId: null };
    expect(fallsUnder(read, whole, { ...source, projectId: null })).toBe(false);
    expect(fallsUnder(read, headed, source)).toBe(false);
    expect(fallsUnder(read, headed, { ...source, serviceId: at.design })).toBe(true);
    expect(fallsUnder(read, headed, { ...source, costCodeId: lamps })).toBe(true);
    expect(fallsUnder(read, headed, { ...source, serviceId: at.design, projectId: at.gallery })).toBe(false);
  });

  it('of hours has no money and one of money no hours; what is just used up is not passed', async () => {
    const { at } = fresh;
    await hoursOn(at.rig, 2);
    const standing = async (input: CommandInput<'budget.add'>) =>
      standingOfBudget(await pricer(), await budgetOf(input), fresh.store.rows('entries'), [], TODAY);
    const hours = await standing({ projectId: at.rig, seconds: 2 * HOUR });
    expect(hours).toMatchObject({ money: null, over: false, notice: true, hours: { left: 0, percent: 100 } });
    // It is passed by the next second: tomorrow, at the pace there was.
    expect(hours.hours!.usedUpOn).toBe(addDays(TODAY, 1));
    const money = await standing({ projectId: at.rig, money: 16_999 });
    expect(money).toMatchObject({ hours: null, over: true, money: { used: 17_000, left: -1, usedUpOn: null } });
    const still = await standing({ projectId: at.gallery, seconds: HOUR });
    expect(still.hours).toEqual({ of: HOUR, used: 0, left: HOUR, percent: 0, pace: 0, usedUpOn: null });
  });

  it('says when it is used up within three years, and not beyond', async () => {
    const { at } = fresh;
    await hoursOn(at.rig, 1);
    const usedUp = async (days: number) => {
      // One hour in 28 days: in so many days the next second passes it.
      const budget = await budgetOf({ projectId: at.rig, seconds: HOUR + Math.floor(((days - 1) * HOUR) / 28) + 1 });
      const read = await pricer();
      return standingOfBudget(read, budget, fresh.store.rows('entries'), [], TODAY).hours!.usedUpOn;
    };
    expect(await usedUp(1097)).toBe(addDays(TODAY, 1097));
    expect(await usedUp(1098)).toBe(addDays(TODAY, 1098));
    expect(await usedUp(1099)).toBeNull();
  });
});

describe('the line of a budget', () => {
  async function line(input: CommandInput<'budget.add'>) {
    const budget = await budgetOf(input);
    const read = await pricer();
    const entries = fresh.store.rows('entries');
    return burnLine(read, standingOfBudget(read, budget, entries, [], TODAY), entries, [], TODAY);
  }

  it('has no more of the past than counts: other projects are none of it', async () => {
    const { at } = fresh;
    await hoursOn(at.gallery, 5, addDays(TODAY, -90));
    await hoursOn(at.rig, 1, addDays(TODAY, -3));
    const points = await line({ projectId: at.rig, money: 100_000 });
    expect(points[0]).toEqual({ day: addDays(TODAY, -3), used: 8500, forecast: null });
    expect(points.filter(({ used }) => used !== null)).toHaveLength(4);
  });

  it('goes on for six weeks where nothing moves, and a week past the day on which it is used up', async () => {
    const { at } = fresh;
    const idle = await line({ projectId: at.gallery, seconds: HOUR });
    expect([idle[0]!.day, idle.at(-1)!.day]).toEqual([TODAY, addDays(TODAY, 42)]);
    await hoursOn(at.gallery, 28);
    // An hour a day: it is passed after 20 more, and the line ends a week later.
    const moving = await line({ projectId: at.gallery, seconds: 48 * HOUR - 1 });
    expect(moving.at(-1)!.day).toBe(addDays(TODAY, 27));
    // What is used up in a season or later is too far to be drawn.
    expect((await line({ projectId: at.gallery, seconds: (28 + 91) * HOUR - 1 })).at(-1)!.day).toBe(addDays(TODAY, 98));
    expect((await line({ projectId: at.gallery, seconds: (28 + 92) * HOUR - 1 })).at(-1)!.day).toBe(addDays(TODAY, 42));
  });

  it('begins today where all that counts is planned for later', async () => {
    await hoursOn(fresh.at.rig, 1, addDays(TODAY, 3));
    const points = await line({ projectId: fresh.at.rig, seconds: 10 * HOUR });
    expect(points[0]).toEqual({ day: TODAY, used: 0, forecast: HOUR });
  });

  it('of a long time is drawn by 120 points or a few more, today and the end among them', async () => {
    const { at } = fresh;
    for (let day = 0; day < 400; day += 40) await hoursOn(at.rig, 1, addDays(TODAY, -day));
    const points = await line({ projectId: at.rig, seconds: 500 * HOUR });
    expect(points.length).toBeGreaterThan(80);
    expect(points.length).toBeLessThanOrEqual(122);
    expect(points.find(({ day }) => day === TODAY)).toMatchObject({ used: 10 * HOUR, forecast: 10 * HOUR });
    expect(points.at(-1)!.day).toBe(addDays(TODAY, 42));
    // Every fourth day of 403, counted from the first; what was used in between is in the next point.
    expect(points[0]!.day).toBe(addDays(TODAY, -360));
    expect(points[1]!.day).toBe(addDays(TODAY, -356));
    expect(points.map(({ used }) => used).filter((used) => used !== null)).toEqual(
      points
        .filter(({ day }) => day <= TODAY)
        .map(
          ({ day }) => (Math.floor((Date.parse(day) - Date.parse(addDays(TODAY, -360))) / 3_456_000_000) + 1) * HOUR,
        ),
    );
  });
});

describe('caps', () => {
  it('are those of budgets with money and of contracts that anything on the draft falls under', async () => {
    const { at, run, added } = fresh;
    const seasons = await added('contract.add', { clientId: at.playhouse, name: 'Seasons', cap: 500_000 });
    await added('contract.add', { clientId: at.playhouse, name: 'Another', cap: 1 });
    await added('contract.add', { clientId: at.playhouse, name: 'Without', cap: null });
    await run('project.edit', { id: at.rig, contractId: seasons });
    await budgetOf({ projectId: at.rig, money: 10_000, cap: true });
    await budgetOf({ projectId: at.rig, money: 20_000 });
    await budgetOf({ projectId: at.gallery, money: 30_000, cap: true });
    await budgetOf({ projectId: at.rig, seconds: HOUR });
    const foyer = await added('project.add', { name: 'Foyer', clientId: at.playhouse });
    const source = (projectId: Id | null) => ({ projectId, taskId: null, serviceId: null });
    const names = async (...projects: (Id | null)[]) =>
      capsOf(await pricer(), fresh.store.rows('budgets'), projects.map(source)).map(({ name, cap }) => [name, cap]);
    // One source of several is enough.
    expect(await names(foyer, null, at.rig)).toEqual([
      ['Seasons', 500_000],
      ['Winter season rig', 10_000],
    ]);
    expect(await names(foyer, null)).toEqual([]);
    const [contract, budget] = capsOf(await pricer(), fresh.store.rows('budgets'), [source(at.rig)]);
    for (const cap of [contract!, budget!]) {
      expect(cap.covers(source(at.rig))).toBe(true);
      expect(cap.covers(source(foyer))).toBe(false);
      expect(cap.covers(source(null))).toBe(false);
    }
  });
});
