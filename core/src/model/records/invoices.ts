import * as z from 'zod';
import { rateUnits } from '../../money/price';
import { taxMethods } from '../../money/tax';
import { numberStyles } from '../../money/written';
import { lengthStyles } from '../../time/length';
import { currency, day, id, instant, minor, name, percent, price, seconds, text } from '../fields';
import { condensings } from './work';

export const frozenLineSchema = z.strictObject({
  key: text,
  text,
  /** Length as billed, after rounding. */
  seconds,
  price,
  unit: z.enum(rateUnits),
  amount: minor,
  taxId: id.nullable(),
  /** The income account it is booked to. */
  account: text,
});

/** An invoice as it was sent. Nothing in it is ever looked up again. */
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
  taxes: z.array(z.strictObject({ id, name, percent, note: text, basis: minor, amount: minor })),
  net: minor,
  tax: minor,
  total: minor,
  note: text,
  /** The client's order number. */
  purchaseOrder: text,
  /** What was agreed about the rates and markups on it. */
  sentences: z.array(text),
});

export const invoiceSchema = z.strictObject({
  id,
  clientId: id,
  currency,
  createdAt: instant,
  condense: z.enum(condensings),
  /** Texts of lines that were written by hand, by the line's key. */
  texts: z.record(text, text),
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
});

/** Which part of an entry stands on which invoice line. Negative seconds and amount give back what a void invoice took. */
export const allocationSchema = z.strictObject({
  id,
  invoiceId: id,
  entryId: id,
  /** The line's key; empty while the invoice is a draft. */
  line: text,
  /** Of the entry's billable seconds, before rounding. */
  seconds: z.int(),
  /** Its share of the line's amount, once issued. */
  amount: minor.nullable(),
});

export const paymentSchema = z.strictObject({
  id,
  invoiceId: id,
  day,
  amount: minor.min(1, 'A payment is more than nothing.'),
  currency,
  note: text,
});

export type FrozenLine = z.infer<typeof frozenLineSchema>;
export type FrozenInvoice = z.infer<typeof frozenInvoiceSchema>;
export type Invoice = z.infer<typeof invoiceSchema>;
export type Allocation = z.infer<typeof allocationSchema>;
export type Payment = z.infer<typeof paymentSchema>;
