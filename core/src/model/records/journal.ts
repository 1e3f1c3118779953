import * as z from 'zod';
import { id, instant, name, text } from '../fields';

/** One row of one table, before and after a command. */
export const changeSchema = z.strictObject({
  table: z.string(),
  id: z.string(),
  before: z.record(z.string(), z.unknown()).nullable(),
  after: z.record(z.string(), z.unknown()).nullable(),
});

/** One change to the workspace, chained to the one before it on the same device. */
export const journalSchema = z.strictObject({
  device: id,
  seq: z.int().min(1),
  at: instant,
  memberId: id.nullable(),
  command: name,
  /** The change in words: "Entry added". */
  title: text,
  input: z.unknown(),
  /** For "undo" and "redo": the number of the change it takes back or repeats. */
  of: z.int().min(1).nullable(),
  changes: z.array(changeSchema),
  previous: z.string(),
  hash: z.string(),
  /** Where it stands in the log of a shared workspace; absent where it is in none. The hash does not cover it. */
  place: z.int().min(1).optional(),
});
