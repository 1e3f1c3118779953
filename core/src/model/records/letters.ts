import * as z from 'zod';
import { day, id, instant, name, text } from '../fields';
import { documentLanguages } from './languages';

/** What a letter is about. Reminders grow firmer. */
export const letterKinds = [
  'invoice',
  'credit note',
  'quote',
  'reminder',
  'second reminder',
  'last reminder',
  'statement',
  'report',
  'hand in',
] as const;
export type LetterKind = (typeof letterKinds)[number];

/** Reminders in the order in which they go. */
export const reminderKinds = ['reminder', 'second reminder', 'last reminder'] as const;
export type ReminderKind = (typeof reminderKinds)[number];

/** Days past the due day, one for each reminder, each later than the one before; none where nobody is reminded. */
export const reminderDays = z
  .array(z.int().min(1, 'Nobody is reminded before it is late.').max(365))
  .max(reminderKinds.length)
  .refine((days) => days.every((each, index) => index === 0 || each > days[index - 1]!), {
    message: 'Each reminder is later than the one before.',
  });

/** What can go with a letter: the document on paper, as a page for the client's browser, or as an electronic invoice; receipts each by itself; a report as a spreadsheet. */
export const enclosures = ['pdf', 'page', 'factur-x', 'peppol', 'xrechnung', 'receipts', 'xlsx'] as const;
export type Enclosure = (typeof enclosures)[number];

/** How a letter leaves: by the mail server, as a file, or by the person's own mail program. */
export const letterWays = ['post', 'file', 'mail program'] as const;

/** Subject and body of a letter, with words such as {client} and {number} in them. */
export const templateSchema = z.strictObject({ subject: name.max(300), body: text.max(10_000) });
export type Template = z.infer<typeof templateSchema>;

/** A letter in the outbox, with what became of each try to send it. */
export const letterSchema = z
  .strictObject({
    id,
    createdAt: instant,
    kind: z.enum(letterKinds),
    /** The client that it goes to; null where it goes to a member. */
    clientId: id.nullable(),
    /** The member that it goes to; absent where it goes to a client. */
    memberId: id.nullable().optional(),
    /** The invoice, credit note or first of the invoices that it is about; null for none. */
    invoiceId: id.nullable(),
    /** The quote that it is about, and null for none. */
    quoteId: id.nullable(),
    /** Which version of the quote. */
    version: z.int().min(1).nullable(),
    /** The days that a statement of account is of; absent of all else. */
    period: z.strictObject({ from: day, to: day }).optional(),
    /** The report that it brings: what it asks, as of a day, and what it is called; absent of all else. */
    report: z
      .strictObject({
        name: name.max(300),
        note: text.max(1000),
        definition: z.record(z.string().max(100), z.unknown()),
        /** The day that "this month" is told from. */
        day,
      })
      .optional(),
    /** E-mail addresses with commas between them. */
    recipients: text.max(2000),
    copies: text.max(2000),
    subject: name.max(300),
    body: text.max(20_000),
    enclosed: z.array(z.enum(enclosures)).max(enclosures.length),
    language: z.enum(documentLanguages),
    /** It waits; it was handed to the mail server and no answer came; it went; it did not. */
    standing: z.enum(['waiting', 'handed over', 'sent', 'failed']),
    /** Each time that it was tried, and what came of it. */
    tries: z
      .array(
        z.strictObject({
          at: instant,
          way: z.enum(letterWays),
          outcome: z.enum(['sent', 'failed', 'unsure']),
          reason: text.max(1000),
        }),
      )
      .max(100),
  })
  .refine((letter) => (letter.clientId === null) === Boolean(letter.memberId), {
    message: 'A letter goes to a client or to a member.',
    path: ['clientId'],
  });
export type Letter = z.infer<typeof letterSchema>;
