import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { standingOfPeriod } from '../checking';
import { MemoryStore } from '../engine';
import type { Id } from '../model/ids';
import { byTable } from '../model/tables';
import type { PublicKeys } from '../model/records';
import { answerFor, jobSheetFor, timesheetFor, type Answer, type JobSheet, type TimesheetFile } from '../sealed-files';
import { fault } from '../testing/fault';
import { runs } from '../testing/runs';
import { DAY, freshStudio, TestContext, work, ZONE } from '../testing/studio';
import { checkWorkspace, MemoryExecutor, type CommandInput, type CommandName } from '.';

// 12 November 2026 is a Thursday: its week is the 9th to the 15th.
const WEEK = { from: '2026-11-09', to: '2026-11-15' };

const STRANGER = 'f'.repeat(64);
const keysOf = (letter: string): PublicKeys => ({ signing: letter.repeat(64), agreement: letter.repeat(64) });
const STUDIO = keysOf('a');
const WREN = keysOf('b');
const SECRET = 'c'.repeat(64);

/** A member’s own workspace in memory. */
function ownWorkspace(memberId: Id, clock: TestContext, seed: number) {
  const store = new MemoryStore();
  const test = new TestContext(seed);
  test.memberId = memberId;
  const executor = new MemoryExecutor(store, () => ({ ...test.context(), now: clock.now }));
  const run = <N extends CommandName>(name: N, input: CommandInput<N>) => executor.run(name, input);
  const added = async <N extends CommandName>(name: N, input: CommandInput<N>): Promise<Id> =>
    (await run(name, input)).changes[0]!.id;
  return { store, test, run, added, executor };
}

async function apart() {
  const studio = await freshStudio();
  const { at, added, run, test, store } = studio;
  const principal = at.member;
  const person = { role: 'technician', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0] };
  const set = await added('rightSet.add', {
    name: 'Member',
    grants: [
      { right: 'record own', only: null },
      { right: 'billable part', only: null },
    ],
  });
  const wren = await added('member.add', { ...person, name: 'Wren Okafor', checkerId: principal, rightSetId: set });
  const asha = await added('member.add', { ...person, name: 'Asha Lind', checkerId: null });
  await run('keys.begin', { keys: STUDIO });
  const making = () => {
    test.wait(1);
    return { id: test.newId(), madeAt: test.now };
  };
  /** A member in a workspace of their own, met by their keys. */
  const meet = async (memberId: Id, keys: PublicKeys) => {
    await run('keys.invite', { memberId, secret: SECRET });
    await run('keys.reply', { memberId, keys, secret: SECRET });
    await run('keys.met', { memberId });
    const home = ownWorkspace(memberId, test, parseInt(keys.signing[0]!, 16) * 7);
    const sheet = () => jobSheetFor(store, memberId, principal, making());
    const takeSheet = (file: JobSheet, met = false) =>
      home.run('jobSheet.take', {
        signer: STUDIO.signing,
        file,
        ...(met && { met: { studio: STUDIO, member: keys } }),
      });
    await takeSheet(await sheet(), true);
    const timesheet = async (): Promise<TimesheetFile> =>
      timesheetFor(home.store, home.store.rows('timesheets').at(-1)!.id, making());
    const handIn = async (day = DAY) => {
      test.wait(1);
      await home.run('period.handIn', { memberId, day });
      return timesheet();
    };
    const take = (file: TimesheetFile, signer = keys.signing) => run('timesheet.take', { signer, file });
    const answer = (): Promise<Answer> => answerFor(store, memberId, principal, '2026-01-01', making());
    const hear = (file: Answer, signer = STUDIO.signing) => home.run('answer.take', { signer, file });
    const standing = (side: MemoryStore, week = WEEK) =>
      standingOfPeriod(memberId, week, {
        sheets: side.rows('timesheets').filter((row) => row.memberId === memberId),
        closings: side.rows('closings').filter((row) => row.memberId === null || row.memberId === memberId),
        checked: side.rows('entries').filter((row) => row.memberId === memberId),
      });
    const sound = async () =>
      expect([...(await checkWorkspace(store)), ...(await checkWorkspace(home.store))]).toEqual([]);
    return { memberId, home, sheet, takeSheet, timesheet, handIn, take, answer, hear, standing, sound };
  };
  return { ...studio, ...(await meet(wren, WREN)), making, meet, principal, wren, asha };
}

let all: Awaited<ReturnType<typeof apart>>;
beforeEach(async () => {
  all = await apart();
});

