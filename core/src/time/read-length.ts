import { Fault } from '../faults/fault';
import { HOUR, LONGEST, MINUTE, showMinute, type Seconds } from './length';

// Lengths and times of day as people write them. Every field and the Till's line read them here.

/** Which of two moments a time of day means where the clocks go back over it. */
export type Twice = 1 | 2;

/** A from–to in minutes after the midnight its day begins with; an end after 1440 is of the next day. */
export interface TypedSpan {
  kind: 'span';
  fromMinute: number;
  toMinute: number;
  seconds: Seconds;
  /** What "first" or "second" behind a time chose. */
  fromTwice?: Twice;
  toTwice?: Twice;
}

/** What was typed: just a length, or a from–to. */
export type Typed = { kind: 'length'; seconds: Seconds } | TypedSpan;

/** A bare number above this is no number of hours. */
export const MOST_BARE_HOURS = 24;
const DAY_MINUTES = 1440;

const NUMBER = '(?:\\d+(?:[.,]\\d+)?|[.,]\\d+)';
const FRACTION = '(?:(?:\\d+ )?\\d+/\\d+|\\d* ?[½¼¾])';
const NUMBER_WORDS = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
  fifteen: 15,
  twenty: 20,
  thirty: 30,
  forty: 40,
  fifty: 50,
  sixty: 60,
  ninety: 90,
} as const;
const COUNT_WORD = `(?:${Object.keys(NUMBER_WORDS).join('|')})`;
const AND_A = '(?: and (?:a half|a quarter|three[ -]quarters))';
const H = 'h(?:ours?|rs?)?(?![a-z])';
const M = 'm(?:in(?:ute)?s?)?(?![a-z])';
const S = 's(?:ec(?:ond)?s?)?(?![a-z])';
const LONG = '(?:hours?|hrs?|minutes?|mins?)';

/**
 * How a length looks whose unit is said, in letters, as a fraction or by its colon: "1 h 30", "90 min", "half an hour", "3/4 h", "1:30".
 * The source of a regular expression, for small letters.
 */
export const LENGTH_LOOKS = [
  '(?:a )?(?:half|quarter)(?: of)?(?: an?)? hour',
  'three[ -]quarters of an hour',
  `(?:an|one) hour${AND_A}?(?: and ${NUMBER} ?${M})?`,
  `(?:${COUNT_WORD}|an?)${AND_A}? ${LONG}(?:(?: and)? (?:${COUNT_WORD}|${NUMBER}) (?:minutes?|mins?))?`,
  `(?:${FRACTION}) ?${H}`,
  `\\d+${AND_A} ?${H}`,
  // A bare number after hours is minutes: "1h30"; not where it is the day of a date or begins another figure.
  `\\d+ ?${H}(?:,? and)? ?\\d{1,2}(?: ?${M}(?: ?\\d+ ?${S})?)?(?![\\d/.:,]*\\d)(?! ?(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec))`,
  `${NUMBER} ?${H} ?\\d+ ?${S}`,
  `${NUMBER} ?${M} ?\\d+ ?${S}`,
  `${NUMBER} ?(?:${H}|${M})`,
  '\\d+ ?sec(?:ond)?s?',
  `\\d+:[0-5]\\d(?::[0-5]\\d)?(?: ?${H})?`,
].join('|');

/**
 * Reads a length as people write it: "1.5", "1:30", "90m", "1h 30", "half an hour", "3/4 h", ".2", "45 s", "9-10:30", "22-1", "10pm to 1am".
 * A bare number is hours. An end before its start is of the next day.
 *
 * @throws Fault when it cannot be read, is zero, or is longer than a week
 * @example readLength('1h 30') // → { kind: 'length', seconds: 5400 }
 */
export function readLength(text: string): Typed {
  const plain = plainly(text);
  const span = /^(?:from )?(.+?) ?(?:-|–|—|\bto\b|\buntil\b|\btill\b) ?(.+)$/.exec(plain);
  if (span && /\d|noon|midnight/.test(span[2]!)) return readSpan(text, span[1]!, span[2]!);
  const seconds = readSeconds(plain, text);
  if (seconds === null) {
    throw new Fault(
      'not-a-length',
      `“${short(text)}” cannot be read as a length. Write 1:30, 1.5, 90m or 9–10:30.`,
      'length',
      {
        text,
      },
    );
  }
  if (seconds === 0) throw new Fault('empty-length', 'A length of nothing cannot be recorded.', 'length', { text });
  if (seconds > LONGEST)
    throw new Fault('too-large', `“${short(text)}” is longer than a week. Split it over days.`, 'length', { text });
  return { kind: 'length', seconds };
}

