import type { Activity } from '@half-penny/core/capture';
import { addDays, instantAt, weekdayOf, type Day, type Instant } from '@half-penny/core/time';
import { Chance } from './chance';
import { privateMoments, sharedPages, watchedJobs, type WatchedJob } from './studio/watched';

/** An activity of the made-up week, and what it truly was: a project's name, or "private". */
export interface Watched {
  activity: Activity;
  truth: string;
}

const MINUTE = 60_000;
const SECOND = 1000;
const ZONE = 'Europe/London';
export const WATCHED_SEED = 408;

/** The given number of working days up to a day, that one not included. */
export function workingDaysBefore(day: Day, count: number): Day[] {
  const days: Day[] = [];
  for (let at = addDays(day, -1); days.length < count; at = addDays(at, -1)) if (weekdayOf(at) < 6) days.unshift(at);
  return days;
}

/**
 * A day of Imogen Vale at her computer: drawings, mails, calls, messages, pages, meetings, breaks and private moments. The same day
 * and seed give the same activities; `turn` says how many working days it is into the story, by which documents are renamed.
 */
export function watchedDay(day: Day, turn: number, seed = WATCHED_SEED): Watched[] {
  return new WatchedDay(day, turn, new Chance(seed * 7919 + Date.parse(day) / 86_400_000)).make();
}

class WatchedDay {
  readonly #list: Watched[] = [];
  #at: Instant;

  constructor(
    readonly day: Day,
    readonly turn: number,
    readonly chance: Chance,
  ) {
    this.#at = instantAt(day, chance.between(8 * 60 + 10, 8 * 60 + 50), ZONE) + chance.between(0, 59) * SECOND;
  }

  make(): Watched[] {
    const { chance } = this;
    const lunch = instantAt(this.day, chance.between(12 * 60 + 15, 12 * 60 + 55), ZONE);
    const home = instantAt(this.day, chance.between(17 * 60, 17 * 60 + 40), ZONE);
    const met = chance.weighted(watchedJobs);
    const meeting = instantAt(this.day, chance.pick([10 * 60, 14 * 60 + 30, 15 * 60]), ZONE);
    let eaten = false;
    let held = met.meetings.length === 0;
    let before: WatchedJob | null = null;
    while (this.#at < home) {
      if (!eaten && this.#at >= lunch) {
        this.#away(chance.between(32, 52));
        eaten = true;
      }
      if (!held && this.#at >= meeting - 10 * MINUTE) {
        this.#meeting(met);
        held = true;
      }
      // People go on with what they were at more often than not.
      const job: WatchedJob = before && chance.happens(0.25) ? before : chance.weighted(watchedJobs);
      before = job;
      this.#session(job, this.#at + chance.between(22, 75) * MINUTE, home);
      if (chance.happens(0.3)) this.#private();
      if (chance.happens(0.3)) this.#away(chance.between(6, 16));
    }
    return this.#list.sort((a, b) => a.activity.from - b.activity.from);
  }

