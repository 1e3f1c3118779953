import {
  activityKinds,
  activitySchema,
  FIRST_MOMENT,
  LAST_MOMENT,
  LONGEST_ACTIVITY,
  MOST_PEOPLE,
  type About,
  type Activity,
} from '../activity';
import { messageOf } from '../../faults/fault';
import { readJson } from '../../model/json';
import { InternedLines, type Text } from './interned-lines';
import { subjectOf, type Subject } from '../subject';
import type { Instant } from '../../time/interval';

/** A line of activity that cannot be taken, and why. */
export interface LineFault {
  line: number;
  message: string;
}

/**
 * Activities as columns: times beside the number of what they were about. What a thing is called stands once, however often it was
 * seen, so that a year of them fits and rules look at each thing once.
 */
export class TrailArrays {
  from = new Float64Array(1024);
  to = new Float64Array(1024);
  /** Milliseconds with hands on; −1 where nobody measured it. */
  hands = new Float64Array(1024);
  subject = new Int32Array(1024);
  length = 0;
  readonly subjects: Subject[] = [];
  /** Numbers by what things are called; put together when a thing first comes otherwise than as a line. */
  #known: Map<string, number> | null = null;
  readonly #tails = new InternedLines();
  #decode: (bytes: Uint8Array) => string = () => '';

  add(activity: Activity): void {
    this.#put(activity.from, activity.to, activity.hands ?? -1, this.#numberOf(activity));
  }

  /**
   * Takes the line that begins at `from` if, behind its times, it is one that was met lately.
   *
   * @param limit where the bytes end that there are so far
   * @returns where it ends, or −1 where it has to be looked at in full
   */
  addKnown(bytes: Uint8Array, from: number, limit: number): number {
    const text = this.#tails.textOf(bytes);
    const rest = readTimes(text, from);
    if (rest === 0) return -1;
    const end = this.#tails.endOf(text, rest, limit);
    if (end >= 0) this.#put(times[0]!, times[1]!, times[2]!, this.#tails.found);
    return end;
  }

  /**
   * Takes a line of JSON, as bytes of UTF-8. One that is written as this application writes them, times first, is known by the bytes
   * after those and not read again; any other is read whole.
   *
   * @param bytes what the line stands in, from `from` up to `end`
   * @returns why it cannot be taken, or null
   */
  addLine(bytes: Uint8Array, from: number, end: number, decode: (bytes: Uint8Array) => string): string | null {
    this.#decode = decode;
    const text = this.#tails.textOf(bytes);
    const rest = readTimes(text, from);
    let subject = rest === 0 ? -1 : this.#tails.find(text, rest, end);
    if (subject < 0) {
      let about: About | null = rest === 0 ? null : readAbout(decode(bytes.subarray(rest, end)));
      if (about === null) {
        const read = readLine(decode(bytes.subarray(from, end)));
        if (typeof read === 'string') return read;
        // Times that are told twice, or otherwise: those count that JSON takes, and the rest does not tell the thing by itself.
        if (rest === 0 || read.from !== times[0] || read.to !== times[1] || (read.hands ?? -1) !== times[2]) {
          this.add(read);
          return null;
        }
        about = read;
      }
      subject = this.#known ? this.#numberOf(about) : this.#new(about);
      this.#tails.add(subject);
    }
    this.#put(times[0]!, times[1]!, times[2]!, subject);
    return null;
  }