const entry = (side: MemoryStore, id: Id) => side.rows('entries').find((row) => row.id === id);

describe('a job sheet', () => {
  it('sets up a workspace with the work, the rules and the closed days, and nothing of money or of other people', async () => {
    const { home, store, wren, principal, sound } = all;
    expect(
      home.store
        .rows('projects')
        .map(({ name }) => name)
        .sort(),
    ).toEqual(
      store
        .rows('projects')
        .map(({ name }) => name)
        .sort(),
    );
    const [studio] = home.store.rows('workspace');
    expect(studio).toMatchObject({ name: 'Saltmere Lighting', ofMember: wren, address: '', bankAccounts: [] });
    for (const table of ['rateLines', 'costRates', 'invoices', 'contacts', 'budgets'] as const)
      expect(home.store.rows(table)).toEqual([]);
    expect(home.store.rows('clients').every(({ email, address }) => email === '' && address === '')).toBe(true);
    expect(
      home.store
        .rows('members')
        .map(({ id }) => id)
        .sort(),
    ).toEqual([principal, wren].sort());
    expect(JSON.stringify(await all.sheet())).not.toMatch(/Asha|accounts@/);
    await sound();
  });

  it('brings the rates that the member may see, and no others', async () => {
    const { run, store, wren, sheet, at, asha } = all;
    const [set] = store.rows('rightSets');
    await run('rightSet.edit', { id: set!.id, grants: [...set!.grants, { right: 'see rates', only: null }] });
    const line = (memberId: Id | null, price: string) => ({
      ...store.rows('rateLines')[0]!,
      memberId,
      price,
      id: undefined,
    });
    await run('rate.add', line(wren, '91') as never);
    await run('rate.add', line(asha, '92') as never);
    const prices = (await sheet()).rows.rateLines.map(({ price }) => price).sort();
    expect(prices).toEqual(['78', '85', '91']);
    expect(at.rig).toBeTruthy();
  });

  it('is only for the work that a member records on', async () => {
    const { run, store, sheet, at } = all;
    const [set] = store.rows('rightSets');
    await run('rightSet.edit', {
      id: set!.id,
      grants: [{ right: 'record own', only: { clientIds: [], projectIds: [at.rig] } }],
    });
    const { rows } = await sheet();
    expect(rows.projects.map(({ name }) => name)).toEqual(['Winter season rig']);
    expect(rows.clients.map(({ name }) => name)).toEqual(['Quayside Playhouse']);
  });

  it('brings what changed, removes what is gone, and finishes what time was recorded on', async () => {
    const { run, added, home, takeSheet, sheet, at, wren, sound } = all;
    const extra = await added('project.add', {
      name: 'Foyer',
      clientId: at.playhouse,
      jobNumber: '',
      colour: 'moss',
      finished: false,
    });
    const planned = await added('plan.add', {
      projectId: at.rig,
      serviceId: null,
      note: 'Focus',
      seconds: 3600,
      memberId: wren,
      days: ['2026-11-20'],
    } as never);
    await takeSheet(await sheet());
    expect(home.store.rows('projects').map(({ name }) => name)).toContain('Foyer');
    expect(home.store.rows('plans').map(({ id }) => id)).toEqual([planned]);
    await home.added('entry.add', work(at.gallery, 1800));
    await run('project.remove', { id: extra });
    await run('project.remove', { id: at.gallery });
    await run('plan.remove', { ids: [planned] } as never);
    await takeSheet(await sheet());
    const names = home.store.rows('projects').map(({ name, finished }) => `${name}${finished ? ' (finished)' : ''}`);
    expect(names).toContain('Museum gallery 3 (finished)');
    expect(names).not.toContain('Foyer');
    expect(home.store.rows('plans')).toEqual([]);
    await sound();
  });

  it('leaves what the member set for themselves, unless the studio sets it', async () => {
    const { run, home, takeSheet, sheet, wren } = all;
    await home.run('member.edit', { id: wren, form: ['note', 'length'], awayAfter: 600 });
    await takeSheet(await sheet());
    const own = () => home.store.rows('members').find(({ id }) => id === wren)!;
    expect(own()).toMatchObject({ form: ['note', 'length'], awayAfter: 600 });
    await run('member.edit', { id: wren, locked: true, form: ['job', 'length'] });
    await takeSheet(await sheet());
    expect(own()).toMatchObject({ form: ['job', 'length'], awayAfter: 600, locked: true });
  });

  it('twice, late, of another studio or for somebody else is refused, and changes nothing', async () => {
    const { home, takeSheet, sheet, store, principal, asha, making } = all;
    const [first, second] = [await sheet(), await sheet()];
    await takeSheet(second);
    const before = home.store.journal.length;
    await expect(takeSheet(second)).rejects.toEqual(fault('already', 'id'));
    await expect(takeSheet(first)).rejects.toEqual(fault('outdated', 'madeAt'));
    const strange = { signer: 'd'.repeat(64), file: await sheet() };
    await expect(home.run('jobSheet.take', strange)).rejects.toEqual(fault('other-signer', 'signer'));
    const others = await jobSheetFor(store, asha, principal, making());
    await expect(takeSheet(others)).rejects.toEqual(fault('other-file', 'file'));
    expect(home.store.journal).toHaveLength(before);
  });

  it('lets the member record, and change nothing that is the studio’s', async () => {
    const { home, at, wren } = all;
    await home.added('entry.add', work(at.rig, 1800));
    await expect(home.run('project.edit', { id: at.rig, name: 'Mine' })).rejects.toEqual(fault('no-right'));
    await expect(home.run('member.edit', { id: wren, rightSetId: null })).rejects.toEqual(fault('no-right'));
    await expect(home.run('workspace.edit', { name: 'Mine' })).rejects.toEqual(fault('no-right'));
  });
});

