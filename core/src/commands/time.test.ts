import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { computeDraft, newDraft, Pricer, readBook } from '../billing';
import { partsByDay, weekOf } from '../entries';
import { Fault } from '../faults/fault';
import type { Allocation, Entry, Timer } from '../model/records';
import { DAY, setUp, TestContext, work, ZONE, type Studio } from '../testing/studio';
import { addDays, boundsOfDay, covered, daysFrom, instantAt } from '../time';
import { checkWorkspace, MemoryExecutor, type CommandInput, type CommandName } from '.';
import { MemoryStore } from '../engine';
import { runs } from '../testing/runs';
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
});

const run = <N extends CommandName>(name: N, input: CommandInput<N>) => executor.run(name, input);
const entries = () => store.rows('entries');
const timer = (): Timer => store.rows('timers')[0]!;
const plain = (projectId: string | null, note = '') => ({ projectId, serviceId: null, note });
const added = async (seconds: number, more: Partial<CommandInput<'entry.add'>> = {}): Promise<Entry> => {
  const { changes } = await run('entry.add', work(at.rig, seconds, more));
  return (await store.get('entries', changes[0]!.id))!;
};
/** A time of the test's day. */
const clock = (hour: number, minute = 0) => instantAt(DAY, hour * 60 + minute, ZONE);
const span = (from: number, to: number) => ({
  start: clock(Math.floor(from), (from % 1) * 60),
  end: clock(Math.floor(to), (to % 1) * 60),
});
const timed = (from: number, to: number, more: Partial<CommandInput<'entry.add'>> = {}) =>
  added((to - from) * 3600, { spans: [span(from, to)], ...more });

