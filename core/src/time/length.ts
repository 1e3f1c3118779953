import { inStyle, type NumberStyle } from '../money/written';

/** Whole seconds. */
export type Seconds = number;

/** A minute in seconds. */
export const MINUTE = 60;
/** An hour in seconds. */
export const HOUR = 3600;
/** No single entry is longer than this: it guards against slips of the finger, not against work. */
export const LONGEST = 24 * HOUR * 7;

/** How times of day are shown. */
export const clockStyles = ['14:05', '2:05 pm'] as const;
export type ClockStyle = (typeof clockStyles)[number];

let clock: ClockStyle = '14:05';

/** Says how times of day are written from now on: for reading only, never in files. */
export function writeClockAs(style: ClockStyle): void {
  clock = style;
}

/**
 * A time of day in minutes after midnight, as it stands in files.
 *
 * @example clockOf(570) // → '09:30'
 */
export const clockOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/**
 * 570 → "09:30" or "9:30 am", for reading.
 *
 * @example showMinute(845, '2:05 pm') // → '2:05 pm'
 */
export function showMinute(minute: number, style: ClockStyle = clock): string {
  if (style === '14:05') return clockOf(minute);
  const hour = Math.floor(minute / 60) % 24;
  return `${hour % 12 || 12}:${String(minute % 60).padStart(2, '0')} ${hour < 12 ? 'am' : 'pm'}`;
}

/** How lengths are shown: "1:30" or "1.50". */
export const lengthStyles = ['h:mm', 'decimal'] as const;
export type LengthStyle = (typeof lengthStyles)[number];

/**
 * "1:30"; whole minutes, the rest of the last minute left out (the slip shows the seconds).
 *
 * @example showLength(5459) // → '1:30'
 */
export function showLength(seconds: Seconds, style: LengthStyle = 'h:mm'): string {
  if (style === 'decimal') return showDecimalHours(seconds);
  const magnitude = Math.abs(seconds);
  const minutes = Math.floor(magnitude / MINUTE);
  return `${seconds < 0 ? '−' : ''}${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}

/**
 * "1:30", or "0:47:47" where there are seconds: nothing is left out, so that it can be multiplied.
 *
 * @example showBilled(2867) // → '0:47:47'
 */
export function showBilled(seconds: Seconds): string {
  const rest = Math.abs(seconds) % MINUTE;
  return rest === 0 ? showLength(seconds) : `${showLength(seconds)}:${String(rest).padStart(2, '0')}`;
}

/**
 * Hours with two decimals, halves up, computed in whole numbers.
 *
 * @example showDecimalHours(5400) // → '1.50'
 */
export function showDecimalHours(seconds: Seconds, style?: NumberStyle): string {
  const hundredths = Math.floor((Math.abs(seconds) * 100 * 2 + HOUR) / (HOUR * 2));
  const figure = `${Math.floor(hundredths / 100)}.${String(hundredths % 100).padStart(2, '0')}`;
  return (seconds < 0 ? '−' : '') + inStyle(figure, style);
}

/**
 * To the second, as in a slip: "1 h 13 min 20 s", "52 min", "0 min".
 *
 * @example showExactly(4400) // → '1 h 13 min 20 s'
 */
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

/**
 * A running clock: "00:42:10".
 *
 * @example showClockLength(2530) // → '00:42:10'
 */
export function showClockLength(seconds: Seconds): string {
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(seconds / HOUR))}:${two(Math.floor((seconds % HOUR) / MINUTE))}:${two(seconds % MINUTE)}`;
}
