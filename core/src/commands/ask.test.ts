import { beforeEach, describe, expect, it } from 'vitest';
import { Fault, Question } from '../faults/fault';
import { DAY, setUp, TestContext, work, ZONE, type Studio } from '../testing/studio';
import { instantAt } from '../time';
import { MemoryExecutor } from '.';
import { MemoryStore } from '../engine';

const HOUR = 3600;
let test: TestContext;
let store: MemoryStore;
/** Somebody is there to be asked. */
let asking: MemoryExecutor;
let at: Studio;

beforeEach(async () => {
  test = new TestContext();
  store = new MemoryStore();
  at = await setUp(new MemoryExecutor(store, test.context), test);
  asking = new MemoryExecutor(store, () => ({ ...test.context(), asks: true }));
});

const add = (seconds: number) => asking.run('entry.add', work(at.rig, seconds));
const count = () => store.rows('entries').length;

describe('unusual time is asked about', () => {
  it('an entry above 16 hours, not one of 16', async () => {
    await add(16 * HOUR);
    const asked = await add(16 * HOUR + 1).catch((thrown: unknown) => thrown);
    expect(asked).toBeInstanceOf(Question);
    expect(asked).toMatchObject({
      message: '16 h 1 s on 12 Nov 2026 is a long time for one entry. Is it right?',
      yes: 'Record 16 h 1 s',
    });
    expect(count()).toBe(1);
    expect((asked as Question).declined()).toBeInstanceOf(Fault);
    expect((asked as Question).declined().message).toMatch(/Nothing was changed\.$/);
  });

  it('a day above 24 hours, counting what reaches into it over midnight', async () => {
    const start = instantAt('2026-11-11', 20 * 60, ZONE);
    const spans = [{ start, end: start + 8 * HOUR * 1000 }];
    await asking.run('entry.add', { ...work(at.rig, 8 * HOUR), day: '2026-11-11', spans });
    await add(10 * HOUR);
    await add(10 * HOUR);
    // Four hours of it lie on the day: 24 hours are a full day.
    await expect(add(1)).rejects.toThrow('With this Imogen Vale has 24 h 1 s on 12 Nov 2026, more than a day has.');
    expect(count()).toBe(3);
  });

  it('what gets shorter or stays is not asked about again', async () => {
    const { changes } = await new MemoryExecutor(store, test.context).run('entry.add', work(at.rig, 20 * HOUR));
    const { id } = changes[0]!;
    await asking.run('entry.edit', { id, note: 'Night' });
    await asking.run('entry.edit', { id, seconds: 18 * HOUR });
    await expect(asking.run('entry.edit', { id, seconds: 19 * HOUR })).rejects.toThrow(Question);
  });

  it('several at once are one question', async () => {
    const row = { ...work(at.rig, 17 * HOUR), memberId: at.member, source: '', billableSeconds: null, span: null };
    const rows = [DAY, '2026-11-10', '2026-11-09'].map((day) => ({ ...row, day }));
    const asked = asking.run('hours.import', { rows, services: [], mapping: null });
    await expect(asked).rejects.toThrow(/17 h on .* and 2 more are like it\. Is it right\?/);
    expect(count()).toBe(0);
  });

  it('where nobody can be asked, it is taken as it is', async () => {
    await new MemoryExecutor(store, test.context).run('entry.add', work(at.rig, 30 * HOUR));
    expect(count()).toBe(1);
  });
});
