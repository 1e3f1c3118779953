import { addDays, isDay, MONTH_NAMES, showDayShort, WEEKDAY_NAMES, weekdayOf, type Day } from '../../time/day';
import { LONGEST, showExactly, showMinute } from '../../time/length';
import {
  LENGTH_LOOKS,
  MOST_BARE_HOURS,
  readClock,
  readLength,
  showTypedSpan,
  type Typed,
} from '../../time/read-length';
import type { TokenKind, UnderstoodLine } from './said';

// What is known by its form wherever it stands: lengths, times, days, billable parts and starts.

export interface Found {
  kind: TokenKind;
  says: string;
  apply: (line: UnderstoodLine) => void;
  typed?: Typed;
}

/** A form and where it was found. */
export interface Hit extends Found {
  from: number;
  to: number;
  /** A bare figure or a from–to of bare figures: meant only where it stands apart. */
  bare: boolean;
}

interface Form {
  pattern: RegExp;
  bare?: true;
  read: (match: RegExpExecArray, today: Day) => Found | null;
}

const UNIT = '(?:h|hours?|hrs?|m|mins?|minutes?)';
const AMOUNT = `\\d+(?:[.,]\\d+)?|[.,]\\d+`;
const TWICE = '(?: (?:first|second)(?=\\s*(?:$|[,;–—-]|to\\b)))?';
const BARE_CLOCK = '\\d{1,2}';
const CLOCK = `(?:(?:\\d{1,2}(?:[:.][0-5]\\d)?(?: ?[ap]m)?|noon|midnight)${TWICE})`;
/** A time of day that cannot be taken for a number of things. */
const SURE_CLOCK = `(?:(?:\\d{1,2}:[0-5]\\d(?: ?[ap]m)?|\\d{1,2}(?:\\.[0-5]\\d)? ?[ap]m|noon|midnight)${TWICE})`;
const TO = ' ?(?:-|–|—|to|until|till) ?';
const WEEKDAYS =
  WEEKDAY_NAMES.map((name) => `${name.slice(0, 3)}(?:${name.slice(3)})?`).join('|') + '|tues|weds|thurs?';
const MONTHS = MONTH_NAMES.map((name) => `${name.slice(0, 3)}(?:${name.slice(3)})?`).join('|') + '|sept';

