import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import { addDays, isDay, MONTH_NAMES, showDayShort, WEEKDAY_NAMES, weekdayOf, type Day } from '../time/day';
import { readClock, readLength, showExactly, showMinute, type Seconds, type Typed } from '../time/length';

// Reads a line as one would write it to a colleague: "1:30 yesterday for quayside, plans, plot sheet 4, not billable".
// Lengths, days, billable parts and starts are known by their form wherever they stand; what lies between them and between commas is a
// service when it is one's whole name, a job when it begins or ends with one's name, and otherwise the note.

export interface LineJob {
  /** The task's, or the project's where it is the project itself. */
  id: Id;
  projectId: Id;
  taskId: Id | null;
  /** Everything it is known by: project, client, job number. */
  words: string;
  /** As it is shown when understood. */
  name: string;
}

export interface LineContext {
  /** Open jobs, the likeliest first. */
  jobs: readonly LineJob[];
  services: readonly { id: Id; name: string }[];
  today: Day;
}

export type TokenKind = 'length' | 'span' | 'day' | 'job' | 'unlisted' | 'service' | 'billable' | 'start' | 'note';

/** A piece of the line and what it was understood as, in the order it was typed. */
export interface Token {
  kind: TokenKind;
  from: number;
  to: number;
  says: string;
}

export interface UnderstoodLine {
  tokens: Token[];
  /** What was worked; null when the line starts a timer. */
  length: Typed | null;
  day: Day | null;
  projectId: Id | null;
  taskId: Id | null;
  unlisted: string;
  serviceId: Id | null;
  note: string;
  /** Seconds; null follows the worked length. */
  billableSeconds: Seconds | null;
  /** Where a timer is to start: so many minutes ago, or at a minute of the day. */
  start: { minutesAgo: number } | { atMinute: number } | null;
  /** Other jobs that the same words fit. */
  alternatives: Id[];
}

interface Found {
  kind: TokenKind;
  says: string;
  apply: (line: UnderstoodLine) => void;
}

/** A form that can stand anywhere in a line. */
interface Form {
  pattern: RegExp;
  read: (match: RegExpExecArray, context: LineContext) => Found | null;
}

const UNIT = '(?:h|hours?|hrs?|m|mins?|minutes?)';
const AMOUNT = `\\d+(?:[.,]\\d+)?|[.,]\\d+`;
const CLOCK = '\\d{1,2}(?:[:.][0-5]\\d)?(?: ?[ap]m)?';
const WEEKDAYS = WEEKDAY_NAMES.map((name) => `${name.slice(0, 3)}(?:${name.slice(3)})?`).join('|');
const MONTHS = MONTH_NAMES.map((name) => `${name.slice(0, 3)}(?:${name.slice(3)})?`).join('|');

