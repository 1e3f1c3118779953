import { featuresOfSubject } from './features';
import type { Subject } from './subject';

/** A job in a workspace, as likeness knows it: the same text for the same job. */
export type JobKey = string;

/** What was placed by hand, in the order in which that was said. */
export interface Lesson {
  job: JobKey;
  features: readonly string[];
}

export interface Guess {
  job: JobKey;
  /** How often such guesses come true, from 0 to 1. */
  confidence: number;
  /** The features that speak for it the most, the strongest first; at most two. */
  reasons: string[];
}

/** How much a feature that was never seen with a job counts against it. */
const SMOOTH = 0.7;
/** Kinds of feature that are shared by nearly everything count less. */
const WEIGHT: Readonly<Record<string, number>> = { program: 0.4, hour: 0.3, before: 0.5, word: 0.8 };
/** How sharply scores become confidences; the one under which past guesses would have been least surprised is taken. */
const SHARPNESS = [0.1, 0.15, 0.2, 0.3, 0.4, 0.55, 0.75, 1, 1.4];
/** So many of the latest guesses are looked back at. */
const LOOK_BACK = 1500;

/**
 * Likeness to what was placed before: for each job, how much more often each feature of a stretch was seen with it than at all
 * (naive Bayes). Its confidence is measured, not assumed: every lesson was first guessed at from those before it, and the scores are
 * sharpened or dulled until the guesses of the past would have been as sure as they were right.
 */
export class Likeness {
  readonly #jobs = new Map<JobKey, { lessons: number; features: Map<string, number> }>();
  readonly #features = new Map<string, { lessons: number; jobs: number }>();
  #lessons = 0;
  #sharpness = 0.3;
  /** What past guesses were unsure of: a job that had not been seen before. */
  #fresh = 1;

  constructor(lessons: readonly Lesson[] = []) {
    const trials: { scores: number[]; right: number }[] = [];
    const from = Math.max(0, lessons.length - LOOK_BACK);
    lessons.forEach((lesson, index) => {
      if (index >= from && this.#lessons > 0) {
        const scored = this.#scores(lesson.features);
        const right = scored.findIndex((each) => each.job === lesson.job);
        if (right < 0) this.#fresh++;
        trials.push({ scores: scored.map((each) => each.score), right });
      }
      this.#learn(lesson);
    });
    if (trials.length >= 12) this.#sharpness = leastSurprised(trials);
  }

  get lessons(): number {
    return this.#lessons;
  }

  #learn({ job, features }: Lesson): void {
    this.#lessons++;
    let known = this.#jobs.get(job);
    if (!known) this.#jobs.set(job, (known = { lessons: 0, features: new Map() }));
    known.lessons++;
    for (const feature of features) {
      const before = known.features.get(feature) ?? 0;
      known.features.set(feature, before + 1);
      const all = this.#features.get(feature);
      if (!all) this.#features.set(feature, { lessons: 1, jobs: 1 });
      else {
        all.lessons++;
        if (before === 0) all.jobs++;
      }
    }
  }

  /** Whether a feature was ever placed. */
  isKnown(feature: string): boolean {
    return this.#features.has(feature);
  }

  /** Whether things of several jobs have a key in common, so that it tells nothing of where they belong. */
  isShared(key: string): boolean {
    const known = this.#features.get(key);
    return known !== undefined && known.jobs > 1;
  }

  /** The likeliest jobs of a stretch, the first one first. */
  guess(features: readonly string[], most = 3): Guess[] {
    if (this.#lessons === 0) return [];
    const scored = this.#scores(features).sort((a, b) => b.score - a.score);
    const top = scored[0]!.score;
    const weights = scored.map((each) => Math.exp((each.score - top) * this.#sharpness));
    // A job that was never placed on is possible, too: the more often that was so, the less sure any guess.
    const known = 1 - this.#fresh / (this.#lessons + this.#fresh + 1);
    const sum = weights.reduce((total, each) => total + each, 0);
    return scored.slice(0, most).map(({ job }, index) => ({
      job,
      confidence: (weights[index]! / sum) * known,
      reasons: this.#reasons(job, features),
    }));
  }

  /** The job that a single thing is of, where that is as good as certain. */
  surelyOf(subject: Subject, least = 0.8): JobKey | null {
    const [guess] = this.guess(featuresOfSubject(subject), 1);
    return guess && guess.confidence >= least && guess.reasons.length > 0 ? guess.job : null;
  }

  #scores(features: readonly string[]): { job: JobKey; score: number }[] {
    const known = features
      .map((feature) => ({ feature, all: this.#features.get(feature) }))
      .filter((each) => each.all !== undefined);
    return [...this.#jobs].map(([job, own]) => {
      let score = Math.log((own.lessons + 1) / (this.#lessons + this.#jobs.size));
      for (const { feature, all } of known) score += this.#lift(feature, all!.lessons, own);
      return { job, score };
    });
  }

  /** By how much a feature speaks for a job: the logarithm of how much likelier it is there than anywhere. */
  #lift(feature: string, everywhere: number, own: { lessons: number; features: Map<string, number> }): number {
    const usual = everywhere / this.#lessons;
    const here = ((own.features.get(feature) ?? 0) + SMOOTH * usual) / (own.lessons + SMOOTH);
    return (WEIGHT[feature.slice(0, feature.indexOf(' '))] ?? 1) * Math.log(here / usual);
  }

  #reasons(job: JobKey, features: readonly string[]): string[] {
    const own = this.#jobs.get(job)!;
    return features
      .map((feature) => ({ feature, all: this.#features.get(feature) }))
      .filter(({ feature, all }) => all !== undefined && own.features.has(feature))
      .map(({ feature, all }) => ({ feature, lift: this.#lift(feature, all!.lessons, own) }))
      .filter(({ lift }) => lift > 0.05)
      .sort((a, b) => b.lift - a.lift)
      .slice(0, 2)
      .map(({ feature }) => feature);
  }
}

/** The sharpness under which what came true had been given the most. */
function leastSurprised(trials: readonly { scores: number[]; right: number }[]): number {
  let best = { sharpness: SHARPNESS[0]!, surprise: Infinity };
  for (const sharpness of SHARPNESS) {
    let surprise = 0;
    for (const { scores, right } of trials) {
      if (right < 0) continue;
      const top = Math.max(...scores);
      const sum = scores.reduce((total, score) => total + Math.exp((score - top) * sharpness), 0);
      surprise -= Math.log(Math.exp((scores[right]! - top) * sharpness) / sum + 1e-9);
    }
    if (surprise < best.surprise) best = { sharpness, surprise };
  }
  return best.sharpness;
}
