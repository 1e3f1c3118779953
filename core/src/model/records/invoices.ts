import * as z from 'zod';
import { rateUnits } from '../../money/price';
import { taxMethods } from '../../money/tax';
import { numberStyles } from '../../money/written';
import { lengthStyles } from '../../time/length';
import { currency, day, decimal, id, instant, markup, minor, name, percent, price, seconds, text } from '../fields';
import { oneSource, sourceFields } from './agreed';
import { condensings } from './work';

/** What a line's quantity counts: time, pieces of something, or nothing at all where a sum was agreed. */
export const lineUnits = [...rateUnits, 'piece', 'lump'] as const;

export const frozenLineSchema = z.strictObject({
  key: text,
  text,
  /** A heading that stands above it; empty where none does. */
  heading: text,
  /** Length as billed, after rounding; 0 where it is not time. */
  seconds,
  /** How many pieces; "1" for a lump sum. */
  quantity: decimal,
  /** What a piece is called: "km". */
  unitName: text,
  price,
  unit: z.enum(lineUnits),
  /** Before its own discount. */
  gross: minor,
  /** Percent taken off this line. */
  discount: percent.nullable(),
  amount: minor,
  taxId: id.nullable(),
  /** The income account it is booked to. */
  account: text,
  /** What it cost and what was added, where the client sees both. */
  cost: minor.nullable(),
  markup: markup.nullable(),
  /** Receipts of what stands on it. */
  receiptIds: z.array(id),
});

/** Deducted from the total before it is to be paid: money paid ahead, or held back until the work has stood the test. */
export const deductionSchema = z.strictObject({
  kind: z.enum(['deposit', 'retention']),
  depositId: id.nullable(),
  text,
  amount: minor,
});

/** An invoice or credit note as it was sent. Nothing in it is ever looked up again. */
export const frozenInvoiceSchema = z.strictObject({
  number: name,
  day,
  dueDay: day,
  studio: z.strictObject({
    name,
    address: text,
    email: text,
    taxNumber: text,
    paymentDetails: text,
    logoId: id.nullable(),
  }),
  client: z.strictObject({ name, address: text, taxNumber: text }),
  currency,
  paper: z.enum(['A4', 'Letter']),
  lengthStyle: z.enum(lengthStyles),
  numberStyle: z.enum(numberStyles),
  daySeconds: z.int().min(3600),
  period: z.strictObject({ from: day, to: day }).nullable(),
  lines: z.array(frozenLineSchema).min(1),
  taxMethod: z.enum(taxMethods),
  /** Whether the lines' amounts have the tax in them. */
  inclusive: z.boolean(),
  /** A discount on all of it. */
  allowance: z.strictObject({ text, percent: percent.nullable(), amount: minor }).nullable(),
  taxes: z.array(z.strictObject({ id, name, percent, note: text, basis: minor, amount: minor })),
  /** The sum of the lines. */
  net: minor,
  tax: minor,
  total: minor,
  deductions: z.array(deductionSchema),
  /** The total less what is deducted. */
  payable: minor,
  note: text,
  /** The client's order number. */
  purchaseOrder: text,
  /** What was agreed about the rates and markups on it. */
  sentences: z.array(text),
  /** Whether cost and markup stand beside the price. */
  openBook: z.boolean(),
  /** Of a credit note: what it credits, and why. */
  credits: z.strictObject({ number: name, reason: text }).nullable(),
});

/** How what is of one kind, perhaps of one project, stands on an invoice. */
export const waySchema = z.strictObject({
  way: z.enum(condensings),
  /** One sum without quantity and price. */
  lump: z.boolean(),
});

/** A line that stands for no source. */
export const handLineSchema = z.strictObject({
  key: id,
  text,
  quantity: decimal,
  unitName: text.max(20),
  price: decimal,
  taxId: id.nullable(),
  account: text.max(40),
});

/** One price agreed for a set of hours, whatever their rates: for all of them together, or for each. */
export const dealSchema = z
  .strictObject({ id, text, amount: minor.min(0).nullable(), price: price.nullable() })
  .refine((deal) => (deal.amount === null) !== (deal.price === null), {
    message: 'One sum for all of them, or one price an hour.',
    path: ['amount'],
  });

