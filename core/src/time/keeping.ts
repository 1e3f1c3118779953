const DAY = 86_400_000;
const WEEK = 7 * DAY;
/** 1 January 1970 was a Thursday; weeks begin on Mondays. */
const FIRST_MONDAY = 4 * DAY;

/** For how many days, weeks and months, each counted as those that have a copy, one is kept. */
export const KEEPING = { days: 7, weeks: 4, months: 12 } as const;

/**
 * Which of several copies of the same thing are kept: the last of each of the last seven days that have one, of the last four weeks and
 * of the last twelve months, all by UTC. The newest always is. A copy dated ahead of `now`, as after a clock was put right, is kept.
 *
 * @param moments of the copies, in milliseconds since 1970, in any order
 * @returns those to keep; every other may go
 */
export function momentsToKeep(moments: readonly number[], now: number): Set<number> {
  const newestFirst = [...moments].sort((one, other) => other - one);
  const keep = new Set(newestFirst.filter((at, place) => place === 0 || at > now));
  const keepLastOfEach = (span: (at: number) => string | number, most: number) => {
    const seen = new Set<string | number>();
    for (const at of newestFirst) {
      const its = span(at);
      if (seen.has(its)) continue;
      seen.add(its);
      if (seen.size > most) return;
      keep.add(at);
    }
  };
  keepLastOfEach((at) => Math.floor(at / DAY), KEEPING.days);
  keepLastOfEach((at) => Math.floor((at - FIRST_MONDAY) / WEEK), KEEPING.weeks);
  keepLastOfEach((at) => new Date(at).toISOString().slice(0, 7), KEEPING.months);
  return keep;
}