describe('timers', () => {
  it('goes on with an entry: the time adds to it, with times of its own', async () => {
    await run('timer.start', plain(at.rig, 'Cue list'));
    test.wait(30);
    await run('timer.stop', { id: timer().id });
    test.wait(10);
    await run('timer.resume', { entryId: entries()[0]!.id });
    test.wait(15);
    await run('timer.stop', { id: timer().id });
    expect(entries()).toHaveLength(1);
    expect(entries()[0]).toMatchObject({ seconds: 45 * 60, note: 'Cue list', day: DAY });
    expect(entries()[0]!.spans).toHaveLength(2);
    await executor.undo();
    expect(entries()[0]!.seconds).toBe(30 * 60);
  });

  it('goes on with an entry on a later day; each day has its part', async () => {
    const entry = await timed(9, 10);
    test.now += 86_400_000;
    await run('timer.resume', { entryId: entry.id });
    test.wait(20);
    await run('timer.stop', { id: timer().id });
    const next = addDays(DAY, 1);
    expect(entries()[0]).toMatchObject({ day: DAY, laterDays: [next], seconds: 80 * 60 });
    expect(partsByDay(entries()[0]!, ZONE)).toEqual([
      { day: DAY, seconds: 3600 },
      { day: next, seconds: 1200 },
    ]);
    expect(await store.by('entries', '*laterDays', [next])).toHaveLength(1);
  });

  it('leaves what was invoiced as it was sent and goes on with a new entry', async () => {
    const entry = await timed(8, 9);
    const id = (await run('invoice.draft', { clientId: at.playhouse, entryIds: [entry.id] })).changes.find(
      (change) => change.table === 'invoices',
    )!.id;
    await run('timer.resume', { entryId: entry.id });
    await run('invoice.issue', { id });
    test.wait(5);
    await run('timer.stop', { id: timer().id });
    expect(entries().map((each) => each.seconds)).toEqual([3600, 300]);
  });

  it('starts a while ago, but never before what runs', async () => {
    await run('timer.start', { ...plain(at.rig), startedAt: test.now - 12 * 60_000 });
    expect(timer().startedAt).toBe(test.now - 12 * 60_000);
    await expect(run('timer.start', { ...plain(at.gallery), startedAt: test.now - 20 * 60_000 })).rejects.toThrow(
      fault('end-before-start'),
    );
    await expect(run('timer.start', { ...plain(at.gallery), startedAt: test.now + 60_000 })).rejects.toThrow(
      fault('in-the-future'),
    );
    await run('timer.start', { ...plain(at.gallery), startedAt: test.now - 5 * 60_000 });
    expect(entries()[0]).toMatchObject({ projectId: at.rig, seconds: 7 * 60 });
  });

  it('asks for what the member must say before a timer starts', async () => {
    await run('member.edit', { id: at.member, asked: ['job', 'note'] });
    await expect(run('timer.start', plain(null))).rejects.toMatchObject({
      path: 'projectId',
      message: /a job and a note/,
    });
    await expect(run('timer.start', plain(at.rig))).rejects.toMatchObject({ path: 'note' });
    await run('timer.start', { ...plain(null, 'Survey'), unlisted: 'HH-7 Hadley Hall' });
    expect(timer()).toMatchObject({ projectId: null, unlisted: 'HH-7 Hadley Hall' });
  });

  it('settles doubtful time of a timer: work before it, the rest elsewhere, and on from there', async () => {
    await run('timer.start', plain(at.rig, 'Cue list'));
    test.wait(120);
    const from = test.now - 60 * 60_000;
    await run('time.settle', { timerId: timer().id, from, to: from + 40 * 60_000, rest: plain(at.internal, 'Phone') });
    expect(entries().map((each) => [each.note, each.seconds])).toEqual([
      ['Cue list', 3600],
      ['Phone', 2400],
    ]);
    await run('timer.stop', { id: timer().id });
    expect(entries().find((each) => each.note === 'Cue list')).toMatchObject({ seconds: 80 * 60 });
    await executor.undo();
    await executor.undo();
    expect(entries()).toEqual([]);
    expect(timer().startedAt).toBe(from - 60 * 60_000);
  });

  it('settles doubtful time of an entry, and refuses to leave nothing of it', async () => {
    test.now = clock(18);
    const entry = await timed(9, 12);
    const doubt = { entryId: entry.id, from: clock(10), to: clock(11), rest: null };
    await run('time.settle', doubt);
    expect(entries()[0]).toMatchObject({ seconds: 7200, spans: [span(9, 10), span(11, 12)] });
    await expect(run('time.settle', { ...doubt, from: clock(8), to: clock(13) })).rejects.toThrow(
      fault('nothing-left'),
    );
  });

  it('swallows nothing where the clock was set back while it ran: Stop asks, and keeps what was seen', async () => {
    const start = test.now;
    await run('timer.start', plain(at.rig, 'Focus'));
    const { id } = timer();
    const last = start + 55 * 60_000;
    // Half an hour back, with the timer seen running for 55 minutes before.
    test.now = start + 25 * 60_000;
    const asking = new MemoryExecutor(store, () => ({
      ...test.context(),
      asks: true,
      seen: { timerId: id, at: last },
    }));
    await expect(asking.run('timer.stop', { id })).rejects.toThrow(
      'It was started at 09:00 and last seen running at 09:55, 55 min. Is it right?',
    );
    expect(store.rows('timers')).toHaveLength(1);
    const answered = new MemoryExecutor(store, () => ({ ...test.context(), seen: { timerId: id, at: last } }));
    await answered.run('timer.stop', { id });
    expect(entries().map((entry) => [entry.seconds, entry.spans])).toEqual([[3300, [{ start, end: last }]]]);
  });

  it('says so where the clock stands before the start and nobody saw it running', async () => {
    await run('timer.start', plain(at.rig));
    test.now -= 3_600_000;
    await expect(run('timer.stop', { id: timer().id })).rejects.toThrow(
      /The clock says 08:00, and this was started at 09:00/,
    );
    expect(store.rows('timers')).toHaveLength(1);
  });

  it('loses and doubles no second through any sequence from several tabs, whatever the clock does', async () => {
    const step = fc.record({
      what: fc.constantFrom('start', 'ago', 'stop', 'resume', 'undo'),
      wait: fc.integer({ min: 0, max: 5_000_000 }),
      jump: fc.option(fc.integer({ min: -3_600_000, max: 0 }), { freq: 8 }),
      tab: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 25 }), async (steps) => {
        const clocks = new TestContext();
        const here = new MemoryStore();
        const one = new MemoryExecutor(here, clocks.context);
        const place = await setUp(one, clocks);
        const second = new TestContext(9);
        second.memberId = clocks.memberId;
        const two = new MemoryExecutor(here, second.context);
        let jumped = false;
        const first = clocks.now;
        for (const { what, wait, jump, tab } of steps) {
          clocks.now += wait + (jump ?? 0);
          jumped ||= (jump ?? 0) < 0;
          second.now = clocks.now;
          const runner = tab ? two : one;
          const [running] = here.rows('timers');
          const [entry] = here.rows('entries');
          try {
            if (what === 'start') await runner.run('timer.start', { projectId: place.rig, serviceId: null, note: '' });
            if (what === 'ago')
              await runner.run('timer.start', {
                projectId: null,
                serviceId: null,
                note: '',
                startedAt: clocks.now - 90_000,
              });
            if (what === 'stop' && running) await runner.run('timer.stop', { id: running.id });
            if (what === 'resume' && entry) await runner.run('timer.resume', { entryId: entry.id });
            if (what === 'undo') await runner.undo();
          } catch (thrown) {
            if (!(thrown instanceof Fault)) throw thrown;
          }
          expect(here.rows('timers').length).toBeLessThanOrEqual(1);
        }
        expect(await checkWorkspace(here)).toEqual([]);
        const rows = here.rows('entries');
        const spans = rows.flatMap((row) => row.spans);
        for (const row of rows) expect(row.seconds).toBeGreaterThan(0);
        if (jumped || steps.some((each) => each.what === 'ago')) return;
        // No moment stands twice, and none outside what passed.
        expect(spans.reduce((sum, each) => sum + each.end - each.start, 0)).toBe(covered(spans));
        expect(covered(spans)).toBeLessThanOrEqual(clocks.now - first);
      }),
      { numRuns: runs(80) },
    );
  });

  it('keeps every second of switching without a pause', async () => {
    const began = test.now;
    await run('timer.start', plain(at.rig));
    for (const wait of [12_345, 999, 60_001, 3_599_999, 17]) {
      test.now += wait;
      await run('timer.start', plain(at.gallery, String(wait)));
    }
    test.now += 5_000;
    await run('timer.stop', { id: timer().id });
    const seconds = entries().reduce((sum, each) => sum + each.seconds, 0);
    expect(seconds).toBe(Math.floor((test.now - began) / 1000));
  });
});

