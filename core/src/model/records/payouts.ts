import * as z from 'zod';
import { currency, day, id, instant, minor, name, text } from '../fields';

/** Whom the studio pays: a supplier by the name on its bills, or a member, and into which account. */
export const payeeSchema = z.strictObject({
  id,
  /** As it stands on the supplier's bills; a member's own. */
  name: name.max(300, 'A payee’s name has at most 300 characters.'),
  /** The member that it is; a supplier where null. */
  memberId: id.nullable(),
  /** Whose account it is, as the bank knows it; the name where empty. */
  holder: text.max(200, 'An account name has at most 200 characters.'),
  /** IBAN (ISO 13616), or sort code and number. */
  number: name.max(60, 'An account number has at most 60 characters.'),
  /** ISO 9362; empty where the bank is found by the number. */
  bic: z.string().regex(/^([A-Z]{6}[A-Z0-9]{2}([A-Z0-9]{3})?)?$/, 'A BIC has 8 or 11 letters and figures.'),
});

/** Asked of the bank by a payment file, or gone out. */
export const payoutStandings = ['asked', 'paid'] as const;

/** Money that pays a supplier's bill, or pays back what a member spent: all of it or a part. */
export const payoutSchema = z.strictObject({
  id,
  costId: id,
  /** Whether the bank was only asked for it, or it went out. */
  standing: z.enum(payoutStandings),
  /** When it left the account, or is to leave it. */
  day,
  /** In minor units of the cost's currency; below nothing where a supplier gave money back. */
  amount: minor.refine((amount) => amount !== 0, 'A payment is more than nothing.'),
  currency,
  note: text.max(500, 'A note has at most 500 characters.'),
  /** What left the account, where that is in another currency. */
  left: z.strictObject({ amount: minor, currency }).optional(),
  /** The line of a statement that told of it; absent where it was written down by hand. */
  source: name.max(300).optional(),
  /** The payment file that it was asked by; absent where by none. */
  file: z
    .strictObject({
      id,
      /** When the file was made. */
      madeAt: instant,
    })
    .optional(),
});

export type Payee = z.infer<typeof payeeSchema>;
export type Payout = z.infer<typeof payoutSchema>;
