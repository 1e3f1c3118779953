import { beforeEach, describe, expect, it } from 'vitest';
import { MemoryExecutor } from '../commands';
import { MemoryStore } from '../engine';
import { exactly, type RoundingPolicy } from '../time/rounding';
import { setUp, TestContext, work, type Studio } from '../testing/studio';
import { comparePolicies, explainPriced, Pricer, readBook, worthOf } from '.';

let store: MemoryStore;
let executor: MemoryExecutor;
let at: Studio;

beforeEach(async () => {
  const test = new TestContext();
  store = new MemoryStore();
  executor = new MemoryExecutor(store, test.context);
  at = await setUp(executor, test);
});

const pricer = async () => new Pricer(await readBook(store));
const quarters: RoundingPolicy = { increment: 900, direction: 'up', minimum: 0, per: 'entry' };
const minutes = (count: number) => count * 60;

describe('rounding of a job', () => {
  it('is its project’s, or its client’s, or the studio’s', async () => {
    await executor.run('entry.add', work(at.rig, minutes(22)));
    const billed = async () => worthOf(await pricer(), store.rows('entries'))[0]!.billed;
    expect(await billed()).toBe(minutes(24));
    await executor.run('client.edit', { id: at.playhouse, rounding: quarters });
    expect(await billed()).toBe(minutes(30));
    await executor.run('project.edit', { id: at.rig, rounding: exactly });
    expect(await billed()).toBe(minutes(22));
    await executor.run('project.edit', { id: at.rig, rounding: null });
    expect(await billed()).toBe(minutes(30));
  });

  it('is named by the slip', async () => {
    await executor.run('client.edit', { id: at.playhouse, rounding: quarters });
    await executor.run('entry.add', work(at.rig, minutes(22)));
    const book = await pricer();
    const [priced] = worthOf(book, store.rows('entries'));
    const { steps, result } = explainPriced(book, priced!);
    expect(steps.find((step) => step.label === 'Rounded')?.remark).toBe('up to the next 15 min, entry by entry');
    // Half an hour at 85.00 an hour.
    expect(result.figure).toMatchObject({ minor: 4250 });
  });

  it('leaves other jobs of the same day alone, each by its own policy', async () => {
    await executor.run('project.edit', { id: at.rig, rounding: { ...quarters, per: 'day and job' } });
    for (const length of [7, 7]) {
      await executor.run('entry.add', work(at.rig, minutes(length)));
      await executor.run('entry.add', work(at.gallery, minutes(length)));
    }
    const billed = worthOf(await pricer(), store.rows('entries')).map((each) => each.billed);
    // 14 minutes together are a quarter, shared; alone each 7 are two steps of six.
    expect(billed).toEqual([450, 720, 450, 720]);
  });
});

describe('a comparison of policies', () => {
  it('says what each would have billed, against the exact lengths', async () => {
    await executor.run('entry.add', work(at.rig, minutes(22)));
    await executor.run('entry.add', work(at.internal, minutes(22)));
    await executor.run('client.edit', { id: at.playhouse, rounding: quarters });
    const six: RoundingPolicy = { increment: 360, direction: 'up', minimum: 0, per: 'entry' };
    const outcomes = comparePolicies(await pricer(), store.rows('entries'), [exactly, six, quarters]);
    // 22 min at 85.00 an hour are 31.17, 24 min 34.00, 30 min 42.50; internal work is not billed.
    expect(outcomes.map(({ seconds, moreSeconds, more }) => [seconds, moreSeconds, more.get('GBP')])).toEqual([
      [minutes(22), 0, 0],
      [minutes(24), minutes(2), 283],
      [minutes(30), minutes(8), 1133],
    ]);
  });
});
