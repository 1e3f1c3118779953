import { featuresOfSubject, markOf, weightOf, type Feature } from './features';
import { jobKeyOf, placeOn, projectKeyOf } from './job-key';
import { Leads, projectOfMark } from './leads';
import type { Subject } from './subject';

/** A job in a workspace, as likeness knows it: the same text for the same job. */
export type JobKey = string;

/** What was placed by hand, in the order in which that was said. */
export interface Lesson {
  job: JobKey;
  features: readonly Feature[];
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
const WEIGHT: Readonly<Record<string, number>> = { program: 0.4, hour: 0.3, word: 0.8 };
/** How much it speaks for a job that what is right before or after is of it. */
const AROUND = 2;
/** How much it speaks for a project's jobs that something is known to be the project's. */
const NAMED = 6;
/** How sharply scores become confidences; the one under which past guesses would have been least surprised is taken. */
const SHARPNESS = [0.1, 0.15, 0.2, 0.3, 0.4, 0.55, 0.75, 1, 1.4];
/** So many of the latest guesses are looked back at. */
const LOOK_BACK = 1500;
/** Of guesses longer ago than so many less and less counts: much was not known yet. */
const MEMORY = 40;
/** A key is one job's own from this share of what was placed with it. */
const OWN = 0.8;

/**
 * Likeness to what was placed before: for each job, how much more often each feature of a stretch was seen with it than at all
 * (naive Bayes). Its confidence is measured, not assumed: every lesson was first guessed at from those before it, and the scores are
 * sharpened or dulled until the guesses of the past would have been as sure as they were right.
 */
export class Likeness {
  readonly #jobs = new Map<JobKey, Placed>();
  /** By mark how often it was placed, and how often on the job that it was placed on the most, by weight. */
  readonly #features = new Map<string, { lessons: number; most: number }>();
  /** By project how often it was named in what was placed, and how often it was that project. */
  readonly #told = new Map<JobKey, { times: number; right: number }>();
  #lessons = 0;
  #sharpness = 0.3;
  /** How often the job of a lesson had not been seen before, lately. */
  #fresh = 0.5;

  /** What the workspace knows of where things belong. */
  readonly leads: Leads;