  /** A while at one job: its documents mostly, with what comes in between. */
  #session(job: WatchedJob, planned: Instant, home: Instant): void {
    const { chance } = this;
    const end = Math.min(planned, home);
    let file = this.#file(job);
    this.#put(job, { kind: 'opened', from: this.#at, to: this.#at, program: programOf(file), file });
    while (this.#at < end) {
      const kind = chance.weighted([
        { what: 'document', weight: 11 },
        { what: 'mail', weight: 4 },
        { what: 'page', weight: 3 },
        { what: 'shared', weight: 1.5 },
        { what: 'message', weight: 1 },
        { what: 'call', weight: job.calls.length > 0 ? 0.6 : 0 },
        { what: 'other', weight: 0.7 },
        { what: 'glance', weight: 1 },
      ]).what;
      if (kind === 'document') {
        if (chance.happens(0.25)) file = this.#file(job);
        this.#document(job, file);
      } else if (kind === 'mail') this.#mail(job);
      else if (kind === 'page') this.#page(job, chance.pick(job.pages));
      else if (kind === 'shared') this.#page(job, chance.pick(sharedPages));
      else if (kind === 'message') this.#message(job);
      else if (kind === 'call') this.#call(job);
      else if (kind === 'other') {
        // A mail of another job comes in between.
        const other = chance.weighted(watchedJobs);
        this.#mail(other);
      } else this.#window(job, 'Wall clock', 'Wall clock', chance.between(2, 9) * SECOND, 0);
    }
  }

  /** Documents have a new name every few days, and now and then lie where anything lies. */
  #file(job: WatchedJob): string {
    const name = this.chance.pick(job.documents);
    const revision = Math.floor((this.turn + name.length) / 4);
    const [stem, ending] = [name.slice(0, name.lastIndexOf('.')), name.slice(name.lastIndexOf('.'))];
    const renamed = revision > 0 ? `${stem}-rev-${'abcdefghij'[revision % 10]}${ending}` : name;
    return this.chance.happens(0.12) ? `/home/imogen/Downloads/${renamed}` : `${job.folder}/${renamed}`;
  }

  #document(job: WatchedJob, file: string): void {
    const { chance } = this;
    const length = chance.between(90, 620) * SECOND;
    const program = programOf(file);
    const name = file.slice(file.lastIndexOf('/') + 1);
    const end = this.#at + length;
    for (let kept = this.#at + chance.between(60, 300) * SECOND; kept < end; kept += chance.between(180, 500) * SECOND)
      this.#put(job, { kind: 'kept', from: kept, to: kept, program, file });
    this.#window(job, program, `${name} - ${program}`, length, 0.4 + chance.next() * 0.5, { file });
  }

  #mail(job: WatchedJob): void {
    const { chance } = this;
    const thread = chance.pick(job.threads);
    const title = chance.happens(0.6) ? `Re: ${thread}` : thread;
    const people = [chance.pick(job.people)];
    this.#put(job, {
      kind: 'mail',
      from: this.#at,
      to: this.#at + chance.between(40, 260) * SECOND,
      program: 'Post',
      title,
      people,
    });
    this.#at = this.#list.at(-1)!.activity.to;
  }

  #page(job: WatchedJob, [address, title]: readonly [string, string]): void {
    const length = this.chance.between(25, 240) * SECOND;
    this.#window(job, 'Browser', `${title} - Browser`, length, 0.1 + this.chance.next() * 0.2, { address });
  }

  #message(job: WatchedJob): void {
    const { chance } = this;
    const end = this.#at + chance.between(30, 150) * SECOND;
    const people = [chance.pick(job.people)];
    const title = chance.happens(0.5) ? chance.pick(job.threads) : '';
    this.#put(job, { kind: 'message', from: this.#at, to: end, program: 'Messages', title, people });
    this.#at = end;
  }

  #call(job: WatchedJob): void {
    const { chance } = this;
    const end = this.#at + chance.between(3, 24) * MINUTE;
    this.#put(job, { kind: 'call', from: this.#at, to: end, program: 'Telephone', people: [chance.pick(job.calls)] });
    // Something is looked up meanwhile; the call goes on.
    if (job.pages.length > 0 && chance.happens(0.6)) {
      this.#at += 60 * SECOND;
      this.#page(job, chance.pick(job.pages));
    }
    this.#at = Math.max(this.#at, end);
  }

  #meeting(job: WatchedJob): void {
    const end = this.#at + this.chance.between(30, 60) * MINUTE;
    const title = this.chance.pick(job.meetings);
    this.#put(job, { kind: 'meeting', from: this.#at, to: end, title, people: [...job.people] });
    this.#put(job, { kind: 'away', from: this.#at + 2 * MINUTE, to: end - MINUTE });
    this.#at = end;
  }

  #private(): void {
    const { chance } = this;
    const end = this.#at + chance.between(2, 14) * MINUTE;
    while (this.#at < end)
      if (chance.happens(0.15)) this.#mail(privateMoments);
      else this.#page(privateMoments, chance.pick(privateMoments.pages));
  }

  #away(minutes: number): void {
    const end = this.#at + minutes * MINUTE;
    this.#put(null, { kind: 'away', from: this.#at, to: end });
    this.#at = end;
  }

  #window(
    job: WatchedJob,
    program: string,
    title: string,
    length: number,
    hands: number,
    more: Pick<Activity, 'file' | 'address'> = {},
  ): void {
    const from = this.#at;
    this.#at += length;
    this.#put(job, { kind: 'window', from, to: this.#at, hands: Math.round(length * hands), program, title, ...more });
  }

  #put(job: WatchedJob | null, activity: Activity): void {
    this.#list.push({ activity, truth: job?.label ?? 'away' });
  }
}

const programOf = (file: string): string =>
  file.endsWith('.lgp') ? 'Plotting desk' : file.endsWith('.md') ? 'Writing pad' : 'Tables';
