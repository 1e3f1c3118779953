import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import {
  differencesSince,
  heldDays,
  isApproved,
  isHandedIn,
  mayCheck,
  sheetOn,
  standingOfPeriod,
  type PeriodStanding,
} from '../checking';
import type { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Entry, Timesheet } from '../model/records';
import { DAY, freshStudio, work, ZONE } from '../testing/studio';
import { fault } from '../testing/fault';
import { runs } from '../testing/runs';
import { addDays, instantAt } from '../time';
import { checkWorkspace } from '.';

// 12 November 2026 is a Thursday: its week is the 9th to the 15th.
const WEEK = { from: '2026-11-09', to: '2026-11-15' };

async function team() {
  const studio = await freshStudio();
  const { test, at, run, added, store } = studio;
  const principal = at.member;
  const member = (name: string, checkerId: Id | null) =>
    added('member.add', { name, role: '', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0], checkerId });
  const wren = await member('Wren Okafor', principal);
  const ilka = await member('Ilka Brandt', null);
  const as = (id: Id) => {
    test.memberId = id;
    return studio;
  };
  const record = async (memberId: Id, seconds = 3600, more: object = {}): Promise<Id> => {
    as(memberId);
    return added('entry.add', work(at.rig, seconds, { memberId, ...more }));
  };
  const sheet = (): Timesheet => store.rows('timesheets').at(-1)!;
  const entry = (id: Id): Entry => store.rows('entries').find((row) => row.id === id)!;
  const handedIn = async (memberId: Id, day = DAY) => {
    as(memberId);
    await run('period.handIn', { memberId, day });
    return sheet();
  };
  const standing = (memberId: Id, period = WEEK): PeriodStanding =>
    standingOfPeriod(memberId, period, {
      sheets: store.rows('timesheets').filter((row) => row.memberId === memberId),
      closings: store.rows('closings'),
      checked: store
        .rows('entries')
        .filter((row) => row.memberId === memberId && period.from <= row.day && row.day <= period.to),
    });
  return { ...studio, principal, wren, ilka, as, record, sheet, entry, handedIn, standing };
}

let all: Awaited<ReturnType<typeof team>>;
beforeEach(async () => {
  all = await team();
});

const allOf = (sheet: Timesheet) => ({ ids: [sheet.id], entryIds: [], costIds: [] });

