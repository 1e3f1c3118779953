import * as z from 'zod';
import { currency, day, decimal, id, instant, minor, name, price, text } from '../fields';
import { tags } from '../read-tags';
import { approvalSchema, sentBackSchema } from './checking';

/** An expense is paid by a member, a bill comes from a supplier, a ledger line is read from the bookkeeping. */
export const costKinds = ['expense', 'bill', 'ledger'] as const;

/** Picture or PDF kept with costs; its bytes stand apart from the rows, by their hash. */
export const receiptSchema = z.strictObject({
  id,
  name,
  mediaType: z.enum(['image/png', 'image/jpeg', 'application/pdf']),
  bytes: z.int().min(1).max(50_000_000, 'A receipt has at most 50 MB.'),
  /** SHA-256 of the bytes, in hex. */
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'This is not a SHA-256 hash.'),
  /** A small JPEG for lists, in base64; empty where none could be made. */
  preview: z.base64().max(60_000),
  /** Pages of a PDF; 1 for a picture. */
  pages: z.int().min(1),
  addedAt: instant,
});

/** Money spent: its head. What it was spent on stands in its lines. */
export const costSchema = z
  .strictObject({
    id,
    kind: z.enum(costKinds),
    day,
    supplier: text.max(300, 'A supplier’s name has at most 300 characters.'),
    /** The supplier's own number of it. */
    reference: text.max(200, 'A reference has at most 200 characters.'),
    currency,
    /** The tax on it; none where null. */
    taxId: id.nullable(),
    /** Whether the lines' amounts have the tax in them. */
    taxIncluded: z.boolean(),
    /** Tax that is claimed back is no cost; other tax is part of it. */
    taxReclaimed: z.boolean(),
    /** Who paid an expense. */
    memberId: id.nullable(),
    owedBack: z.boolean(),
    /** Of a cost from before payments to payees were kept: when all of it was paid back; null where it was not, or is kept as payments. */
    paidBackOn: day.nullable(),
    /** When a bill is due. */
    dueDay: day.nullable(),
    /** A milestone that the due day follows, so many days after it. */
    dueMilestoneId: id.nullable(),
    dueAfter: z.int().min(0).max(365),
    receiptIds: z.array(id).max(50, 'A cost has at most 50 receipts.'),
    /** Why there is no receipt where one is asked for: with a reason it counts as settled. */
    noReceipt: text.max(300, 'A reason has at most 300 characters.').optional(),
    /** The account that a bill asks to be paid into, as its electronic invoice has it; absent where nothing was said. */
    payTo: text.max(60, 'An account number has at most 60 characters.').optional(),
    note: text,
    /** Where a ledger line was read: "ledger:4021", "statement:…"; empty where written by hand. */
    source: text.max(300),
    /** What the bookkeeping said of it after it was on an invoice or its day was closed; the cost stays as it was. */
    since: z.strictObject({ amount: minor, withdrawn: z.boolean(), at: instant }).nullable(),
    tags,
    /** Who approved it; absent where nobody looked yet. */
    approval: approvalSchema.optional(),
    /** Given back to the member; absent once it was handed in again. */
    sentBack: sentBackSchema.optional(),
  })
  .refine((cost) => cost.kind === 'expense' || !cost.owedBack, {
    message: 'Only an expense is owed back to a member.',
    path: ['owedBack'],
  })
  .refine((cost) => !cost.owedBack || cost.memberId !== null, {
    message: 'Say to whom it is owed back.',
    path: ['memberId'],
  });

/** A line of a cost: what was bought, for which project and cost code, and whether the client pays. */
export const costLineSchema = z
  .strictObject({
    id,
    costId: id,
    order: z.int().min(0).max(10_000),
    text: text.max(2000, 'A line has at most 2,000 characters.'),
    quantity: decimal,
    /** "km", "night"; empty for pieces. */
    unit: text.max(20, 'A unit has at most 20 characters.'),
    /** Price of one; null where an amount was given for all. */
    price: price.nullable(),
    /** Minor units of the cost's currency. */
    amount: minor.nullable(),
    projectId: id.nullable(),
    /** A job in words that is not set up yet. */
    unlisted: text.max(200),
    costCodeId: id.nullable(),
    /** Whether a client pays for it. */
    forClient: z.boolean(),
    /** The order to a supplier that it draws down. */
    orderId: id.nullable(),
    /** The allowance whose choice it is. */
    agreedId: id.nullable(),
  })
  .refine((line) => (line.price === null) !== (line.amount === null), {
    message: 'A line has a price for one, or an amount for all.',
    path: ['amount'],
  })
  .refine((line) => line.projectId === null || line.unlisted === '', {
    message: 'A line is on a project, or on a job in words.',
    path: ['unlisted'],
  });

/** What one of something costs the studio: a kilometre, a night. */
export const unitRateSchema = z.strictObject({
  id,
  name,
  unit: name.max(20, 'A unit has at most 20 characters.'),
  price,
  currency,
  costCodeId: id.nullable(),
});

/** "Lines that say … belong to …": places what the bookkeeping brings. */
export const matchRuleSchema = z.strictObject({
  id,
  order: z.int().min(0).max(100_000),
  /** Words that all stand in the supplier or text. */
  words: name.max(200, 'A rule has at most 200 characters.'),
  projectId: id.nullable(),
  costCodeId: id.nullable(),
  forClient: z.boolean(),
});

/** How far the bookkeeping has been read. */
export const feedSchema = z.strictObject({
  id,
  name,
  cursor: text.max(500),
  readAt: instant,
});

/** A purchase ordered from a supplier: committed until bills draw it down. */
export const orderSchema = z.strictObject({
  id,
  projectId: id,
  costCodeId: id.nullable(),
  supplier: name,
  number: text.max(100),
  text,
  day,
  amount: minor.min(1, 'An order is for more than nothing.'),
  currency,
  /** Nothing more will come of it. */
  closed: z.boolean(),
});

export type Receipt = z.infer<typeof receiptSchema>;
export type CostKind = (typeof costKinds)[number];
export type Cost = z.infer<typeof costSchema>;
export type CostLine = z.infer<typeof costLineSchema>;
export type UnitRate = z.infer<typeof unitRateSchema>;
export type MatchRule = z.infer<typeof matchRuleSchema>;
export type Feed = z.infer<typeof feedSchema>;
export type Order = z.infer<typeof orderSchema>;
