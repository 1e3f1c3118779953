import * as z from 'zod';
import { roundingRules } from '../../money/rational';
import { taxCategories, taxMethods } from '../../money/tax';
import { numberStyles } from '../../money/written';
import { clockStyles, lengthStyles } from '../../time/length';
import { currency, day, id, language, minor, name, percent, text, zone } from '../fields';
import { approvedPolicies, handInPeriods } from './checking';
import { sellerSchema } from './parties';
import { placeRules, placesSchema } from './place';
import { roundingPolicySchema } from './rounding';
import { letterKinds, reminderDays, templateSchema } from './letters';
import { documentLanguages } from './languages';

/** 300 kB in base64. */
const LARGEST_PICTURE = 409_600;

/** The one row of the workspace table. */
export const WORKSPACE_ID = '00000000-0000-7000-8000-000000000001';

/** After so much work in a day, a break of at least so long is taken for granted and taken off unless one was recorded. */
export const breakRuleSchema = z.strictObject({
  after: z.int().min(1).max(86_400),
  take: z.int().min(1).max(43_200),
  /** A job that breaks are recorded on, such as "Lunch"; gaps between times of the day count as well. */
  projectId: id.nullable(),
});

/** The studio's own calendar of billing periods. */
export const periodsSchema = z.discriminatedUnion('kind', [
  /** Begins on this day of each month. */
  z.strictObject({ kind: z.literal('monthly'), startsOn: z.int().min(1).max(28) }),
  z.strictObject({ kind: z.literal('fortnightly'), from: day }),
  /** Quarters of four, four and five weeks, counted from here. */
  z.strictObject({ kind: z.literal('4-4-5'), from: day }),
  z.strictObject({ kind: z.literal('own'), starts: z.array(z.strictObject({ from: day, name: text })).max(500) }),
]);

const account = text.max(40, 'An account has at most 40 characters.');

/** Which account takes what. Income goes to a service's own account where it has one. */
export const accountsSchema = z.strictObject({
  sales: account,
  /** Income from costs charged on. */
  reimbursables: account,
  tax: account,
  receivables: account,
  bank: account,
  /** Money paid ahead by clients. */
  deposits: account,
  /** Money that clients hold back. */
  retention: account,
  writeOffs: account,
  /** What supplier bills and expenses were for. */
  purchases: account,
  /** Tax on those that is claimed back. */
  inputTax: account,
  /** What suppliers are owed. */
  payables: account,
  /** What members paid and are owed back. */
  members: account,
  /** What banks and payment services keep of what clients pay. */
  charges: account,
  /** Gained or lost between the exchange rate of an invoice and that of its payment. */
  exchange: account,
});

/** An account that clients pay into, as it is printed on invoices in its currency. */
export const bankAccountSchema = z.strictObject({
  id,
  currency,
  /** Whose account it is, as the bank knows it. */
  holder: text.max(200, 'An account name has at most 200 characters.'),
  /** IBAN (ISO 13616), or sort code and number. */
  number: text.max(60, 'An account number has at most 60 characters.'),
  /** ISO 9362; empty where the bank is found by the number. */
  bic: z.string().regex(/^([A-Z]{6}[A-Z0-9]{2}([A-Z0-9]{3})?)?$/, 'A BIC has 8 or 11 letters and figures.'),
  /** The account of the bookkeeping that payments in this currency go to; that of the bank where empty. */
  ledger: account,
});

/** What a receipt that is missing above the limit does: it is only noted, warned of before invoicing, or keeps the cost from being invoiced. */
export const receiptPolicies = ['note', 'warn', 'require'] as const;
export type ReceiptPolicy = (typeof receiptPolicies)[number];

/** By whose law what is paid late bears interest. */
export const lateLaws = ['UK', 'EU'] as const;
export type LateLaw = (typeof lateLaws)[number];

/** The interest that the law gives on what businesses pay late: which law, and the central bank's rates that it adds to, as they changed. */
export const latePaymentSchema = z.strictObject({
  law: z.enum(lateLaws),
  baseRates: z.array(z.strictObject({ from: day, percent })).max(200, 'At most 200 base rates.'),
});
export type LatePayment = z.infer<typeof latePaymentSchema>;

/** How invoices look on paper: designs of the product's own, told by name. */
export const invoiceDesigns = ['ledger', 'harbour', 'slate', 'moss', 'plum', 'brick', 'plain'] as const;
export type InvoiceDesign = (typeof invoiceDesigns)[number];

