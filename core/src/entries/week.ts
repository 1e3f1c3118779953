import type { Id } from '../model/ids';
import type { Absence, BreakRule, Entry, Member, PlannedTime } from '../model/records';
import type { Day } from '../time/day';
import type { Seconds } from '../time/length';
import { breakOfDay } from './breaks';
import { owedOnDay } from './day';
import { partsByDay } from './spans';

/** What time is on: a project or a task of it, a job in words, or no job yet. */
export interface Job {
  projectId: Id | null;
  unlisted: string;
  taskId: Id | null;
}

/** No job at all. */
export const noJob: Job = { projectId: null, unlisted: '', taskId: null };
/** The job of a project, without a task. */
export const projectJob = (projectId: Id | null): Job => ({ ...noJob, projectId });
/** A job in words, which is not set up. */
export const unlistedJob = (unlisted: string): Job => ({ ...noJob, unlisted });

/** The job of something recorded or planned, without the rest of it. */
export const jobOf = ({ projectId, unlisted, taskId }: Job): Job => ({ projectId, unlisted, taskId });

/** By which jobs are told apart. */
export const jobKey = ({ projectId, unlisted, taskId }: Job): string =>
  taskId === null ? (projectId ?? `“${unlisted}”`) : `${projectId} ${taskId}`;

/** A job on a day. */
export interface WeekCell {
  day: Day;
  /** Recorded on that day; of an entry across midnight only what lies on it. */
  seconds: Seconds;
  entries: Entry[];
  plans: PlannedTime[];
  /** Planned and not recorded yet. */
  openSeconds: Seconds;
}

export interface WeekRow extends Job {
  key: string;
  cells: WeekCell[];
  seconds: Seconds;
  planned: Seconds;
}

export interface WeekDay {
  day: Day;
  recorded: Seconds;
  /** Taken off by the break rule. */
  deducted: Seconds;
  owed: Seconds;
  planned: Seconds;
}

export interface Week {
  days: WeekDay[];
  rows: WeekRow[];
  recorded: Seconds;
  deducted: Seconds;
  owed: Seconds;
  planned: Seconds;
}

export interface WeekInput {
  member: Member;
  days: readonly Day[];
  entries: readonly Entry[];
  plans: readonly PlannedTime[];
  absences: readonly Absence[];
  breakRule: BreakRule | null;
  /** Jobs that have a row though nothing is recorded on them, in their order. */
  kept?: readonly Job[];
}

/** A member's days as a grid of jobs, with what is owed, planned and taken off for breaks. Also serves months and any other range. */
export function weekOf({ member, days, entries, plans, absences, breakRule, kept = [] }: WeekInput): Week {
  const columnOf = new Map(days.map((day, index) => [day, index]));
  const rows = new Map<string, WeekRow>();
  const rowOf = (job: Job) => {
    const key = jobKey(job);
    let row = rows.get(key);
    if (!row) {
      const cells = days.map((day): WeekCell => ({ day, seconds: 0, entries: [], plans: [], openSeconds: 0 }));
      rows.set(key, (row = { key, ...jobOf(job), cells, seconds: 0, planned: 0 }));
    }
    return row;
  };
  for (const job of kept) rowOf(job);
  const done = new Set(entries.map((entry) => entry.planId));
  for (const planned of plans) {
    const column = columnOf.get(planned.day);
    if (column === undefined) continue;
    const row = rowOf(planned);
    const cell = row.cells[column]!;
    cell.plans.push(planned);
    row.planned += planned.seconds;
    if (!done.has(planned.id)) cell.openSeconds += planned.seconds;
  }
  const recorded = new Array<Seconds>(days.length).fill(0);
  for (const entry of entries) {
    for (const part of partsByDay(entry, member.zone)) {
      const column = columnOf.get(part.day);
      if (column === undefined) continue;
      const row = rowOf(entry);
      const cell = row.cells[column]!;
      cell.seconds += part.seconds;
      cell.entries.push(entry);
      row.seconds += part.seconds;
      recorded[column]! += part.seconds;
    }
  }
  const byDay = days.map((day, column): WeekDay => {
    const touching = breakRule ? entries.filter((each) => each.day === day || each.laterDays.includes(day)) : [];
    return {
      day,
      recorded: recorded[column]!,
      deducted: breakOfDay(breakRule, touching, day, member.zone).deducted,
      owed: owedOnDay(member, day, absences),
      planned: plans.reduce((total, each) => total + (each.day === day ? each.seconds : 0), 0),
    };
  });
  const sum = (of: (day: WeekDay) => Seconds) => byDay.reduce((total, each) => total + of(each), 0);
  return {
    days: byDay,
    rows: [...rows.values()],
    recorded: sum((each) => each.recorded),
    deducted: sum((each) => each.deducted),
    owed: sum((each) => each.owed),
    planned: sum((each) => each.planned),
  };
}
