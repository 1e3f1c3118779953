import type { Absence, Askable, BreakRule, Entry, Member, PlannedTime } from '../model/records';
import { addDays, daysBetween, startOfWeek, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import { missingFields } from './required-fields';
import { weekOf } from './week';

/** What keeps a range of days from being complete. */
export interface Missing {
  /** Days with less than is owed, breaks taken off. */
  days: { day: Day; owed: Seconds; recorded: Seconds; missing: Seconds }[];
  /** Jobs that are not set up yet, with what is recorded on them. */
  unlisted: { words: string; seconds: Seconds; entries: Entry[] }[];
  /** Entries without what the member has to say of each. */
  incomplete: { entry: Entry; lacks: Askable[] }[];
  /** Planned time of days that are over with nothing recorded for it. */
  undone: PlannedTime[];
  /** Days since the cut-off that the earliest missing day should have been complete by; 0 while that is still to come. */
  late: number;
}

export interface MissingInput {
  member: Member;
  /** Only days that are over, or today: what lies ahead is not missing yet. */
  days: readonly Day[];
  entries: readonly Entry[];
  absences: readonly Absence[];
  breakRule: BreakRule | null;
  plans: readonly PlannedTime[];
  today: Day;
  /** The weekday that ends a week, 7 = Sunday. */
  cutOff: number;
}

/** What is missing in a range: owed days with less than owed, unlisted jobs, entries without what is required. */
export function missingIn({ member, days, entries, absences, breakRule, plans, today, cutOff }: MissingInput): Missing {
  const week = weekOf({ member, days, entries, plans: [], absences, breakRule });
  const short = week.days
    .map(({ day, owed, recorded, deducted }) => ({
      day,
      owed,
      recorded: recorded - deducted,
      missing: owed - (recorded - deducted),
    }))
    .filter((each) => each.missing > 0);
  const unlisted = new Map<string, { words: string; seconds: Seconds; entries: Entry[] }>();
  for (const entry of entries) {
    if (!entry.unlisted) continue;
    const job = unlisted.get(entry.unlisted) ?? { words: entry.unlisted, seconds: 0, entries: [] };
    job.seconds += entry.seconds;
    job.entries.push(entry);
    unlisted.set(entry.unlisted, job);
  }
  const incomplete = entries
    .map((entry) => ({ entry, lacks: missingFields(member, entry) }))
    .filter((each) => each.lacks.length > 0);
  const done = new Set(entries.map((entry) => entry.planId));
  const undone = plans.filter((plan) => plan.day < today && !done.has(plan.id));
  const earliest = [...short.map((each) => each.day), ...undone.map((plan) => plan.day)].sort()[0];
  const late = earliest === undefined ? 0 : Math.max(0, daysBetween(addDays(startOfWeek(earliest, cutOff), 6), today));
  return { days: short, unlisted: [...unlisted.values()], incomplete, undone, late };
}
