import * as z from 'zod';
import { day, id, name, text } from '../fields';
import { handLineSchema } from './invoices';

/** What comes again: sums that were agreed, or whatever was worked and spent since. */
export const repeatKinds = ['sums', 'worked'] as const;

/** An agreement by which a client is invoiced again and again. */
export const repeatSchema = z
  .strictObject({
    id,
    clientId: id,
    name,
    kind: z.enum(repeatKinds),
    /** The lines of each invoice, where sums were agreed. */
    lines: z.array(handLineSchema).max(100),
    /** When it comes: a recurrence rule (RFC 5545, 3.3.10), as "FREQ=MONTHLY;BYMONTHDAY=-1". */
    rule: text.max(300),
    from: day,
    /** The last day on which it may come; none where null. */
    until: day.nullable(),
    /** Nothing is prepared while it is. */
    paused: z.boolean(),
    /** A retainer: each invoice asks for money ahead, for so much time, and what is left of a period is carried on or lost. */
    ahead: z.strictObject({ seconds: z.int().min(1).nullable(), carried: z.boolean() }).optional(),
    /** Printed below the lines. */
    note: text.max(5000),
    /** Days that a draft was prepared for: none is prepared twice, though it was discarded. */
    prepared: z.array(day).max(2000),
  })
  .refine((row) => row.kind === 'worked' || row.lines.length > 0, {
    message: 'Say what is invoiced each time.',
    path: ['lines'],
  });
export type RepeatKind = (typeof repeatKinds)[number];
export type Repeat = z.infer<typeof repeatSchema>;