  #put(from: Instant, to: Instant, hands: number, subject: number): void {
    const at = this.length++;
    if (at === this.from.length) this.#grow();
    this.from[at] = from;
    this.to[at] = to;
    this.hands[at] = hands;
    this.subject[at] = subject;
  }

  #numberOf(activity: About): number {
    const known = (this.#known ??= this.#knownSoFar());
    const key = keyOf(activity);
    let number = known.get(key);
    if (number === undefined) known.set(key, (number = this.#new(activity)));
    return number;
  }

  #new(activity: About): number {
    return this.subjects.push(subjectOf(activity)) - 1;
  }

  /** What lines told of so far: behind its times, a line says just what the key does. */
  #knownSoFar(): Map<string, number> {
    const known = new Map<string, number>();
    this.#tails.each((bytes, number) => known.set(this.#decode(bytes).slice(0, -1), number));
    return known;
  }

  #grow(): void {
    const longer = (column: Float64Array<ArrayBuffer>) => {
      const next = new Float64Array(column.length * 2);
      next.set(column);
      return next;
    };
    this.from = longer(this.from);
    this.to = longer(this.to);
    this.hands = longer(this.hands);
    const subject = new Int32Array(this.subject.length * 2);
    subject.set(this.subject);
    this.subject = subject;
  }
}

/** A line as this application writes it: the times first, so that what it is about can be known by the rest. */
export function writeLine(activity: Activity): string {
  const { from, to, hands, ...rest } = activity;
  return JSON.stringify({ from, to, ...(hands === undefined ? {} : { hands }), ...ordered(rest) });
}

const ordered = ({ kind, program, title, address, file, people }: About) => ({
  kind,
  ...(program ? { program } : {}),
  ...(title ? { title } : {}),
  ...(address ? { address } : {}),
  ...(file ? { file } : {}),
  ...(people && people.length > 0 ? { people } : {}),
});

/** What it was about, as {@link writeLine} writes it; put together by hand, as making an object of it first takes longer than all else. */
function keyOf({ kind, program, title, address, file, people }: About): string {
  let key = `"kind":"${kind}"`;
  if (program) key += `,"program":${JSON.stringify(program)}`;
  if (title) key += `,"title":${JSON.stringify(title)}`;
  if (address) key += `,"address":${JSON.stringify(address)}`;
  if (file) key += `,"file":${JSON.stringify(file)}`;
  if (people && people.length > 0) key += `,"people":${JSON.stringify(people)}`;
  return key;
}

/** From, to and hands of the line that was looked at last: in a column, as other numbers this large would each be made again. */
const times = new Float64Array(3);

// What stands before the times, as words of eight, four and two bytes.
const wordsOf = (text: string): DataView => new DataView(Uint8Array.from(text, (char) => char.charCodeAt(0)).buffer);
const FROM = wordsOf('{"from":').getFloat64(0, true);
const TO = wordsOf(',"to').getInt32(0, true);
const TO_END = wordsOf('":').getInt16(0, true);
const HANDS = wordsOf(',"hands"').getFloat64(0, true);
const COLON = 58;
const COMMA = 44;
/** More than the times of a line ever take. */
const LONGEST_TIMES = 80;

/** Reads `{"from":1,"to":2,"hands":3,` into `times` and tells where the rest begins; 0 where the line is written otherwise, or at the very end. */
function readTimes({ bytes, words }: Text, start: number): number {
  if (bytes.length - start < LONGEST_TIMES || words.getFloat64(start, true) !== FROM) return 0;
  let at = readNumber(bytes, start + 8, 0);
  if (at === 0 || words.getInt32(at, true) !== TO || words.getInt16(at + 4, true) !== TO_END) return 0;
  at = readNumber(bytes, at + 6, 1);
  if (at === 0) return 0;
  if (words.getFloat64(at, true) === HANDS && bytes[at + 8] === COLON) {
    at = readNumber(bytes, at + 9, 2);
    if (at === 0) return 0;
  } else times[2] = -1;
  if (bytes[at] !== COMMA) return 0;
  const from = times[0]!;
  const to = times[1]!;
  return from >= FIRST_MOMENT && to <= LAST_MOMENT && to >= from && to - from <= LONGEST_ACTIVITY ? at + 1 : 0;
}

