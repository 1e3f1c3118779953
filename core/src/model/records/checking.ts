import * as z from 'zod';
import { spanSchema } from './span';
import { day, id, instant, length, minor, seconds, text } from '../fields';

// How time and costs are checked before they are invoiced: handed in by a member, looked at by somebody else, closed for everybody.

const reason = text.max(1000, 'A reason has at most 1,000 characters.');

/** Who looked, and when. */
const lookSchema = z.strictObject({
  /** Who looked. */
  byId: id,
  at: instant,
});

/** The approval of an entry or cost: one look, or two where its project asks for a second. Approved once it has as many as it needs. */
export const approvalSchema = z
  .strictObject({
    /** By whom and when it was looked at, the first look first. */
    looks: z.array(lookSchema).min(1).max(2),
    /** How many looks make it approved. */
    needs: z.union([z.literal(1), z.literal(2)]),
  })
  .refine(({ looks }) => looks.length < 2 || looks[0]!.byId !== looks[1]!.byId, {
    message: 'The second look is somebody else’s.',
    path: ['looks'],
  });

/** An entry or cost that a checker gave back to the member, and why. */
export const sentBackSchema = z.strictObject({
  /** Who gave it back. */
  byId: id,
  at: instant,
  reason,
});

/** What a week or billing period of a member went through. */
export const stepKinds = ['handed in', 'taken back', 'sent back', 'approved'] as const;

/** What happened to a timesheet, by whom and when: what it is now follows from its last step. */
export const stepSchema = z.strictObject({
  kind: z.enum(stepKinds),
  /** Who did it. */
  byId: id,
  at: instant,
  /** Why it was sent back. */
  reason,
});

/** A member's week or billing period as it is checked. What was handed in stands in its own table. */
export const timesheetSchema = z
  .strictObject({
    id,
    memberId: id,
    from: day,
    to: day,
    /** The months that it touches, "2026-11": what it is looked up by. */
    months: z.array(z.string().regex(/^\d{4}-\d{2}$/)).min(1),
    /** In the order in which they happened. */
    steps: z.array(stepSchema).min(1).max(1000),
  })
  .refine((sheet) => sheet.to >= sheet.from, { message: 'The last day is before the first.', path: ['to'] });

/** What can be told apart of an entry once it is checked. */
export const checkedEntrySchema = z.strictObject({
  id,
  day,
  projectId: id.nullable(),
  unlisted: text,
  taskId: id.nullable(),
  serviceId: id.nullable(),
  kindOfWorkId: id.nullable(),
  note: text,
  seconds: length,
  billableSeconds: seconds.nullable(),
  /** When it was; absent where no times are known, and of what was handed in before times were kept. */
  spans: z.array(spanSchema).max(2000).optional(),
});

/** The same of an expense, as a whole. */
export const checkedCostSchema = z.strictObject({ id, day, supplier: text, amount: minor, currency: z.string() });

/** What a member handed in, as it was then. */
export const handInSchema = z.strictObject({
  id,
  /** The timesheet that it was handed in on. */
  timesheetId: id,
  /** Who handed it in. */
  byId: id,
  at: instant,
  /** The entries, as they were. */
  entries: z.array(checkedEntrySchema).max(100_000),
  /** The expenses, as they were. */
  costs: z.array(checkedCostSchema).max(10_000),
});

/** What a checker changed of an entry that was handed in or approved: as it was and as it became; null where it was not, or is no more. */
export const correctionSchema = z.strictObject({
  id,
  memberId: id,
  entryId: id,
  /** Who corrected it. */
  byId: id,
  at: instant,
  before: checkedEntrySchema.nullable(),
  after: checkedEntrySchema.nullable(),
  reason,
});

/** Days in which nothing recorded or spent changes any more: of everybody and the studio's costs, or of one member. */
export const closingSchema = z
  .strictObject({
    id,
    /** Everybody where null. */
    memberId: id.nullable(),
    from: day,
    to: day,
    /** Who closed them. */
    byId: id,
    at: instant,
    /** Who opened them again, and why; null while they are closed. */
    reopened: z
      .strictObject({
        /** Who opened them. */
        byId: id,
        at: instant,
        reason,
      })
      .nullable(),
  })
  .refine((closing) => closing.to >= closing.from, { message: 'The last day is before the first.', path: ['to'] });

/** Whether only approved time goes on invoices, the rest is warned of, or nobody asks. */
export const approvedPolicies = ['free', 'warn', 'only'] as const;
/** What is handed in at once. */
export const handInPeriods = ['week', 'billing period'] as const;

export type Approval = z.infer<typeof approvalSchema>;
export type SentBack = z.infer<typeof sentBackSchema>;
export type Step = z.infer<typeof stepSchema>;
export type StepKind = (typeof stepKinds)[number];
export type Timesheet = z.infer<typeof timesheetSchema>;
export type CheckedEntry = z.infer<typeof checkedEntrySchema>;
export type CheckedCost = z.infer<typeof checkedCostSchema>;
export type HandIn = z.infer<typeof handInSchema>;
export type Correction = z.infer<typeof correctionSchema>;
export type Closing = z.infer<typeof closingSchema>;
export type ApprovedPolicy = (typeof approvedPolicies)[number];
export type HandInPeriod = (typeof handInPeriods)[number];