describe('entries', () => {
  it('splits at a time and joins again to what it was', async () => {
    const entry = await timed(9, 12, { billableSeconds: 7200 });
    await run('entry.split', { id: entry.id, after: 5400 });
    expect(entries().map((each) => [each.seconds, each.billableSeconds, each.spans])).toEqual([
      [5400, 3600, [span(9, 10.5)]],
      [5400, 3600, [span(10.5, 12)]],
    ]);
    await run('entry.join', { ids: entries().map((each) => each.id) });
    expect(entries()).toEqual([entry]);
  });

  it('keeps tags through splitting and duplicating, and joins them', async () => {
    const one = await timed(9, 10, { tags: ['urgent'] });
    const other = await timed(10, 11, { tags: ['Urgent', 'extra'] });
    await run('entry.join', { ids: [one.id, other.id] });
    expect(entries()[0]!.tags).toEqual(['extra', 'urgent']);
    await run('entry.split', { id: one.id, after: 1800 });
    await run('entry.duplicate', { ids: [one.id] });
    expect(entries().map((each) => each.tags)).toEqual(Array(3).fill(['extra', 'urgent']));
    await run('entry.tag', { ids: entries().map((each) => each.id), add: ['rig'], remove: ['extra'] });
    expect(entries().map((each) => each.tags)).toEqual(Array(3).fill(['rig', 'urgent']));
    await executor.undo();
    expect(entries()[2]!.tags).toEqual(['extra', 'urgent']);
    await expect(run('entry.tag', { ids: [one.id], add: ['a, b'], remove: [] })).rejects.toThrow(fault('invalid'));
  });

  it('refuses to split outside an entry, and to join what does not belong together', async () => {
    const one = await timed(9, 10);
    const overlapping = await timed(9.5, 11);
    const other = await timed(11, 12, { projectId: at.gallery });
    await expect(run('entry.split', { id: one.id, after: 3600 })).rejects.toThrow(fault('outside'));
    await expect(run('entry.join', { ids: [one.id, overlapping.id] })).rejects.toThrow(fault('overlap'));
    await expect(run('entry.join', { ids: [one.id, other.id] })).rejects.toThrow(fault('mixed'));
    await expect(run('entry.join', { ids: [one.id, (await added(60, { day: addDays(DAY, 1) })).id] })).rejects.toThrow(
      fault('mixed'),
    );
    expect(entries()).toHaveLength(4);
  });

  it('keeps seconds and money through any splits and joins', async () => {
    await run('workspace.edit', { rounding: { increment: 360, direction: 'up', minimum: 0, per: 'day and job' } });
    const cuts = fc.array(fc.integer({ min: 1, max: 20_000 }), { minLength: 1, maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 60, max: 30_000 }), fc.boolean(), cuts, async (seconds, hasTimes, wanted) => {
        await run('entry.remove', { ids: [(await added(1)).id, ...entries().map((each) => each.id)] });
        const spans = hasTimes ? [{ start: test.now, end: test.now + seconds * 1000 }] : [];
        const entry = await added(seconds, { spans, billableSeconds: Math.floor(seconds / 3) });
        await run('invoice.draft', { clientId: at.playhouse, entryIds: [entry.id] });
        const net = async () => {
          const pricer = new Pricer(await readBook(store));
          const allocations = store.rows('allocations').filter((each) => each.amount === null);
          const invoice = newDraft({ id: at.playhouse, currency: 'GBP', taxId: null }, { id: 'draft', createdAt: 0 });
          return computeDraft(pricer, { invoice, entries: entries(), allocations, day: '2026-11-30' }).totals.net;
        };
        const before = await net();
        for (const [index, cut] of wanted.entries()) {
          const part = entries()[index % entries().length]!;
          if (cut < part.seconds) await run('entry.split', { id: part.id, after: cut });
        }
        const sum = (of: (entry: Entry) => number) => entries().reduce((total, each) => total + of(each), 0);
        expect(sum((each) => each.seconds)).toBe(seconds);
        expect(sum((each) => each.billableSeconds!)).toBe(Math.floor(seconds / 3));
        const reserved = store.rows('allocations').reduce((total: number, each: Allocation) => total + each.seconds, 0);
        expect(reserved).toBe(Math.floor(seconds / 3));
        expect(await net()).toBe(before);
        if (entries().length > 1) await run('entry.join', { ids: entries().map((each) => each.id) });
        expect(entries()).toHaveLength(1);
        expect(entries()[0]).toMatchObject({ seconds, spans });
        expect(await net()).toBe(before);
      }),
      { numRuns: runs(40) },
    );
  });

  it('follows a typed length and a new day with its times', async () => {
    const entry = await timed(9, 10);
    await run('entry.edit', { id: entry.id, seconds: 5400 });
    expect(entries()[0]!.spans).toEqual([span(9, 10.5)]);
    await run('entry.editAll', { ids: [entry.id], day: addDays(DAY, -1), projectId: at.gallery });
    const moved = entries()[0]!;
    expect(moved).toMatchObject({ day: addDays(DAY, -1), seconds: 5400, projectId: at.gallery });
    expect(moved.spans[0]!.start).toBe(instantAt(addDays(DAY, -1), 9 * 60, ZONE));
  });

  it('keeps a length when it is moved over a change of the clocks', async () => {
    const entry = await timed(0.5, 5);
    for (const day of ['2026-03-29', '2026-10-25']) {
      await run('entry.edit', { id: entry.id, day });
      expect(entries()[0]).toMatchObject({ day, seconds: 4.5 * 3600 });
    }
  });

  it('is copied with its times to another day, and by its length alone onto its own', async () => {
    const entry = await timed(9, 10);
    await run('entry.duplicate', { ids: [entry.id] });
    await run('entry.duplicate', { ids: [entry.id], day: addDays(DAY, 1) });
    expect(entries().map((each) => [each.day, each.spans.length])).toEqual([
      [DAY, 1],
      [DAY, 0],
      [addDays(DAY, 1), 1],
    ]);
  });

  it('is one entry across midnight, and part of each day in every sum', async () => {
    const night = await added(4 * 3600, { spans: [{ start: clock(22), end: clock(22) + 4 * 3_600_000 }] });
    const next = addDays(DAY, 1);
    expect(night).toMatchObject({ day: DAY, laterDays: [next] });
    const member = (await store.get('members', at.member))!;
    const week = weekOf({ member, days: [DAY, next], entries: [night], plans: [], absences: [], breakRule: null });
    expect(week.days.map((each) => each.recorded)).toEqual([7200, 7200]);
    expect(boundsOfDay(next, ZONE).start - clock(22)).toBe(7_200_000);
  });
});