const byLine = <T extends z.ZodType>(value: T) => z.record(text, value);

export const invoiceSchema = z.strictObject({
  id,
  clientId: id,
  kind: z.enum(['invoice', 'credit note']),
  /** The invoice that a credit note credits. */
  ofId: id.nullable(),
  currency,
  createdAt: instant,
  condense: z.enum(condensings),
  /** Other ways for some of it: by "time", "expense", "bill", "ledger" or "agreed", and by those with a project's id. */
  ways: byLine(waySchema),
  /** What lines say, with names of what is on them in braces; the client's liking where empty. */
  says: text.max(300, 'At most 300 characters.'),
  /** Texts of lines that were written by hand, by the line's key. */
  texts: byLine(text),
  /** Taxes of lines that are not the usual one; empty for none. */
  lineTaxes: byLine(text),
  /** Percent taken off a line. */
  discounts: byLine(percent),
  /** Keys of lines in the order they stand; others come after. */
  order: z.array(text),
  headings: z.array(z.strictObject({ id, text: name, before: text })),
  byHand: z.array(handLineSchema).max(500),
  deals: z.array(dealSchema),
  /** A discount on all of it. */
  allowance: z
    .strictObject({ text: name, percent: percent.nullable(), amount: minor.min(0).nullable() })
    .refine((row) => (row.percent === null) !== (row.amount === null), {
      message: 'A discount is in percent or a sum, one of the two.',
      path: ['percent'],
    })
    .nullable(),
  inclusive: z.boolean(),
  /** Percent of the net that the client holds back. */
  retention: percent.nullable(),
  deposits: z.array(z.strictObject({ depositId: id, amount: minor.min(1) })),
  openBook: z.boolean(),
  /** Whether new time of the client goes onto it as it is recorded. */
  collects: z.boolean(),
  /** Whether the receipts of what is on it follow it. */
  withReceipts: z.boolean(),
  /** Printed below the lines. */
  note: text,
  taxId: id.nullable(),
  /** The client's order number. */
  purchaseOrder: text.max(100, 'An order number has at most 100 characters.'),
  /** Place in the numbering; null while a draft. */
  seq: z.int().min(1).nullable(),
  issuedAt: instant.nullable(),
  frozen: frozenInvoiceSchema.nullable(),
  voided: z.strictObject({ at: instant, day, reason: name }).nullable(),
  /** When what was held back became due. */
  releasedOn: day.nullable(),
});

/**
 * Which part of a source stands on which invoice line. Negative parts and amounts give back what a void or credited invoice took.
 */
export const allocationSchema = z
  .strictObject({
    id,
    invoiceId: id,
    ...sourceFields,
    /** The line's key; empty while the invoice is a draft. */
    line: text,
    /** Of an entry's billable seconds, before rounding. */
    seconds: z.int(),
    /** Of a cost or an agreed amount, in minor units of its own currency. */
    part: minor,
    /** Its share of the line's amount, once issued. */
    amount: minor.nullable(),
    /** A markup for this invoice alone. */
    markup: markup.nullable(),
    /** The deal that prices it; null for its own price. */
    dealId: id.nullable(),
  })
  .refine(oneSource.check, oneSource.fault);

/** Money that came in, or that will never come and is written off. */
export const paymentSchema = z.strictObject({
  id,
  invoiceId: id,
  kind: z.enum(['payment', 'write-off']),
  day,
  amount: minor.min(1, 'A payment is more than nothing.'),
  currency,
  note: text,
});

export type LineUnit = (typeof lineUnits)[number];
export type FrozenLine = z.infer<typeof frozenLineSchema>;
export type Deduction = z.infer<typeof deductionSchema>;
export type FrozenInvoice = z.infer<typeof frozenInvoiceSchema>;
export type Way = z.infer<typeof waySchema>;
export type HandLine = z.infer<typeof handLineSchema>;
export type Deal = z.infer<typeof dealSchema>;
export type Invoice = z.infer<typeof invoiceSchema>;
export type Allocation = z.infer<typeof allocationSchema>;
export type Payment = z.infer<typeof paymentSchema>;
