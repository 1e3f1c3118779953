import { weekdayOf, type Zone } from '../time/day';
import type { Stretch } from './stretch';
import { wordsOf } from './words';
import { byHour, type WeightGroup } from './habits';
import { documentName } from './subject';

/** What time is told by when looking back. */
export const lookingAt = ['job', 'program', 'site', 'document', 'folder', 'person', 'word'] as const;
export type LookingAt = (typeof lookingAt)[number];

export interface Share {
  /** What it is: a job's key, a program's name, a file. */
  key: string;
  seen: number;
  /** Percent of all that was seen. */
  percent: number;
}

/**
 * Time by something, the most first. Programs, sites, documents, folders and jobs share a stretch's time by what had attention in it;
 * people and words are told of all the time they were part of, so theirs do not add up to the whole.
 */
export function timeBy(stretches: readonly Stretch[], by: LookingAt, jobOf: (stretch: Stretch) => string): Share[] {
  const sums = new Map<string, number>();
  const add = (key: string, seen: number) => key && seen > 0 && sums.set(key, (sums.get(key) ?? 0) + seen);
  for (const stretch of stretches) {
    if (by === 'job') {
      add(jobOf(stretch), stretch.seen);
      continue;
    }
    for (const { subject, seen } of stretch.evidence) {
      if (by === 'program') add(subject.program, seen);
      else if (by === 'site') add(subject.site, seen);
      else if (by === 'document') add(subject.file, seen);
      else if (by === 'folder') add(subject.folder, seen);
      else if (by === 'person') for (const person of subject.people) add(person, seen);
      else
        for (const word of new Set(wordsOf(subject.file ? documentName(subject.file) : subject.title))) add(word, seen);
    }
  }
  const all = stretches.reduce((sum, stretch) => sum + stretch.seen, 0);
  return [...sums]
    .map(([key, seen]) => ({ key, seen, percent: all === 0 ? 0 : (seen / all) * 100 }))
    .sort((a, b) => b.seen - a.seen || (a.key < b.key ? -1 : 1));
}

/** Milliseconds by weekday (Monday first) and hour of the day. */
export function heatMap(stretches: readonly Stretch[], zone: Zone): number[][] {
  const map = Array.from({ length: 7 }, () => new Array<number>(24).fill(0));
  for (const stretch of stretches) {
    const line = map[weekdayOf(stretch.day) - 1]!;
    for (const { hour, ms } of byHour(stretch.spans, zone)) line[hour]! += ms;
  }
  return map;
}

/** The stretches that a row of a list is made of, with the row's own time in each, latest first. */
export function behindRow(
  stretches: readonly Stretch[],
  by: LookingAt,
  key: string,
  jobOf: (stretch: Stretch) => string,
): { stretch: Stretch; seen: number }[] {
  return stretches
    .flatMap((stretch) => {
      const seen = timeBy([stretch], by, jobOf).find((share) => share.key === key)?.seen ?? 0;
      return seen > 0 ? [{ stretch, seen }] : [];
    })
    .sort((a, b) => b.stretch.spans[0]!.start - a.stretch.spans[0]!.start);
}

/** The weighted share: weighted time ÷ time in groups, in percent; null where no time belongs to a group. */
export function weightedShare(
  stretches: readonly Stretch[],
  groups: readonly WeightGroup[],
  projectOf: (stretch: Stretch) => string | null,
): { percent: number | null; groups: { group: WeightGroup; seen: number }[] } {
  const sums = groups.map((group) => ({ group, seen: 0 }));
  for (const stretch of stretches) {
    const projectId = projectOf(stretch);
    const own = projectId === null ? undefined : sums.find(({ group }) => group.projectIds.includes(projectId));
    if (own) own.seen += stretch.seen;
  }
  const all = sums.reduce((sum, { seen }) => sum + seen, 0);
  const weighted = sums.reduce((sum, { group, seen }) => sum + seen * group.percent, 0);
  return { percent: all === 0 ? null : weighted / all, groups: sums };
}