describe('planned time', () => {
  it('is planned on several days and becomes one entry each with one press', async () => {
    await run('plan.add', { ...plain(at.rig, 'Focus'), days: daysFrom(DAY, addDays(DAY, 2)), seconds: 7200 });
    const plans = store.rows('plans');
    expect(plans).toHaveLength(3);
    await run('plan.take', { ids: [plans[0]!.id] });
    await expect(run('plan.take', { ids: [plans[0]!.id] })).rejects.toThrow(fault('already'));
    expect(entries()[0]).toMatchObject({ day: DAY, seconds: 7200, projectId: at.rig, planId: plans[0]!.id });
    await run('plan.remove', { ids: [plans[0]!.id] });
    expect(entries()[0]!.planId).toBeNull();
  });

  it('is brought up to date when its calendar is read again, but not what was recorded', async () => {
    const event = {
      day: DAY,
      start: clock(10),
      seconds: 3600,
      note: 'Site meeting',
      guests: '',
      source: 'uid-1',
      projectId: null,
    };
    await run('calendar.take', { events: [event, { ...event, source: 'uid-2', note: 'Focus' }] });
    const first = store.rows('plans').find((each) => each.source === 'uid-1')!;
    await run('plan.edit', { id: first.id, projectId: at.rig });
    await run('plan.take', { ids: [store.rows('plans').find((each) => each.source === 'uid-2')!.id] });
    await run('calendar.take', {
      events: [
        { ...event, seconds: 1800 },
        { ...event, source: 'uid-2', note: 'Changed' },
      ],
    });
    expect(store.rows('plans').map((each) => [each.note, each.seconds, each.projectId])).toEqual([
      ['Site meeting', 1800, at.rig],
      ['Focus', 3600, null],
    ]);
  });
});

