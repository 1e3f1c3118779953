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
  readonly #known = new Map<string, number>();
  readonly #tails = new KnownBytes();

  add(activity: Activity): void {
    this.#put(activity.from, activity.to, activity.hands ?? -1, this.#numberOf(keyOf(activity), activity));
  }

  /**
   * Takes a line of JSON, as bytes of UTF-8. One that is written as this application writes them, times first, is known by the bytes
   * after those and not read again; any other is read whole.
   *
   * @param bytes what the line stands in, from `from` up to `end`
   * @returns why it cannot be taken, or null
   */
  addLine(bytes: Uint8Array, from: number, end: number, decode: (bytes: Uint8Array) => string): string | null {
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
      subject = this.#numberOf(keyOf(read), read);
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

  #numberOf(key: string, activity: Activity): number {
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const number = this.subjects.length;
    this.subjects.push(subjectOf(activity));
    this.#known.set(key, number);
    return number;
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

const keyOf = (activity: Activity): string => JSON.stringify(ordered(activity)).slice(1);

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
  value = 0;
  let at = from;
  for (; at < from + 15; at++) {
    const digit = bytes[at]! - 48;
    if (!(digit >= 0 && digit <= 9)) break;
    value = value * 10 + digit;
  }
  return at > from && at < from + 15 ? at : 0;
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

/** What the schema would take as it stands, told quickly; anything doubtful is left to the schema itself. */
function isPlain(json: unknown): json is Activity {
  if (json === null || typeof json !== 'object') return false;
  const row = json as Record<string, unknown>;
  for (const key in row) if (!KNOWN.has(key)) return false;
  const moment = (each: unknown) =>
    Number.isInteger(each) && (each as number) >= FIRST_MOMENT && (each as number) <= LAST_MOMENT;
  const said = (each: unknown) => each === undefined || (typeof each === 'string' && each.length <= SHORT);
  return (
    KINDS.has(row.kind) &&
    moment(row.from) &&
    moment(row.to) &&
    (row.to as number) >= (row.from as number) &&
    (row.to as number) - (row.from as number) <= LONGEST_ACTIVITY &&
    (row.hands === undefined || (Number.isSafeInteger(row.hands) && (row.hands as number) >= 0)) &&
    said(row.program) &&
    said(row.title) &&
    said(row.address) &&
    said(row.file) &&
    (row.people === undefined ||
      (Array.isArray(row.people) &&
        row.people.length <= MOST_PEOPLE &&
        row.people.every((each) => typeof each === 'string' && each.length <= SHORT)))
  );
}

function withInstants(json: unknown): unknown {
  if (json === null || typeof json !== 'object') return json;
  const row = json as Record<string, unknown>;
  const instant = (value: unknown) =>
    typeof value === 'string' && /T.*(?:Z|[+-]\d\d:?\d\d)$/.test(value) ? Date.parse(value) : value;
  return { ...row, from: instant(row.from), to: instant(row.to ?? row.from) };
}