const forms: readonly Form[] = [
  {
    pattern: new RegExp(
      `^(?:(?:starting|since|from) )?(\\d{1,3}(?:[.,]\\d+)? ?${UNIT}(?: ?\\d{1,2} ?m(?:in)?s?)?) ago`,
      'i',
    ),
    read([, length]) {
      const typed = readOrNull(length!);
      if (typed === null) return null;
      const minutesAgo = Math.round(typed.seconds / 60);
      return {
        kind: 'start',
        says: `started ${showExactly(typed.seconds)} ago`,
        apply: (line) => (line.start = { minutesAgo }),
      };
    },
  },
  {
    pattern: new RegExp(`^(?:since|starting at|started at) (${CLOCK})`, 'i'),
    read([, clock]) {
      const atMinute = readClock(clock!);
      if (atMinute === null) return null;
      return {
        kind: 'start',
        says: `started at ${showMinute(atMinute)}`,
        apply: (line) => (line.start = { atMinute }),
      };
    },
  },
  {
    pattern: new RegExp(`^(${AMOUNT}) ?(${UNIT})? of (${AMOUNT}) ?(${UNIT})? billable`, 'i'),
    read([, part, partUnit, whole, wholeUnit]) {
      const worked = readOrNull(`${whole} ${wholeUnit ?? 'h'}`);
      const billable = Number(part) === 0 ? { seconds: 0 } : readOrNull(`${part} ${partUnit ?? wholeUnit ?? 'h'}`);
      if (!worked || !billable || billable.seconds > worked.seconds) return null;
      return {
        kind: 'billable',
        says: `${showExactly(worked.seconds)} worked, ${showExactly(billable.seconds)} billable`,
        apply(line) {
          line.length = worked;
          line.billableSeconds = billable.seconds;
        },
      };
    },
  },
  {
    pattern: /^(?:not billable|non-?billable|unbillable|not to bill|free of charge)/i,
    read: () => ({ kind: 'billable', says: 'not billable', apply: (line) => (line.billableSeconds = 0) }),
  },
  {
    pattern: new RegExp(`^(?:only )?((?:${AMOUNT}) ?${UNIT}|\\d+:[0-5]\\d) billable`, 'i'),
    read([, part]) {
      const typed = readOrNull(part!);
      if (!typed) return null;
      return {
        kind: 'billable',
        says: `${showExactly(typed.seconds)} billable`,
        apply: (line) => (line.billableSeconds = typed.seconds),
      };
    },
  },
  {
    pattern: new RegExp(`^(?:from )?(${CLOCK}) ?(?:-|–|—|to|until|till) ?(${CLOCK})`, 'i'),
    read([, from, to]) {
      const typed = readOrNull(`${from}-${to}`);
      if (typed?.kind !== 'span') return null;
      const says = `${showMinute(typed.fromMinute)}–${showMinute(typed.toMinute)}, ${showExactly(typed.seconds)}`;
      return { kind: 'span', says, apply: (line) => (line.length = typed) };
    },
  },
  {
    pattern: /^(\d{4}-\d{2}-\d{2})/,
    read: ([, day]) => (isDay(day!) ? dayFound(day!) : null),
  },
  {
    pattern: new RegExp(
      `^(?:on )?(?:(\\d{1,2})(?:st|nd|rd|th)? (${MONTHS})|(${MONTHS}) (\\d{1,2}))(?: (\\d{4}))?`,
      'i',
    ),
    read([, before, month, monthFirst, after, year], { today }) {
      const name = (month ?? monthFirst)!.slice(0, 3).toLowerCase();
      const number = MONTH_NAMES.findIndex((each) => each.slice(0, 3).toLowerCase() === name) + 1;
      return dayFound(nearest(Number(before ?? after), number, year, today));
    },
  },
  {
    pattern: /^(?:on )?(\d{1,2})\/(\d{1,2})(?:\/(\d{4}))?/,
    read: ([, date, month, year], { today }) => dayFound(nearest(Number(date), Number(month), year, today)),
  },
  {
    pattern: new RegExp(`^(?:on )?(?:(last|next) )?(${WEEKDAYS})`, 'i'),
    read([, which, name], { today }) {
      const wanted =
        WEEKDAY_NAMES.findIndex((each) => each.slice(0, 3).toLowerCase() === name!.slice(0, 3).toLowerCase()) + 1;
      const back = (weekdayOf(today) - wanted + 7) % 7;
      const latest = addDays(today, -back);
      if (which?.toLowerCase() === 'last') return dayFound(back === 0 ? addDays(latest, -7) : latest);
      return dayFound(which ? addDays(latest, 7) : latest);
    },
  },
  {
    pattern: /^(today|yesterday|tomorrow)/i,
    read: ([, word], { today }) =>
      dayFound(addDays(today, { today: 0, yesterday: -1, tomorrow: 1 }[word!.toLowerCase() as 'today'])),
  },
  {
    pattern: new RegExp(
      `^(\\d+ ?h(?:ours?|rs?)? ?\\d{1,2}(?: ?m(?:in(?:ute)?s?)?)?(?! ?(?:${MONTHS}|\\d))|(?:${AMOUNT}) ?${UNIT}|\\d+:[0-5]\\d(?::[0-5]\\d)?|\\d*[.,]\\d+)`,
      'i',
    ),
    read: ([, length]) => lengthFound(length!),
  },
];