describe('a timesheet', () => {
  it('brings what was handed in, once, with nothing of the trail', async () => {
    const { home, at, handIn, take, store, wren, sound, standing } = all;
    const id = await home.added('entry.add', { ...work(at.rig, 5400, { note: 'Focus' }) });
    const file = await handIn();
    await take(file);
    expect(entry(store, id)).toMatchObject({ memberId: wren, seconds: 5400, note: 'Focus', stretchIds: [] });
    expect(standing(store)).toBe('handed in');
    await expect(take(file)).rejects.toEqual(fault('already', 'file'));
    // Made a second time of the same handing in.
    await expect(take(await all.timesheet())).rejects.toEqual(fault('already', 'file'));
    await sound();
  });

  it('brings an expense with its lines', async () => {
    const { home, handIn, take, store, wren, at, sound } = all;
    await home.run('cost.add', {
      kind: 'expense',
      day: DAY,
      supplier: 'Harbour Taxis',
      currency: 'GBP',
      memberId: wren,
      owedBack: true,
      lines: [{ text: 'Fare', quantity: '1', amount: 1850, price: null, projectId: at.rig, forClient: true }],
    } as never);
    await take(await handIn());
    expect(store.rows('costs')).toMatchObject([{ supplier: 'Harbour Taxis', memberId: wren, owedBack: true }]);
    expect(store.rows('costLines')).toMatchObject([{ amount: 1850, projectId: at.rig }]);
    await sound();
  });

  it('names work that the studio removed since', async () => {
    const { home, handIn, take, store, at, run } = all;
    const id = await home.added('entry.add', work(at.gallery, 1800));
    const file = await handIn();
    await run('project.remove', { id: at.gallery });
    await take(file);
    expect(entry(store, id)).toMatchObject({ projectId: null, unlisted: 'Museum gallery 3' });
  });

  it('that comes after a later one, of closed days, or of somebody not met changes nothing', async () => {
    const { home, at, handIn, take, store, wren, run, principal } = all;
    await home.added('entry.add', work(at.rig, 1800));
    const first = await handIn();
    await home.run('period.takeBack', { id: home.store.rows('timesheets')[0]!.id });
    await home.added('entry.add', work(at.rig, 600));
    const second = await handIn();
    await take(second);
    expect(store.rows('entries')).toHaveLength(2);
    await expect(take(first)).rejects.toEqual(fault('outdated', 'file'));
    await expect(run('timesheet.take', { signer: STUDIO.signing, file: first })).rejects.toEqual(
      fault('other-signer', 'signer'),
    );
    all.test.wait(60 * 24 * 7);
    all.test.memberId = principal;
    await home.added('entry.add', work(at.rig, 1200, { day: '2026-11-17' }));
    const third = await handIn('2026-11-17');
    await run('period.close', { from: '2026-11-16', to: '2026-11-18', memberId: wren, anyway: true });
    await expect(take(third)).rejects.toEqual(fault('closed', 'file'));
    expect(store.rows('entries')).toHaveLength(2);
  });

  it('is later than what it follows, though the member’s clock was set back', async () => {
    const { home, at, handIn, take, store, test } = all;
    await home.added('entry.add', work(at.rig, 1800));
    await take(await handIn());
    test.wait(-60);
    await home.run('period.takeBack', { id: home.store.rows('timesheets')[0]!.id });
    await home.added('entry.add', work(at.rig, 600));
    await take(await handIn());
    expect(store.rows('entries')).toHaveLength(2);
  });

  it('that was put together by hand is refused', async () => {
    const { home, at, handIn, take, principal } = all;
    await home.added('entry.add', work(at.rig, 1800));
    const file = await handIn();
    const [row] = file.rows.entries;
    const altered = (rows: Partial<TimesheetFile['rows']>) => ({ ...file, rows: { ...file.rows, ...rows } });
    for (const rows of [
      { entries: [{ ...row!, memberId: principal }] },
      { entries: [{ ...row!, day: '2026-11-16' }] },
      { timesheets: [] },
      { handIns: [{ ...file.rows.handIns[0]!, byId: principal }] },
    ])
      await expect(take(altered(rows))).rejects.toEqual(fault('invalid', 'file'));
  });

  it('does not lose what a workspace brought back from a backup has forgotten', async () => {
    const { home, at, handIn, take, store, wren, test } = all;
    const backup = () => {
      const copy = ownWorkspace(wren, test, 77);
      const rows = byTable((table) => structuredClone(home.store.rows(table)));
      copy.store.load(rows, structuredClone(home.store.journal));
      return copy;
    };
    const kept = await home.added('entry.add', work(at.rig, 1800));
    const older = backup();
    const lost = await home.added('entry.add', work(at.rig, 600));
    await take(await handIn());
    // The older state is brought back, and gone on with.
    const fresh = await older.added('entry.add', work(at.rig, 900));
    test.wait(5);
    await older.run('period.handIn', { memberId: wren, day: DAY });
    await take(await timesheetFor(older.store, older.store.rows('timesheets').at(-1)!.id, all.making()));
    expect([kept, lost, fresh].map((id) => entry(store, id)?.seconds)).toEqual([1800, 600, 900]);
  });
});