  constructor(lessons: readonly Lesson[] = [], leads = new Leads()) {
    this.leads = leads;
    const trials: { scores: number[]; right: number }[] = [];
    const from = Math.max(0, lessons.length - LOOK_BACK);
    lessons.forEach((lesson, index) => {
      if (index >= from && this.#lessons > 0) {
        const scored = this.#scores(lesson.features);
        const right = scored.findIndex((each) => each.job === lesson.job);
        this.#fresh += ((right < 0 ? 1 : 0) - this.#fresh) / Math.min(index + 2, MEMORY);
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
    if (!known) this.#jobs.set(job, (known = neverPlaced(projectKeyOf(job))));
    known.lessons++;
    for (const feature of features) {
      const [mark, weight] = [markOf(feature), weightOf(feature)];
      if (this.leads.isQuiet(mark)) continue;
      const named = jobOfMark(mark);
      if (named !== null) {
        const told = this.#told.get(named) ?? { times: 0, right: 0 };
        this.#told.set(named, told);
        told.times += weight;
        if (named === known.project) told.right += weight;
        continue;
      }
      const own = (known.features.get(mark) ?? 0) + weight;
      known.features.set(mark, own);
      const all = this.#features.get(mark);
      if (!all) this.#features.set(mark, { lessons: weight, most: weight });
      else {
        all.lessons += weight;
        all.most = Math.max(all.most, own);
      }
    }
  }

  /** Whether a feature was ever placed. */
  isKnown(feature: string): boolean {
    return this.#features.has(feature);
  }

  /** Whether things of several jobs have a key in common, so that it tells nothing of where they belong. */
  isShared(key: string): boolean {
    if (this.leads.isQuiet(key)) return true;
    const known = this.#features.get(key);
    return known !== undefined && known.most < known.lessons * OWN;
  }

  /** The likeliest jobs of a stretch, the first one first. */
  guess(features: readonly Feature[], most = 3): Guess[] {
    const scored = this.#scores(features).sort((a, b) => b.score - a.score);
    if (scored.length === 0) return [];
    const top = scored[0]!.score;
    const weights = scored.map((each) => Math.exp((each.score - top) * this.#sharpness));
    // A job that was never placed on is possible, too: the more often that was so, the less sure any guess.
    const known = 1 - this.#fresh;
    const sum = weights.reduce((total, each) => total + each, 0);
    return scored.slice(0, most).map(({ job }, index) => ({
      job,
      confidence: (weights[index]! / sum) * known,
      reasons: this.#reasons(job, features),
    }));
  }

  /** The job that a single thing is of, where that is as good as certain. */
  surelyOf(subject: Subject, least = 0.8): JobKey | null {
    const [guess] = this.guess(featuresOfSubject(subject, this.leads), 1);
    return guess && guess.confidence >= least && guess.reasons.length > 0 ? guess.job : null;
  }

  #scores(features: readonly Feature[]): { job: JobKey; score: number }[] {
    const known = this.#known(features);
    const named = namedIn(features);
    return this.#candidates(named).map(([job, own]) => {
      let score = Math.log((own.lessons + 1) / (this.#lessons + Math.max(1, this.#jobs.size)));
      for (const feature of features) if (isAround(feature, job)) score += weightOf(feature) * AROUND;
      score += (named.get(own.project) ?? 0) * this.#worth(own.project);
      for (const { mark, weight, everywhere } of known) score += weight * this.#lift(mark, everywhere, own);
      return { job, score };
    });
  }

  /** How much it speaks for a project that it is named: the less the more often it was another one after all. */
  #worth(project: JobKey): number {
    const told = this.#told.get(project);
    return told ? (NAMED * (told.right + 1)) / (told.times + 1) : NAMED;
  }

  /** The jobs that were placed on, and those that are named and never were. */
  #candidates(named: ReadonlyMap<JobKey, number>): [JobKey, Placed][] {
    const all = [...this.#jobs];
    if (named.size === 0) return all;
    const placed = new Set(all.map(([, { project }]) => project));
    for (const project of named.keys()) if (!placed.has(project)) all.push([project, neverPlaced(project)]);
    return all;
  }

  /** Of the features those that were ever placed, with how often that was. */
  #known(features: readonly Feature[]): { mark: string; weight: number; everywhere: number }[] {
    return features.flatMap((feature) => {
      if (isAround(feature) || projectOfMark(markOf(feature))) return [];
      const all = this.#features.get(markOf(feature));
      return all ? [{ mark: markOf(feature), weight: weightOf(feature), everywhere: all.lessons }] : [];
    });
  }

  /** By how much a feature speaks for a job: the logarithm of how much likelier it is there than anywhere. */
  #lift(feature: string, everywhere: number, own: Placed): number {
    const usual = everywhere / this.#lessons;
    const here = ((own.features.get(feature) ?? 0) + SMOOTH * usual) / (own.lessons + SMOOTH);
    return (WEIGHT[feature.slice(0, feature.indexOf(' '))] ?? 1) * Math.log(here / usual);
  }

  #reasons(job: JobKey, features: readonly Feature[]): string[] {
    const own = this.#jobs.get(job) ?? neverPlaced(projectKeyOf(job));
    const named = features.map(markOf).filter((mark) => jobOfMark(mark) === own.project);
    const alike = this.#known(features)
      .filter(({ mark }) => own.features.has(mark))
      .map(({ mark, weight, everywhere }) => ({ mark, lift: weight * this.#lift(mark, everywhere, own) }))
      .filter(({ lift }) => lift > 0.05)
      .sort((a, b) => b.lift - a.lift)
      .map(({ mark }) => mark);
    return [...named, ...alike].slice(0, 2);
  }
}

/** What was placed on a job, by weight, and the project's job that it is part of. */
interface Placed {
  lessons: number;
  features: Map<string, number>;
  project: JobKey;
}

const neverPlaced = (project: JobKey): Placed => ({ lessons: 0, features: new Map(), project });

/** The job of the project that a mark names; null where it names none. */
function jobOfMark(mark: string): JobKey | null {
  const project = projectOfMark(mark);
  return project && jobKeyOf(placeOn({ ...project, taskId: null }));
}

/** By project, as a job, how much of the time it is named in. */
function namedIn(features: readonly Feature[]): Map<JobKey, number> {
  const named = new Map<JobKey, number>();
  for (const feature of features) {
    const job = jobOfMark(markOf(feature));
    if (job !== null) named.set(job, weightOf(feature));
  }
  return named;
}

/** Whether a feature tells of the job before or after: of any, or of this one. */
function isAround(feature: Feature, job?: JobKey): boolean {
  const mark = markOf(feature);
  const kind = mark.startsWith('before ') ? 7 : mark.startsWith('after ') ? 6 : 0;
  return kind > 0 && (job === undefined || mark.slice(kind) === job);
}

/** The sharpness under which what came true had been given the most. */
function leastSurprised(trials: readonly { scores: number[]; right: number }[]): number {
  let best = { sharpness: SHARPNESS[0]!, surprise: Infinity };
  for (const sharpness of SHARPNESS) {
    let surprise = 0;
    for (const [at, { scores, right }] of trials.entries()) {
      if (right < 0) continue;
      const weight = 0.5 ** ((trials.length - at) / MEMORY);
      const top = Math.max(...scores);
      const sum = scores.reduce((total, score) => total + Math.exp((score - top) * sharpness), 0);
      surprise -= weight * Math.log(Math.exp((scores[right]! - top) * sharpness) / sum + 1e-9);
    }
    if (surprise < best.surprise) best = { sharpness, surprise };
  }
  return best.sharpness;
}