/** The studio: who invoices, and the rules that hold for everything in it. */
export const workspaceSchema = z.strictObject({
  id: z.literal(WORKSPACE_ID),
  name,
  address: text,
  email: text,
  taxNumber: text,
  /** Its number in the register of companies; empty where it is none. */
  companyNumber: text.max(60, 'A company number has at most 60 characters.'),
  /** What electronic invoices need beyond the rest; absent where nothing was said. */
  asSeller: sellerSchema.optional(),
  /** Where the company is registered, if elsewhere than its address. */
  registeredOffice: text,
  /** How clients pay: printed on invoices. */
  paymentDetails: text,
  /** Accounts to pay into, one a currency. */
  bankAccounts: z.array(bankAccountSchema).max(20),
  currency,
  zone,
  /** Seconds in a day that is sold as a day. */
  daySeconds: z.int().min(3600).max(86_400),
  amountRounding: z.enum(roundingRules),
  taxMethod: z.enum(taxMethods),
  rounding: roundingPolicySchema,
  /** Put before an invoice's number; the number itself counts up without gaps. */
  numberPrefix: text.max(20, 'A prefix has at most 20 characters.'),
  numberDigits: z.int().min(1).max(9),
  /** Put before a quote's number; Q- where absent. */
  quotePrefix: text.max(20, 'A prefix has at most 20 characters.').optional(),
  firstNumber: z.int().min(1).max(99_999_999),
  /** Days until an invoice is due. */
  termsDays: z.int().min(0).max(365),
  paper: z.enum(['A4', 'Letter']),
  lengthStyle: z.enum(lengthStyles),
  breakRule: breakRuleSchema.nullable(),
  periods: periodsSchema,
  /** The last day of the studio's week: 1 = Monday … 7 = Sunday. */
  cutOff: z.int().min(1).max(7),
  /** What members hand in at once; a week where nothing is said. */
  handsIn: z.enum(handInPeriods).optional(),
  /** Whether only approved time goes on invoices; nobody asks where nothing is said. */
  billsApproved: z.enum(approvedPolicies).optional(),
  /** How figures and times of day are written; files have their own way. */
  numberStyle: z.enum(numberStyles),
  clockStyle: z.enum(clockStyles),
  /** Where time is recorded from, for jobs that name no places of their own; anywhere where absent. */
  places: placesSchema.optional(),
  /** Whose own workspace this is: a member’s, who hands in to the studio by sealed files; absent in the studio’s. */
  ofMember: id.optional(),
  /** The language that days are written in on invoices (BCP 47); British English where nothing is said. */
  datesIn: language.optional(),
  /** The studio's own wording of what documents say: by language, by message. */
  wording: z.partialRecord(z.enum(documentLanguages), z.record(text.max(40), text.max(300))).optional(),
  /** How invoices look from now on; the ledger where nothing is said. */
  design: z.enum(invoiceDesigns).optional(),
  /** Interest by law on what is paid late; none where absent. */
  latePayment: latePaymentSchema.nullable().optional(),
  /** Whether invoices in euro bear a code that a bank's application pays by. */
  payCode: z.boolean().optional(),
  /** Where clients pay by card: an address with {number}, {amount} and {currency} in it. */
  payAddress: text
    .max(500)
    .regex(/^(https?:\/\/\S+)?$/, 'An address begins with https:// and has no spaces.')
    .optional(),
  /** Printed at the head of invoices. */
  logoId: id.nullable(),
  /** Costs of more than this need a receipt, in minor units of the workspace's currency; none does where null. */
  receiptOver: minor.min(0).nullable(),
  /** What a missing receipt does; a warning where nothing is said. */
  receiptPolicy: z.enum(receiptPolicies).optional(),
  /** Accounts of the bookkeeping that postings are made to. */
  accounts: accountsSchema,
  /** After how many days past its due day an invoice is reminded of, for the first, second and last time; 7, 21 and 35 where absent. */
  reminders: reminderDays.optional(),
  /** The studio's own letters: by language, by what they are about. */
  letters: z.partialRecord(z.enum(documentLanguages), z.partialRecord(z.enum(letterKinds), templateSchema)).optional(),
  /** Why a document was open, in the studio's own words. */
  openedFor: z.array(z.strictObject({ id, name })).max(100),
  /** Weight groups: how much an hour of a group of projects counts as weighted time, in percent. */
  weights: z
    .array(z.strictObject({ id, name, percent: z.int().min(0).max(100), projectIds: z.array(id).max(2000) }))
    .max(50),
});

/** A picture kept with the workspace. What an issued invoice was printed with stays, so pictures are added and never changed. */
export const pictureSchema = z.strictObject({
  id,
  mediaType: z.enum(['image/png', 'image/jpeg']),
  /** Its bytes in base64 (RFC 4648). */
  data: z.base64().max(LARGEST_PICTURE, 'A picture has at most 300 kB.'),
});