describe('an answer', () => {
  it('tells what was approved, corrected and closed, and leaves the private side alone', async () => {
    const { home, at, handIn, take, store, run, answer, hear, standing, test, sound } = all;
    const id = await home.added('entry.add', work(at.rig, 5400));
    await take(await handIn());
    await run('entry.edit', { id, seconds: 5000 });
    await run('period.approve', { ids: [store.rows('timesheets')[0]!.id], entryIds: [], costIds: [] });
    await hear(await answer());
    expect(entry(home.store, id)).toMatchObject({ seconds: 5000, approval: { needs: 1 } });
    expect(home.store.rows('corrections')).toMatchObject([{ before: { seconds: 5400 }, after: { seconds: 5000 } }]);
    expect(standing(home.store)).toBe('approved');
    await expect(home.run('entry.edit', { id, seconds: 60 })).rejects.toEqual(fault('approved', 'id'));
    test.wait(60 * 24 * 7);
    await run('period.close', { ...WEEK, memberId: null, anyway: false });
    await hear(await answer());
    expect(standing(home.store)).toBe('closed');
    await sound();
  });

  it('gives back an entry with the reason, which is handed in again and approved', async () => {
    const { home, at, handIn, take, store, run, answer, hear, standing } = all;
    const [id, fine] = [
      await home.added('entry.add', work(at.rig, 5400)),
      await home.added('entry.add', work(at.rig, 600)),
    ];
    await take(await handIn());
    await run('period.sendBack', { ids: [], entryIds: [id], costIds: [], reason: 'On which desk?' });
    await hear(await answer());
    expect(standing(home.store)).toBe('sent back');
    expect(entry(home.store, id)!.sentBack).toMatchObject({ reason: 'On which desk?' });
    await home.run('entry.edit', { id, note: 'Desk B' });
    await take(await handIn());
    expect(entry(store, id)).toMatchObject({ note: 'Desk B' });
    expect(entry(store, id)!.sentBack).toBeUndefined();
    await run('period.approve', { ids: [store.rows('timesheets')[0]!.id], entryIds: [], costIds: [] });
    await hear(await answer());
    expect(standing(home.store)).toBe('approved');
    expect(entry(home.store, fine)!.approval).toBeTruthy();
    expect(home.store.rows('timesheets')[0]!.steps.map(({ kind }) => kind)).toEqual([
      'handed in',
      'sent back',
      'handed in',
      'approved',
    ]);
  });

  it('keeps the studio’s correction where both sides changed an entry, and shows the other', async () => {
    const { home, at, handIn, take, store, run, answer, hear } = all;
    const id = await home.added('entry.add', work(at.rig, 5400));
    await take(await handIn());
    await run('entry.edit', { id, seconds: 5000 });
    await run('period.sendBack', {
      ids: [store.rows('timesheets')[0]!.id],
      entryIds: [],
      costIds: [],
      reason: 'Look again',
    });
    const sent = await answer();
    await home.run('period.takeBack', { id: home.store.rows('timesheets')[0]!.id });
    await home.run('entry.edit', { id, seconds: 4000 });
    // Taken back since: the answer waits for what is handed in again.
    await hear(sent);
    expect(entry(home.store, id)!.seconds).toBe(4000);
    await take(await handIn());
    expect(entry(store, id)!.seconds).toBe(5000);
    await hear(await answer());
    expect(entry(home.store, id)!.seconds).toBe(5000);
    expect(home.store.rows('corrections').some(({ before }) => before?.seconds === 4000)).toBe(true);
  });

  it('keeps the links of an entry to the trail it came of', async () => {
    const { home, at, handIn, take, answer, hear, store } = all;
    const id = await home.added('entry.add', work(at.rig, 5400));
    const own = home.store.rows('entries').find((row) => row.id === id)!;
    Object.assign(own, { stretchIds: [all.test.newId()], source: 'calendar:private' });
    const file = await handIn();
    expect(JSON.stringify(file)).not.toContain('calendar:private');
    await take(file);
    expect(entry(store, id)).toMatchObject({ stretchIds: [], source: '' });
    await hear(await answer());
    expect(entry(home.store, id)).toMatchObject({ stretchIds: own.stretchIds, source: 'calendar:private' });
  });

  it('leaves what was recorded on days that were closed meanwhile, until they are opened again', async () => {
    const { home, at, handIn, take, store, run, answer, hear, wren, standing } = all;
    const day = '2026-11-05';
    const days = { from: '2026-11-02', to: '2026-11-08' };
    const late = await home.added('entry.add', work(at.rig, 900, { day }));
    await run('period.close', { ...days, memberId: wren, anyway: true });
    await hear(await answer());
    expect(standing(home.store, days)).toBe('closed');
    expect(entry(home.store, late)?.seconds).toBe(900);
    await expect(handIn(day)).rejects.toEqual(fault('closed', 'day'));
    await run('period.reopen', { id: store.rows('closings')[0]!.id, reason: 'Something was missing' });
    await hear(await answer());
    await take(await handIn(day));
    expect(entry(store, late)?.seconds).toBe(900);
  });

  it('brings work that a checker filed an entry on, which the member had not heard of', async () => {
    const { home, at, handIn, take, run, added, answer, hear } = all;
    const id = await home.added('entry.add', { ...work(null, 900), unlisted: 'Foyer' } as never);
    await take(await handIn());
    const projectId = await added('project.add', {
      name: 'Foyer',
      clientId: at.museum,
      jobNumber: '',
      colour: 'moss',
      finished: false,
    });
    await run('entry.edit', { id, projectId, unlisted: '' });
    await hear(await answer());
    expect(entry(home.store, id)).toMatchObject({ projectId, unlisted: '' });
    expect(home.store.rows('projects').map(({ name }) => name)).toContain('Foyer');
  });

  it('does not take for handed in what was recorded after days were taken back, though they were closed meanwhile', async () => {
    const { run, home, wren, at, handIn, take, answer, hear, store, sound } = all;
    const first = await home.added('entry.add', work(at.rig, 900, { day: '2026-11-05' }));
    await take(await handIn('2026-11-05'));
    await home.run('period.takeBack', { id: home.store.rows('timesheets')[0]!.id });
    const second = await home.added('entry.add', work(at.rig, 1800, { day: '2026-11-05' }));
    const days = { from: '2026-11-02', to: '2026-11-08' };
    await run('period.close', { ...days, memberId: wren, anyway: true });
    await hear(await answer());
    expect(all.standing(home.store, days)).toBe('closed');
    await run('period.reopen', { id: store.rows('closings')[0]!.id, reason: 'Something was missing' });
    await hear(await answer());
    expect(all.standing(home.store, days)).toBe('open');
    await take(await handIn('2026-11-05'));
    expect(store.rows('entries').map(({ id }) => id)).toEqual([first, second]);
    await sound();
  });

  it('twice, late or meant for another is refused', async () => {
    const { home, handIn, take, at, answer, hear, store, asha, principal, making } = all;
    await home.added('entry.add', work(at.rig, 900));
    await take(await handIn());
    const [first, second] = [await answer(), await answer()];
    await hear(second);
    await expect(hear(second)).rejects.toEqual(fault('already', 'id'));
    await expect(hear(first)).rejects.toEqual(fault('outdated', 'madeAt'));
    const others = await answerFor(store, asha, principal, '2026-01-01', making());
    await expect(hear(others)).rejects.toEqual(fault('other-file', 'file'));
    // The studio itself is nobody’s workspace.
    await expect(all.run('answer.take', { signer: STUDIO.signing, file: await answer() })).rejects.toEqual(
      fault('other-file', 'file'),
    );
  });
});

