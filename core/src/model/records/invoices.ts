import * as z from 'zod';
import { rateUnits } from '../../money/price';
import { roundingRules } from '../../money/rational';
import { taxCategories, taxMethods } from '../../money/tax';
import { numberStyles } from '../../money/written';
import { lengthStyles } from '../../time/length';
import { currency, day, decimal, id, instant, language, markup, minor, name, percent, price, text } from '../fields';
import { oneSource, sourceFields } from './agreed';
import { buyerSchema, sellerSchema } from './parties';
import { invoiceDesigns } from './studio';
import { documentLanguages } from './languages';
import { condensings } from './work';

/** What a line's quantity counts: time, pieces of something, or nothing at all where a sum was agreed. */
export const lineUnits = [...rateUnits, 'piece', 'lump'] as const;

/** A line as it was issued: nothing that changes later touches it. */
export const frozenLineSchema = z.strictObject({
  key: text,
  text,
  /** A heading that stands above it; empty where none does. */
  heading: text,
  /** Length as billed, after rounding; 0 where it is not time, negative on a credit note. */
  seconds: z.int(),
  /** How many pieces; "1" for a lump sum. Negative where the line takes something off: a price never is (EN 16931 BR-27). */
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
  /** What it cost and what was added, where the client sees both; of time also what a unit of it cost. */
  cost: minor.nullable(),
  costPrice: price.nullable(),
  markup: markup.nullable(),
  /** Receipts of what stands on it. */
  receiptIds: z.array(id),
});

/** Deducted from the total before it is to be paid: money paid ahead, or held back until the work has stood the test. */
export const deductionSchema = z.strictObject({
  kind: z.enum(['deposit', 'retention']),
  depositId: id.nullable(),
  text,
  /** Negative on a credit note, which gives it back. */
  amount: minor,
  /** When what is held back becomes due; nobody said where null. */
  dueDay: day.nullable(),
});

/** An invoice or credit note as it was sent. Nothing in it is ever looked up again. */
export const frozenInvoiceSchema = z.strictObject({
  number: name,
  day,
  dueDay: day,
  /** The day on which the tax falls due, where that is not the invoice's own (BT-7). */
  taxPoint: day.nullable(),
  studio: z.strictObject({
    name,
    address: text,
    email: text,
    taxNumber: text,
    companyNumber: text,
    registeredOffice: text,
    paymentDetails: text,
    /** The account to pay into: its name, number and BIC. */
    account: z.strictObject({ holder: text, number: text, bic: text }).nullable(),
    logoId: id.nullable(),
  }),
  client: z.strictObject({ name, address: text, taxNumber: text }),
  /** The parties as an electronic invoice names them; absent where nothing of it was known when it was issued. */
  parties: z.strictObject({ seller: sellerSchema.optional(), buyer: buyerSchema.optional() }).optional(),
  /** Who it is for at the client; absent where nobody is named. */
  attention: text.optional(),
  currency,
  paper: z.enum(['A4', 'Letter']),
  lengthStyle: z.enum(lengthStyles),
  numberStyle: z.enum(numberStyles),
  /** The language of its days (BCP 47); British English where nothing is said. */
  datesIn: language.optional(),
  /** The language of its words; English where nothing is said. */
  language: z.enum(documentLanguages).optional(),
  /** The studio's own wording of them, by message. */
  wording: z.record(text, text).optional(),
  /** How it looks; the ledger where nothing is said. */
  design: z.enum(invoiceDesigns).optional(),
  /** Whether it bears a code to pay by. */
  payCode: z.boolean().optional(),
  /** How amounts were rounded; null on what was issued before this was kept. */
  amountRounding: z.enum(roundingRules).nullable(),
  daySeconds: z.int().min(3600),
  period: z.strictObject({ from: day, to: day }).nullable(),
  lines: z.array(frozenLineSchema).min(1),
  taxMethod: z.enum(taxMethods),
  /** Whether the lines' amounts have the tax in them. */
  inclusive: z.boolean(),
  /** A discount on all of it. */
  allowance: z.strictObject({ text, percent: percent.nullable(), amount: minor }).nullable(),
  /** The category is null on what was issued before categories were kept. */
  taxes: z.array(
    z.strictObject({
      id,
      name,
      percent,
      category: z.enum(taxCategories).nullable(),
      note: text,
      /** Its part of the discount on the whole; null on what was issued before this was kept. */
      allowance: minor.nullable(),
      basis: minor,
      amount: minor,
      /** The same in the studio's currency, where the invoice is in another (BT-111); null where it is not, or no rate told it. */
      home: minor.nullable(),
    }),
  ),
  /** The studio's currency and the exchange rates that turned the tax into it; null where the invoice is in that currency. */
  home: z
    .strictObject({
      currency,
      rates: z.array(z.strictObject({ base: currency, currency, rate: text, from: day })).max(2),
    })
    .nullable(),
  /** The sum of the lines. */
  net: minor,
  tax: minor,
  /** What was earned and the tax on it (BT-112). */
  total: minor,
  /** Between the total and prices that include tax (BT-114). */
  rounding: minor,
  deductions: z.array(deductionSchema),
  /** The total with the rounding amount, less what is deducted (BT-115). */
  payable: minor,
  note: text,
  /** The client's order number. */
  purchaseOrder: text,
  /** What was agreed about the rates and markups on it. */
  sentences: z.array(text),
  /** Whether cost and markup stand beside the price. */
  openBook: z.boolean(),
  /** Of a credit note: what it credits, and why. */
  credits: z.strictObject({ number: name, day: day.nullable(), reason: text }).nullable(),
  /** How money that was invoiced ahead stands with this invoice, before tax; absent where there is none. */
  ahead: z
    .array(
      z.strictObject({
        number: name,
        /** What was asked for ahead. */
        asked: minor,
        /** What was drawn on it so far. */
        used: minor,
        /** What is still to draw on. */
        left: minor,
        /** The same in time, where it stands for some. */
        seconds: z.int().nullable(),
      }),
    )
    .optional(),
  /** Of a quote, which nothing is to be paid on: until when it holds, and what may be left out and is in no sum. */
  quote: z
    .strictObject({
      title: name,
      /** Counted from 1. */
      version: z.int().min(1),
      /** The last day on which it may be accepted. */
      validUntil: day,
      intro: text,
      /** Lines that may be added, and are in no sum. */
      options: z.array(frozenLineSchema),
    })
    .optional(),
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
  /** The project that reports count it to; none where null. */
  projectId: id.nullable(),
  /** The invoice of money asked for ahead that it draws on; it takes something off then. */
  advanceId: id.optional(),
});