describe('handing in', () => {
  it('keeps what the member recorded as it was, and holds it', async () => {
    const { wren, run, store, handedIn, standing, record } = all;
    const id = await record(wren, 5400);
    expect(standing(wren)).toBe('open');
    const sheet = await handedIn(wren);
    expect(sheet).toMatchObject({ memberId: wren, ...WEEK, months: ['2026-11'] });
    expect(standing(wren)).toBe('handed in');
    expect(store.rows('handIns')[0]!.entries).toEqual([expect.objectContaining({ id, seconds: 5400, day: DAY })]);
    for (const refused of [
      () => run('entry.edit', { id, seconds: 60 }),
      () => run('entry.remove', { ids: [id] }),
      () => run('entry.tag', { ids: [id], add: ['late'], remove: [] }),
      () => run('entry.add', work(all.at.rig, 60, { memberId: wren, day: '2026-11-15' })),
      () => run('timer.start', { projectId: all.at.rig, serviceId: null, note: '' }),
    ]) {
      await expect(refused()).rejects.toThrow(fault('handed-in', 'day'));
    }
    await expect(handedIn(wren)).rejects.toThrow(fault('already', 'day'));
    expect(await record(wren, 60, { day: '2026-11-16' })).toBeTruthy();
  });

  it('is taken back by the member until something is approved', async () => {
    const { wren, principal, run, handedIn, as, standing, record } = all;
    const id = await record(wren);
    const sheet = await handedIn(wren);
    await run('period.takeBack', { id: sheet.id });
    expect(standing(wren)).toBe('open');
    await run('entry.edit', { id, seconds: 1800 });
    await handedIn(wren);
    as(principal);
    await run('period.approve', { ids: [], entryIds: [id], costIds: [] });
    as(wren);
    await expect(run('period.takeBack', { id: sheet.id })).rejects.toThrow(fault('approved', 'id'));
  });

  it('waits for a timer that records on its days, and for what the studio asks of entries', async () => {
    const { wren, run, as, store, handedIn } = all;
    as(wren);
    await run('timer.start', { projectId: all.at.rig, serviceId: null, note: '' });
    await expect(handedIn(wren)).rejects.toThrow(fault('timer-running', 'day'));
    all.test.wait(5);
    await run('timer.stop', { id: store.rows('timers')[0]!.id });
    await run('member.edit', { id: wren, asked: ['note'] });
    await expect(handedIn(wren)).rejects.toThrow(fault('lacking', 'day'));
    await expect(handedIn(wren, '2026-11-23')).rejects.toThrow(fault('too-early', 'day'));
  });

  it('is done by the member or whoever checks them, and by nobody else', async () => {
    const { wren, ilka, principal, run, as } = all;
    as(ilka);
    await expect(run('period.handIn', { memberId: wren, day: DAY })).rejects.toThrow(fault('not-checker', 'memberId'));
    as(principal);
    expect((await run('period.handIn', { memberId: wren, day: DAY })).title).toBe('Handed in');
  });

  it('takes the days that are left where the studio hands in by another calendar than before', async () => {
    const { wren, run, handedIn, as, principal, sheet, store } = all;
    await handedIn(wren);
    as(principal);
    await run('workspace.edit', { handsIn: 'billing period' });
    all.test.now = instantAt('2026-11-20', 600, ZONE);
    await handedIn(wren, '2026-11-20');
    expect(sheet()).toMatchObject({ from: '2026-11-16', to: '2026-11-30' });
    await handedIn(wren, '2026-11-02');
    expect(sheet()).toMatchObject({ from: '2026-11-01', to: '2026-11-08' });
    expect(await checkWorkspace(store)).toEqual([]);
  });

  it('is gone on with as an entry of its own by a timer', async () => {
    const { wren, run, record, handedIn, store, entry, test } = all;
    const id = await record(wren, 3600, {
      spans: [{ start: instantAt(DAY, 480, ZONE), end: instantAt(DAY, 540, ZONE) }],
    });
    await handedIn(wren);
    test.now = instantAt('2026-11-16', 540, ZONE);
    await run('timer.resume', { entryId: id });
    test.wait(10);
    await run('timer.stop', { id: store.rows('timers')[0]!.id });
    expect(entry(id).seconds).toBe(3600);
    expect(store.rows('entries').at(-1)).toMatchObject({ day: '2026-11-16', seconds: 600, projectId: all.at.rig });
  });
});

describe('what records by itself', () => {
  it('is told which days are closed, or handed in to somebody else', async () => {
    const { principal, wren, ilka, as, run, record, handedIn, store } = all;
    const days = ['2026-11-06', DAY, '2026-11-13'];
    const held = async (memberId: Id, whoId: Id | null) => [
      ...(await heldDays(store, (await store.get('members', memberId))!, days, whoId)),
    ];
    await record(wren);
    expect(await held(wren, wren)).toEqual([]);
    await handedIn(wren);
    expect(await held(wren, wren)).toEqual([DAY, '2026-11-13']);
    expect(await held(wren, principal)).toEqual([]);
    expect(await held(ilka, ilka)).toEqual([]);
    as(principal);
    await run('period.close', { memberId: null, from: '2026-11-02', to: '2026-11-08', anyway: false });
    expect(await held(wren, principal)).toEqual(['2026-11-06']);
    expect(await held(ilka, null)).toEqual(['2026-11-06']);
  });
});