describe('meeting', () => {
  it('takes the answer to the last invitation alone, and nobody is met before the codes are compared', async () => {
    const { run, asha, home, at, handIn } = all;
    const other = 'd'.repeat(64);
    await expect(run('keys.reply', { memberId: asha, keys: WREN, secret: SECRET })).rejects.toEqual(
      fault('not-met', 'memberId'),
    );
    await run('keys.invite', { memberId: asha, secret: SECRET });
    await run('keys.invite', { memberId: asha, secret: other });
    await expect(run('keys.reply', { memberId: asha, keys: WREN, secret: SECRET })).rejects.toEqual(
      fault('outdated', 'secret'),
    );
    await expect(run('keys.met', { memberId: asha })).rejects.toEqual(fault('not-met'));
    await run('keys.reply', { memberId: asha, keys: WREN, secret: other });
    await expect(run('keys.reply', { memberId: asha, keys: WREN, secret: other })).rejects.toEqual(fault('already'));
    await home.added('entry.add', work(at.rig, 900));
    const file = { ...(await handIn()), memberId: asha };
    await expect(run('timesheet.take', { signer: WREN.signing, file })).rejects.toEqual(fault('not-met', 'signer'));
    await run('keys.met', { memberId: asha });
    expect(all.store.rows('keyHolders').map(({ standing }) => standing)).toEqual(['met', 'met', 'met']);
  });

  it('goes on in the same workspace with somebody whose keys were lost', async () => {
    const { run, home, wren, at, sheet, handIn, hear, answer, sound } = all;
    const [other, fresh] = ['d'.repeat(64), keysOf('f')];
    const kept = await home.added('entry.add', work(at.rig, 900));
    await run('keys.invite', { memberId: wren, secret: other });
    await run('keys.reply', { memberId: wren, keys: fresh, secret: other });
    await run('keys.met', { memberId: wren });
    const met = { studio: STUDIO, member: fresh };
    const file = await sheet();
    await expect(home.run('jobSheet.take', { signer: WREN.signing, file, met })).rejects.toEqual(
      fault('other-signer', 'file'),
    );
    await home.run('jobSheet.take', { signer: STUDIO.signing, file, met });
    expect(home.store.rows('keyHolders').map(({ keys }) => keys)).toEqual([STUDIO, fresh]);
    // What was recorded before and not handed in is handed in by the new keys, and the old ones are not heard any more.
    const late = await handIn();
    await expect(run('timesheet.take', { signer: WREN.signing, file: late })).rejects.toEqual(
      fault('other-signer', 'signer'),
    );
    await run('timesheet.take', { signer: fresh.signing, file: late });
    expect(entry(all.store, kept)?.seconds).toBe(900);
    await hear(await answer());
    await sound();
  });

  it('begins again for everybody when the studio makes new keys', async () => {
    const { run, store } = all;
    await run('keys.begin', { keys: keysOf('e') });
    expect(store.rows('keyHolders')).toMatchObject([{ memberId: null, keys: keysOf('e') }]);
  });
});