describe('jobs that are not set up', () => {
  it('are filed onto a project set up on the spot, everybody’s entries with them', async () => {
    const other = (await run('member.add', { name: 'Teodor Lund', role: '', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0] }))
      .changes[0]!.id;
    await run('entry.add', { ...work(null, 600), unlisted: 'Hadley Hall' });
    await run('entry.add', { ...work(null, 900), unlisted: 'HH-7', memberId: other });
    await run('timer.start', { ...plain(null), unlisted: 'HH-7' });
    await run('job.file', {
      unlisted: ['Hadley Hall', 'HH-7'],
      to: { client: { name: 'Hadley Hall' }, project: { name: 'Foyer', jobNumber: 'HH-7', colour: 'plum' } },
    });
    const project = store.rows('projects').find((each) => each.name === 'Foyer')!;
    expect(store.rows('clients').find((each) => each.id === project.clientId)!.name).toBe('Hadley Hall');
    expect(entries().every((each) => each.projectId === project.id && each.unlisted === '')).toBe(true);
    expect(timer()).toMatchObject({ projectId: project.id, unlisted: '' });
    await expect(run('job.file', { unlisted: ['HH-7'], to: { projectId: at.rig } })).rejects.toThrow(
      fault('nothing-left'),
    );
    await executor.undo();
    expect(
      entries()
        .map((each) => each.unlisted)
        .sort(),
    ).toEqual(['HH-7', 'Hadley Hall']);
  });
});

