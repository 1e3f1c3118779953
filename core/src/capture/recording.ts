import * as z from 'zod';
import type { Instant } from '../time/interval';
import type { Activity } from './activity';
import { placingRuleSchema, RuleBook, type PlacingRule, type RuleTime } from './rules';
import { addressParts, beginnings, type CaptureSettings } from './settings';
import { subjectOf, type Subject } from './subject';

/**
 * What a device may record, as the person set it in the browser. Devices are told it and keep to it before anything is written, so that
 * what is left out never touches a disk; the browser keeps to it once more.
 */
export const recordingSchema = z.strictObject({
  paused: z.boolean(),
  /** What was noticed before this moment was wiped: what of it still waits anywhere is thrown away. */
  wipedAt: z.int().min(0),
  neverPrograms: beginnings,
  neverSites: beginnings,
  neverFolders: beginnings,
  neverWords: beginnings,
  ownAddresses: beginnings,
  /** How much of an address is kept. */
  addressTo: z.enum(addressParts),
  /** Rules that say "never record it". */
  rules: z.array(placingRuleSchema).max(5000),
});
export type RecordingSettings = z.output<typeof recordingSchema>;

/** What devices are told of a person's settings and rules. */
export function recordingOf(
  settings: CaptureSettings,
  wipedAt: Instant,
  rules: readonly PlacingRule[],
): RecordingSettings {
  const { paused, neverPrograms, neverSites, neverFolders, neverWords, ownAddresses, addressTo } = settings;
  const never = rules.filter((each) => each.then.act === 'never record');
  return {
    paused,
    wipedAt,
    neverPrograms,
    neverSites,
    neverFolders,
    neverWords,
    ownAddresses,
    addressTo,
    rules: never,
  };
}

/** Decides what of what is noticed may be recorded. */
export class Recording {
  readonly #settings: RecordingSettings;
  readonly #rules: RuleBook;
  readonly #words: string[];
  readonly #own: ReadonlySet<string>;
  readonly #timeOf: (at: Instant) => RuleTime;

  constructor(settings: RecordingSettings, timeOf: (at: Instant) => RuleTime = hereAndThen) {
    this.#settings = settings;
    this.#rules = new RuleBook(settings.rules);
    this.#words = settings.neverWords.map(plain).filter(Boolean);
    this.#own = new Set(settings.ownAddresses.map(plain));
    this.#timeOf = timeOf;
  }

  /** @returns the activity as it may be recorded, its address cut and the person's own left out of its people; null where nothing of it may be */
  of<T extends Activity>(activity: T): T | null {
    const { paused, wipedAt } = this.#settings;
    if (paused || activity.from < wipedAt) return null;
    return this.whateverTime(activity);
  }

  /** The same for what comes from a file that the person chose: neither a pause nor a wiping before it keeps it out. */
  whateverTime<T extends Activity>(activity: T): T | null {
    const subject = subjectOf(activity);
    if (this.#isNever(subject)) return null;
    if (this.#rules.decide(subject, this.#rules.caught(subject), () => this.#timeOf(activity.from))[0]) return null;
    return this.#withoutOwn(this.#cut(activity));
  }

  #isNever(subject: Subject): boolean {
    const { neverPrograms, neverSites, neverFolders } = this.#settings;
    if (subject.kind === 'window' && PRIVATE_WINDOW.test(subject.title)) return true;
    if (subject.program && begins(subject.program, neverPrograms)) return true;
    if (subject.site && neverSites.some((site) => isAt(subject.site, site))) return true;
    if (subject.file && begins(subject.file, neverFolders)) return true;
    if (this.#words.length === 0) return false;
    const said = plain([subject.title, subject.address, subject.file, subject.program, ...subject.people].join('\n'));
    return this.#words.some((word) => said.includes(word));
  }

  #withoutOwn<T extends Activity>(activity: T): T {
    const { people } = activity;
    if (!people?.some((each) => this.#own.has(plain(each)))) return activity;
    return { ...activity, people: people.filter((each) => !this.#own.has(plain(each))) };
  }

  #cut<T extends Activity>(activity: T): T {
    const { addressTo } = this.#settings;
    let cut = activity;
    if (activity.address) cut = { ...cut, address: cutAddress(activity.address, addressTo) };
    // A page that has not come yet is called by its address.
    if (activity.title && addressTo !== 'whole' && activity.title.includes('/'))
      cut = { ...cut, title: activity.title.replace(ADDRESS_IN_TITLE, '$1') };
    return cut;
  }
}

/** A moment as rules see it, by the clock of the machine that asks. */
function hereAndThen(at: Instant): RuleTime {
  const time = new Date(at);
  return { at, minute: time.getHours() * 60 + time.getMinutes(), weekday: ((time.getDay() + 6) % 7) + 1 };
}

/** An address with a site and a path, and what follows ? or # in it, which is cut. */
const ADDRESS_IN_TITLE = /((?:[a-z][a-z0-9+.-]*:\/\/)?[\w-]+(?:\.[\w-]+)+(?::\d+)?\/[^\s?#]*)[?#]\S*/gi;

/** Browsers end the titles of private windows so (from memory, in English): the agent sees no more of them than this. */
const PRIVATE_WINDOW = /(?:\(Incognito\)|\[InPrivate\]|\(?Private Browsing\)?)$/i;

const plain = (text: string): string => text.normalize('NFKC').toLowerCase().trim();

const begins = (text: string, list: readonly string[]): boolean =>
  list.some((each) => text.toLowerCase().startsWith(each.toLowerCase()));

/** A site is meant with all that belongs to it: "news.example" with "www.news.example". */
export function isAt(site: string, never: string): boolean {
  const wanted = never
    .toLowerCase()
    .replace(/^https?:\/\//, '')
    .replace(/^www\./, '')
    .replace(/\/.*$/, '');
  return site === wanted || site.endsWith(`.${wanted}`);
}

/** An address without its question and mark, or its site alone; a name and password before the site never stay. */
export function cutAddress(address: string, to: RecordingSettings['addressTo']): string {
  const parts = /^([a-z][a-z0-9+.-]*:\/\/)(?:[^/?#@]*@)?([^/?#]*)([^?#]*)(.*)$/i.exec(address);
  if (!parts) return to === 'whole' ? address : address.replace(/[?#].*$/s, '');
  const [, scheme = '', host = '', path = '', rest = ''] = parts;
  if (to === 'whole') return scheme + host + path + rest;
  return to === 'path' ? scheme + host + path : `${scheme}${host}/`;
}
