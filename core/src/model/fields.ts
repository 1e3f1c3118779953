import * as z from 'zod';
import { isCurrency } from '../money/currency';
import { decimalPattern } from '../money/decimal';
import { isDay, isZone } from '../time/day';
import { LONGEST } from '../time/length';
import { idPattern } from './ids';
import './issue-words';

// The kinds of field that records are made of. Their messages are read by people, in forms and in import faults.

/** The longest text kept in any field: a pasted page fits, a runaway program does not. */
export const LONGEST_TEXT = 200_000;

/** A UUID of version 7 (RFC 9562), in lower case. */
export const id = z.string().regex(idPattern, 'This is not an id of ours.');
/** Any text, none included. */
export const text = z.string().max(LONGEST_TEXT, 'This text is longer than 200,000 characters.');
/** A text that says something. */
export const name = text.refine((value) => value.trim() !== '', 'This cannot be empty.');
/** A day of the calendar, as ISO 8601 writes it. */
export const day = z.string().refine(isDay, 'This is not a day; write it as 2026-11-12.');
/** A time zone by its name in the IANA database. */
export const zone = z.string().refine(isZone, 'This is not a time zone, such as Europe/London.');
/** Milliseconds since 1970-01-01 00:00 UTC. */
export const instant = z.int('This is not a moment in whole milliseconds.').min(0);
/** A currency by its ISO 4217 code. */
export const currency = z.string().refine(isCurrency, 'This is not a currency; use an ISO 4217 code such as GBP.');
/** An amount in minor units of its currency, such as pence. */
export const minor = z.int('An amount is a whole number of minor units.');
/** A length in whole seconds, none included. */
export const seconds = z.int('A length is in whole seconds.').min(0, 'A length cannot be negative.');
/** A length in whole seconds: at least one, at most a week. */
export const length = seconds
  .min(1, 'A length of nothing cannot be recorded.')
  .max(LONGEST, 'This is longer than a week.');

/** A number in decimal notation, exact, with at most four places. */
export const decimal = z.string().regex(decimalPattern, 'This is not a plain decimal with at most four places.');
/** A price of one unit, in units of its currency: not negative. */
export const price = decimal.refine((value) => !value.startsWith('-'), 'A price cannot be negative.');
/** A percentage: not negative. */
export const percent = decimal.refine((value) => !value.startsWith('-'), 'A tax cannot be negative.');
/** Percent that may lower a price, though not below nothing. */
export const markup = decimal.refine((value) => Number(value) >= -100, {
  error: ({ input }) =>
    `A markup of ${String(input).replace('-', '−')} % would make a price below nothing. −100 % gives it away; less is not possible.`,
});

/** How much of one currency another is, with up to eight places. */
export const exchange = z
  .string()
  .regex(/^(0|[1-9]\d{0,8})(\.\d{0,7}[1-9])?$/, 'This is not a rate in plain figures with at most eight places.')
  .refine((value) => Number(value) > 0, 'An exchange rate is more than nothing.');

/** A language that days can be written in (BCP 47), such as "en-GB" or "de". */
export const language = z
  .string()
  .regex(/^[a-z]{2,3}(-[A-Z]{2})?$/, 'A language is written like en-GB.')
  .max(6);