describe('checking', () => {
  it('is the checker’s or the deputy’s; what they change leaves a trace', async () => {
    const { wren, ilka, principal, run, as, record, handedIn, entry, store, standing } = all;
    const id = await record(wren, 7200);
    const sheet = await handedIn(wren);
    as(ilka);
    await expect(run('period.approve', allOf(sheet))).rejects.toThrow(fault('not-checker', 'memberId'));
    await expect(run('entry.edit', { id, seconds: 60 })).rejects.toThrow(fault('handed-in', 'day'));
    as(principal);
    await run('entry.edit', { id, seconds: 3600, note: 'Cue list' });
    const [correction] = store.rows('corrections');
    expect(correction).toMatchObject({
      entryId: id,
      byId: principal,
      before: { seconds: 7200 },
      after: { seconds: 3600 },
    });
    await run('correction.explain', { ids: [correction!.id], reason: 'Lunch was in it' });
    await run('period.approve', allOf(sheet));
    expect(standing(wren)).toBe('approved');
    expect(isApproved(entry(id))).toBe(true);
    const [handIn] = store.rows('handIns');
    expect(differencesSince(handIn!, [entry(id)])).toMatchObject([{ fields: ['note', 'length'] }]);
    as(wren);
    await expect(run('entry.edit', { id, note: 'x' })).rejects.toThrow(fault('approved', 'id'));
    as(principal);
    await run('member.edit', { id: wren, deputyId: ilka });
    as(ilka);
    await run('entry.edit', { id, seconds: 3000 });
    expect(store.rows('corrections').at(-1)).toMatchObject({ byId: ilka, before: { seconds: 3600 } });
  });

  it('sends back with a reason: the member changes it and hands in once more', async () => {
    const { wren, principal, run, as, record, handedIn, entry, store, standing, sheet } = all;
    const [id, other] = [await record(wren), await record(wren, 1800)];
    await handedIn(wren);
    as(principal);
    await run('period.approve', { ids: [], entryIds: [other], costIds: [] });
    await expect(run('period.sendBack', { ids: [], entryIds: [id], costIds: [], reason: '  ' })).rejects.toThrow(
      fault('invalid', 'reason'),
    );
    await run('period.sendBack', { ids: [], entryIds: [id], costIds: [], reason: 'Which show?' });
    expect(standing(wren)).toBe('sent back');
    expect(entry(id).sentBack).toMatchObject({ reason: 'Which show?', byId: principal });
    as(wren);
    await expect(run('entry.edit', { id: other, seconds: 60 })).rejects.toThrow(fault('approved', 'id'));
    await run('entry.edit', { id, note: 'Winter season' });
    await handedIn(wren);
    expect(entry(id).sentBack).toBeUndefined();
    expect(sheet().steps.map(({ kind }) => kind)).toEqual(['handed in', 'sent back', 'handed in']);
    expect(store.rows('handIns')).toHaveLength(2);
    expect(standing(wren)).toBe('handed in');
  });

  it('takes two people where the project asks for a second look, its parts included', async () => {
    const { wren, ilka, principal, run, added, as, record, handedIn, entry, at } = all;
    await run('project.edit', { id: at.rig, secondLook: true });
    const part = await added('project.add', { name: 'Act one', clientId: at.playhouse, parentId: at.rig });
    const id = await record(wren, 3600, { projectId: part });
    await handedIn(wren);
    const approve = () => run('period.approve', { ids: [], entryIds: [id], costIds: [] });
    as(principal);
    await approve();
    await approve();
    expect(isApproved(entry(id))).toBe(false);
    as(wren);
    await expect(approve()).rejects.toThrow(fault('not-checker', 'memberId'));
    as(ilka);
    await approve();
    expect(isApproved(entry(id))).toBe(true);
    expect(entry(id).approval!.looks.map(({ byId }) => byId)).toEqual([principal, ilka]);
  });

  it('approves only what is handed in', async () => {
    const { wren, principal, run, as, record } = all;
    const id = await record(wren);
    as(principal);
    await expect(run('period.approve', { ids: [], entryIds: [id], costIds: [] })).rejects.toThrow(
      fault('not-handed-in', 'entryIds'),
    );
  });

  it('leaves no approval on a copy, and none on joined entries of which one had none', async () => {
    const { principal, wren, run, as, record, handedIn, entry, store } = all;
    const [id, other] = [await record(wren), await record(wren)];
    await handedIn(wren);
    as(principal);
    await run('period.approve', { ids: [], entryIds: [id], costIds: [] });
    await run('entry.duplicate', { ids: [id], day: '2026-11-16' });
    expect(store.rows('entries').at(-1)!.approval).toBeUndefined();
    await run('entry.join', { ids: [id, other] });
    expect(entry(id)).toMatchObject({ seconds: 7200 });
    expect(isApproved(entry(id))).toBe(false);
  });

  it('takes expenses along: they are handed in, held and approved like time', async () => {
    const { wren, principal, run, added, as, handedIn, store, standing } = all;
    as(wren);
    const costId = await added('cost.add', {
      kind: 'expense',
      day: DAY,
      supplier: 'Saltmere Rail',
      currency: 'GBP',
      memberId: wren,
      owedBack: true,
      lines: [{ text: 'Return', quantity: '1', price: null, amount: 2450, projectId: all.at.rig }],
    });
    const sheet = await handedIn(wren);
    expect(store.rows('handIns')[0]!.costs).toEqual([
      { id: costId, day: DAY, supplier: 'Saltmere Rail', amount: 2450, currency: 'GBP' },
    ]);
    await expect(run('cost.remove', { ids: [costId] })).rejects.toThrow(fault('handed-in', 'day'));
    const [line] = store.rows('costLines');
    await expect(run('cost.place', { lineIds: [line!.id], projectId: all.at.gallery })).rejects.toThrow(
      fault('handed-in', 'day'),
    );
    as(principal);
    await run('period.approve', allOf(sheet));
    expect(standing(wren)).toBe('approved');
    await run('payout.add', { payouts: [{ costId, amount: 2450, day: DAY }] });
  });
});