const forms: readonly Form[] = [
  {
    pattern: new RegExp(`^(?:(?:starting|started|since|from) )?(${LENGTH_LOOKS}) ago`, 'i'),
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
    pattern: /^(?:(\d{1,2}|a|two|three) (days?|weeks?) ago|(?:the )?day before yesterday)/i,
    read([, count, unit], today) {
      const number = { a: 1, two: 2, three: 3 }[(count ?? '').toLowerCase() as 'a'] ?? Number(count ?? 2);
      return dayFound(addDays(today, -number * (unit?.toLowerCase().startsWith('week') ? 7 : 1)));
    },
  },
  {
    pattern: new RegExp(`^(?:(?:since|starting at|started at|start at) (${CLOCK})|at (${SURE_CLOCK}))`, 'i'),
    read([, since, at]) {
      const atMinute = readClock(since ?? at!);
      if (atMinute === null) return null;
      return {
        kind: 'start',
        says: `started at ${showMinute(atMinute)}`,
        apply: (line) => (line.start = { atMinute }),
      };
    },
  },
  {
    pattern: new RegExp(`^(${AMOUNT}) ?(${UNIT})? (?:out )?of (${AMOUNT}) ?(${UNIT})? (?:is |are )?billable`, 'i'),
    read([, part, partUnit, whole, wholeUnit]) {
      const worked = readOrNull(`${whole} ${wholeUnit ?? 'h'}`);
      const billable = Number(part) === 0 ? { seconds: 0 } : readOrNull(`${part} ${partUnit ?? wholeUnit ?? 'h'}`);
      if (!worked || !billable || billable.seconds > worked.seconds) return null;
      return {
        kind: 'billable',
        says: `${showExactly(worked.seconds)} worked, ${showExactly(billable.seconds)} billable`,
        typed: worked,
        apply(line) {
          line.length = worked;
          line.billableSeconds = billable.seconds;
        },
      };
    },
  },
  {
    pattern: /^(?:not billable|non[ -]?billable|unbillable|not to bill|not charged|no charge|free of charge|unpaid)/i,
    read: () => ({ kind: 'billable', says: 'not billable', apply: (line) => (line.billableSeconds = 0) }),
  },
  {
    pattern: new RegExp(`^(?:only )?(${LENGTH_LOOKS}) (?:of it |of that )?billable`, 'i'),
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
    pattern: /^(?:(?:all )?billable)(?=\s*(?:$|[,;]))/i,
    read: () => ({ kind: 'billable', says: 'billable', apply: () => undefined }),
  },
  {
    pattern: new RegExp(`^([01]\\d[0-5]\\d|2[0-3][0-5]\\d)${TO}([01]\\d[0-5]\\d|2[0-3][0-5]\\d)`),
    read: ([, from, to]) => spanFound(from!, to!),
  },
  { pattern: new RegExp(`^(?:from (${CLOCK})${TO}(${CLOCK}))`, 'i'), read: ([, from, to]) => spanFound(from!, to!) },
  {
    pattern: new RegExp(`^(?:between (${CLOCK}) and (${CLOCK}))`, 'i'),
    read: ([, from, to]) => spanFound(from!, to!),
  },
  {
    pattern: new RegExp(`^(?:(${SURE_CLOCK})${TO}(${CLOCK})|(${CLOCK})${TO}(${SURE_CLOCK}))`, 'i'),
    read: ([, a, b, c, d]) => spanFound((a ?? c)!, (b ?? d)!),
  },
  {
    pattern: new RegExp(`^(${BARE_CLOCK}(?:\\.[0-5]\\d)?)${TO}(${BARE_CLOCK}(?:\\.[0-5]\\d)?)`, 'i'),
    bare: true,
    read: ([, from, to]) => spanFound(from!, to!),
  },
  { pattern: /^(\d{4}-\d{2}-\d{2})/, read: ([, day]) => (isDay(day!) ? dayFound(day!) : null) },
  {
    pattern: new RegExp(
      `^(?:on )?(?:(?:the )?(\\d{1,2})(?:st|nd|rd|th)?[ -](?:of )?(${MONTHS})(?![a-z])|(${MONTHS}) (\\d{1,2})(?:st|nd|rd|th)?)(?:,? (\\d{4}))?`,
      'i',
    ),
    read([, before, month, monthFirst, after, year], today) {
      const name = (month ?? monthFirst)!.slice(0, 3).toLowerCase();
      const number = MONTH_NAMES.findIndex((each) => each.slice(0, 3).toLowerCase() === name) + 1;
      return dayFound(nearest(Number(before ?? after), number, year, today));
    },
  },
  {
    pattern: /^(?:on )?(\d{1,2})\/(\d{1,2})(?:\/(\d{2}(?:\d{2})?))?(?! ?h)/,
    read: ([, date, month, year], today) =>
      dayFound(nearest(Number(date), Number(month), year?.length === 2 ? `20${year}` : year, today)),
  },
  {
    pattern: /^(?:on )?(\d{1,2})\.(\d{1,2})\.(\d{4})?/,
    read: ([, date, month, year], today) => dayFound(nearest(Number(date), Number(month), year, today)),
  },
  {
    pattern: new RegExp(`^(?:on )?(?:(last|next|this) )?(${WEEKDAYS})(?![a-z])(?:’s|'s)?`, 'i'),
    read([whole, which, name], today) {
      const wanted =
        WEEKDAY_NAMES.findIndex((each) => each.slice(0, 3).toLowerCase() === name!.slice(0, 3).toLowerCase()) + 1;
      // These are words of their own, too: "sun study", "sat with the client".
      if (/^(?:sun|sat|wed)$/i.test(whole)) return null;
      return dayFound(latestOf(wanted, which?.toLowerCase(), today));
    },
  },
  {
    pattern: /^(sun|sat|wed)(?=\s*(?:$|[,;]|\d|for |from ))/i,
    read: ([, name], today) =>
      dayFound(latestOf({ sun: 7, sat: 6, wed: 3 }[name!.toLowerCase() as 'sun'], undefined, today)),
  },
  {
    pattern: /^(today|yesterday|tomorrow)/i,
    read: ([, word], today) =>
      dayFound(addDays(today, { today: 0, yesterday: -1, tomorrow: 1 }[word!.toLowerCase() as 'today'])),
  },
  {
    pattern: /^(\d{1,2}(?:[:.][0-5]\d)? ?[ap]m)/i,
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
    pattern: new RegExp(`^(\\d{1,2}) ?[x×] ?(${LENGTH_LOOKS})`, 'i'),
    read: ([, times, length]) => timesFound(Number(times), length!),
  },
  { pattern: new RegExp(`^(?:for )?(${LENGTH_LOOKS})`, 'i'), read: ([, length]) => lengthFound(length!) },
  { pattern: /^(\d{1,3}[.,]\d{1,3}|[.,]\d{1,3}|\d{1,2})/, bare: true, read: ([length]) => bareFound(length) },
];

