import * as z from 'zod';
import { currency, day, id, minor, name, text } from '../fields';
import { tags } from '../read-tags';
import { approvedPolicies } from './checking';
import { documentLanguages } from './languages';
import { reminderDays } from './letters';
import { placesSchema } from './place';
import { buyerSchema } from './parties';
import { roundingPolicySchema } from './rounding';

/** A place among its like. */
const order = z.int().min(0).max(1_000_000);

/** How many sources are printed as one line. */
export const condensings = ['item', 'service', 'cost code', 'task', 'project', 'member', 'day', 'week'] as const;

/** Whether a client gives an order number that its invoices must bear. */
export const purchaseOrderHabits = ['never', 'sometimes', 'always'] as const;

/** What can stand in the text of a line that is one entry. */
export const lineParts = ['project', 'service', 'note', 'member', 'day'] as const;

/** What is told of who worked: by name, by what their work is called, or nothing. */
export const peopleShown = ['names', 'services', 'nobody'] as const;

/** What a client's page shows beyond the paper. */
const clientPageSchema = z.strictObject({
  /** Whether each line opens what it is made of. */
  workings: z.boolean(),
  /** How those who worked are told. */
  people: z.enum(peopleShown),
  /** What was agreed, changed and invoiced so far, and what is still to come. */
  rest: z.boolean(),
});
export type ClientPageShows = z.infer<typeof clientPageSchema>;

/** Who is worked for and invoiced. */
export const clientSchema = z.strictObject({
  id,
  name,
  address: text,
  email: text,
  taxNumber: text,
  /** What the bookkeeping calls it. */
  code: text.max(40, 'A client code has at most 40 characters.'),
  currency,
  /** The tax on this client's invoices; none where null. */
  taxId: id.nullable(),
  /** Days until this client's invoices are due; the workspace's where null. */
  termsDays: z.int().min(0).max(365).nullable(),
  archived: z.boolean(),
  /** How this client's hours are rounded; the workspace's policy where null. */
  rounding: roundingPolicySchema.nullable(),
  /** Where it is taxed: a country by its two letters of ISO 3166-1; empty where nobody said. */
  taxPlace: z.string().regex(/^([A-Z]{2})?$/, 'A country is two letters, such as GB.'),
  /** Whether its invoices bear an order number of its own. */
  purchaseOrder: z.enum(purchaseOrderHabits),
  /** How many sources it likes to see as one line. */
  condense: z.enum(condensings),
  /** What a line of a single entry says, in this order. */
  says: z.array(z.enum(lineParts)).min(1, 'A line says something.').max(5),
  /** Whether lines at cost with a markup show both. */
  openBook: z.boolean(),
  /** The only cost codes whose services are offered for its work; all where null. */
  costCodeIds: z.array(id).max(500).nullable(),
  /** What is written to it is in this language; English, with days as the studio has them, where absent. */
  language: z.enum(documentLanguages).optional(),
  /** When it is reminded, in days past the due day; as the studio reminds where absent, never where empty. */
  reminders: reminderDays.optional(),
  /** What the client's page shows beyond the paper; the hours with who worked where absent. */
  page: clientPageSchema.optional(),
  /** A private person, of whom the law between businesses asks no interest. */
  consumer: z.boolean().optional(),
  /** What its electronic invoices need beyond the rest; absent where nothing was said. */
  asBuyer: buyerSchema.optional(),
  /** Whether only approved time goes on its invoices; as the studio has it where absent. */
  billsApproved: z.enum(approvedPolicies).nullable().optional(),
});

/** A person at a client. */
export const contactSchema = z.strictObject({
  id,
  clientId: id,
  name,
  /** Position there: "Production manager". */
  role: text,
  email: text,
  telephone: text,
  note: text,
  /** Projects of the client that this person answers for, with their parts. */
  projectIds: z.array(id).max(500, 'A contact answers for at most 500 projects.').optional(),
});

/** What was agreed with a client across one or more projects. Its rates and markups stand in their own tables. */
export const contractSchema = z.strictObject({
  id,
  clientId: id,
  name,
  /** The terms in words. */
  terms: text,
  /** The most that may be invoiced under it, in the client's currency and before tax; null = no cap. */
  cap: minor.min(1, 'A cap is more than nothing.').nullable(),
  /** Days until its invoices are due; the client's where null. */
  termsDays: z.int().min(0).max(365).nullable(),
});

/** How far a project or task is, in the studio's own words. */
export const stageSchema = z.strictObject({
  id,
  name,
  order,
  /** What has reached it is over and leaves the pickers. */
  finished: z.boolean(),
});

/** Swatches that keep apart in both themes and for the colour-blind by lightness as well as hue. */
export const projectColours = ['moss', 'plum', 'harbour', 'brick', 'ochre', 'slate', 'rose', 'fern'] as const;

/**
 * How a project is charged: by its hours, at a price agreed for the whole, at cost with a markup (its rates are markups), or not at all.
 */
export const projectKinds = ['hourly', 'fixed price', 'cost-plus', 'internal'] as const;