describe('days off', () => {
  it('that a member wrote down come with the days they are on; what the studio has of them stays', async () => {
    const { home, handIn, take, timesheet, run, store, wren } = all;
    const off = (from: string, to = from) => ({ memberId: wren, name: 'Dentist', from, to, seconds: 7200 });
    const id = await home.added('absence.add', off('2026-11-11'));
    await home.added('absence.add', off('2026-12-01'));
    await take(await handIn());
    expect(store.rows('absences')).toEqual([{ id, ...off('2026-11-11') }]);
    await run('absence.edit', { id, seconds: 3600 });
    await home.run('period.takeBack', { id: home.store.rows('timesheets')[0]!.id });
    await take(await handIn());
    expect(store.rows('absences')).toMatchObject([{ id, seconds: 3600 }]);
    const file = await timesheet();
    const absences = [{ ...file.absences![0]!, memberId: all.asha }];
    await expect(take({ ...file, absences })).rejects.toEqual(fault('invalid', 'file'));
    await all.sound();
  });
});

describe('files in any order', () => {
  type Step =
    | { do: 'record' | 'edit' | 'delete' | 'hand in' | 'take back'; at: number }
    | { do: 'deliver' | 'deliver again'; at: number }
    | { do: 'correct' | 'approve' | 'send back' | 'answer' | 'hear' | 'close' | 'reopen' | 'strange'; at: number };
  const steps = fc.array(
    fc.record({
      do: fc.constantFrom(
        ...(['record', 'record', 'edit', 'delete', 'hand in', 'hand in', 'take back', 'deliver', 'deliver'] as const),
        ...(['deliver again', 'correct', 'approve', 'send back', 'answer', 'hear', 'hear', 'close', 'reopen'] as const),
        'strange' as const,
      ),
      at: fc.nat(1000),
      who: fc.nat(1),
    }),
    { minLength: 10, maxLength: 80 },
  ) as fc.Arbitrary<(Step & { who: number })[]>;

  /** What a refusal is made of where a step does not fit; anything else is a fault of ours. */
  const REFUSED = new Set([
    'already',
    'outdated',
    'approved',
    'handed-in',
    'not-handed-in',
    'not-approved',
    'gone',
    'closed',
  ]);
  /** A day of the week before: it is over, and can be closed. */
  const BEFORE = '2026-11-05';
  const BEFORE_WEEK = { from: '2026-11-02', to: '2026-11-08' };
  const quietly = async (task: () => Promise<unknown>): Promise<void> => {
    try {
      await task();
    } catch (thrown) {
      if (!REFUSED.has((thrown as { code?: string }).code ?? '')) throw thrown;
    }
  };

  it('leave both sides with the same, with every second accounted for, and what is approved as it was approved', async () => {
    await fc.assert(
      fc.asyncProperty(steps, async (taken) => {
        const studio = await apart();
        const { store, run, at, test } = studio;
        const worlds = [studio, await studio.meet(studio.asha, keysOf('d'))] as const;
        const ways = worlds.map((world) => ({
          world,
          onTheWay: [] as TimesheetFile[],
          answers: [] as Answer[],
          closed: null as string | null,
        }));
        const pick = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];
        const approved = new Map<Id, string>();
        const approvedStays = () => {
          for (const row of store.rows('entries'))
            if (row.approval) {
              const line = JSON.stringify([row.seconds, row.note]);
              const before = approved.get(row.id);
              const corrected = store.rows('corrections').some(({ entryId }) => entryId === row.id);
              if (before !== undefined && before !== line && !corrected)
                throw new Error('Approved time changed unseen.');
              approved.set(row.id, line);
            } else approved.delete(row.id);
        };
        const closedStays = () => {
          for (const way of ways) {
            const { memberId } = way.world;
            const isClosed = store.rows('closings').some((row) => row.memberId === memberId && row.reopened === null);
            const own = store.rows('entries').filter((row) => row.memberId === memberId);
            const now = JSON.stringify(own.map(({ id, seconds, note, day }) => [id, seconds, note, day]));
            if (isClosed && way.closed !== null && way.closed !== now) throw new Error('Closed time changed.');
            way.closed = isClosed ? now : null;
          }
        };
        const doStep = async ({ do: what, at: n, who }: Step & { who: number }): Promise<unknown> => {
          test.wait(1);
          const { world, onTheWay, answers } = ways[who]!;
          const { home, memberId } = world;
          const sheetAt = (side: MemoryStore) => side.rows('timesheets').find((row) => row.memberId === memberId);
          const own = home.store.rows('entries');
          const theirs = store.rows('entries').filter((row) => row.memberId === memberId);
          switch (what) {
            case 'record':
              return home.added('entry.add', work(n % 2 ? at.rig : at.gallery, 60 + n, { day: BEFORE }));
            case 'edit':
              return own.length && home.run('entry.edit', { id: pick(own, n)!.id, seconds: 60 + n });
            case 'delete':
              return own.length && home.run('entry.remove', { ids: [pick(own, n)!.id] });
            case 'hand in':
              return onTheWay.push(await world.handIn(BEFORE));
            case 'take back':
              return sheetAt(home.store) && home.run('period.takeBack', { id: sheetAt(home.store)!.id });
            case 'deliver': {
              const [file] = onTheWay.splice(n % Math.max(1, onTheWay.length), 1);
              return file && world.take(file).finally(() => n % 3 === 0 && onTheWay.push(file));
            }
            case 'deliver again':
              return pick(onTheWay, n) && world.take(pick(onTheWay, n)!);
            case 'correct':
              return theirs.length && run('entry.edit', { id: pick(theirs, n)!.id, note: `Corrected ${n}` });
            case 'approve':
              return theirs.length && run('period.approve', { ids: [], entryIds: [pick(theirs, n)!.id], costIds: [] });
            case 'send back':
              return sheetAt(store) && run('period.sendBack', backOf(sheetAt(store)!.id, theirs, n));
            case 'close': {
              const days = { from: '2026-11-02', to: '2026-11-08' };
              return run('period.close', { ...days, memberId, anyway: true });
            }
            case 'reopen': {
              const closing = store.rows('closings').find((row) => row.memberId === memberId && row.reopened === null);
              return closing && run('period.reopen', { id: closing.id, reason: 'Something was missing' });
            }
            case 'answer':
              return answers.push(await world.answer());
            case 'hear':
              return pick(answers, n) && world.hear(pick(answers, n)!);
            case 'strange': {
              // By the keys of another studio, or of the other member, nothing is ever taken.
              const { world: other } = ways[1 - who]!;
              const signer = [STRANGER, STUDIO.signing, who === 0 ? keysOf('d').signing : WREN.signing][n % 3]!;
              const before = [JSON.stringify(store.rows('entries')), JSON.stringify(home.store.rows('entries'))];
              if (onTheWay.length > 0)
                await expect(world.take(pick(onTheWay, n)!, signer)).rejects.toEqual(fault('other-signer', 'signer'));
              if (answers.length > 0) {
                await expect(world.hear(pick(answers, n)!, STRANGER)).rejects.toEqual(fault('other-signer', 'signer'));
                await expect(other.hear(pick(answers, n)!)).rejects.toEqual(fault('other-file', 'file'));
              }
              expect([JSON.stringify(store.rows('entries')), JSON.stringify(home.store.rows('entries'))]).toEqual(
                before,
              );
            }
          }
        };
        const backOf = (sheetId: Id, rows: readonly { id: Id }[], n: number) => ({
          ids: n % 2 || rows.length === 0 ? [sheetId] : [],
          entryIds: n % 2 || rows.length === 0 ? [] : [pick(rows, n)!.id],
          costIds: [],
          reason: 'Look again',
        });
        for (const step of taken) {
          await quietly(() => doStep(step));
          approvedStays();
          closedStays();
        }
        // In the end all files arrive: what is open is handed in, taken, and answered.
        for (const [who, { world }] of ways.entries()) {
          // Days that are closed by then are opened once more for that.
          await quietly(() => doStep({ do: 'reopen', at: 0, who }));
          await quietly(async () => world.hear(await world.answer()));
          await quietly(() => doStep({ do: 'record', at: 7, who }));
          await quietly(async () => world.take(await world.handIn(BEFORE)));
          await quietly(async () => world.take(await world.timesheet()));
          await quietly(async () => world.hear(await world.answer()));
          await quietly(async () => world.take(await world.handIn(BEFORE)));
          await quietly(async () => world.hear(await world.answer()));
        }
        for (const { world } of ways) {
          const lines = (side: MemoryStore) =>
            side
              .rows('entries')
              .filter((row) => row.memberId === world.memberId)
              .map(({ id, seconds, note, projectId, approval }) => ({ id, seconds, note, projectId, approval }))
              .sort((a, b) => (a.id < b.id ? -1 : 1));
          expect(lines(world.home.store)).toEqual(lines(store));
          expect(world.standing(world.home.store, BEFORE_WEEK)).toBe(world.standing(store, BEFORE_WEEK));
          // Of the other member nothing ever comes into a workspace but, where they check, the name.
          expect(world.home.store.rows('entries').filter((row) => row.memberId !== world.memberId)).toEqual([]);
          await world.sound();
        }
      }),
      { numRuns: runs(12) },
    );
  });
});
