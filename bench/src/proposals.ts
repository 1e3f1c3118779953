import {
  captureDefaults,
  featuresOf,
  formStretches,
  Likeness,
  RuleBook,
  TrailArrays,
  type Lesson,
  type Stretch,
} from '@half-penny/core/capture';
import { compare, count as countOf, note } from './measure';
import { watchedDay, workingDaysBefore, type Watched } from '@half-penny/demo';

const ZONE = 'Europe/London';
const ROUNDS = countOf(8, 1);
const BINS = 10;

export interface Quality {
  /** Share of the time of stretches whose first proposal was right. */
  right: number;
  /** By how much confidence differs from what comes true, weighted by time (expected calibration error over ten bins). */
  calibration: number;
  stretches: number;
}

/**
 * Proposals on labelled weeks of the demo's generator, each learned from the two weeks before it: what was placed there is learned
 * stretch by stretch, as a person would place it, then the week is guessed at day by day, learning each day's after it is guessed.
 */
export function proposalQuality(rounds = ROUNDS): Quality {
  const bins = Array.from({ length: BINS }, () => ({ time: 0, sure: 0, right: 0 }));
  let [time, right, count] = [0, 0, 0];
  for (let round = 0; round < rounds; round++) {
    const days = workingDaysBefore(`2026-${String(3 + round).padStart(2, '0')}-20`, 15);
    const lessons: Lesson[] = [];
    days.forEach((day, turn) => {
      const likeness = new Likeness(lessons);
      const labelled = stretchesOf(watchedDay(day, turn, 408 + round), likeness);
      const learned: Lesson[] = [];
      let before: string | null = null;
      for (const { stretch, truth } of labelled) {
        const features = featuresOf(stretch, ZONE, before);
        if (turn >= 10) {
          const [guess] = likeness.guess(features);
          const hit = guess?.job === truth;
          const bin = bins[Math.min(BINS - 1, Math.floor((guess?.confidence ?? 0) * BINS))]!;
          bin.time += stretch.seen;
          bin.sure += stretch.seen * (guess?.confidence ?? 0);
          if (hit) bin.right += stretch.seen;
          time += stretch.seen;
          if (hit) right += stretch.seen;
          count++;
        }
        learned.push({ job: truth, features });
        before = truth;
      }
      lessons.push(...learned);
    });
  }
  const calibration = bins.reduce((sum, bin) => sum + Math.abs(bin.sure - bin.right), 0) / time;
  return { right: right / time, calibration, stretches: count };
}

/** A day's stretches, each with what most of its time truly was. */
function stretchesOf(watched: readonly Watched[], likeness: Likeness): { stretch: Stretch; truth: string }[] {
  const columns = new TrailArrays();
  for (const { activity } of watched) columns.add(activity);
  const days = formStretches(columns, {
    settings: captureDefaults,
    zone: ZONE,
    rules: new RuleBook([]),
    placings: [],
    isShared: (key) => likeness.isShared(key),
    surelyOf: (subject) => likeness.surelyOf(subject),
  });
  return days
    .flatMap((day) => day.stretches)
    .map((stretch) => ({ stretch, truth: truthOf(stretch, watched) }))
    .filter(({ truth }) => truth !== 'away');
}

function truthOf(stretch: Stretch, watched: readonly Watched[]): string {
  const sums = new Map<string, number>();
  for (const { activity, truth } of watched) {
    for (const span of stretch.spans) {
      const time = Math.min(span.end, activity.to) - Math.max(span.start, activity.from);
      if (time > 0 && truth !== 'away') sums.set(truth, (sums.get(truth) ?? 0) + time);
    }
  }
  return [...sums].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'away';
}

/** Prints how good proposals are. */
export function benchProposals(): void {
  const { right, calibration, stretches } = proposalQuality();
  const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
  note(`${stretches} stretches of ${ROUNDS} labelled weeks`);
  compare({
    what: 'Time whose first proposal is right',
    own: percent(right),
    peer: 'all',
    other: '100 %',
    ratio: right,
    aim: 0.95,
    atLeast: true,
  });
  compare({
    what: 'Calibration error of proposals',
    own: percent(calibration),
    peer: 'all',
    other: '100 %',
    ratio: calibration,
    aim: 0.04,
  });
}
