import { inStyle, type NumberStyle } from '../money/written';
import { Fault } from '../model/fault';

/** Whole seconds. */
export type Seconds = number;

export const MINUTE = 60;
export const HOUR = 3600;
/** No single entry is longer than this: it guards against slips of the finger, not against work. */
export const LONGEST = 24 * HOUR * 7;
const MOST_BARE_HOURS = 24;

/** What was typed: just a length, or a from–to within a day, in minutes after midnight. */
export type Typed =
  { kind: 'length'; seconds: Seconds } | { kind: 'span'; fromMinute: number; toMinute: number; seconds: Seconds };

/**
 * Reads a length as people write it: "1.5", "1:30", "90m", "1h 30", "1 h 30 min", ".2", "45 s", "0:12:30", "9-10:30", "9.15 to 11".
 * A bare number is hours.
 *
 * @throws Fault when it cannot be read, is zero, ends before it starts, or is longer than a week
 */
export function readLength(text: string): Typed {
  const plain = text.trim().toLowerCase().replace(/,/g, '.').replace(/\s+/g, ' ');
  const span = /^(.+?) ?(?:-|–|—|\bto\b|\buntil\b) ?(.+)$/.exec(plain);
  if (span) return readSpan(text, span[1]!, span[2]!);
  const seconds = readSeconds(plain, text);
  if (seconds === null) {
    throw new Fault(`“${short(text)}” cannot be read as a length. Write 1:30, 1.5, 90m or 9–10:30.`, 'length', {
      text,
    });
  }
  if (seconds === 0) throw new Fault('A length of nothing cannot be recorded.', 'length', { text });
  if (seconds > LONGEST)
    throw new Fault(`“${short(text)}” is longer than a week. Split it over days.`, 'length', { text });
  return { kind: 'length', seconds };
}

function readSeconds(plain: string, text: string): Seconds | null {
  const clock = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?$/.exec(plain);
  if (clock) return Number(clock[1]) * HOUR + Number(clock[2]) * MINUTE + Number(clock[3] ?? 0);
  const bare = /^(\d*)(?:\.(\d{1,6}))?$/.exec(plain);
  if (bare && (bare[1] || bare[2])) {
    if (Number(bare[1] || 0) > MOST_BARE_HOURS) {
      throw new Fault(`${short(text)} what? A bare number is hours; for minutes write ${short(text)}m.`, 'length', {
        text,
      });
    }
    return scaled(bare[1], bare[2], HOUR);
  }
  // "1h 30": a bare number after hours is minutes.
  const hoursAndMinutes = /^(\d+) ?h(?:ours?|rs?)? ?(\d{1,2})$/.exec(plain);
  if (hoursAndMinutes) return Number(hoursAndMinutes[1]) * HOUR + Number(hoursAndMinutes[2]) * MINUTE;
  const units = UNITS.exec(plain);
  if (!units || plain === '') return null;
  const [, hours, hourPart, minutes, minutePart, seconds] = units;
  return scaled(hours, hourPart, HOUR) + scaled(minutes, minutePart, MINUTE) + Number(seconds ?? 0);
}

/** Numbers with their units, in falling order: "1.5 hours", "1 h 30 min", "45 s". */
const UNITS =
  /^(?:(\d+)(?:\.(\d{1,6}))? ?h(?:ours?|rs?)?)? ?(?:(\d+)(?:\.(\d{1,6}))? ?m(?:in(?:ute)?s?)?)? ?(?:(\d+) ?s(?:ec(?:ond)?s?)?)?$/;

/** whole.fraction × unit in whole seconds, halves up, without floating point. */
function scaled(whole: string | undefined, fraction: string | undefined, unit: number): Seconds {
  const ten = 10 ** (fraction?.length ?? 0);
  const numerator = (Number(whole || 0) * ten + Number(fraction || 0)) * unit;
  return Math.floor((2 * numerator + ten) / (2 * ten));
}