/** What is done for a client, or inside the studio; it can have parts. */
export const projectSchema = z
  .strictObject({
    id,
    /** Whose work it is; null = internal, never invoiced. */
    clientId: id.nullable(),
    /** The project that it is a part of; of the same client. */
    parentId: id.nullable(),
    order,
    name,
    jobNumber: text,
    colour: z.enum(projectColours),
    kind: z.enum(projectKinds),
    /** What was agreed for the whole, in the client's currency and before tax; only of a fixed price. */
    fixedPrice: minor.min(0).nullable(),
    contractId: id.nullable(),
    stageId: id.nullable(),
    finished: z.boolean(),
    /** The client's policy where null. */
    rounding: roundingPolicySchema.nullable(),
    /** The only cost codes offered for its costs; the client's where null. */
    costCodeIds: z.array(id).max(500).nullable(),
    /** Of all that is recorded on it and its parts. */
    tags,
    /** Its hours and those of its parts are approved once two people have looked at them. */
    secondLook: z.boolean().optional(),
    /** Where time on it and its parts is recorded from; as the studio has it where absent or none are named. */
    places: placesSchema.optional(),
  })
  .refine((project) => project.clientId !== null || project.kind === 'internal', {
    message: 'Work for nobody is internal. Choose a client first.',
    path: ['kind'],
  })
  .refine((project) => project.kind === 'fixed price' || project.fixedPrice === null, {
    message: 'Only a project of a fixed price has one.',
    path: ['fixedPrice'],
  })
  .refine((project) => project.parentId !== project.id, {
    message: 'A project cannot be a part of itself.',
    path: ['parentId'],
  })
  .refine((project) => project.clientId !== null || project.contractId === null, {
    message: 'A contract is with a client; internal work has none.',
    path: ['contractId'],
  });

/** What a task of the studio goes with: its internal work, or the work of any client. */
export const freeTaskKinds = ['internal', 'any client'] as const;

/** A piece of a project that time can go to; or one that stands by itself, and goes with every project of its kind. */
export const taskSchema = z
  .strictObject({
    id,
    /** Null where it stands by itself. */
    projectId: id.nullable(),
    /** Only of a task that stands by itself. */
    free: z.enum(freeTaskKinds).optional(),
    name,
    order,
    /** Seconds that it is thought to take. */
    estimate: z.int().min(1).max(100_000_000).nullable(),
    stageId: id.nullable(),
    finished: z.boolean(),
  })
  .refine((task) => (task.projectId === null) === (task.free !== undefined), {
    message: 'A task is of one project, or stands by itself for internal work or for any client.',
    path: ['free'],
  });

/** A day by which something of a project is to be reached. */
export const milestoneSchema = z.strictObject({ id, projectId: id, name, day, reached: z.boolean() });

/** What the client sees that work was. */
export const serviceSchema = z.strictObject({
  id,
  name,
  /** The studio's short code for it, as exports carry it. */
  code: text.max(40, 'A code has at most 40 characters.'),
  /** The budget heading it falls under. */
  costCodeId: id.nullable(),
  /** The tax on it where it is not the client's usual one. */
  taxId: id.nullable(),
  /** The income account it is booked to. */
  account: text.max(40, 'An account has at most 40 characters.'),
  /** Kinds of project that it is offered for. */
  kinds: z.array(z.enum(projectKinds)).max(4),
  archived: z.boolean(),
});

/** What the studio tells apart inside a service that the client sees as one. */
export const kindOfWorkSchema = z.strictObject({
  id,
  serviceId: id,
  name,
  code: text.max(40, 'A code has at most 40 characters.'),
});

/** What a cost code is of: markups differ by it. */
export const costTypes = ['labour', 'material', 'subcontract', 'equipment', 'expense'] as const;

/** The budget heading that a cost or a service falls under. */
export const costCodeSchema = z.strictObject({
  id,
  code: name.max(40, 'A code has at most 40 characters.'),
  name,
  costType: z.enum(costTypes),
});

/** What may be used of a project, task, contract or cost code of a project. */
export const budgetSchema = z
  .strictObject({
    id,
    projectId: id.nullable(),
    taskId: id.nullable(),
    contractId: id.nullable(),
    /** Only what falls under this heading; all where null. */
    costCodeId: id.nullable(),
    seconds: z.int().min(1).max(1_000_000_000).nullable(),
    /** In the client's currency, or the workspace's for internal work, before tax. */
    money: minor.min(1).nullable(),
    /** Whether more may not be invoiced. */
    cap: z.boolean(),
    /** The share in percent at which it wants attention. */
    noticeAt: z.int().min(1).max(100),
  })
  .refine((row) => [row.projectId, row.taskId, row.contractId].filter((each) => each !== null).length === 1, {
    message: 'A budget is for one project, one task or one contract.',
    path: ['projectId'],
  })
  .refine((row) => row.seconds !== null || row.money !== null, {
    message: 'A budget has hours, money or both.',
    path: ['seconds'],
  })
  .refine((row) => !row.cap || row.money !== null, {
    message: 'A cap is on money: say how much may be invoiced.',
    path: ['money'],
  });

export type Condensing = (typeof condensings)[number];
export type LinePart = (typeof lineParts)[number];
export type Client = z.infer<typeof clientSchema>;
export type Contact = z.infer<typeof contactSchema>;
export type Contract = z.infer<typeof contractSchema>;
export type Stage = z.infer<typeof stageSchema>;
export type Project = z.infer<typeof projectSchema>;
export type ProjectColour = (typeof projectColours)[number];
export type ProjectKind = (typeof projectKinds)[number];
export type FreeTaskKind = (typeof freeTaskKinds)[number];
export type Task = z.infer<typeof taskSchema>;
export type Milestone = z.infer<typeof milestoneSchema>;
export type Service = z.infer<typeof serviceSchema>;
export type KindOfWork = z.infer<typeof kindOfWorkSchema>;
export type CostType = (typeof costTypes)[number];
export type CostCode = z.infer<typeof costCodeSchema>;
export type Budget = z.infer<typeof budgetSchema>;
