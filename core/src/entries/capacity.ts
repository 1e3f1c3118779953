import type { Absence, Member, PlannedTime } from '../model/records';
import { addDays, daysFrom, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import { owedOnDay } from './day';
import { jobKey, jobOf, type Job } from './week';

/** Planned time of a member on one job in one week, moved as one. */
export interface PlannedBlock {
  key: string;
  job: Job;
  plans: PlannedTime[];
  seconds: Seconds;
}

/** A member's week to come. */
export interface CapacityWeek {
  from: Day;
  to: Day;
  owed: Seconds;
  planned: Seconds;
  blocks: PlannedBlock[];
}

export interface Capacity {
  member: Member;
  weeks: CapacityWeek[];
}

interface CapacityInput {
  members: readonly Member[];
  /** The first day of the first week. */
  from: Day;
  weeks: number;
  plans: readonly PlannedTime[];
  absences: readonly Absence[];
}

/** What members owe in weeks to come, and what is planned for them, by job. */
export function capacityOf({ members, from, weeks, plans, absences }: CapacityInput): Capacity[] {
  return members.map((member) => {
    const own = plans.filter((plan) => plan.memberId === member.id);
    return {
      member,
      weeks: Array.from({ length: weeks }, (_, index) => {
        const first = addDays(from, index * 7);
        const last = addDays(first, 6);
        const here = own.filter(({ day }) => first <= day && day <= last);
        return {
          from: first,
          to: last,
          owed: daysFrom(first, last).reduce((sum, day) => sum + owedOnDay(member, day, absences), 0),
          planned: here.reduce((sum, plan) => sum + plan.seconds, 0),
          blocks: blocksOf(here),
        };
      }),
    };
  });
}

/** By job, the longest first. */
function blocksOf(plans: readonly PlannedTime[]): PlannedBlock[] {
  const blocks = new Map<string, PlannedBlock>();
  for (const plan of plans) {
    const key = jobKey(plan);
    let block = blocks.get(key);
    if (!block) blocks.set(key, (block = { key, job: jobOf(plan), plans: [], seconds: 0 }));
    block.plans.push(plan);
    block.seconds += plan.seconds;
  }
  return [...blocks.values()].sort((a, b) => b.seconds - a.seconds || (a.key < b.key ? -1 : 1));
}