const readOrNull = (text: string): Typed | null => {
  try {
    return readLength(text);
  } catch {
    return null;
  }
};

function lengthFound(text: string): Found | null {
  const typed = readOrNull(text);
  return typed && { kind: 'length', says: showExactly(typed.seconds), apply: (line) => (line.length = typed) };
}

const dayFound = (day: Day | null): Found | null =>
  day === null ? null : { kind: 'day', says: showDayShort(day), apply: (line) => (line.day = day) };

/** A date without its year is the one nearest to today. */
function nearest(date: number, month: number, year: string | undefined, today: Day): Day | null {
  const two = (value: number) => String(value).padStart(2, '0');
  const thisYear = Number(today.slice(0, 4));
  const days = (year ? [Number(year)] : [thisYear, thisYear - 1, thisYear + 1])
    .map((each) => `${each}-${two(month)}-${two(date)}`)
    .filter(isDay);
  const away = (day: Day) => Math.abs(Date.parse(day) - Date.parse(today));
  return days.sort((a, b) => away(a) - away(b))[0] ?? null;
}

/** Reads a line. Whatever is not understood is the note: nothing that was typed is lost. */
export function readLine(text: string, context: LineContext): UnderstoodLine {
  const line: UnderstoodLine = {
    tokens: [],
    length: null,
    day: null,
    projectId: null,
    taskId: null,
    unlisted: '',
    serviceId: null,
    note: '',
    billableSeconds: null,
    start: null,
    alternatives: [],
  };
  const stretches: { from: number; to: number; quoted?: boolean }[] = [];
  let free = 0;
  const closeStretch = (to: number) => {
    if (text.slice(free, to).trim() !== '') stretches.push({ from: free, to });
  };
  const taken = new Set<TokenKind>();
  for (let at = 0; at < text.length;) {
    const quoted = /^["“]([^"”]*)["”]/.exec(text.slice(at));
    if (quoted) {
      closeStretch(at);
      stretches.push({ from: at + 1, to: at + quoted[0].length - 1, quoted: true });
      free = at += quoted[0].length;
    } else if (text[at] === ',' || text[at] === ';' || text[at] === '\n') {
      // "1,5" is a number, not a list of two.
      closeStretch(at);
      free = ++at;
    } else if (at === 0 || /[\s,;]/.test(text[at - 1]!)) {
      const found = formAt(text, at, context, taken);
      if (found) {
        closeStretch(at);
        line.tokens.push({ kind: found.kind, from: at, to: at + found.size, says: found.says });
        found.apply(line);
        taken.add(found.kind);
        free = at += found.size;
      } else at++;
    } else at++;
  }
  closeStretch(text.length);
  placeStretches(text, stretches, line, context);
  line.tokens.sort((a, b) => a.from - b.from);
  // A billable part that is more than the length is as good as all of it.
  if (line.length && line.billableSeconds !== null && line.billableSeconds >= line.length.seconds)
    line.billableSeconds = null;
  return line;
}

const lengthKinds: ReadonlySet<TokenKind> = new Set(['length', 'span']);

/** What stands at a place by its form. Of each kind the first counts; a second one belongs to the note. */
function formAt(
  text: string,
  at: number,
  context: LineContext,
  taken: ReadonlySet<TokenKind>,
): (Found & { size: number }) | null {
  const rest = text.slice(at, at + 60);
  // A bare number is hours only where the line begins with it: "2 plot sheets" is two hours of plot sheets, "gallery 3" is a gallery.
  const bare = at === 0 ? /^\d{1,2}(?=\s|$)/.exec(rest) : null;
  for (const { pattern, read } of forms) {
    const match = pattern.exec(rest);
    if (!match || /[\p{L}\p{N}]/u.test(rest[match[0].length] ?? '')) continue;
    const found = read(match, context);
    const again =
      found &&
      (taken.has(found.kind) || (lengthKinds.has(found.kind) && [...lengthKinds].some((kind) => taken.has(kind))));
    if (found && !again) return { ...found, size: match[0].length };
  }
  const found = bare && lengthFound(bare[0]);
  return found && bare ? { ...found, size: bare[0].length } : null;
}