/** One price agreed for a set of hours, whatever their rates: for all of them together, or for each. */
export const dealSchema = z
  .strictObject({ id, text, amount: minor.min(0).nullable(), price: price.nullable() })
  .refine((deal) => (deal.amount === null) !== (deal.price === null), {
    message: 'One sum for all of them, or one price an hour.',
    path: ['amount'],
  });

/** What makes an invoice one of money that is asked for ahead of the work. */
const advanceSchema = z.strictObject({
  /** How long the money stands for, in seconds; null where it is a sum alone. */
  seconds: z.int().min(1).nullable(),
  /** The last day of the period that it is for; of no period where null. */
  until: day.nullable(),
  /** Whether what is left then stays to be drawn on; else it lapses. */
  carried: z.boolean(),
  /** What became the studio's, by tax, and when; null where nothing did. */
  lapsed: z
    .strictObject({
      day,
      /** How much, before tax. */ parts: z
        .array(z.strictObject({ taxId: id.nullable(), amount: minor.min(1) }))
        .min(1),
    })
    .nullable(),
});
export type InvoicedAhead = z.infer<typeof advanceSchema>;

const byLine = <T extends z.ZodType>(value: T) => z.record(text, value);

/** An invoice or credit note: a draft says how it is put together, an issued one holds what was sent as well. */
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
  /** Who it is for at the client, where that was written by hand; the contacts of its projects where null or absent. */
  attention: text.max(200, 'At most 200 characters.').nullable().optional(),
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
  headings: z.array(
    z.strictObject({
      id,
      text: name,
      /** The key of the line that it stands above. */
      before: text,
    }),
  ),
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
  /** With prices that include tax: the tax is added to every price, so that what was earned stays. */
  grossedUp: z.boolean(),
  /** Percent of the net after discount that the client holds back. */
  retention: percent.nullable(),
  /** When that becomes due. */
  retentionDue: day.nullable(),
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
  /** The day on which the tax falls due; that of the invoice where null. */
  taxPoint: day.nullable(),
  /** Place in the numbering; null while a draft. */
  seq: z.int().min(1).nullable(),
  issuedAt: instant.nullable(),
  frozen: frozenInvoiceSchema.nullable(),
  voided: z.strictObject({ at: instant, day, reason: name }).nullable(),
  /** When what was held back became due. */
  releasedOn: day.nullable(),
  /** Of money that is asked for ahead of the work; absent of every other invoice. */
  advance: advanceSchema.optional(),
  /** When its page on the local server was opened first. */
  opened: instant.optional(),
  /** The client does not agree with it: no reminder goes out. Absent or null where that is not so. */
  disputed: z
    .strictObject({ since: day, note: text.max(500) })
    .nullable()
    .optional(),
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
    /** Of its billed length, once issued; null on a draft, of costs, and on what was issued before this was kept. */
    billed: z.int().nullable(),
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

/** Money that came, was given up, or went back. */
export const paymentKinds = ['payment', 'write-off', 'refund'] as const;
export type PaymentKind = (typeof paymentKinds)[number];

/** Money that came in, that will never come and is written off, or that was paid back to the client. */
export const paymentSchema = z.strictObject({
  id,
  invoiceId: id,
  kind: z.enum(paymentKinds),
  day,
  amount: minor.min(1, 'A payment is more than nothing.'),
  currency,
  note: text,
  /** The sum that it came with; absent where it was written down by hand. */
  moneyInId: id.optional(),
  /** What a bank or a payment service kept of it; absent where nothing. */
  fee: minor.min(1, 'Charges are more than nothing.').optional(),
  /** What arrived on the account, where that is in another currency. */
  arrived: z.strictObject({ amount: minor.min(1), currency }).optional(),
  /** The line of a statement that told of money paid back; absent where it was written down by hand. */
  source: name.max(300).optional(),
});

export type LineUnit = (typeof lineUnits)[number];
export type FrozenLine = z.infer<typeof frozenLineSchema>;
export type Deduction = z.infer<typeof deductionSchema>;
export type FrozenInvoice = z.infer<typeof frozenInvoiceSchema>;
export type CondenseRule = z.infer<typeof waySchema>;
export type HandLine = z.infer<typeof handLineSchema>;
export type AgreedPrice = z.infer<typeof dealSchema>;
export type Invoice = z.infer<typeof invoiceSchema>;
export type Allocation = z.infer<typeof allocationSchema>;
export type Payment = z.infer<typeof paymentSchema>;
