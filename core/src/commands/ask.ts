import { recordedOn } from '../entries/day';
import { Question } from '../faults/fault';
import type { Id } from '../model/ids';
import { changesIn, type Change } from '../model/change';
import type { Entry } from '../model/records';
import { showDayShort, type Day } from '../time/day';
import { HOUR, showExactly, type Seconds } from '../time/length';
import { overlay } from '../engine/overlay';
import type { Reader } from '../engine/store';

/** An entry above this is more likely a timer left running or a slip of the finger than work. */
export const LONG_ENTRY: Seconds = 16 * HOUR;
/** More than this on one day is counted twice somewhere. */
export const FULL_DAY: Seconds = 24 * HOUR;

/**
 * Asks about time that grew beyond what a person can do: an entry above 16 hours, a member's day above 24.
 *
 * @throws Question that names the first such entry or day, and how many there are
 */
export async function askAbout(reader: Reader, changes: readonly Change[]): Promise<void> {
  const grown = changesIn(changes, 'entries').flatMap(({ before, after }) =>
    after && after.seconds > (before?.seconds ?? 0) ? [after] : [],
  );
  if (grown.length === 0) return;
  const long = grown.filter((entry) => entry.seconds > LONG_ENTRY);
  if (long.length > 0) {
    const { seconds, day } = long[0]!;
    throw new Question(
      'unusual-length',
      `${showExactly(seconds)} on ${showDayShort(day)} is a long time for one entry${andMore(long.length)}. Is it right?`,
      long.length === 1 ? `Record ${showExactly(seconds)}` : `Record all ${long.length}`,
      'length',
    );
  }
  const full = await fullDays(reader, changes, grown);
  if (full.length > 0) {
    const { name, day, seconds } = full[0]!;
    throw new Question(
      'unusual-day',
      `With this ${name} has ${showExactly(seconds)} on ${showDayShort(day)}, more than a day has${andMore(full.length)}. Is it right?`,
      'Record it',
      'length',
    );
  }
}

const andMore = (count: number) => (count > 1 ? `, and ${count - 1} more ${count > 2 ? 'are' : 'is'} like it` : '');

/** Days that hold more than a day now, and more than before. */
async function fullDays(
  reader: Reader,
  changes: readonly Change[],
  grown: readonly Entry[],
): Promise<{ name: string; day: Day; seconds: Seconds }[]> {
  const days = new Map<Id, Set<Day>>();
  for (const { memberId, day, laterDays } of grown) {
    const own = days.get(memberId) ?? new Set();
    for (const each of [day, ...laterDays]) own.add(each);
    days.set(memberId, own);
  }
  const after = overlay(reader, changes);
  const full: { name: string; day: Day; seconds: Seconds }[] = [];
  for (const [memberId, own] of days) {
    const member = await after.get('members', memberId);
    if (!member) continue;
    const list = [...own];
    const here = await after.by(
      'entries',
      'memberId+day',
      list.map((day) => [memberId, day]),
    );
    const across = (await after.by('entries', '*laterDays', list)).filter((entry) => entry.memberId === memberId);
    const entries = [...new Map([...here, ...across].map((entry) => [entry.id, entry])).values()];
    const byDay = new Map<Day, Entry[]>();
    for (const entry of entries) {
      for (const day of [entry.day, ...entry.laterDays]) {
        const list = byDay.get(day);
        if (list) list.push(entry);
        else byDay.set(day, [entry]);
      }
    }
    for (const day of list.sort()) {
      const seconds = recordedOn(byDay.get(day) ?? [], day, member.zone);
      if (seconds > FULL_DAY) full.push({ name: member.name, day, seconds });
    }
  }
  return full;
}
