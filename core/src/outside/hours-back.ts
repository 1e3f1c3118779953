import type { Id } from '../model/ids';
import type { Entry, OutsideList, OutsideTask, SentHours } from '../model/records';
import type { Instant } from '../time/interval';
import { taskNameOf } from './task-name';

/** Hours of one entry as they go back to whoever keeps the tasks. */
export interface HoursBack {
  entryId: Id;
  /** The task, by what its list calls it. */
  source: string;
  /** What it is called. */
  task: string;
  /** Higher than whatever was sent of this entry before. */
  revision: number;
  day: string;
  /** Whole seconds; none where what was sent is to be taken back. */
  seconds: number;
  member: string;
  note: string;
  /** What was sent of it before; null where nothing was. */
  before: SentHours | null;
}

/** What hours are told from. */
export interface HoursKnown {
  list: OutsideList;
  /** Of the list. */
  tasks: readonly OutsideTask[];
  /** Entries on the studio's tasks that follow them, and those that were sent before. */
  entries: readonly Entry[];
  /** What was sent to the list. */
  sent: readonly SentHours[];
  nameOf: (memberId: Id) => string;
}

/**
 * What is to go back to a list: entries that were not sent, those that are different from what was sent, and those that were sent and are
 * gone or of another task now. By day, then as they were made.
 */
export function hoursToSend({ list, tasks, entries, sent, nameOf }: HoursKnown, now: Instant): HoursBack[] {
  const byTask = new Map(tasks.flatMap((task) => (task.taskId === null ? [] : [[task.taskId, task] as const])));
  const bySource = new Map(tasks.map((task) => [task.source, task]));
  const before = new Map(sent.map((row) => [row.entryId, row]));
  const due: HoursBack[] = [];
  const there = new Set<Id>();
  for (const entry of entries) {
    const task = entry.taskId === null ? undefined : byTask.get(entry.taskId);
    if (!task) continue;
    there.add(entry.id);
    const last = before.get(entry.id) ?? null;
    if (!last && entry.day < list.hoursSince) continue;
    const hours = {
      source: task.source,
      day: entry.day,
      seconds: entry.seconds,
      member: nameOf(entry.memberId),
      note: entry.note,
    };
    if (last && isSame(hours, last)) continue;
    due.push({ entryId: entry.id, task: taskNameOf(task), revision: next(last, now), ...hours, before: last });
  }
  for (const last of sent) {
    if (there.has(last.entryId) || last.seconds === 0) continue;
    const { entryId, source, day, member, note } = last;
    const task = bySource.get(source);
    due.push({
      ...{ entryId, source, day, member, note, seconds: 0, before: last },
      task: task ? taskNameOf(task) : source,
      revision: next(last, now),
    });
  }
  return due.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.entryId < b.entryId ? -1 : 1));
}

type Told = Pick<SentHours, 'source' | 'day' | 'seconds' | 'member' | 'note'>;
const isSame = (a: Told, b: Told): boolean =>
  a.source === b.source && a.day === b.day && a.seconds === b.seconds && a.member === b.member && a.note === b.note;

/** Counts up from whatever the receiver may have seen, even where what was sent was forgotten here. */
const next = (last: SentHours | null, now: Instant): number => Math.max(now, (last?.revision ?? 0) + 1);
