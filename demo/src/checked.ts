import type { MemoryExecutor } from '@half-penny/core/commands';
import type { MemoryStore } from '@half-penny/core/engine';
import { changesIn, type Entry, type Id } from '@half-penny/core/model';
import { addDays, dayOf, firstOfMonth, instantAt, startOfWeek, type Day, type Instant } from '@half-penny/core/time';
import * as studio from './studio';
import type { MemberKey } from './studio';

interface Where {
  executor: MemoryExecutor;
  store: MemoryStore;
  /** Sets who does what comes next, and when. */
  as: (memberId: Id, at: Instant) => void;
  member: Record<MemberKey, Id>;
  now: Instant;
  /** The first day of the demo's first month. */
  firstDay: Day;
}

/** Weeks that lie with nobody any more: handed in, and approved the Monday after. */
const APPROVED_WEEKS = 3;
const MINUTE = 60_000;
const HALF_AN_HOUR = 1800;

/**
 * Makes the weeks of Teodor and Asha go their way through checking: older ones approved, one of them corrected, one sent back, one waiting
 * and one late; closes what is older than all of it; and gives Teodor and Asha rights of their own.
 */
export async function makeChecked({ executor, store, as, member, now, firstDay }: Where): Promise<void> {
  const { zone } = studio.workspace;
  const today = dayOf(now, zone);
  const { teodor, asha, imogen } = member;
  const thisWeek = startOfWeek(today);
  const at = (day: Day, hour: number, minute: number) =>
    Math.min(instantAt(day, hour * 60 + minute, zone), now - 90 * MINUTE);
  const ofWeek = (memberId: Id, from: Day): Entry[] =>
    store.rows('entries').filter((row) => row.memberId === memberId && from <= row.day && row.day <= addDays(from, 6));
  const handIn = async (memberId: Id, from: Day, hour: number) => {
    as(memberId, at(addDays(from, 4), hour, 42));
    await executor.run('period.handIn', { memberId, day: from });
    return store.rows('timesheets').findLast((row) => row.memberId === memberId)!.id;
  };
  const approve = async (id: Id, from: Day) => {
    as(imogen, at(addDays(from, 7), 9, 20));
    await executor.run('period.approve', { ids: [id], entryIds: [], costIds: [] });
  };
  for (let ago = APPROVED_WEEKS + 2; ago > 2; ago--) {
    const from = addDays(thisWeek, -7 * ago);
    await approve(await handIn(teodor, from, 17), from);
    await approve(await handIn(asha, from, 18), from);
  }
  const before = addDays(thisWeek, -14);
  const sheet = await handIn(asha, before, 18);
  const billed = new Set(store.rows('allocations').map(({ entryId }) => entryId));
  const [longest] = ofWeek(asha, before)
    .filter((row) => !billed.has(row.id) && row.billableSeconds === null)
    .toSorted((a, b) => b.seconds - a.seconds);
  if (longest) await correct(longest);
  await approve(sheet, before);
  const returned = await handIn(teodor, before, 17);
  const [doubtful] = ofWeek(teodor, before).filter((row) => row.note !== '');
  as(imogen, at(addDays(before, 7), 9, 34));
  await executor.run('period.sendBack', {
    ids: doubtful ? [] : [returned],
    entryIds: doubtful ? [doubtful.id] : [],
    costIds: [],
    reason: studio.sentBackFor,
  });
  await handIn(asha, addDays(thisWeek, -7), 18);

  as(imogen, at(addDays(thisWeek, -6), 10, 5));
  await executor.run('period.close', {
    from: firstDay,
    to: addDays(firstOfMonth(firstDay, 1), -1),
    memberId: null,
    anyway: true,
  });
  await giveRights();

  /** Asha records her own time and sees no rates; Teodor checks others as well; Imogen may do everything. */
  async function giveRights(): Promise<void> {
    const { changes } = await executor.run('rightSet.usual', {});
    const setNamed = (name: string) => changesIn(changes, 'rightSets').find(({ after }) => after?.name === name)!.id;
    await executor.run('member.edit', { id: asha, rightSetId: setNamed('Member') });
    await executor.run('member.edit', { id: teodor, rightSetId: setNamed('Checker') });
  }

  async function correct({ id, seconds }: Entry): Promise<void> {
    as(imogen, at(addDays(before, 7), 9, 12));
    const billableSeconds = Math.max(0, seconds - HALF_AN_HOUR);
    const { changes } = await executor.run('entry.edit', { id, billableSeconds });
    const ids = changes.flatMap((change) => (change.table === 'corrections' ? [change.id] : []));
    if (ids.length > 0) await executor.run('correction.explain', { ids, reason: studio.correctedFor });
  }
}