describe('closing', () => {
  const close = (more: object = {}) =>
    all.run('period.close', { from: '2026-11-01', to: '2026-11-11', memberId: null, anyway: true, ...more });

  it('holds what was worked and spent, whoever changes it and however, and lets it be billed', async () => {
    const { principal, run, added, executor, record, at, as, store } = all;
    const day = '2026-11-05';
    const id = await record(principal, 3600, { day });
    const costId = await added('cost.add', {
      kind: 'bill',
      day,
      supplier: 'Harbour Electrical',
      currency: 'GBP',
      lines: [{ text: 'Cable', quantity: '1', price: null, amount: 9000, projectId: at.rig, forClient: true }],
    });
    await run('entry.edit', { id, seconds: 5400 });
    await close();
    const changes = [
      () => run('entry.edit', { id, note: 'x' }),
      () => run('entry.remove', { ids: [id] }),
      () => run('entry.add', work(at.rig, 60, { day })),
      () => run('entry.editAll', { ids: [id], day: '2026-11-12' }),
      () => run('entry.duplicate', { ids: [id] }),
      () => run('week.fill', { memberId: principal, cells: [{ day, projectId: at.gallery, seconds: 60 }] }),
      () => run('cost.edit', { id: costId, supplier: 'Other' }),
      () => run('cost.remove', { ids: [costId] }),
      () => run('timer.start', { projectId: at.rig, serviceId: null, note: '', startedAt: instantAt(day, 600, ZONE) }),
      () => run('project.edit', { id: at.rig, clientId: at.museum }),
    ];
    for (const change of changes) await expect(change()).rejects.toThrow(/closed/);
    // The edit before the closing would be taken back: closed days are not touched by undoing either.
    await expect(executor.undo()).rejects.toThrow(fault('outward'));
    const editSeq = store.journal.findLast((row) => row.command === 'entry.edit')!.seq;
    await expect(executor.undo(editSeq)).rejects.toThrow(fault('closed', 'day'));
    as(principal);
    const line = store.rows('costLines')[0]!.id;
    const draft = await added('invoice.draft', { clientId: at.playhouse, entryIds: [id], costLineIds: [line] });
    await run('invoice.issue', { id: draft });
    await run('invoice.void', { id: draft, reason: 'Wrong client' });
    await run('payout.add', { payouts: [{ costId, amount: 9000, day: DAY }] });
    expect(store.rows('invoices')[0]!.voided).not.toBeNull();
  });

  it('keeps what the bookkeeping says later beside the cost, and refuses a line that is new', async () => {
    const { run, store } = all;
    const line = {
      source: 'ledger:1',
      day: '2026-11-05',
      supplier: 'Gel Shop',
      text: 'Gel',
      amount: 900,
      currency: 'GBP',
      withdrawn: false,
    };
    await run('ledger.take', { lines: [line] });
    await close();
    await run('ledger.take', { lines: [{ ...line, amount: 1200 }] });
    expect(store.rows('costs')[0]!.since).toMatchObject({ amount: 1200, withdrawn: false });
    expect(store.rows('costLines')[0]!.amount).toBe(900);
    await run('ledger.take', { lines: [{ ...line, withdrawn: true }] });
    expect(store.rows('costs')[0]!.since).toMatchObject({ withdrawn: true });
    await expect(run('ledger.take', { lines: [{ ...line, source: 'ledger:2' }] })).rejects.toThrow(
      fault('closed', 'day'),
    );
    expect(store.rows('costs')).toHaveLength(1);
  });

  it('is opened again with a reason, which stays on record', async () => {
    const { run, store, record, principal } = all;
    const id = await record(principal, 3600, { day: '2026-11-05' });
    await close();
    const closingId = store.rows('closings')[0]!.id;
    await expect(run('period.reopen', { id: closingId, reason: '' })).rejects.toThrow(fault('invalid', 'reason'));
    await run('period.reopen', { id: closingId, reason: 'A late slip came' });
    await run('entry.edit', { id, note: 'As the slip says' });
    expect(store.rows('closings')[0]!.reopened).toMatchObject({ byId: principal, reason: 'A late slip came' });
    await expect(run('period.reopen', { id: closingId, reason: 'Once more' })).rejects.toThrow(fault('already', 'id'));
  });

  it('asks for what is not approved, refuses days to come and running timers, and holds one member alone', async () => {
    const { run, record, wren, principal, as, store } = all;
    await record(wren, 3600, { day: '2026-11-05' });
    const ids = await record(principal, 3600, { day: '2026-11-06' });
    await expect(close({ anyway: false })).rejects.toThrow(fault('not-approved', 'anyway'));
    await expect(close({ to: DAY })).rejects.toThrow(fault('too-early', 'to'));
    await expect(close({ to: '2026-10-01' })).rejects.toThrow(fault('end-before-start', 'to'));
    await run('timer.start', {
      projectId: null,
      serviceId: null,
      note: '',
      startedAt: instantAt('2026-11-11', 1400, ZONE),
    });
    await expect(close()).rejects.toThrow(fault('timer-running', 'day'));
    await run('timer.stop', { id: store.rows('timers')[0]!.id });
    await close({ memberId: wren });
    await run('entry.edit', { id: ids, note: 'Still open' });
    as(wren);
    await expect(record(wren, 60, { day: '2026-11-05' })).rejects.toThrow(fault('closed', 'day'));
    await expect(close({ memberId: wren })).rejects.toThrow(fault('already', 'from'));
  });
});

