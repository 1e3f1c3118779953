import * as z from 'zod';

/** A whole number within bounds; what it is and how far it goes is said where it is not. */
const whole = (what: string, least: number, most: number) => {
  const message = `${what} is a whole number from ${least} to ${most}.`;
  return z.int(message).min(least, message).max(most, message);
};

/** Beginnings of titles or addresses, such as those that are kept out of the trail. */
export const beginnings = z
  .array(z.string().min(1).max(300, 'A beginning has at most 300 characters.'))
  .max(500, 'At most 500 can be kept out.');

/** What a document's clock counts: time it was shown, time it was worked in, or all from its opening to its closing. */
export const documentClocks = ['in view', 'hands on', 'from opening to closing'] as const;
export type DocumentClock = (typeof documentClocks)[number];

/** How much of an address is kept: all of it, without what follows ? or #, or the site alone. */
export const addressParts = ['whole', 'path', 'site'] as const;

/** What a person sets for how activity becomes stretches, and what is kept of it. */
export const captureSettingsSchema = z.strictObject({
  /** No sign of the person for longer than this many minutes is time away. */
  awayAfter: whole('Away after', 1, 60).default(6),
  /** What belongs together may be interrupted for this many minutes and still be one stretch. */
  gap: whole('The longest break in minutes', 0, 240).default(20),
  /** Shorter stretches, in minutes, go to the one around them. */
  shortest: whole('The shortest stretch in minutes', 0, 60).default(3),
  /** A glance of fewer seconds belongs to what was done before it. */
  blip: whole('A glance in seconds', 0, 300).default(15),
  /** Activity is kept for so many days; 0 for ever. */
  keepDays: whole('The number of days', 0, 3660).default(180),
  paused: z.boolean().default(false),
  /** Never recorded: programs, sites and folders by their beginning, without regard to capitals. */
  neverPrograms: beginnings.default([]),
  neverSites: beginnings.default([]),
  neverFolders: beginnings.default([]),
  /** Words that nothing is recorded with, wherever they stand in it. */
  neverWords: beginnings.default([]),
  /** The person's own mail addresses and numbers: they are in everything, and tell nothing. */
  ownAddresses: beginnings.default([]),
  addressTo: z.enum(addressParts).default('whole'),
  /** Sentences for the client are made of page titles and of what mails are about, too. */
  sentencesFromTitles: z.boolean().default(false),
  /** What is marked private is deleted from the trail instead. */
  privateDeletes: z.boolean().default(false),
  /** Whether the person has said how long activity is kept. */
  keepingSaid: z.boolean().default(false),
  /** What a document's clock counts; time away never counts. */
  documentClock: z.enum(documentClocks).default('in view'),
});
export type CaptureSettings = z.infer<typeof captureSettingsSchema>;

/** The settings that a trail begins with. */
export const captureDefaults: CaptureSettings = captureSettingsSchema.parse({});
/** A minute in milliseconds, as the trail counts. */
export const MINUTE = 60_000;
