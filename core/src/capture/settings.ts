import * as z from 'zod';

/** What a person sets for how activity becomes stretches, and what is kept of it. */
export const captureSettingsSchema = z.strictObject({
  /** No sign of the person for longer than this many minutes is time away. */
  awayAfter: z.int().min(1).max(60).default(5),
  /** What belongs together may be interrupted for this many minutes and still be one stretch. */
  gap: z.int().min(0).max(240).default(20),
  /** Shorter stretches, in minutes, go to the one around them. */
  shortest: z.int().min(0).max(60).default(3),
  /** A glance of fewer seconds belongs to what was done before it. */
  blip: z.int().min(0).max(300).default(15),
  /** Activity is kept for so many days; 0 for ever. */
  keepDays: z.int().min(0).max(3660).default(180),
  paused: z.boolean().default(false),
  /** Never recorded: programs, sites and folders by their beginning, without regard to capitals. */
  neverPrograms: z.array(z.string().min(1).max(300)).max(500).default([]),
  neverSites: z.array(z.string().min(1).max(300)).max(500).default([]),
  neverFolders: z.array(z.string().min(1).max(300)).max(500).default([]),
  /** What starts a document's clock. */
  clockStarts: z.enum(['opening', 'front', 'change']).default('front'),
  /** What pauses it: another document in front, another program in front, time away. */
  clockPauses: z
    .array(z.enum(['document', 'program', 'away']))
    .max(3)
    .default(['document', 'program', 'away']),
});
export type CaptureSettings = z.infer<typeof captureSettingsSchema>;

export const captureDefaults: CaptureSettings = captureSettingsSchema.parse({});
export const MINUTE = 60_000;