describe('hours from elsewhere', () => {
  it('come in all or none, once, and go with one undo', async () => {
    const row = { memberId: at.member, day: DAY, ...plain(at.rig), seconds: 3600, span: null, billableSeconds: null };
    const rows = [
      { ...row, source: 'a' },
      { ...row, projectId: null, unlisted: 'Hadley Hall', source: 'b' },
    ];
    const mapping = { head: 'Date\nHours', columns: { day: 'Date', length: 'Hours' } };
    await expect(
      run('hours.import', { rows: [...rows, { ...row, seconds: 0, source: 'c' }], services: [], mapping }),
    ).rejects.toThrow();
    expect(entries()).toEqual([]);
    await run('hours.import', { rows, services: [{ id: test.newId(), name: 'Plotting' }], mapping });
    await run('hours.import', { rows: [...rows, { ...row, source: 'c' }], services: [], mapping });
    expect(entries()).toHaveLength(3);
    expect(store.rows('mappings')).toHaveLength(1);
    await executor.undo();
    await executor.undo();
    expect(entries()).toEqual([]);
    expect(store.rows('services')).toHaveLength(1);
  });
});

describe('a week filled as a block', () => {
  it('adds, changes and empties cells with one undo', async () => {
    await timed(9, 10);
    const cell = { day: DAY, projectId: at.rig };
    const next = addDays(DAY, 1);
    await run('week.fill', {
      memberId: at.member,
      cells: [
        { ...cell, seconds: 5400 },
        { ...cell, day: next, seconds: 1800 },
        { day: next, projectId: null, unlisted: 'Hadley Hall', seconds: 900 },
      ],
    });
    expect(entries().map((each) => [each.day, each.seconds, each.unlisted])).toEqual([
      [DAY, 5400, ''],
      [next, 1800, ''],
      [next, 900, 'Hadley Hall'],
    ]);
    expect(entries()[0]!.spans).toEqual([span(9, 10.5)]);
    await run('week.fill', { memberId: at.member, cells: [{ ...cell, seconds: 0 }] });
    expect(entries()).toHaveLength(2);
    await executor.undo();
    await executor.undo();
    expect(entries().map((each) => each.seconds)).toEqual([3600]);
  });

  it('is refused whole where several entries stand in a cell, or a day has more than 24 hours', async () => {
    await added(600);
    await added(600);
    const cell = { day: DAY, projectId: at.rig };
    const other = { day: addDays(DAY, 1), projectId: at.rig, seconds: 60 };
    const fill = (seconds: number) => run('week.fill', { memberId: at.member, cells: [other, { ...cell, seconds }] });
    await expect(fill(900)).rejects.toThrow('2 entries of 20 min together stand in one cell');
    await expect(fill(90_000)).rejects.toThrow('24 hours');
    expect(entries()).toHaveLength(2);
    // What it comes to already is no change.
    await fill(1200);
    expect(entries()).toHaveLength(3);
  });
});

describe('moments', () => {
  it('lie between 1970 and 2200, in whatever is written down', async () => {
    const on = (day: string) => run('entry.add', work(at.rig, 3600, { day }));
    await expect(on('1969-12-31')).rejects.toThrow('1969-12-31 is no day that anything can be on');
    await expect(on('0206-10-01')).rejects.toThrow('days lie between 1970 and 2200');
    await expect(on('2201-01-01')).rejects.toThrow('2201-01-01 is no day');
    for (const day of ['1970-01-01', '2200-12-31']) await expect(on(day)).resolves.toBeDefined();
    await expect(
      run('absence.add', { memberId: null, name: 'Harbour day', from: '2026-01-01', to: '3026-01-01', seconds: null }),
    ).rejects.toThrow('3026-01-01 is no day');
    // The last of them is so far that no day can be told of its end.
    for (const start of [Date.UTC(2300, 0, 1), Date.UTC(9999, 11, 31, 23, 30), 8.64e15 - 1]) {
      const spans = [{ start, end: start + 3_600_000 }];
      await expect(run('entry.add', work(at.rig, 3600, { spans }))).rejects.toThrow(
        'These times lie outside 1970 to 2200. Look at the year.',
      );
    }
  });
});