const plainly = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replace(/,/g, '.')
    .replace(/\s+/g, ' ')
    .replace(/three-quarters/g, 'three quarters');

function readSeconds(plain: string, text: string): Seconds | null {
  const clock = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?(?: ?h(?:ours?|rs?)?)?$/.exec(plain);
  if (clock) return Number(clock[1]) * HOUR + Number(clock[2]) * MINUTE + Number(clock[3] ?? 0);
  const bare = /^(\d*)(?:\.(\d{0,6}))?$/.exec(plain);
  if (bare && (bare[1] || bare[2])) {
    if (Number(bare[1] || 0) > MOST_BARE_HOURS) {
      throw new Fault(
        'ambiguous-length',
        `${short(text)} what? A bare number is hours; for minutes write ${short(text)}m.`,
        'length',
        {
          text,
        },
      );
    }
    return scaled(bare[1], bare[2], HOUR);
  }
  const figures = inFigures(plain);
  const fraction = /^(?:(\d+) )?(\d+)\/(\d+) ?h(?:ours?|rs?)?$/.exec(figures);
  if (fraction) return Number(fraction[3]) === 0 ? null : fractionOf(fraction[1], fraction[2]!, fraction[3]!);
  // "1h 30": a bare number after hours is minutes.
  const hoursAndMinutes = /^(\d+) ?h(?:ours?|rs?)? ?(\d{1,2})$/.exec(figures);
  if (hoursAndMinutes) return Number(hoursAndMinutes[1]) * HOUR + Number(hoursAndMinutes[2]) * MINUTE;
  const units = UNITS.exec(figures);
  if (!units || figures === '') return null;
  const [, hours, hourPart, minutes, minutePart, seconds] = units;
  return scaled(hours, hourPart, HOUR) + scaled(minutes, minutePart, MINUTE) + Number(seconds ?? 0);
}

const PARTS = { 'a half': '5', 'a quarter': '25', 'three quarters': '75', '½': '1/2', '¼': '1/4', '¾': '3/4' } as const;

/** "an hour and a half" → "1.5 hours", "1½ h" → "1 1/2 h". */
function inFigures(plain: string): string {
  return plain
    .replace(/^(?:a )?half(?: an?)? hour$/, '0.5 h')
    .replace(/^(?:a )?quarter(?: of an?)? hour$/, '0.25 h')
    .replace(/^three quarters of an hour$/, '0.75 h')
    .replace(/(\d*) ?([½¼¾])/, (_, whole: string, part: '½') => `${whole} ${PARTS[part]}`.trim())
    .replace(new RegExp(`\\b${COUNT_WORD}\\b(?! quarters)`, 'g'), (word) => String(NUMBER_WORDS[word as 'one']))
    .replace(/^an? (?=hour|hr|min)/, '1 ')
    .replace(
      /^(\d+) (h(?:ours?|rs?)?) and (a half|a quarter|three quarters)/,
      (_, whole: string, unit: string, part: 'a half') => `${whole}.${PARTS[part]} ${unit}`,
    )
    .replace(
      /^(\d+) and (a half|a quarter|three quarters)/,
      (_, whole: string, part: 'a half') => `${whole}.${PARTS[part]}`,
    )
    .replace(/\.? and /, ' ');
}

/** Numbers with their units, in falling order: "1.5 hours", "1 h 30 min", "45 s". */
const UNITS =
  /^(?:(\d*)(?:\.(\d{1,6}))? ?h(?:ours?|rs?)?)? ?(?:(\d*)(?:\.(\d{1,6}))? ?m(?:in(?:ute)?s?)?)? ?(?:(\d+) ?s(?:ec(?:ond)?s?)?)?$/;

/** whole.fraction × unit in whole seconds, halves up, without floating point. */
function scaled(whole: string | undefined, fraction: string | undefined, unit: number): Seconds {
  const ten = 10 ** (fraction?.length ?? 0);
  const numerator = (Number(whole || 0) * ten + Number(fraction || 0)) * unit;
  return Math.floor((2 * numerator + ten) / (2 * ten));
}

