import { beforeEach, describe, expect, it } from 'vitest';
import { DAY, setUp, TestContext, work, ZONE, type Studio } from '../testing/studio';
import { instantAt } from '../time';
import { checkWorkspace, MemoryExecutor, type CommandInput } from '.';
import { MemoryStore } from '../engine';
import { fault } from '../testing/fault';

let test: TestContext;
let store: MemoryStore;
let executor: MemoryExecutor;
let at: Studio;

beforeEach(async () => {
  test = new TestContext();
  store = new MemoryStore();
  executor = new MemoryExecutor(store, test.context);
  at = await setUp(executor, test);
  // The evening of the test's day: all of it has passed.
  test.wait(24 * 60);
});

const ONE = '01900000-0000-7000-8000-000000000001';
const TWO = '01900000-0000-7000-8000-000000000002';
const moment = (minute: number, ms = 0) => instantAt(DAY, minute, ZONE) + ms;
const span = (from: number, to: number, ms = 0) => ({ start: moment(from, ms), end: moment(to, ms) });
type Posted = CommandInput<'stretch.post'>['entries'][number];
const stretch = (id: string, spans: Posted['spans'], more: Partial<Posted> = {}): Posted => ({
  stretchIds: [id],
  projectId: at.rig,
  serviceId: null,
  note: 'Plot sheet 4',
  spans,
  billableSeconds: null,
  ...more,
});
const post = (entries: Posted[], takeOut = false) => executor.run('stretch.post', { entries, takeOut });
const entries = () => store.rows('entries');

describe('posting stretches', () => {
  it('makes entries with their times, in whole seconds, and one undo takes them back', async () => {
    const { seq } = await post([
      stretch(ONE, [span(540, 550, 400), span(560, 570, 900)]),
      stretch(TWO, [span(580, 590)], { billableSeconds: 9999 }),
    ]);
    expect(entries().map((each) => [each.seconds, each.spans.length, each.billableSeconds, each.stretchIds])).toEqual([
      [1200, 2, null, [ONE]],
      [600, 1, 600, [TWO]],
    ]);
    expect(await checkWorkspace(store)).toEqual([]);
    await executor.undo(seq);
    expect(entries()).toEqual([]);
  });

  it('doubles nothing when it is posted again after a mishap', async () => {
    await post([stretch(ONE, [span(540, 550)])]);
    await post([stretch(ONE, [span(540, 550)]), stretch(TWO, [span(560, 570)])]);
    expect(entries().map((each) => each.stretchIds)).toEqual([[ONE], [TWO]]);
    await expect(post([stretch(TWO, [span(560, 570)])])).rejects.toThrow(fault('already'));
  });

  it('takes times out of the entries that have them where that is wanted', async () => {
    await executor.run('entry.add', work(at.rig, 3600, { spans: [span(540, 600)], note: 'By timer' }));
    await post([stretch(ONE, [span(550, 560)])], true);
    const timer = entries().find((each) => each.note === 'By timer')!;
    expect([timer.seconds, timer.spans.length]).toEqual([3000, 2]);
    await expect(post([stretch(TWO, [span(530, 610)])], true)).rejects.toThrow(fault('nothing-left'));
    expect(entries()).toHaveLength(2);
  });

  it('refuses what has not passed yet, and less than a second', async () => {
    const later = moment(540) + 3 * 86_400_000;
    const ahead = stretch(ONE, [{ start: later, end: later + 60_000 }]);
    await expect(post([ahead])).rejects.toThrow(fault('in-the-future'));
    const start = moment(540);
    await expect(post([stretch(ONE, [{ start, end: start + 700 }])])).rejects.toThrow(fault('nothing-left'));
  });
});
