import type { Activity } from '@half-penny/core/capture';
import { dayOf, weekdayOf } from '@half-penny/core/time';
import { watchedDay, workingDaysBefore } from '@half-penny/demo';

const ZONE = 'Europe/London';
/** The story begins two weeks before its watched one. */
const FIRST_TURN = 10;

/** The made-up week: the five working days before today, and today as far as it has come. */
export function watchedWeek(now: number): Activity[] {
  const today = dayOf(now, ZONE);
  const week = workingDaysBefore(today, 5).flatMap((day, index) => watchedDay(day, FIRST_TURN + index));
  return [...week, ...watchedToday(now)].map(({ activity }) => activity).filter((each) => each.to <= now);
}

/** All of today, what has not come yet too. */
export function watchedToday(now: number) {
  const today = dayOf(now, ZONE);
  return weekdayOf(today) > 5 ? [] : watchedDay(today, FIRST_TURN + 5);
}

export interface Play {
  record: (activities: Activity[]) => void;
  /** So many times as fast as it was; all at once where null. */
  speed: number | null;
  now?: () => number;
  sleep?: (ms: number) => Promise<void>;
  isStopped?: () => boolean;
}

const sleepFor = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));
/** Nights and weekends are not waited for. */
const LONGEST_PAUSE = 15 * 60_000;

/** Plays the week up to now: at once, or faster than it was. */
export async function playWeek({ record, speed, now = Date.now, sleep = sleepFor, isStopped }: Play): Promise<void> {
  const week = watchedWeek(now()).toSorted((a, b) => a.to - b.to);
  if (speed === null) return record(week);
  let before = week[0]?.to ?? 0;
  for (const activity of week) {
    if (isStopped?.()) return;
    const pause = Math.min(LONGEST_PAUSE, activity.to - before) / speed;
    if (pause > 0) await sleep(pause);
    before = activity.to;
    record([activity]);
  }
}

/** Goes on with today as it comes, until it is over. */
export async function playOn({ record, now = Date.now, sleep = sleepFor, isStopped }: Play): Promise<void> {
  const from = now();
  const rest = watchedToday(from)
    .map(({ activity }) => activity)
    .filter((each) => each.to > from)
    .sort((a, b) => a.to - b.to);
  for (const activity of rest) {
    while (now() < activity.to) {
      if (isStopped?.()) return;
      await sleep(Math.min(1000, activity.to - now()));
    }
    record([activity]);
  }
}
