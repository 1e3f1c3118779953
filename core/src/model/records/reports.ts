import * as z from 'zod';
import { day, id, name, text } from '../fields';

/** A report that is kept: what it asks, never what it says. */
export const reportSchema = z.strictObject({
  id,
  name,
  /** Printed under the name where it goes to a client. */
  note: text.max(1000, 'At most 1,000 characters.'),
  /** Read when it is run, so that one which asks for what is no longer there still says the rest. */
  definition: z.record(z.string().max(100), z.unknown()),
  /** The day of each month from which it is ready; never by itself where null. */
  readyOn: z.int().min(1, 'From the 1st').max(28, 'Up to the 28th, which every month has.').nullable(),
  /** When it was last looked at. */
  seenOn: day.nullable(),
});

export type Report = z.infer<typeof reportSchema>;