interface Stretch {
  from: number;
  to: number;
  quoted?: boolean;
}

/** Services, jobs and the note among what has no form of its own. */
function placeStretches(text: string, stretches: readonly Stretch[], line: UnderstoodLine, context: LineContext): void {
  const notes: Stretch[] = [];
  let best: { stretch: Stretch; run: JobRun } | null = null;
  for (const stretch of stretches) {
    if (stretch.quoted) continue;
    const run = jobRunIn(text, stretch, context.jobs);
    if (run && (!best || run.score > best.run.score)) best = { stretch, run };
  }
  for (const stretch of stretches) {
    const words = text.slice(stretch.from, stretch.to).trim();
    const unlisted = stretch.quoted ? null : /^(?:for |on )?(?:a )?(?:new |unlisted )?job[: ]+(.+)$/i.exec(words);
    const service = stretch.quoted ? null : serviceNamed(words, context);
    if (best?.stretch === stretch && !(service && best.run.score < PREPOSITION)) {
      const { run } = best;
      const [first] = run.jobs;
      line.projectId = first!.projectId;
      line.taskId = first!.taskId;
      line.alternatives = run.jobs.slice(1).map((job) => job.id);
      line.tokens.push({ kind: 'job', from: run.from, to: run.to, says: first!.name });
      for (const [from, to] of [
        [stretch.from, run.from],
        [run.to, stretch.to],
      ] as const) {
        const rest = text.slice(from, to).trim();
        const other = line.serviceId === null ? serviceNamed(rest, context) : null;
        if (other) takeService(line, { from, to }, other);
        else if (rest) notes.push({ from, to });
      }
    } else if (unlisted && line.projectId === null) {
      line.unlisted = unlisted[1]!.trim().slice(0, 500);
      line.tokens.push({
        kind: 'unlisted',
        from: stretch.from,
        to: stretch.to,
        says: `“${line.unlisted}”, not set up yet`,
      });
    } else if (service && line.serviceId === null) takeService(line, stretch, service);
    else notes.push(stretch);
  }
  if (line.projectId !== null && line.unlisted) line.unlisted = '';
  for (const note of notes) line.tokens.push({ kind: 'note', from: note.from, to: note.to, says: 'note' });
  line.note = notes.map((note) => text.slice(note.from, note.to).trim()).join(', ');
}

function takeService(line: UnderstoodLine, stretch: Stretch, service: { id: Id; name: string }): void {
  line.serviceId = service.id;
  line.tokens.push({ kind: 'service', from: stretch.from, to: stretch.to, says: service.name });
}

const SHORTEST_NAME = 3;

/** The service that words name: in full, or by their beginning where only one begins so. */
function serviceNamed(words: string, { services }: LineContext): { id: Id; name: string } | null {
  const wanted = words.toLowerCase();
  if (wanted.length < SHORTEST_NAME) return null;
  const fitting = services.filter((service) => service.name.toLowerCase().startsWith(wanted));
  return (
    fitting.find((service) => service.name.toLowerCase() === wanted) ?? (fitting.length === 1 ? fitting[0]! : null)
  );
}

interface JobRun {
  from: number;
  to: number;
  jobs: readonly LineJob[];
  score: number;
}

/** A job after "for", "on" or "at" is meant as one; it wins over any that a note happens to name. */
const PREPOSITION = 1000;
const MOST_WORDS = 12;

