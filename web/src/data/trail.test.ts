import 'fake-indexeddb/auto';
import { placingRule as rule } from '@half-penny/core/testing';
import { captureDefaults, placeOn, type Activity } from '@half-penny/core/capture';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  deviceOfFile,
  forgetImpossible,
  forgetOld,
  keepActivities,
  readPauses,
  readSettings,
  saveSettings,
  trail,
  wipeTrail,
} from './trail';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const MINUTE = 60_000;
const window = (minute: number, more: Partial<Activity> = {}): Activity => ({
  kind: 'window',
  from: NINE + minute * MINUTE,
  to: NINE + (minute + 1) * MINUTE,
  title: `at ${minute}`,
  ...more,
});
const titles = async () => (await trail.activities.orderBy('from').toArray()).map((each) => each.title);

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['Date'], now: NINE });
  await trail.open();
});
afterEach(async () => {
  vi.useRealTimers();
  for (const table of trail.tables) await table.clear();
});

describe('activity that is kept', () => {
  it('is kept once, however often and under whatever name it comes', async () => {
    await keepActivities('here', 1, [window(0), window(1)]);
    await keepActivities('here', 2, [window(1), window(2)]);
    await keepActivities('there', 1, [window(0)]);
    expect(await titles()).toEqual(['at 0', 'at 1', 'at 2']);
  });

  it('is not what was never to be recorded: programs and folders by their beginning, sites with what belongs to them', async () => {
    await saveSettings({
      neverPrograms: ['Chess'],
      neverSites: ['www.news.example'],
      neverFolders: ['/home/own'],
    });
    await keepActivities('here', 1, [
      window(0, { program: 'chess club' }),
      window(1, { program: 'My Chess' }),
      window(2, { address: 'https://sport.news.example/today' }),
      window(3, { address: 'https://goodnews.example/' }),
      window(4, { file: '/HOME/own/letter.txt' }),
      window(5, { file: '/home/studio/plot.lgp' }),
    ]);
    expect(await titles()).toEqual(['at 1', 'at 3', 'at 5']);
  });

  it('is not what a rule says never to record, by the time it was', async () => {
    await trail.rules.bulkPut([
      rule('where title has “at” and time from 9:02 to 9:04', { act: 'never record' }),
      rule('where title has “at 5”', placeOn({ workspaceId: 'w', projectId: 'p', taskId: null })),
    ]);
    const zone = new Date(NINE).getHours() * 60;
    const offset = (9 * 60 - zone) * MINUTE;
    await keepActivities(
      'here',
      1,
      [0, 1, 2, 3, 4, 5].map((minute) => {
        const each = window(minute);
        return { ...each, from: each.from + offset, to: each.to + offset };
      }),
    );
    expect(await titles()).toEqual(['at 0', 'at 1', 'at 4', 'at 5']);
  });

  it('is not what happened while recording was paused', async () => {
    await saveSettings({ paused: true });
    vi.setSystemTime(NINE + 3 * MINUTE);
    await saveSettings({ paused: false });
    expect(await readPauses()).toEqual([{ from: NINE, to: NINE + 3 * MINUTE }]);
    await keepActivities('here', 1, [window(-1), window(0), window(2), window(3)]);
    expect(await titles()).toEqual(['at -1', 'at 3']);
    vi.setSystemTime(NINE + 10 * MINUTE);
    await saveSettings({ paused: true });
    await keepActivities('here', 5, [window(10), window(11)]);
    expect(await titles()).toEqual(['at -1', 'at 3']);
  });

  it('is forgotten when it is older than it is to be kept, and never where it is kept for ever', async () => {
    await keepActivities('here', 1, [window(-10 * 24 * 60), window(0)]);
    await saveSettings({ keepDays: 0 });
    await forgetOld(NINE);
    expect(await titles()).toHaveLength(2);
    await saveSettings({ keepDays: 7 });
    await forgetOld(NINE);
    expect(await titles()).toEqual(['at 0']);
  });
});

describe('settings', () => {
  it('are as usual until they are said, and refused in words out of their bounds', async () => {
    expect(await readSettings()).toEqual(captureDefaults);
    await saveSettings({ awayAfter: 12 });
    expect(await readSettings()).toEqual({ ...captureDefaults, awayAfter: 12 });
    for (const change of [{ awayAfter: 0 }, { awayAfter: 61 }, { awayAfter: 2.5 }, { awayAfter: Number.NaN }]) {
      await expect(saveSettings(change)).rejects.toThrow('Away after is a whole number from 1 to 60.');
    }
    await expect(saveSettings({ neverSites: ['x'.repeat(301)] })).rejects.toThrow('at most 300 characters');
    expect((await readSettings()).awayAfter).toBe(12);
  });
});

describe('the trail', () => {
  it('is wiped for good, with or without the rules and settings', async () => {
    const fill = async () => {
      await keepActivities('here', 1, [window(0)]);
      await trail.rules.put(rule('where title has “a”', { act: 'private' }));
      await saveSettings({ awayAfter: 12 });
    };
    await fill();
    await wipeTrail(false);
    expect(await Promise.all([trail.activities.count(), trail.rules.count()])).toEqual([0, 1]);
    expect((await readSettings()).awayAfter).toBe(12);
    await fill();
    await wipeTrail(true);
    const left = trail.tables.filter((table) => table.name !== 'own');
    expect(await Promise.all(left.map((table) => table.count()))).toEqual(left.map(() => 0));
    expect(await trail.own.get('wiped')).toEqual({ key: 'wiped', at: NINE });
  });

  it('goes on being paused through a wiping, and nothing from before it comes in from a device, but from a file', async () => {
    await saveSettings({ paused: true, awayAfter: 12 });
    await wipeTrail(true);
    expect(await readSettings()).toEqual({ ...captureDefaults, paused: true });
    vi.setSystemTime(NINE + MINUTE);
    await keepActivities('here', 1, [window(1)]);
    expect(await trail.activities.count()).toBe(0);
    await saveSettings({ paused: false });
    await keepActivities('here', 1, [window(-3), window(2)]);
    await keepActivities(deviceOfFile('a.ics', [window(-9)]), 1, [window(-9)]);
    expect(await titles()).toEqual(['at -9', 'at 2']);
  });

  it('knows a file again by its name and first moment', () => {
    expect(deviceOfFile('calls.csv', [window(0), window(1)])).toBe(deviceOfFile('calls.csv', [window(0)]));
    expect(deviceOfFile('calls.csv', [window(0)])).not.toBe(deviceOfFile('calls.csv', [window(1)]));
  });
});

describe('times that cannot be true', () => {
  it('are told and not kept, and what was kept with them before can be removed', async () => {
    const far = window(1, { to: NINE + 40 * 86_400_000, title: 'A month and more' });
    expect(await keepActivities('laptop', 1, [window(0), far, window(2, { from: NaN })])).toEqual([
      'A month and more: It lasts longer than 31 days.',
      expect.stringContaining('at 2: '),
    ]);
    expect(await titles()).toEqual(['at 0']);
    await trail.activities.put({ ...far, device: 'laptop', seq: 9 });
    expect(await forgetImpossible()).toBe(1);
    expect(await titles()).toEqual(['at 0']);
  });
});
