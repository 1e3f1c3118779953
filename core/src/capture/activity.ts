import * as z from 'zod';
import '../model/issue-words';
import type { Instant } from '../time/interval';

/** What kinds of fact there are. A window is whatever was in front, pages of a browser among it. */
export const activityKinds = ['window', 'opened', 'kept', 'mail', 'message', 'call', 'meeting', 'away'] as const;
export type ActivityKind = (typeof activityKinds)[number];

/** One raw fact: this thing had attention from–to. Something that takes no time, such as a mail that came, has its end at its start. */
export interface Activity {
  kind: ActivityKind;
  from: Instant;
  to: Instant;
  /** Milliseconds of it in which keys or pointer moved; absent where nobody measured it. */
  hands?: number;
  program?: string;
  title?: string;
  address?: string;
  file?: string;
  /** Mail addresses, telephone numbers or names of who else took part. */
  people?: string[];
}

/** What an activity was about, whenever it was. */
export type About = Omit<Activity, 'from' | 'to' | 'hands'>;

/** An activity as kept: from which device, and its number there. */
export interface KeptActivity extends Activity {
  device: string;
  seq: number;
}

/** Characters that a title, address or other text of an activity has at most. */
export const MOST_TEXT = 100_000;
/** People that a meeting or mail names at most. */
export const MOST_PEOPLE = 200;
/** Titles are shown and compared by so many characters of them. */
export const SHOWN_TEXT = 400;
/** Nothing happened before the year 2000, or after 2200: such a clock is wrong. */
export const FIRST_MOMENT = 946_684_800_000;
/** The other end of the clocks that are believed. */
export const LAST_MOMENT = 7_258_118_400_000;
/** What an activity lasts at most, in milliseconds: 31 days. */
export const LONGEST_ACTIVITY = 31 * 86_400_000;

const said = z.string().max(MOST_TEXT, `This is longer than ${MOST_TEXT} characters.`).optional();
const moment = z
  .int()
  .min(FIRST_MOMENT, 'The clock is wrong: this is before 2000.')
  .max(LAST_MOMENT, 'The clock is wrong.');

/** What was seen at a stretch, as recorders tell it: moments in milliseconds, texts as they were on the screen. */
export const activitySchema = z
  .strictObject({
    from: moment,
    to: moment,
    hands: z.int().min(0).optional(),
    kind: z.enum(activityKinds),
    program: said,
    title: said,
    address: said,
    file: said,
    people: z.array(z.string().max(1000)).max(MOST_PEOPLE).optional(),
  })
  .refine((each) => each.to >= each.from, { message: 'It ends before it begins.', path: ['to'] })
  .refine((each) => each.to - each.from <= LONGEST_ACTIVITY, {
    message: 'It lasts longer than 31 days.',
    path: ['to'],
  });

/** Why an activity cannot be kept, in words that follow what it is; null where it can. Everything that enters the trail passes this. */
export function whyUnsound(activity: Activity): string | null {
  const parsed = activitySchema.safeParse(activity);
  return parsed.success ? null : parsed.error.issues[0]!.message;
}

/** Whether the times of an activity can be true: what has others would stand on thousands of days. */
export const hasSoundTimes = ({ from, to }: Pick<Activity, 'from' | 'to'>): boolean =>
  from >= FIRST_MOMENT && to <= LAST_MOMENT && to >= from && to - from <= LONGEST_ACTIVITY;

/** How a device is named; no path is ever made of anything else. */
export const deviceSchema = z
  .string()
  .regex(/^[\w-]{1,64}$/, 'A device is named by letters, digits, - and _, at most 64 of them.');

const numbered = {
  device: deviceSchema,
  /** The number of the first; the others follow it. */
  first: z.int().min(1),
};
/** At most so many activities are sent at once. */
export const MOST_SENT = 2000;

/** Activities of one device, from a number on, as they are sent in clear. */
export const batchSchema = z.strictObject({ ...numbered, activities: z.array(activitySchema).min(1).max(MOST_SENT) });
export type Batch = z.infer<typeof batchSchema>;

/** The same, each sealed for the browser that collects it: who carries it can count it and no more. */
export const sealedBatchSchema = z.strictObject({
  ...numbered,
  sealed: z
    .array(z.base64('A sealed activity is written in base64.').max(2 * MOST_TEXT))
    .min(1)
    .max(MOST_SENT),
});
export type SealedBatch = z.infer<typeof sealedBatchSchema>;

// Controls, and what turns the direction of writing: they would make a title show as something else.
// eslint-disable-next-line no-control-regex
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]+/g;

// eslint-disable-next-line no-control-regex
const UNCLEAN = /[\u0000-\u001f\u007f-\u00a0\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069]|\s\s|^\s|\s$/;

/** Told without the pattern, as that takes its time: letters and signs of ASCII with single spaces among them. */
function isPlainlyClean(text: string): boolean {
  let wasSpace = true;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code < 32 || code > 126 || (code === 32 && wasSpace)) return false;
    wasSpace = code === 32;
  }
  return !wasSpace || text.length === 0;
}

/** A title as it can be shown and compared: no controls, nothing that turns its direction, cut where it is endless. */
export function cleaned(text: string): string {
  if (text.length <= SHOWN_TEXT && (isPlainlyClean(text) || !UNCLEAN.test(text))) return text;
  // Only the beginning of an endless one is looked at.
  const head = text.length > SHOWN_TEXT * 4 ? text.slice(0, SHOWN_TEXT * 4) : text;
  const plain = head.replace(UNSEEN, ' ').replace(/\s+/g, ' ').trim();
  return plain.length > SHOWN_TEXT ? `${plain.slice(0, SHOWN_TEXT).trimEnd()}…` : plain;
}
