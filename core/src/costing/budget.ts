import { goesWith } from '../rates/tree';
import { divideRounded, product } from '../money/rational';
import { projectName, type Pricer } from '../billing/pricer';
import type { Id } from '../model/ids';
import type { Reservation } from '../billing/sources';
import type { Budget, Entry } from '../model/records';
import { addDays, daysFrom, type Day } from '../time/day';
import { noTally, sumTallies, tallyEntries, type Tally } from './tally';

/** How many days back the present pace is taken over. */
export const PACE_DAYS = 28;
/** A forecast further ahead than this tells nothing. */
const FURTHEST = 3 * 366;

/** One measure of a budget: hours in seconds, or money in minor units. */
export interface Measure {
  of: number;
  used: number;
  /** Negative where more was used than there was. */
  left: number;
  /** Used of the budget in percent, rounded down, so that 100 is reached only when it is. */
  percent: number;
  /** Used a day over the last four weeks. */
  pace: number;
  /** The day on which it is used up at that pace; null where it already is, where nothing moves, or where it lies years ahead. */
  usedUpOn: Day | null;
}

export interface BudgetStanding {
  budget: Budget;
  tally: Tally;
  hours: Measure | null;
  /** Used money is what the work is worth at its rates. */
  money: Measure | null;
  /** Whether the share that wants attention is passed, by hours or by money. */
  notice: boolean;
  over: boolean;
}

/** A source by what budgets and caps know it by; a cost has a heading of its own in place of a service. */
export type Covered = Pick<Entry, 'projectId' | 'taskId' | 'serviceId'> & { costCodeId?: Id | null };

/** Whether a source counts against a budget. */
export function fallsUnder(pricer: Pricer, budget: Budget, entry: Covered): boolean {
  if (entry.projectId === null) return false;
  if (budget.costCodeId !== null) {
    const service = entry.serviceId === null ? undefined : pricer.service.get(entry.serviceId);
    if ((service?.costCodeId ?? entry.costCodeId) !== budget.costCodeId) return false;
  }
  if (budget.taskId !== null) return entry.taskId === budget.taskId;
  if (budget.contractId !== null) return pricer.tree.contractOf(entry.projectId) === budget.contractId;
  return pricer.tree.upFrom(entry.projectId).some((project) => project.id === budget.projectId);
}

/** What a budget is for, in words. */
export function nameOf(pricer: Pricer, budget: Budget): string {
  const code = budget.costCodeId === null ? '' : `, ${pricer.costCode.get(budget.costCodeId)?.name}`;
  if (budget.taskId !== null) return `${pricer.task.get(budget.taskId)?.name}${code}`;
  if (budget.contractId !== null) return `${pricer.contract.get(budget.contractId)?.name}${code}`;
  return `${projectName(pricer, budget.projectId!)}${code}`;
}

/** The projects whose entries can count against a budget. */
export function projectsUnder(pricer: Pricer, budget: Pick<Budget, 'projectId' | 'taskId' | 'contractId'>): Id[] {
  if (budget.taskId !== null) {
    const task = pricer.task.get(budget.taskId);
    return pricer.book.projects.filter((project) => task && goesWith(task, project)).map((project) => project.id);
  }
  if (budget.projectId !== null) return pricer.tree.downFrom(budget.projectId).map((project) => project.id);
  return pricer.tree.under(budget.contractId!);
}

/** Where a budget stands on a day: used, to bill, invoiced, left, and when it is used up at the present pace. */
export function standingOfBudget(
  pricer: Pricer,
  budget: Budget,
  entries: readonly Entry[],
  allocations: readonly Reservation[],
  today: Day,
): BudgetStanding {
  const under = entries.filter((entry) => fallsUnder(pricer, budget, entry));
  const tallied = tallyEntries(pricer, under, allocations);
  const tally = sumTallies(tallied.map((each) => each.tally));
  const since = addDays(today, 1 - PACE_DAYS);
  const lately = tallied.filter(({ entry }) => entry.day >= since && entry.day <= today).map((each) => each.tally);
  const recent = lately.length > 0 ? sumTallies(lately) : noTally;
  const hours = budget.seconds === null ? null : measure(budget.seconds, tally.seconds, recent.seconds, today);
  const money = budget.money === null ? null : measure(budget.money, tally.worth, recent.worth, today);
  const percents = [hours, money].map((each) => each?.percent ?? 0);
  return {
    budget,
    tally,
    hours,
    money,
    notice: percents.some((percent) => percent >= budget.noticeAt),
    over: [hours, money].some((each) => each !== null && each.left < 0),
  };
}

function measure(of: number, used: number, lately: number, today: Day): Measure {
  const left = of - used;
  const pace = lately / PACE_DAYS;
  // In whole numbers: a quotient of two rounded ones could fall a day short.
  const days = left >= 0 && lately > 0 ? divideRounded(product(left, PACE_DAYS), lately, 'towards zero') + 1 : null;
  return {
    of,
    used,
    left,
    percent: Math.floor((used * 100) / of),
    pace,
    usedUpOn: days !== null && days <= FURTHEST ? addDays(today, days) : null,
  };
}

/** A point of the line that a budget is used along. */
export interface BurnPoint {
  day: Day;
  /** Used up to the end of the day; null beyond today. */
  used: number | null;
  /** At the present pace; null before today. */
  forecast: number | null;
}

const MOST_POINTS = 120;

/** How a budget was used, and how it goes on at the present pace until it is used up or a season ahead. */
export function burnLine(
  pricer: Pricer,
  standing: BudgetStanding,
  entries: readonly Entry[],
  allocations: readonly Reservation[],
  today: Day,
): BurnPoint[] {
  const { budget, hours, money } = standing;
  const under = entries.filter((entry) => fallsUnder(pricer, budget, entry));
  const byDay = new Map<Day, number>();
  for (const { entry, tally } of tallyEntries(pricer, under, allocations)) {
    byDay.set(entry.day, (byDay.get(entry.day) ?? 0) + (hours ? tally.seconds : tally.worth));
  }
  const main = (hours ?? money)!;
  const first = [...byDay.keys()].sort()[0] ?? today;
  const ahead = main.usedUpOn && main.usedUpOn < addDays(today, 92) ? addDays(main.usedUpOn, 7) : addDays(today, 42);
  const days = daysFrom(first < today ? first : today, ahead);
  const step = Math.max(1, Math.ceil(days.length / MOST_POINTS));
  let used = 0;
  return days
    .map((day, index): BurnPoint | null => {
      used += byDay.get(day) ?? 0;
      const beyond = Math.round((Date.parse(day) - Date.parse(today)) / 86_400_000);
      const wanted = index % step === 0 || day === today || day === days.at(-1);
      if (!wanted) return null;
      return {
        day,
        used: day <= today ? used : null,
        forecast: beyond >= 0 ? Math.round(main.used + main.pace * beyond) : null,
      };
    })
    .filter((point) => point !== null);
}
