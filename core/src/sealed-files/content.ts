import * as z from 'zod';
import { id, instant, text } from '../model/fields';
import { publicKeysSchema } from '../model/records';
import { schemas } from '../model/schemas';
import type { TableName } from '../model/tables';

// What is in the files that travel between the studio's workspace and those of its members, once they are opened.

const rowsOf = <const T extends TableName>(...tables: readonly T[]) =>
  z.strictObject(
    Object.fromEntries(tables.map((table) => [table, z.array(schemas[table])])) as {
      [K in T]: z.ZodArray<(typeof schemas)[K]>;
    },
  );

const head = {
  /** The file's own. */
  id,
  madeAt: instant,
  /** The member that it is to or from. */
  memberId: id,
};

/** The tables of a job sheet, in an order in which none refers to a later one. */
export const jobSheetTables = [
  'workspace',
  'rightSets',
  'members',
  'taxes',
  'costCodes',
  'services',
  'kindsOfWork',
  'stages',
  'clients',
  'contracts',
  'projects',
  'tasks',
  'rateLines',
  'plans',
  'absences',
  'unitRates',
  'closings',
] as const satisfies readonly TableName[];

/** From the studio to a member: what they record on, what is planned for them, what they may and must. */
export const jobSheetSchema = z.strictObject({
  kind: z.literal('job sheet'),
  ...head,
  /** Who made it. */
  byId: id,
  rows: rowsOf(...jobSheetTables),
});

/** Of what a timesheet is made. */
export const timesheetTables = ['timesheets', 'handIns', 'entries', 'costs', 'costLines', 'receipts'] as const;

/** From a member to the studio: a week or billing period as it was handed in. */
export const timesheetFileSchema = z.strictObject({
  kind: z.literal('timesheet'),
  ...head,
  /** What was handed in of these days before; null where nothing was. */
  previousId: id.nullable(),
  rows: rowsOf(...timesheetTables),
  /** Days off of the member that are among these. */
  absences: z.array(schemas.absences).optional(),
  /** What projects are called, by id: should the studio have removed one since. */
  names: z.record(id, text),
});

/** Of what an answer is made. */
export const answerTables = [
  'members',
  'services',
  'kindsOfWork',
  'clients',
  'projects',
  'tasks',
  ...timesheetTables,
  'corrections',
  'closings',
] as const;

/** From the studio to a member: what became of what they handed in. */
export const answerSchema = z.strictObject({
  kind: z.literal('answer'),
  ...head,
  byId: id,
  rows: rowsOf(...answerTables),
});

/** What a sealed file can hold, by its kind. */
export const sealedContentSchema = z.discriminatedUnion('kind', [jobSheetSchema, timesheetFileSchema, answerSchema]);

/** What comes with an opened file: the key that it was signed by, found to be so. */
export const signed = { signer: publicKeysSchema.shape.signing };

export type JobSheet = z.infer<typeof jobSheetSchema>;
export type TimesheetFile = z.infer<typeof timesheetFileSchema>;
export type Answer = z.infer<typeof answerSchema>;
export type SealedContent = z.infer<typeof sealedContentSchema>;

/** What a file is made as. */
export interface Making {
  id: string;
  madeAt: number;
}
