import * as z from 'zod';
import { outcomeSchema } from './rules/rule';

/**
 * What the person said about a part of a day: that these times belong together, and what they were. It takes its times from what is
 * worked out; with no outcome it only holds them together. Its id is the stretch's, and the entry that it is posted as carries it.
 */
export const placingSchema = z.strictObject({
  id: z.string(),
  day: z.string(),
  spans: z.array(z.strictObject({ start: z.number(), end: z.number() })).min(1),
  outcome: outcomeSchema.nullable(),
  /** The sentence for the client, where the person wrote one. */
  note: z.string().max(2000),
  /** null for all of it, or what the rule says. */
  billableSeconds: z.int().min(0).nullable(),
  /** What it looked like when it was decided, for likeness. */
  features: z.array(z.union([z.string(), z.tuple([z.string(), z.number()])])),
  at: z.number(),
});
export type Placing = z.infer<typeof placingSchema>;
