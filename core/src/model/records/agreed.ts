import * as z from 'zod';
import { currency, day, id, minor, name, text } from '../fields';

/**
 * An estimate is what a heading is thought to come to; an allowance is set aside for something the client chooses later; an extra is work
 * agreed on top; a fixed amount is a part of a price agreed for the whole.
 */
export const agreedKinds = ['estimate', 'allowance', 'extra', 'fixed'] as const;

/** An amount agreed with the client, in the client's currency and before tax. */
export const agreedSchema = z
  .strictObject({
    id,
    projectId: id,
    kind: z.enum(agreedKinds),
    costCodeId: id.nullable(),
    text: name.max(1000, 'At most 1,000 characters.'),
    amount: minor.min(0, 'An agreed amount is not negative.'),
    /** What it is thought to cost the studio; for comparison. */
    cost: minor.min(0).nullable(),
    /** When the client agreed to an extra, and who did; not yet where null. */
    agreedOn: day.nullable(),
    agreedBy: text.max(200),
    /** A fixed amount is to bill once this is reached; at once where null. */
    milestoneId: id.nullable(),
    /** Whether an estimate is billed itself, in full or by share, in place of what happened. */
    billed: z.boolean(),
  })
  .refine((row) => row.kind === 'estimate' || !row.billed, {
    message: 'Only an estimate is said to be billed itself.',
    path: ['billed'],
  });

/** Money that a client paid ahead, deducted from later invoices. */
export const depositSchema = z.strictObject({
  id,
  clientId: id,
  projectId: id.nullable(),
  day,
  amount: minor.min(1, 'A deposit is more than nothing.'),
  currency,
  note: text,
  /** The sum that it came with; absent where it was written down by hand. */
  moneyInId: id.optional(),
  /** What a payment service kept of it; absent where nothing. */
  fee: minor.min(1, 'Charges are more than nothing.').optional(),
  /** What of it went back to the client; absent where nothing did. */
  paidBack: z
    .array(
      z.strictObject({
        id,
        day,
        amount: minor.min(1, 'More than nothing is paid back.'),
        note: text,
        /** The line of a statement that told of it; absent where it was written down by hand. */
        source: name.max(300).optional(),
      }),
    )
    .max(100)
    .optional(),
});

/**
 * What became of a source besides being invoiced. Written down or never billed, a part of it is not to bill any more; written up
 * (a negative part), more of it is. Left for later, it waits.
 */
export const adjustmentKinds = ['written down', 'never billed', 'later'] as const;

/** The source that a row is about: an entry, a line of a cost, or an agreed amount. */
export const sourceFields = { entryId: id.nullable(), costLineId: id.nullable(), agreedId: id.nullable() };

/** Exactly one of the three sources is named. */
export const oneSource = {
  check: (row: { entryId: string | null; costLineId: string | null; agreedId: string | null }) =>
    [row.entryId, row.costLineId, row.agreedId].filter((each) => each !== null).length === 1,
  fault: { message: 'It is about one entry, one line of a cost or one agreed amount.', path: ['entryId'] },
};

/** What was written down or off of a source, or left for later, with who said so and why. */
export const adjustmentSchema = z
  .strictObject({
    id,
    ...sourceFields,
    kind: z.enum(adjustmentKinds),
    /** Of an entry, in seconds. */
    seconds: z.int(),
    /** Of a cost or an agreed amount, in minor units of its own currency. */
    part: minor,
    reason: text.max(500, 'A reason has at most 500 characters.'),
    day,
    /** Until when it is left for later; until somebody says so where null. */
    until: day.nullable(),
    memberId: id.nullable(),
  })
  .refine(oneSource.check, oneSource.fault)
  .refine((row) => row.kind !== 'later' || (row.seconds === 0 && row.part === 0), {
    message: 'What is left for later loses nothing.',
    path: ['part'],
  })
  .refine((row) => row.kind === 'later' || row.reason.trim() !== '', { message: 'Say why.', path: ['reason'] });

export type AgreedKind = (typeof agreedKinds)[number];
export type Agreed = z.infer<typeof agreedSchema>;
export type Deposit = z.infer<typeof depositSchema>;
export type Adjustment = z.infer<typeof adjustmentSchema>;
export type AdjustmentKind = (typeof adjustmentKinds)[number];