function readSpan(text: string, from: string, to: string): Typed {
  const fromMinute = readClock(from);
  const toMinute = readClock(to);
  if (fromMinute === null || toMinute === null) {
    throw new Fault(`“${short(text)}” cannot be read as from–to. Write 9–10:30 or 09:15–11:00.`, 'length', { text });
  }
  if (toMinute < fromMinute) {
    throw new Fault(`The end, ${showMinute(toMinute)}, is before the start, ${showMinute(fromMinute)}.`, 'length', {
      text,
    });
  }
  if (toMinute === fromMinute) throw new Fault('A length of nothing cannot be recorded.', 'length', { text });
  return { kind: 'span', fromMinute, toMinute, seconds: (toMinute - fromMinute) * MINUTE };
}

/** Minutes after midnight of "9", "9:05", "9.05", "0905", "9 am", "2:30pm", "24:00"; null when it is no time of day. */
export function readClock(text: string): number | null {
  const match = /^(\d{1,2})(?:[:.]?([0-5]\d))? ?(am|pm)?$/.exec(text.trim().toLowerCase());
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

/** How times of day are shown. */
export const clockStyles = ['14:05', '2:05 pm'] as const;
export type ClockStyle = (typeof clockStyles)[number];

let clock: ClockStyle = '14:05';

/** Says how times of day are written from now on: for reading only, never in files. */
export function writeClockAs(style: ClockStyle): void {
  clock = style;
}

/** 570 → "09:30", as it stands in files. */
export const clockOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** 570 → "09:30" or "9:30 am", for reading. */
export function showMinute(minute: number, style: ClockStyle = clock): string {
  if (style === '14:05') return clockOf(minute);
  const hour = Math.floor(minute / 60) % 24;
  return `${hour % 12 || 12}:${String(minute % 60).padStart(2, '0')} ${hour < 12 ? 'am' : 'pm'}`;
}

/** How lengths are shown: "1:30" or "1.50". */
export const lengthStyles = ['h:mm', 'decimal'] as const;
export type LengthStyle = (typeof lengthStyles)[number];

/** "1:30"; whole minutes, the rest of the last minute left out (the slip shows the seconds). */
export function showLength(seconds: Seconds, style: LengthStyle = 'h:mm'): string {
  if (style === 'decimal') return showDecimalHours(seconds);
  const magnitude = Math.abs(seconds);
  const minutes = Math.floor(magnitude / MINUTE);
  return `${seconds < 0 ? '−' : ''}${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}

/** "1:30", or "0:47:47" where there are seconds: nothing is left out, so that it can be multiplied. */
export function showBilled(seconds: Seconds): string {
  const rest = Math.abs(seconds) % MINUTE;
  return rest === 0 ? showLength(seconds) : `${showLength(seconds)}:${String(rest).padStart(2, '0')}`;
}

/** Hours with two decimals, halves up, computed in whole numbers: 5400 → "1.50". */
export function showDecimalHours(seconds: Seconds, style?: NumberStyle): string {
  const hundredths = Math.floor((Math.abs(seconds) * 100 * 2 + HOUR) / (HOUR * 2));
  const figure = `${Math.floor(hundredths / 100)}.${String(hundredths % 100).padStart(2, '0')}`;
  return (seconds < 0 ? '−' : '') + inStyle(figure, style);
}

/** To the second, as in a slip: "1 h 13 min 20 s", "52 min", "0 min". */
export function showExactly(seconds: Seconds): string {
  const hours = Math.floor(seconds / HOUR);
  const minutes = Math.floor((seconds % HOUR) / MINUTE);
  const rest = seconds % MINUTE;
  const parts = [
    hours ? `${hours} h` : '',
    minutes || (!hours && !rest) ? `${minutes} min` : '',
    rest ? `${rest} s` : '',
  ];
  return parts.filter(Boolean).join(' ');
}

/** A running clock: "00:42:10". */
export function showClockLength(seconds: Seconds): string {
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(seconds / HOUR))}:${two(Math.floor((seconds % HOUR) / MINUTE))}:${two(seconds % MINUTE)}`;
}

const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);
