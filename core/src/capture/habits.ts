import { minuteOf, weekdayOf, type Day, type Zone } from '../time/day';
import type { Interval } from '../time/interval';
import type { Stretch } from './stretch';

// What becomes plain when one looks back: how days were spent, when work counts most, and what takes time from it.

/** A weight group: jobs, and how much an hour of them counts, in percent. */
export interface WeightGroup {
  id: string;
  name: string;
  percent: number;
  projectIds: readonly string[];
}

/** Milliseconds of a length of time, and how much of that counts by the weights of groups. */
export interface Weighed {
  seen: number;
  /** In groups, or placed as not work: what a share can be told of. */
  weighable: number;
  weighted: number;
}

/** The weighted share in percent; null where nothing tells. */
export const shareOfWeighed = ({ weighable, weighted }: Weighed): number | null =>
  weighable === 0 ? null : (weighted / weighable) * 100;

const nothing = (): Weighed => ({ seen: 0, weighable: 0, weighted: 0 });

/** How much a stretch counts, in percent; null where no group has its job. What is placed as not work counts nothing. */
export function percentOf(stretch: Pick<Stretch, 'outcome'>, groups: readonly WeightGroup[]): number | null {
  const { outcome } = stretch;
  if (outcome?.act === 'not work') return 0;
  const projectId = outcome?.act === 'place' ? outcome.projectId : null;
  if (projectId === null) return null;
  return groups.find(({ projectIds }) => projectIds.includes(projectId))?.percent ?? null;
}

/** Time by hour of the day and by weekday (Monday first), with what of it counts. */
export interface Habits {
  hours: Weighed[];
  weekdays: Weighed[];
}

/** When in the day and the week was worked, in milliseconds, and how far it counts by the weight groups. */
export function habitsOf(stretches: readonly Stretch[], groups: readonly WeightGroup[], zone: Zone): Habits {
  const hours = Array.from({ length: 24 }, nothing);
  const weekdays = Array.from({ length: 7 }, nothing);
  for (const stretch of stretches) {
    const percent = percentOf(stretch, groups);
    const put = (to: Weighed, ms: number) => {
      to.seen += ms;
      if (percent === null) return;
      to.weighable += ms;
      to.weighted += (ms * percent) / 100;
    };
    put(weekdays[weekdayOf(stretch.day) - 1]!, stretch.seen);
    for (const { hour, ms } of byHour(stretch.spans, zone)) put(hours[hour]!, ms);
  }
  return { hours, weekdays };
}

/** Spans cut at full hours of the wall clock. */
export function* byHour(spans: readonly Interval[], zone: Zone): Generator<{ hour: number; ms: number }> {
  for (const { start, end } of spans) {
    for (let at = start; at < end;) {
      const minute = minuteOf(at, zone);
      const next = Math.min(end, at + (60 - (minute % 60)) * 60_000 - (at % 60_000));
      yield { hour: Math.floor(minute / 60), ms: next - at };
      at = next;
    }
  }
}

/** What takes time from the work: a site or a program, and how much of its time did not count. */
export interface Taker {
  name: string;
  isSite: boolean;
  seen: number;
}

/** What counts less than this, in percent, takes time from the work. */
const TAKES_BELOW = 50;

/**
 * Sites, and programs without one, by the time in them that did not count: all of what is placed as not work, and of jobs that count less
 * than half what their weight leaves. The most first.
 */
export function timeTakers(stretches: readonly Stretch[], groups: readonly WeightGroup[]): Taker[] {
  const takers = new Map<string, Taker>();
  for (const stretch of stretches) {
    const percent = percentOf(stretch, groups);
    if (percent === null || percent >= TAKES_BELOW) continue;
    for (const { subject, seen } of stretch.evidence) {
      const name = subject.site || subject.program;
      if (!name || seen === 0) continue;
      const isSite = subject.site !== '';
      const key = `${isSite} ${name}`;
      const own = takers.get(key) ?? { name, isSite, seen: 0 };
      own.seen += (seen * (100 - percent)) / 100;
      takers.set(key, own);
    }
  }
  return [...takers.values()].sort((a, b) => b.seen - a.seen || (a.name < b.name ? -1 : 1));
}

/** A piece of a day's small hour page. */
export interface PageSpan extends Interval {
  /** Of the stretch it belongs to. */
  id: string;
  job: string;
}

/** A day in small: what was seen when, and how it is shared by job. */
export interface PageInSmall {
  day: Day;
  seen: number;
  spans: PageSpan[];
  /** The most first. */
  jobs: { key: string; seen: number }[];
}

/** A day drawn small: its jobs by how long they were seen, and where in the day they lie. */
export function pageInSmall(day: Day, stretches: readonly Stretch[], jobOf: (stretch: Stretch) => string): PageInSmall {
  const jobs = new Map<string, number>();
  const spans: PageSpan[] = [];
  let seen = 0;
  for (const stretch of stretches) {
    const job = jobOf(stretch);
    seen += stretch.seen;
    jobs.set(job, (jobs.get(job) ?? 0) + stretch.seen);
    for (const { start, end } of stretch.spans) spans.push({ start, end, id: stretch.id, job });
  }
  return {
    day,
    seen,
    spans: spans.sort((a, b) => a.start - b.start),
    jobs: [...jobs].map(([key, ms]) => ({ key, seen: ms })).sort((a, b) => b.seen - a.seen || (a.key < b.key ? -1 : 1)),
  };
}

/** A usual day: what is seen on average of days on which anything was. */
export function usualDay(days: readonly PageInSmall[]): { days: number; seen: number; jobs: Map<string, number> } {
  const own = days.filter(({ seen }) => seen > 0);
  const jobs = new Map<string, number>();
  for (const day of own) for (const { key, seen } of day.jobs) jobs.set(key, (jobs.get(key) ?? 0) + seen / own.length);
  const seen = own.length === 0 ? 0 : own.reduce((sum, day) => sum + day.seen, 0) / own.length;
  return { days: own.length, seen, jobs };
}
