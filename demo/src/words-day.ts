import type { Activity } from '@half-penny/core/capture';
import { instantAt, type Day, type Instant } from '@half-penny/core/time';
import { Chance } from './chance';
import { ownTime, wordBooks, wordsJobs, type WordsJob } from './studio/words';
import type { Watched } from './watched';

const MINUTE = 60_000;
const SECOND = 1000;
const ZONE = 'Europe/London';

/**
 * A day of Asha Quill writing for the studio's clients, at a desk unlike that of lighting design: spells of one text, from which words
 * are looked up every other minute in places that serve all jobs, chats and mails, now and then for another job. The same day and seed
 * give the same activities.
 *
 * @param turn how many working days it is into the story, by which texts get new names
 */
export function wordsDay(day: Day, turn: number, seed: number): Watched[] {
  return new WordsDay(day, turn, new Chance(seed * 6151 + Date.parse(day) / 86_400_000)).make();
}

/** The same as a system tells it that knows programs and titles alone. */
export const titlesAlone = (watched: readonly Watched[]): Watched[] =>
  watched
    .filter(({ activity }) => activity.kind !== 'kept' && activity.kind !== 'opened')
    .map(({ activity: { file: _file, address: _address, ...activity }, truth }) => ({ activity, truth }));

class WordsDay {
  readonly #list: Watched[] = [];
  #at: Instant;

  constructor(
    readonly day: Day,
    readonly turn: number,
    readonly chance: Chance,
  ) {
    this.#at = instantAt(day, chance.between(8 * 60 + 40, 9 * 60 + 30), ZONE) + chance.between(0, 59) * SECOND;
  }

  make(): Watched[] {
    const { chance } = this;
    const noon = instantAt(this.day, chance.between(12 * 60, 13 * 60), ZONE);
    const home = instantAt(this.day, chance.between(16 * 60 + 30, 18 * 60), ZONE);
    let eaten = false;
    let job = chance.weighted(wordsJobs);
    while (this.#at < home) {
      this.#spell(job, Math.min(home, this.#at + chance.between(25, 95) * MINUTE));
      if (!eaten && this.#at >= noon) {
        this.#away(chance.between(30, 60));
        eaten = true;
      } else if (chance.happens(0.4)) this.#away(chance.between(7, 20));
      if (chance.happens(0.25)) this.#ownTime();
      job = chance.happens(0.2) ? job : chance.weighted(wordsJobs);
    }
    return this.#list.sort((a, b) => a.activity.from - b.activity.from);
  }

  #spell(job: WordsJob, end: Instant): void {
    const { chance } = this;
    // Every third text is a new one, with a name that could be any job's.
    const text = chance.happens(0.35)
      ? `${chance.pick(PLAIN_TEXTS)} ${this.turn + chance.between(1, 40)}`
      : chance.pick(job.texts);
    while (this.#at < end) {
      this.#write(job, chance.happens(0.85) ? text : chance.pick(job.texts));
      const looks = chance.between(0, 3);
      for (let look = 0; look < looks; look++) this.#lookUp(job);
      if (chance.happens(0.12)) this.#mail(job);
      if (chance.happens(0.08)) this.#chat(job);
      if (chance.happens(0.04) && job.calls.length > 0) this.#call(job);
      // Somebody else writes in the middle of it.
      if (chance.happens(0.06)) this.#mail(chance.weighted(wordsJobs));
      if (chance.happens(0.03)) this.#page(ownTime, ...chance.pick(ownTime.pages));
    }
  }

  #write(job: WordsJob, text: string): void {
    const { chance } = this;
    const revision = Math.floor((this.turn + text.length) / 5);
    const name = revision > 0 && text.length % 2 === 0 ? `${text} v${revision}` : text;
    const length = chance.between(40, 540) * SECOND;
    const isTable = text.includes('labels') || text.includes('list');
    const program = isTable ? 'Tables' : 'Writing pad';
    const file = `${job.folder || '/home/asha/Documents'}/${name}.${isTable ? 'xlsx' : 'txt'}`;
    const saved = this.#at + chance.between(20, 400) * SECOND;
    if (saved < this.#at + length) this.#put(job, { kind: 'kept', from: saved, to: saved, program, file });
    this.#window(job, program, `${name} – ${program}`, length, { file });
  }

  #lookUp(job: WordsJob): void {
    const { chance } = this;
    const length = chance.between(8, 95) * SECOND;
    if (job.pages.length > 0 && chance.happens(0.15)) return this.#page(job, ...chance.pick(job.pages));
    // Pages that are found by a search are of any site.
    if (chance.happens(0.2)) {
      const page = `${chance.pick(PLAIN_WORDS)} ${chance.pick(PLAIN_WORDS)}`;
      const site = `https://pages-${chance.between(1, 400)}.example/`;
      return this.#window(job, 'Browser', `${page} - Browser`, length, {
        address: `${site}${page.replaceAll(' ', '-')}`,
      });
    }
    const [address, name] = chance.pick(wordBooks);
    const word = job.sought.length > 0 && chance.happens(0.5) ? chance.pick(job.sought) : chance.pick(PLAIN_WORDS);
    this.#window(job, 'Browser', `${word} - ${name} - Browser`, length, {
      address: `${address}${encodeURIComponent(word)}`,
    });
  }

  #page(job: WordsJob, address: string, title: string): void {
    this.#window(job, 'Browser', `${title} - Browser`, this.chance.between(20, 200) * SECOND, { address });
  }

  #mail(job: WordsJob): void {
    const { chance } = this;
    const subject = chance.pick(job.subjects);
    const people = [chance.pick(job.people)];
    this.#talk(job, 'mail', 'Post', chance.happens(0.7) ? `Re: ${subject}` : subject, people, chance.between(15, 210));
  }

  #chat(job: WordsJob): void {
    this.#talk(job, 'message', 'Messages', '', [this.chance.pick(job.people)], this.chance.between(10, 100));
  }

  #call(job: WordsJob): void {
    this.#talk(job, 'call', 'Telephone', '', [this.chance.pick(job.calls)], this.chance.between(2, 15) * 60);
  }

  #talk(
    job: WordsJob,
    kind: Activity['kind'],
    program: string,
    title: string,
    people: string[],
    seconds: number,
  ): void {
    const from = this.#at;
    this.#at += seconds * SECOND;
    this.#put(job, { kind, from, to: this.#at, program, ...(title && { title }), people });
  }

  #ownTime(): void {
    const end = this.#at + this.chance.between(3, 15) * MINUTE;
    while (this.#at < end) this.#page(ownTime, ...this.chance.pick(ownTime.pages));
  }

  #away(minutes: number): void {
    const from = this.#at;
    this.#at += minutes * MINUTE;
    this.#list.push({ activity: { kind: 'away', from, to: this.#at }, truth: 'away' });
  }

  #window(
    job: WordsJob,
    program: string,
    title: string,
    length: number,
    more: Pick<Activity, 'file' | 'address'>,
  ): void {
    const from = this.#at;
    this.#at += length;
    this.#put(job, { kind: 'window', from, to: this.#at, hands: Math.round(length / 2), program, title, ...more });
  }

  #put(job: WordsJob, activity: Activity): void {
    this.#list.push({ activity, truth: job.label });
  }
}

const PLAIN_TEXTS = ['Notes', 'Second reading', 'Corrections', 'Part', 'New draft', 'Questions', 'Untitled'];

/** Looked up for anything. */
const PLAIN_WORDS = [
  'however',
  'whereas',
  'bright',
  'to gather',
  'several',
  'meanwhile',
  'affect',
  'dawn',
  'because of',
];