/** What can be asked of an entry, in the order that the form of a new member has. */
export const formFields = ['length', 'note', 'job', 'service', 'billable', 'times', 'day', 'tags', 'rate'] as const;
/** How time comes to be recorded: by a timer, written down, from what was noticed, from what was planned. */
export const recordingWays = ['timer', 'by hand', 'trail', 'plan'] as const;

/** What a member may have to say before time is recorded. */
export const askable = ['job', 'service', 'note'] as const;

/** Who works in the studio: what they owe, what they are asked, who checks them, what they may do. */
export const memberSchema = z.strictObject({
  id,
  name,
  /** Where letters to them go; absent where nobody said. */
  email: text.max(320, 'An e-mail address has at most 320 characters.').optional(),
  role: text,
  zone,
  /** Seconds owed on Monday … Sunday. */
  owed: z.array(z.int().min(0).max(86_400)).length(7),
  /** The first day on which hours are owed; left out where they always were. */
  owesFrom: day.optional(),
  /** What must be known before a timer starts, and of every entry in the end. */
  asked: z.array(z.enum(askable)).max(3),
  /** The fields that the entry form shows, in their order. */
  form: z.array(z.enum(formFields)).min(1).max(9),
  /** How jobs are named and sorted: "Quayside Playhouse / Winter season rig" or the other way round. */
  jobOrder: z.enum(['client first', 'project first']),
  /** Jobs offered before all others. */
  pinned: z.array(id).max(50),
  /** Seconds without a sign of the person after which running time is in doubt; never where null. */
  awayAfter: z.int().min(60).max(86_400).nullable(),
  /** Services never used: left out of the pickers. */
  hiddenServices: z.array(id).max(500),
  /** Who looks at this member's weeks before they are closed. */
  checkerId: id.nullable(),
  /** Who checks in the checker's place. */
  deputyId: id.nullable().optional(),
  /** The only ways in which they record; all where none are named. */
  ways: z.array(z.enum(recordingWays)).min(1, 'Leave at least one way to record.').max(4).optional(),
  /** The only kinds of work that they record; all, and those that will come, where null or none are named. */
  kindsOfWork: z.array(id).max(500).nullable().optional(),
  /** What becomes of time that they record from elsewhere; nobody asks where absent. */
  placeRule: z.enum(placeRules).optional(),
  /** The studio sets what they are asked and offered, and they do not. */
  locked: z.boolean().optional(),
  /** The rights that they have; all there are where none are named. */
  rightSetId: id.nullable().optional(),
});

/** A tax that lines can have, with the percentages that followed. */
export const taxSchema = z.strictObject({
  id,
  name,
  percent,
  /** What kind of tax it is by EN 16931. */
  category: z.enum(taxCategories),
  /** A sentence the law wants on invoices with this tax, such as that of reverse charge; printed in place of a percentage by all but S and Z. */
  note: text,
  /** The country whose tax it is, by its two letters; empty where nobody said. */
  place: z.string().regex(/^([A-Z]{2})?$/, 'A country is two letters, such as GB.'),
  /** The customer accounts for it: it holds for everything on a client's invoices, whatever tax a service has. */
  reverseCharge: z.boolean(),
  /** What the bookkeeping calls it: "T1". */
  code: text.max(20, 'A tax code has at most 20 characters.'),
  /** Other percentages that hold from later days on. */
  later: z.array(z.strictObject({ from: day, percent })).max(50),
});

/** Days on which a member, or everybody, owes less. */
export const absenceSchema = z
  .strictObject({
    id,
    /** Everybody where null: a holiday. */
    memberId: id.nullable(),
    name,
    from: day,
    to: day,
    /** Seconds a day that are not owed; the whole day where null. */
    seconds: z.int().min(60).max(86_400).nullable(),
  })
  .refine((absence) => absence.to >= absence.from, { message: 'The last day is before the first.', path: ['to'] });

export type Workspace = z.infer<typeof workspaceSchema>;
export type Picture = z.infer<typeof pictureSchema>;
export type Member = z.infer<typeof memberSchema>;
export type Tax = z.infer<typeof taxSchema>;
export type Absence = z.infer<typeof absenceSchema>;
export type BreakRule = z.infer<typeof breakRuleSchema>;
export type Periods = z.infer<typeof periodsSchema>;
export type FormField = (typeof formFields)[number];
export type RecordingWay = (typeof recordingWays)[number];
export type Askable = (typeof askable)[number];
export type Accounts = z.infer<typeof accountsSchema>;
export type BankAccount = z.infer<typeof bankAccountSchema>;
