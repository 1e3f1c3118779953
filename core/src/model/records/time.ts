import * as z from 'zod';
import { rateUnits } from '../../money/price';
import { day, id, instant, length, price, seconds, text } from '../fields';
import { tags } from '../read-tags';
import { approvalSchema, sentBackSchema } from './checking';
import { recordedFromSchema } from './place';
import { spanSchema } from './span';

/** What time is recorded on: a project, or a job in words while it is not set up yet, or neither. */
const jobFields = {
  projectId: id.nullable(),
  /** Words or a number for a job that is not set up; empty where there is a project. */
  unlisted: text.max(500, 'A job is named in at most 500 characters.'),
  /** A task of the project. */
  taskId: id.nullable(),
  serviceId: id.nullable(),
  /** A kind of work of the service. */
  kindOfWorkId: id.nullable(),
  note: text,
};

type JobFields = { projectId: string | null; unlisted: string; taskId: string | null };

const jobIsOne = {
  check: (row: JobFields) => row.unlisted === '' || (row.projectId === null && row.taskId === null),
  fault: { message: 'Time is on a project or on a job in words, not both.', path: ['unlisted'] },
};

const taskNeedsProject = {
  check: (row: JobFields) => row.taskId === null || row.projectId !== null,
  fault: { message: 'A task belongs to a project; say which.', path: ['taskId'] },
};

const lengthOfSpans = (spans: readonly { start: number; end: number }[]): number =>
  spans.reduce((sum, span) => sum + span.end - span.start, 0);

/** A recorded piece of time. */
export const entrySchema = z
  .strictObject({
    id,
    memberId: id,
    /** The day it counts for, in the member's zone: that of its first moment where it has times. */
    day,
    /** Further days that its times reach into. */
    laterDays: z.array(day).max(400),
    ...jobFields,
    /** Worked length. Never altered by rounding. */
    seconds: length,
    /** When it was, where that is known; several where it was gone on with. */
    spans: z.array(spanSchema).max(2000),
    /** The billable part; null follows the worked length. */
    billableSeconds: seconds.nullable(),
    /** A price agreed for this piece of time alone, in the client's currency; decided by the rate cards where null. */
    rate: z.strictObject({ price, unit: z.enum(rateUnits) }).nullable(),
    /** The planned time that this became. */
    planId: id.nullable(),
    /** By which a row imported from elsewhere is known again; empty for what was recorded here. */
    source: text.max(2000),
    /** The stretches of noticed activity that it was posted from; of one entry each. */
    stretchIds: z.array(id).max(500),
    tags,
    /** From where it was recorded; absent where nobody asked, or nobody could tell. */
    recordedFrom: recordedFromSchema.optional(),
    /** Who approved it; absent where nobody looked yet. */
    approval: approvalSchema.optional(),
    /** Given back to the member; absent once it was handed in again. */
    sentBack: sentBackSchema.optional(),
  })
  .refine((entry) => entry.spans.every((span, i) => i === 0 || span.start >= entry.spans[i - 1]!.end), {
    message: 'Its times overlap one another or are out of order.',
    path: ['spans'],
  })
  .refine((entry) => entry.spans.length === 0 || lengthOfSpans(entry.spans) === entry.seconds * 1000, {
    message: 'Its length is not what its times come to.',
    path: ['seconds'],
  })
  .refine((entry) => entry.billableSeconds === null || entry.billableSeconds <= entry.seconds, {
    message: 'The billable part is longer than what was worked.',
    path: ['billableSeconds'],
  })
  .refine(jobIsOne.check, jobIsOne.fault)
  .refine(taskNeedsProject.check, taskNeedsProject.fault);

/** What is running. At most one a member; stopping it makes an entry of the same id or adds to the one it goes on with. */
export const timerSchema = z
  .strictObject({
    id,
    memberId: id,
    ...jobFields,
    startedAt: instant,
    /** The entry that this goes on with. */
    entryId: id.nullable(),
    /** From where it was started; absent where nobody asked, or nobody could tell. */
    recordedFrom: recordedFromSchema.optional(),
  })
  .refine(jobIsOne.check, jobIsOne.fault)
  .refine(taskNeedsProject.check, taskNeedsProject.fault);

/** Time meant for a member, job and day. */
export const planSchema = z
  .strictObject({
    id,
    memberId: id,
    day,
    ...jobFields,
    seconds: length,
    /** When it is meant to be, where that is known. */
    start: instant.nullable(),
    /** Known again when its calendar is read once more; empty for what was planned here. */
    source: text.max(2000),
    /** Who else is invited, as the calendar names them. */
    guests: text,
  })
  .refine(jobIsOne.check, jobIsOne.fault)
  .refine(taskNeedsProject.check, taskNeedsProject.fault);

/** Which column of a table of hours means what, remembered by the table's head. */
export const mappingSchema = z.strictObject({
  id,
  /** The heads of all columns, one a line. */
  head: text,
  columns: z.record(z.string(), z.string()),
});

export type Entry = z.infer<typeof entrySchema>;
export type PlannedTime = z.infer<typeof planSchema>;
export type Mapping = z.infer<typeof mappingSchema>;
export type Timer = z.infer<typeof timerSchema>;
