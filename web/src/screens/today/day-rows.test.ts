import { Pricer, worthOf } from '@half-penny/core/billing';
import { blankEntry } from '@half-penny/core/entries';
import type { Entry, PlannedTime } from '@half-penny/core/model';
import { bookOf, clientRow, projectRow, rateLine } from '@half-penny/core/testing';
import { boundsOfDay } from '@half-penny/core/time';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rowsOfDay, type DayRow } from './day-rows';

const DAY = '2026-11-12';
const tables = {
  clients: [clientRow('quayside', 'Quayside Playhouse')],
  projects: [projectRow('rig', 'Winter season rig', 'quayside'), projectRow('studio', 'Studio', null)],
  rateLines: [rateLine('r', { price: '60' })],
};
const pricer = new Pricer(bookOf(tables));
const member = pricer.book.members[0]!;
const at = (minute: number) => boundsOfDay(DAY, member.zone).start + minute * 60_000;
let count = 0;
const entry = (from: number, to: number, more: Partial<Entry> = {}): Entry =>
  blankEntry({
    id: `e${String(++count).padStart(4, '0')}`,
    memberId: member.id,
    day: DAY,
    seconds: (to - from) * 60,
    spans: [{ start: at(from), end: at(to) }],
    projectId: 'rig',
    ...more,
  });
const rows = (entries: readonly Entry[], more: Partial<Parameters<typeof rowsOfDay>[0]> = {}): DayRow[] =>
  rowsOfDay({
    pricer,
    member,
    day: DAY,
    items: worthOf(pricer, entries),
    plans: [],
    running: null,
    missing: 8 * 3600,
    ...more,
  });
const said = (list: readonly DayRow[]) => list.map((row) => `${row.kind} ${row.seconds / 60}`);

describe('the lines of a day', () => {
  it('stand in the order things happened, with what nothing covers between them and what has no times last', () => {
    const byHand = blankEntry({ id: 'hand', memberId: member.id, day: DAY, seconds: 1800, projectId: 'rig' });
    expect(said(rows([entry(660, 720), byHand, entry(540, 600)]))).toEqual([
      'entry 60',
      'gap 60',
      'entry 60',
      'entry 30',
    ]);
  });

  it('say what a gap may be worth: at the rate of what was done for a client before it', () => {
    const [, gap] = rows([entry(540, 600), entry(630, 660)]);
    expect(gap).toMatchObject({ kind: 'gap', about: { amount: 3000, currency: 'GBP' } });
    const [, unknown] = rows([entry(540, 600, { projectId: 'studio' }), entry(630, 660)]);
    expect(unknown).toMatchObject({ kind: 'gap', about: null });
  });

  it('count a gap only while hours are owed, and price no more of it than that', () => {
    const worked = [entry(540, 600), entry(630, 660)];
    expect(said(rows(worked, { missing: 0 }))).toEqual(['entry 60', 'entry 30']);
    expect(rows(worked, { missing: 29 * 60 })[1]).toMatchObject({ kind: 'gap', seconds: 1800, about: null });
    expect(rows(worked, { missing: 30 * 60 })[1]).toMatchObject({ kind: 'gap', about: { amount: 3000 } });
  });

  it('tell what was written down for the time that the timer covers', () => {
    const [first] = rows([entry(540, 600)], { running: { start: at(590), end: at(620) } });
    expect(first).toMatchObject({ kind: 'entry', overlaps: [{ entry: null, seconds: 600 }] });
  });

  it('tell which were at the same time, and for how long', () => {
    const list = rows([entry(540, 600), entry(570, 630), entry(700, 720)]);
    const overlaps = list.flatMap((row) =>
      row.kind === 'entry' ? [row.overlaps.map((each) => each.seconds / 60)] : [],
    );
    expect(overlaps).toEqual([[30], [30], []]);
  });

  it('leave out plans that became entries, and show the others at their time', () => {
    const plan = (id: string, start: number | null): PlannedTime => ({
      ...{ id, memberId: member.id, day: DAY, projectId: 'rig', unlisted: '', taskId: null, serviceId: null },
      ...{
        kindOfWorkId: null,
        note: id,
        seconds: 1800,
        start: start === null ? null : at(start),
        source: '',
        guests: '',
      },
    });
    const list = rows([entry(540, 600, { planId: 'done' }), entry(720, 780)], {
      plans: [plan('done', 540), plan('later', null), plan('noon', 700)],
    });
    expect(list.map((row) => row.id.replace(/\d+$/, ''))).toEqual(['e', 'gap ', 'noon', 'e', 'later']);
  });

  it('take the studio’s break off in a line of its own', () => {
    const book = bookOf(tables);
    const strict = new Pricer({
      ...book,
      workspace: { ...book.workspace, breakRule: { after: 6 * 3600, take: 1800, projectId: null } },
    });
    const list = rowsOfDay({
      pricer: strict,
      member,
      day: DAY,
      items: worthOf(strict, [entry(540, 960)]),
      plans: [],
      running: null,
      missing: 0,
    });
    expect(list.at(-1)).toMatchObject({ kind: 'break', seconds: -1800 });
  });

  it('of an entry across midnight have its share on each day, to the second and the penny', () => {
    const late = entry(1320, 1500, { laterDays: ['2026-11-13'] });
    const [first] = rows([late]);
    const [second] = rows([late], { day: '2026-11-13' });
    expect([first, second]).toMatchObject([{ seconds: 7200 }, { seconds: 3600 }]);
    const [priced] = worthOf(pricer, [late]);
    const amounts = [first, second].map((row) => (row!.kind === 'entry' ? row!.amount : 0));
    expect(amounts[0]! + amounts[1]!).toBe(priced!.amount);
  });

  it('cover the time between the first and the last of the day once, whatever there is', () => {
    // A gap of less than five minutes is none.
    const fives = (min: number, max: number) => fc.integer({ min, max }).map((each) => each * 5);
    const times = fc.array(fc.tuple(fives(0, 276), fives(1, 12)), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(times, (list) => {
        const entries = list.map(([from, length]) => entry(from, from + length));
        const bounds = boundsOfDay(DAY, member.zone);
        const minutes = new Set<number>();
        for (const [from, length] of list)
          for (let minute = from; minute < from + length; minute++) minutes.add(minute);
        const gaps = rows(entries).flatMap((row) => (row.kind === 'gap' ? [row.span] : []));
        for (const gap of gaps) {
          for (let minute = (gap.start - bounds.start) / 60_000; minute < (gap.end - bounds.start) / 60_000; minute++) {
            expect(minutes.has(minute)).toBe(false);
            minutes.add(minute);
          }
        }
        const first = Math.min(...list.map(([from]) => from));
        const last = Math.max(...list.map(([from, length]) => from + length));
        expect(minutes.size).toBe(last - first);
      }),
    );
  });
});
