import * as z from 'zod';
import { currency, day, decimal, id, instant, name, price, text } from '../fields';
import { frozenInvoiceSchema, handLineSchema } from './invoices';

/**
 * What a line of a quote becomes once it is accepted: a price that is fixed, whatever the work takes, or what the work is thought to come to,
 * billed as it is worked.
 */
export const quoteBases = ['fixed', 'estimate'] as const;

/** A line of a quote: a fixed sum or an estimate, which the client may leave out where it is optional. */
export const quoteLineSchema = handLineSchema.omit({ account: true, projectId: true, advanceId: true }).extend({
  basis: z.enum(quoteBases),
  quantity: decimal.refine((value) => !value.startsWith('-'), 'A quote offers no less than nothing.'),
  price,
  /** The client may leave it out; the sum is without it. */
  optional: z.boolean(),
  costCodeId: id.nullable(),
});

/** A quote as it was given to the client. */
export const quoteVersionSchema = z.strictObject({
  at: instant,
  frozen: frozenInvoiceSchema,
  /** The lines as they were then, for what they become. */
  lines: z.array(quoteLineSchema).min(1),
  /** What the client's page signs its answer with, 32 bytes in hexadecimal; absent of what was given before there were pages. */
  seal: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  /** When its page on the local server was opened first. */
  opened: instant.optional(),
});

/** What the client said to a version of a quote, and to which of its lines. */
export const quoteAnswerSchema = z.strictObject({
  kind: z.enum(['accepted', 'declined']),
  day,
  at: instant,
  /** Who said so at the client. */
  by: text.max(200),
  note: text.max(1000),
  /** Which version, counted from 1. */
  version: z.int().min(1),
  /** Keys of the lines that were accepted. */
  keys: z.array(id),
  /** What they became. */
  agreedIds: z.array(id),
  /** The answer as the client's page signed it; absent where it was told another way. */
  signed: text.max(20_000).optional(),
});

/** What is offered to a client before the work. */
export const quoteSchema = z.strictObject({
  id,
  clientId: id,
  /** The project that it is for; one is made once it is accepted where null. */
  projectId: id.nullable(),
  title: name.max(200, 'At most 200 characters.'),
  createdAt: instant,
  currency,
  /** Printed above the lines. */
  intro: text.max(5000),
  /** Printed below them. */
  note: text.max(5000),
  /** The last day on which it may be accepted. */
  validUntil: day,
  taxId: id.nullable(),
  lines: z.array(quoteLineSchema).max(500),
  /** Place in the numbering of quotes; null until it is given to the client. */
  seq: z.int().min(1).nullable(),
  /** As it was given, the oldest first. */
  versions: z.array(quoteVersionSchema).max(50),
  /** What the client said; null until then. */
  answer: quoteAnswerSchema.nullable(),
});

export type QuoteBasis = (typeof quoteBases)[number];
export type QuoteLine = z.infer<typeof quoteLineSchema>;
export type QuoteVersion = z.infer<typeof quoteVersionSchema>;
export type Quote = z.infer<typeof quoteSchema>;