/** The words at the beginning or end of a stretch, or after "for", that name a job. */
function jobRunIn(text: string, stretch: Stretch, jobs: readonly LineJob[]): JobRun | null {
  const words = [...text.slice(stretch.from, stretch.to).matchAll(/[^\s]+/g)].map((match) => ({
    text: match[0].toLowerCase().replace(/[.:!?]+$/, ''),
    from: stretch.from + match.index,
    to: stretch.from + match.index + match[0].length,
  }));
  let best: JobRun | null = null;
  for (let first = 0; first < words.length; first++) {
    const preposition = /^(?:for|on|at)$/.test(words[first]!.text);
    for (let last = Math.min(words.length, first + MOST_WORDS); last > first; last--) {
      const named = words
        .slice(preposition ? first + 1 : first, last)
        .map((word) => word.text)
        .filter((word) => /[\p{L}\p{N}]/u.test(word));
      if (named.length === 0 || (!preposition && first > 0 && last < words.length)) continue;
      const letters = named.reduce((sum, word) => sum + word.length, 0);
      if (letters < SHORTEST_NAME || !named.some((word) => word.length >= SHORTEST_NAME)) continue;
      const fitting = jobs.filter((job) => fits(job, named));
      if (fitting.length === 0) continue;
      const score = letters + (preposition ? PREPOSITION : 0);
      if (!best || score > best.score)
        best = { from: words[first]!.from, to: words[last - 1]!.to, jobs: fitting, score };
    }
  }
  return best;
}

/** Whether every word begins a word of what a job is known by. */
function fits(job: LineJob, named: readonly string[]): boolean {
  const whole = job.words.toLowerCase().split(/[\s/·]+/);
  const known = [...whole, ...whole.flatMap((word) => word.split('-'))];
  return named.every((word) => known.some((each) => each.startsWith(word)));
}

/** An understood line written out again in full, in a fixed order; reading it gives the same. */
export function writeLine(line: UnderstoodLine, context: LineContext): string {
  const parts: string[] = [];
  const { length, billableSeconds } = line;
  if (length?.kind === 'span') parts.push(`${showMinute(length.fromMinute)}–${showMinute(length.toMinute)}`);
  else if (length) {
    const rest = length.seconds % 60;
    const minutes = Math.floor(length.seconds / 60);
    const two = (value: number) => String(value).padStart(2, '0');
    parts.push(`${Math.floor(minutes / 60)}:${two(minutes % 60)}${rest ? `:${two(rest)}` : ''}`);
  }
  if (line.start)
    parts.push(
      'minutesAgo' in line.start ? `${line.start.minutesAgo} min ago` : `since ${showMinute(line.start.atMinute)}`,
    );
  if (line.day) parts.push(showDayShort(line.day));
  if (line.projectId)
    parts.push(`for ${context.jobs.find((job) => job.id === (line.taskId ?? line.projectId))?.name ?? ''}`);
  if (line.unlisted) parts.push(`job ${line.unlisted}`);
  if (line.serviceId) parts.push(context.services.find((each) => each.id === line.serviceId)?.name ?? '');
  if (line.note) parts.push(`"${line.note.replaceAll('"', '')}"`);
  if (billableSeconds === 0) parts.push('not billable');
  else if (billableSeconds !== null) parts.push(`${Math.round(billableSeconds / 60)} min billable`);
  return parts.join(', ');
}

/**
 * Reads a day as people write it: "yesterday", "mon", "last thu", "12 nov", "3/12", "2026-11-12".
 *
 * @throws Fault when it cannot be read
 */
export function readDay(text: string, today: Day): Day {
  const { day, tokens } = readLine(text.trim(), { jobs: [], services: [], today });
  if (day === null || tokens.length !== 1) {
    throw new Fault(
      `“${text.slice(0, 40)}” cannot be read as a day. Write 12 nov, mon, yesterday or 2026-11-12.`,
      'day',
      {
        text,
      },
    );
  }
  return day;
}