/** Reads digits into a place of `times`; where they end, or 0 where there are none or too many. */
function readNumber(bytes: Uint8Array, from: number, place: number): number {
  // The first nine fit in a small whole number, which is quicker to compute with.
  let at = from;
  let high = 0;
  let low = 0;
  let scale = 1;
  for (; at < from + 15; at++) {
    const digit = bytes[at]! - 48;
    if (!(digit >= 0 && digit <= 9)) break;
    if (at < from + 9) high = (high * 10 + digit) | 0;
    else {
      low = (low * 10 + digit) | 0;
      scale = (scale * 10) | 0;
    }
  }
  times[place] = high * scale + low;
  return at > from && at < from + 15 ? at : 0;
}

/** An activity out of a line of JSON, or why it is none. Times may be written as ISO 8601 with a zone. */
export function readLine(line: string): Activity | string {
  let json: unknown;
  try {
    json = readJson(line, 'This line');
  } catch (thrown) {
    return messageOf(thrown);
  }
  if (isPlain(json)) return json;
  const parsed = activitySchema.safeParse(withInstants(json));
  if (parsed.success) return parsed.data as Activity;
  const [issue] = parsed.error.issues;
  const kinds = issue!.path[0] === 'kind' ? ` Kinds are ${activityKinds.join(', ')}.` : '';
  return `${issue!.path.join('.') || 'activity'}: ${issue!.message}${kinds}`;
}

/** What a line that is written as this application writes it says behind its times; null where it takes a closer look. */
function readAbout(rest: string): About | null {
  try {
    const json: unknown = JSON.parse(`{${rest}`);
    return isAbout(json, ABOUT) ? json : null;
  } catch {
    return null;
  }
}

const KNOWN: ReadonlySet<string> = new Set(Object.keys(activitySchema.shape));
const TIMES = ['from', 'to', 'hands'];
const ABOUT: ReadonlySet<string> = new Set([...KNOWN].filter((key) => !TIMES.includes(key)));
const KINDS = new Set<unknown>(activityKinds);
/** Texts longer than this are left to the schema, which says what is wrong with them. */
const SHORT = 1000;

const isMoment = (each: unknown): boolean =>
  Number.isInteger(each) && (each as number) >= FIRST_MOMENT && (each as number) <= LAST_MOMENT;
const isSaid = (each: unknown): boolean => each === undefined || (typeof each === 'string' && each.length <= SHORT);

/** What the schema would take as it stands, told quickly; anything doubtful is left to the schema itself. */
function isPlain(json: unknown): json is Activity {
  if (!isAbout(json, KNOWN)) return false;
  const { from, to, hands } = json as Record<string, unknown>;
  return (
    isMoment(from) &&
    isMoment(to) &&
    (to as number) >= (from as number) &&
    (to as number) - (from as number) <= LONGEST_ACTIVITY &&
    (hands === undefined || (Number.isSafeInteger(hands) && (hands as number) >= 0))
  );
}

function isAbout(json: unknown, known: ReadonlySet<string>): json is About {
  if (json === null || typeof json !== 'object') return false;
  for (const key in json) if (!known.has(key)) return false;
  const { kind, program, title, address, file, people } = json as Record<string, unknown>;
  return (
    KINDS.has(kind) &&
    isSaid(program) &&
    isSaid(title) &&
    isSaid(address) &&
    isSaid(file) &&
    (people === undefined ||
      (Array.isArray(people) &&
        people.length <= MOST_PEOPLE &&
        people.every((each) => typeof each === 'string' && each.length <= SHORT)))
  );
}

function withInstants(json: unknown): unknown {
  if (json === null || typeof json !== 'object') return json;
  const row = json as Record<string, unknown>;
  const instant = (value: unknown) =>
    typeof value === 'string' && /T.*(?:Z|[+-]\d\d:?\d\d)$/.test(value) ? Date.parse(value) : value;
  return { ...row, from: instant(row.from), to: instant(row.to ?? row.from) };
}
