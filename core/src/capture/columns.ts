import {
  activityKinds,
  activitySchema,
  FIRST_MOMENT,
  LAST_MOMENT,
  LONGEST_ACTIVITY,
  MOST_PEOPLE,
  type Activity,
} from './activity';
import { KnownBytes } from './known-bytes';
import { subjectOf, type Subject } from './subject';
import type { Instant } from '../time/interval';

/** A line of activity that cannot be taken, and why. */
export interface LineFault {
  line: number;
  message: string;
}

/**
 * Activities as columns: times beside the number of what they were about. What a thing is called stands once, however often it was
 * seen, so that a year of them fits and rules look at each thing once.
 */
export class TrailColumns {
  from = new Float64Array(1024);
  to = new Float64Array(1024);
  /** Milliseconds with hands on; −1 where nobody measured it. */
  hands = new Float64Array(1024);
  subject = new Int32Array(1024);
  length = 0;
  readonly subjects: Subject[] = [];
  /** Numbers by what things are called; put together when a thing first comes otherwise than as a line. */
  #known: Map<string, number> | null = null;
  readonly #tails = new KnownBytes();
  #decode: (bytes: Uint8Array) => string = () => '';

  add(activity: Activity): void {
    this.#put(activity.from, activity.to, activity.hands ?? -1, this.#numberOf(activity));
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
    const rest = readTimes(bytes, from, end);
    if (rest === 0) {
      const read = readLine(decode(bytes.subarray(from, end)));
      if (typeof read === 'string') return read;
      this.add(read);
      return null;
    }
    const { from: start, to, hands } = times;
    let subject = this.#tails.find(bytes, rest, end);
    if (subject < 0) {
      const read = readLine(decode(bytes.subarray(from, end)));
      if (typeof read === 'string') return read;
      subject = this.#known ? this.#numberOf(read) : this.#new(read);
      this.#tails.add(subject);
    }
    this.#put(start, to, hands, subject);
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

  #numberOf(activity: Activity): number {
    const known = (this.#known ??= this.#knownSoFar());
    const key = keyOf(activity);
    let number = known.get(key);
    if (number === undefined) known.set(key, (number = this.#new(activity)));
    return number;
  }

  #new(activity: Activity): number {
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

const ordered = ({ kind, program, title, address, file, people }: Omit<Activity, 'from' | 'to' | 'hands'>) => ({
  kind,
  ...(program ? { program } : {}),
  ...(title ? { title } : {}),
  ...(address ? { address } : {}),
  ...(file ? { file } : {}),
  ...(people && people.length > 0 ? { people } : {}),
});

/** What it was about, as {@link writeLine} writes it; put together by hand, as making an object of it first takes longer than all else. */
function keyOf({ kind, program, title, address, file, people }: Activity): string {
  let key = `"kind":"${kind}"`;
  if (program) key += `,"program":${JSON.stringify(program)}`;
  if (title) key += `,"title":${JSON.stringify(title)}`;
  if (address) key += `,"address":${JSON.stringify(address)}`;
  if (file) key += `,"file":${JSON.stringify(file)}`;
  if (people && people.length > 0) key += `,"people":${JSON.stringify(people)}`;
  return key;
}

const times = { from: 0, to: 0, hands: -1 };

const ascii = (text: string): Uint8Array => Uint8Array.from(text, (char) => char.charCodeAt(0));
const FROM = ascii('{"from":');
const TO = ascii(',"to":');
const HANDS = ascii(',"hands":');
const COMMA = 44;

/** Reads `{"from":1,"to":2,"hands":3,` into `times` and tells where the rest begins; 0 where the line is written otherwise. */
function readTimes(bytes: Uint8Array, start: number, end: number): number {
  if (!stands(FROM, bytes, start)) return 0;
  let at = number(bytes, start + FROM.length);
  times.from = value;
  if (at === 0 || !stands(TO, bytes, at)) return 0;
  at = number(bytes, at + TO.length);
  times.to = value;
  if (at === 0) return 0;
  times.hands = -1;
  if (stands(HANDS, bytes, at)) {
    at = number(bytes, at + HANDS.length);
    times.hands = value;
    if (at === 0) return 0;
  }
  const whole = bytes[at] === COMMA && at < end;
  return whole &&
    times.from >= FIRST_MOMENT &&
    times.to <= LAST_MOMENT &&
    times.to >= times.from &&
    times.to - times.from <= LONGEST_ACTIVITY
    ? at + 1
    : 0;
}

function stands(text: Uint8Array, bytes: Uint8Array, from: number): boolean {
  for (let at = 0; at < text.length; at++) if (bytes[from + at] !== text[at]) return false;
  return true;
}

let value = 0;

/** Reads digits into `value`; where they end, or 0 where there are none or too many. */
function number(bytes: Uint8Array, from: number): number {
  // The first nine fit in a small whole number, which is quicker to reckon with.
  let at = from;
  let high = 0;
  for (const stop = from + 9; at < stop; at++) {
    const digit = bytes[at]! - 48;
    if (!(digit >= 0 && digit <= 9)) {
      value = high;
      return at > from ? at : 0;
    }
    high = (high * 10 + digit) | 0;
  }
  let low = 0;
  let scale = 1;
  for (; at < from + 15; at++) {
    const digit = bytes[at]! - 48;
    if (!(digit >= 0 && digit <= 9)) break;
    low = (low * 10 + digit) | 0;
    scale = (scale * 10) | 0;
  }
  value = high * scale + low;
  return at < from + 15 ? at : 0;
}

/** An activity out of a line of JSON, or why it is none. Times may be written as ISO 8601 with a zone. */
export function readLine(line: string): Activity | string {
  let json: unknown;
  try {
    json = JSON.parse(line);
  } catch {
    return 'This is no JSON.';
  }
  if (isPlain(json)) return json;
  const parsed = activitySchema.safeParse(withInstants(json));
  if (parsed.success) return parsed.data as Activity;
  const [issue] = parsed.error.issues;
  const kinds = issue!.path[0] === 'kind' ? ` Kinds are ${activityKinds.join(', ')}.` : '';
  return `${issue!.path.join('.') || 'activity'}: ${issue!.message}${kinds}`;
}

const KNOWN = new Set(Object.keys(activitySchema.shape));
const KINDS = new Set<unknown>(activityKinds);
/** Texts longer than this are left to the schema, which says what is wrong with them. */
const SHORT = 1000;

const isMoment = (each: unknown): boolean =>
  Number.isInteger(each) && (each as number) >= FIRST_MOMENT && (each as number) <= LAST_MOMENT;
const isSaid = (each: unknown): boolean => typeof each === 'string' && each.length <= SHORT;

/** What the schema would take as it stands, told quickly; anything doubtful is left to the schema itself. */
function isPlain(json: unknown): json is Activity {
  if (json === null || typeof json !== 'object') return false;
  const row = json as Record<string, unknown>;
  for (const key in row) if (!KNOWN.has(key)) return false;
  return (
    KINDS.has(row.kind) &&
    isMoment(row.from) &&
    isMoment(row.to) &&
    (row.to as number) >= (row.from as number) &&
    (row.to as number) - (row.from as number) <= LONGEST_ACTIVITY &&
    (row.hands === undefined || (Number.isSafeInteger(row.hands) && (row.hands as number) >= 0)) &&
    (row.program === undefined || isSaid(row.program)) &&
    (row.title === undefined || isSaid(row.title)) &&
    (row.address === undefined || isSaid(row.address)) &&
    (row.file === undefined || isSaid(row.file)) &&
    (row.people === undefined ||
      (Array.isArray(row.people) && row.people.length <= MOST_PEOPLE && row.people.every(isSaid)))
  );
}

function withInstants(json: unknown): unknown {
  if (json === null || typeof json !== 'object') return json;
  const row = json as Record<string, unknown>;
  const instant = (value: unknown) =>
    typeof value === 'string' && /T.*(?:Z|[+-]\d\d:?\d\d)$/.test(value) ? Date.parse(value) : value;
  return { ...row, from: instant(row.from), to: instant(row.to ?? row.from) };
}
