import { activityKinds, activitySchema, type Activity } from './activity';
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

  add(activity: Activity): void {
    this.#put(activity.from, activity.to, activity.hands ?? -1, this.#numberOf(keyOf(activity), activity));
  }

  /**
   * Takes a line of JSON. One that is written as this application writes them, times first, is known by the rest of it and not read
   * again; any other is read whole.
   *
   * @returns why it cannot be taken, or null
   */
  addLine(line: string): string | null {
    const rest = readTimes(line);
    if (rest > 0) {
      const key = line.slice(rest);
      let subject = this.#known.get(key);
      if (subject === undefined) {
        const read = readLine(line);
        if (typeof read === 'string') return read;
        subject = this.#numberOf(key, read);
      }
      this.#put(times.from, times.to, times.hands, subject);
      return null;
    }
    const read = readLine(line);
    if (typeof read === 'string') return read;
    this.add(read);
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
const FIRST = 946_684_800_000;
const LAST = 7_258_118_400_000;

/** Reads `{"from":1,"to":2,"hands":3,` into `times` and tells where the rest begins; 0 where the line is written otherwise. */
function readTimes(line: string): number {
  if (!line.startsWith('{"from":')) return 0;
  let at = number(line, 8);
  times.from = value;
  if (at === 0 || !line.startsWith(',"to":', at)) return 0;
  at = number(line, at + 6);
  times.to = value;
  if (at === 0) return 0;
  times.hands = -1;
  if (line.startsWith(',"hands":', at)) {
    at = number(line, at + 9);
    times.hands = value;
    if (at === 0) return 0;
  }
  if (line[at] !== ',' || times.from < FIRST || times.to > LAST || times.to < times.from) return 0;
  return at + 1;
}

let value = 0;

/** Reads digits into `value`; where they end, or 0 where there are none or too many. */
function number(line: string, from: number): number {
  value = 0;
  let at = from;
  for (; at < from + 15; at++) {
    const digit = line.charCodeAt(at) - 48;
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
  const parsed = activitySchema.safeParse(withInstants(json));
  if (parsed.success) return parsed.data as Activity;
  const [issue] = parsed.error.issues;
  const kinds = issue!.path[0] === 'kind' ? ` Kinds are ${activityKinds.join(', ')}.` : '';
  return `${issue!.path.join('.') || 'activity'}: ${issue!.message}${kinds}`;
}

function withInstants(json: unknown): unknown {
  if (json === null || typeof json !== 'object') return json;
  const row = json as Record<string, unknown>;
  const instant = (value: unknown) =>
    typeof value === 'string' && /T.*(?:Z|[+-]\d\d:?\d\d)$/.test(value) ? Date.parse(value) : value;
  return { ...row, from: instant(row.from), to: instant(row.to ?? row.from) };
}