describe('approved time alone', () => {
  it('goes on invoices where the studio or the client says so', async () => {
    const { wren, principal, run, as, record, handedIn, at, added } = all;
    const [id, other] = [await record(wren), await record(wren)];
    as(principal);
    await run('workspace.edit', { billsApproved: 'only' });
    const put = (...entryIds: Id[]) => added('invoice.draft', { clientId: at.playhouse, entryIds });
    await expect(put(id)).rejects.toThrow(fault('not-approved', 'entryIds'));
    await handedIn(wren);
    as(principal);
    await run('period.approve', { ids: [], entryIds: [id], costIds: [] });
    await expect(put(id, other)).rejects.toThrow(fault('not-approved', 'entryIds'));
    const draft = await put(id);
    await run('period.sendBack', { ids: [], entryIds: [id], costIds: [], reason: 'Not so' });
    await expect(run('invoice.issue', { id: draft })).rejects.toThrow(fault('not-approved', 'entryIds'));
    await run('client.edit', { id: at.playhouse, billsApproved: 'warn' });
    await run('invoice.issue', { id: draft });
  });
});

describe('the way through checking, in random steps', () => {
  const step = fc.record({
    who: fc.nat(2),
    what: fc.constantFrom(
      ...([
        'record',
        'edit',
        'edit all',
        'remove',
        'split',
        'join',
        'copy',
        'fill',
        'import',
        'start',
        'stop',
      ] as const),
      ...(['go on', 'move', 'hand in', 'take back', 'send back', 'approve', 'approve one', 'close', 'reopen'] as const),
      ...(['undo', 'redo'] as const),
    ),
    day: fc.nat(20),
    pick: fc.nat(30),
    seconds: fc.integer({ min: 60, max: 20_000 }),
  });

  it('no approved second changes without a trace, no closed day changes at all', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 10, maxLength: 60 }), async (steps) => {
        const it = await team();
        const { store, run, executor, principal, wren, ilka, at, test } = it;
        const people = [principal, wren, ilka];
        await run('member.edit', { id: ilka, checkerId: wren });
        for (const { who, what, day, pick, seconds } of steps) {
          const memberId = people[who]!;
          it.as(memberId);
          test.wait(1);
          const entries = store.rows('entries');
          const entry = entries[pick % Math.max(1, entries.length)];
          const sheet = store.rows('timesheets')[pick % Math.max(1, store.rows('timesheets').length)];
          const closing = store.rows('closings')[pick % Math.max(1, store.rows('closings').length)];
          const on = addDays('2026-10-24', day);
          const before = {
            entries: [...entries],
            corrections: store.rows('corrections').length,
            closings: [...store.rows('closings')],
            sheets: [...store.rows('timesheets')],
            clients: new Map(store.rows('projects').map((row) => [row.id, row.clientId])),
          };
          const done = async (): Promise<unknown> => {
            if (what === 'record') return run('entry.add', work(at.rig, seconds, { memberId, day: on }));
            if (what === 'edit' && entry) return run('entry.edit', { id: entry.id, seconds, day: on });
            const ids = entries.filter((_, index) => index % 3 === pick % 3).map((row) => row.id);
            if (what === 'edit all' && ids.length > 0) return run('entry.editAll', { ids, day: on });
            if (what === 'split' && entry) return run('entry.split', { id: entry.id, after: seconds });
            if (what === 'join' && ids.length > 1) return run('entry.join', { ids: ids.slice(0, 2) });
            if (what === 'copy' && entry) return run('entry.duplicate', { ids: [entry.id], day: on });
            if (what === 'fill')
              return run('week.fill', { memberId, cells: [{ day: on, projectId: at.gallery, seconds }] });
            if (what === 'import') {
              const from = {
                ...work(at.rig, seconds),
                memberId,
                day: on,
                span: null,
                billableSeconds: null,
                source: '',
              };
              return run('hours.import', { rows: [from], services: [], mapping: null });
            }
            const timer = store.rows('timers').find((row) => row.memberId === memberId);
            if (what === 'start') return run('timer.start', { projectId: at.rig, serviceId: null, note: '' });
            if (what === 'go on' && entry) return run('timer.resume', { entryId: entry.id });
            if (what === 'stop' && timer) return run('timer.stop', { id: timer.id });
            if (what === 'move')
              return run('project.edit', { id: at.rig, clientId: pick % 2 ? at.museum : at.playhouse });
            if (what === 'remove' && entry) return run('entry.remove', { ids: [entry.id] });
            if (what === 'hand in') return run('period.handIn', { memberId, day: on });
            if (what === 'take back' && sheet) return run('period.takeBack', { id: sheet.id });
            if (what === 'send back' && sheet) {
              const entryIds = entry && pick % 2 ? [entry.id] : [];
              const ids = entryIds.length > 0 ? [] : [sheet.id];
              return run('period.sendBack', { ids, entryIds, costIds: [], reason: 'Look again' });
            }
            if (what === 'approve' && sheet) return run('period.approve', allOf(sheet));
            if (what === 'approve one' && entry)
              return run('period.approve', { ids: [], entryIds: [entry.id], costIds: [] });
            if (what === 'close')
              return run('period.close', {
                from: on,
                to: addDays(on, pick % 5),
                memberId: pick % 3 ? null : memberId,
                anyway: true,
              });
            if (what === 'reopen' && closing) return run('period.reopen', { id: closing.id, reason: 'A late slip' });
            if (what === 'undo') return executor.undo();
            if (what === 'redo') return executor.redo();
            return undefined;
          };
          await done().catch((thrown: unknown) => {
            expect(thrown).toHaveProperty('code');
            // What began to run can be stopped.
            if (what === 'stop') expect((thrown as Fault).code).not.toMatch(/closed|handed-in|approved/);
          });
          const after = new Map(store.rows('entries').map((row) => [row.id, row]));
          const closed = (row: Entry) =>
            before.closings.some(
              ({ reopened, memberId: whose, from, to }) =>
                !reopened && (whose === null || whose === row.memberId) && from <= row.day && row.day <= to,
            );
          const held = (row: Entry) => {
            const member = store.rows('members').find((each) => each.id === row.memberId)!;
            const own = before.sheets.filter((each) => each.memberId === row.memberId);
            return !mayCheck(member, memberId) && (row.approval !== undefined || isHandedIn(sheetOn(own, row.day)));
          };
          const clients = new Map(store.rows('projects').map((row) => [row.id, row.clientId]));
          for (const row of before.entries) {
            if (closed(row)) expect(clients.get(row.projectId!)).toBe(before.clients.get(row.projectId!));
            const now = after.get(row.id);
            const same = now?.seconds === row.seconds && now.day === row.day && now.note === row.note;
            after.delete(row.id);
            if (same) continue;
            expect(closed(row) || held(row)).toBe(false);
            if (isApproved(row) && what !== 'undo' && what !== 'redo')
              expect(store.rows('corrections').length).toBeGreaterThan(before.corrections);
          }
          for (const row of after.values()) expect(closed(row) || held({ ...row, approval: undefined })).toBe(false);
        }
        expect(await checkWorkspace(store)).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
});