/** A number of hours and a vulgar fraction in whole seconds, halves up. */
function fractionOf(whole: string | undefined, part: string, of: string): Seconds {
  const numerator = (Number(whole ?? 0) * Number(of) + Number(part)) * HOUR;
  return Math.floor((2 * numerator + Number(of)) / (2 * Number(of)));
}

const HALVES = / (first|second)$/;

function readSpan(text: string, from: string, to: string): TypedSpan {
  const [fromText, fromTwice] = twiceOf(from);
  const [toText, toTwice] = twiceOf(to);
  const toMinute = readClock(nextHalf(fromText, toText));
  const fromMinute = toMinute === null ? null : readClock(withHalf(fromText, toText, toMinute));
  if (fromMinute === null || toMinute === null) {
    throw new Fault(
      'not-a-length',
      `“${short(text)}” cannot be read as from–to. Write 9–10:30 or 09:15–11:00.`,
      'length',
      { text },
    );
  }
  // Midnight begins what starts at it, and ends what ends at it.
  if (fromMinute === DAY_MINUTES) return readSpan(text, '0:00', to);
  const nothing = toMinute === fromMinute && fromTwice === toTwice;
  if (nothing) throw new Fault('empty-length', 'A length of nothing cannot be recorded.', 'length', { text });
  // An end before its start is of the next day.
  const end = toMinute < fromMinute ? toMinute + DAY_MINUTES : toMinute;
  return {
    kind: 'span',
    fromMinute,
    toMinute: end,
    seconds: (end - fromMinute) * MINUTE,
    ...(fromTwice ? { fromTwice } : {}),
    ...(toTwice ? { toTwice } : {}),
  };
}

function twiceOf(clock: string): [string, Twice | undefined] {
  const said = HALVES.exec(clock);
  return said ? [clock.slice(0, said.index), said[1] === 'first' ? 1 : 2] : [clock, undefined];
}

/** "2" before "3pm" is in the afternoon, "11" before "1pm" in the morning: where only the end says which half of the day, the start is the latest before it. */
function withHalf(from: string, to: string, toMinute: number): string {
  const half = /([ap]m)$/.exec(to);
  if (!half || /[ap]m$|noon|midnight/.test(from)) return from;
  const same = readClock(`${from} ${half[1]}`);
  if (same === null) return from;
  return `${from} ${same < toMinute ? half[1] : half[1] === 'pm' ? 'am' : 'pm'}`;
}

/** "3" after "1pm" is in the afternoon, "1" after "10pm" in the night: where only the start says which half of the day, the end is the next after it. */
function nextHalf(from: string, to: string): string {
  const start = /[ap]m$|noon|midnight/.test(from) ? readClock(from) : null;
  const halves = start === null ? [] : ['am', 'pm'].filter(() => /^[1-9](?!\d{2})/.test(to));
  const ends = halves.map((half) => ({ half, end: readClock(`${to} ${half}`) })).filter(({ end }) => end !== null);
  ends.sort(
    (a, b) => ((a.end! - start! + DAY_MINUTES) % DAY_MINUTES) - ((b.end! - start! + DAY_MINUTES) % DAY_MINUTES),
  );
  return ends[0] ? `${to} ${ends[0].half}` : to;
}

/**
 * Minutes after midnight of "9", "9:05", "9.05", "0905", "9 am", "2:30pm", "noon", "24:00"; null when it is no time of day.
 *
 * @example readClock('2:30pm') // → 870
 */
export function readClock(text: string): number | null {
  const plain = text.trim().toLowerCase();
  if (plain === 'noon') return DAY_MINUTES / 2;
  if (plain === 'midnight') return DAY_MINUTES;
  const match = /^(\d{1,2})(?:[:.]?([0-5]\d))? ?(am|pm)?$/.exec(plain);
  if (!match) return null;
  let hour = Number(match[1]);
  const minute = Number(match[2] ?? 0);
  if (match[3]) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (match[3] === 'pm' ? 12 : 0);
  }
  if (hour > 24 || (hour === 24 && minute > 0)) return null;
  return hour * 60 + minute;
}

/** "23:30–00:45 the next day". */
export function showTypedSpan({ fromMinute, toMinute }: TypedSpan): string {
  const next = toMinute > DAY_MINUTES;
  return `${showMinute(fromMinute)}–${showMinute(next ? toMinute - DAY_MINUTES : toMinute)}${next ? ' the next day' : ''}`;
}

const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);
