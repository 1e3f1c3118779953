import * as z from 'zod';
import { currency, day, id, minor, name, text } from '../fields';

/** A sum that came into one of the studio's accounts, as a statement tells of it. */
export const moneyInSchema = z.strictObject({
  id,
  /** Tells it apart from every other: "camt:GB42…:4021". */
  source: name.max(300),
  day,
  /** Who paid, as the bank writes it. */
  payer: text.max(300),
  /** What the payer wrote. */
  text: text.max(2000),
  /** The reference that was given with it in a field of its own (ISO 11649, or the studio's own). */
  reference: text.max(200),
  amount: minor.min(1, 'A sum that came in is more than nothing.'),
  currency,
  /** What the payer handed to the bank, where the statement tells it and it is another sum: charges or an exchange lie between. */
  sent: z.strictObject({ amount: minor.min(1), currency }).nullable(),
  /** Why it is for no invoice; null where that is not said. */
  setAside: name.max(500).nullable(),
});
export type MoneyIn = z.infer<typeof moneyInSchema>;