/** A typed length, or null where the text is none. */
export const readOrNull = (text: string): Typed | null => {
  try {
    return readLength(text);
  } catch {
    return null;
  }
};

function lengthFound(text: string): Found | null {
  const typed = readOrNull(text);
  return typed && { kind: 'length', says: showExactly(typed.seconds), typed, apply: (line) => (line.length = typed) };
}

/** "2 x 1:30". */
function timesFound(times: number, text: string): Found | null {
  const once = readOrNull(text);
  if (!once || times === 0 || once.seconds * times > LONGEST) return null;
  const typed: Typed = { kind: 'length', seconds: once.seconds * times };
  return { kind: 'length', says: showExactly(typed.seconds), typed, apply: (line) => (line.length = typed) };
}

const bareFound = (text: string): Found | null =>
  Number(/^\d*/.exec(text)![0]) <= MOST_BARE_HOURS ? lengthFound(text) : null;

function spanFound(from: string, to: string): Found | null {
  const typed = readOrNull(`${from}-${to}`);
  if (typed?.kind !== 'span') return null;
  const says = `${showTypedSpan(typed)}, ${showExactly(typed.seconds)}`;
  return { kind: 'span', says, typed, apply: (line) => (line.length = typed) };
}

const dayFound = (day: Day | null): Found | null =>
  day === null ? null : { kind: 'day', says: showDayShort(day), apply: (line) => (line.day = day) };

function latestOf(weekday: number, which: string | undefined, today: Day): Day {
  const back = (weekdayOf(today) - weekday + 7) % 7;
  const latest = addDays(today, -back);
  if (which === 'last') return back === 0 ? addDays(latest, -7) : latest;
  return which === 'next' ? addDays(latest, 7) : latest;
}

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

/** How far a form can reach: no length, day or time is longer in words. */
const WINDOW = 80;

/** What stands at a place by its form. */
export function formAt(text: string, at: number, today: Day): Hit | null {
  const rest = text.slice(at, at + WINDOW);
  for (const { pattern, read, bare = false } of forms) {
    const match = pattern.exec(rest);
    if (!match || match[0] === '') continue;
    const next = rest[match[0].length] ?? '';
    if (/[\p{L}\p{N}]/u.test(next)) continue;
    // "1:30:75" or "2-x" is not the length or time that it begins with.
    if (/^[:/]\d|^[.,]\d|^-[\p{L}\p{N}]/u.test(rest.slice(match[0].length))) continue;
    const found = read(match, today);
    if (found) return { ...found, from: at, to: at + match[0].length, bare };
  }
  return null;
}
