import * as z from 'zod';
import { id, instant, name } from '../fields';
import { publicKeysSchema } from './sealed-files';

/** A device that a shared workspace is on, or was on. */
export const deviceSchema = z.strictObject({
  /** Under which its changes stand in the history. */
  id,
  /** As its owner calls it: "Phone". */
  name,
  /** What it signs with, and what is meant for it alone is sealed to. */
  keys: publicKeysSchema,
  /** When it was met. */
  since: instant,
  /** When it was removed; null while it shares the workspace. */
  left: instant.nullable(),
});

export type Device = z.infer<typeof deviceSchema>;
