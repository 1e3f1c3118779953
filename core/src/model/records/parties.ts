import * as z from 'zod';
import { text } from '../fields';

// What an electronic invoice says of its two parties besides name, address and tax number (EN 16931-1 BG-4 to BG-9). None of it is needed
// on paper, so none of it is asked for before somebody wants such an invoice.

const country = z.string().regex(/^([A-Z]{2})?$/, 'A country is two letters, such as GB.');

/** Where e-invoices are delivered: a mail address, or a scheme of the EAS list and the number in it. */
const electronicAddress = text
  .max(200, 'An electronic address has at most 200 characters.')
  .regex(
    /^(|[^@\s]+@[^@\s]+|[0-9]{4}:\S+)$/,
    'An electronic address is a mail address, or four figures, a colon and a number, such as 9930:DE123456789.',
  );

const place = {
  /** ISO 3166-1 (BT-40, BT-55); empty where nobody said. */
  country,
  /** BT-37, BT-52. */
  city: text.max(100, 'A town has at most 100 characters.'),
  /** BT-38, BT-53. */
  postCode: text.max(20, 'A post code has at most 20 characters.'),
  /** BT-34, BT-49. */
  electronicAddress,
};

/** What electronic invoices say of the studio beyond its name and numbers (EN 16931, BG-4). */
export const sellerSchema = z.strictObject({
  ...place,
  /** Who answers questions about an invoice (BT-41), and under which number (BT-42). */
  contact: text.max(200, 'A name has at most 200 characters.'),
  telephone: text.max(60, 'A telephone number has at most 60 characters.'),
});

/** What electronic invoices say of a client beyond its name and numbers (EN 16931, BG-7). */
export const buyerSchema = z.strictObject({
  ...place,
  /** What the client wants on every invoice so that it finds its way there (BT-10): of public offices in Germany the Leitweg-ID. */
  reference: text.max(100, 'A reference has at most 100 characters.'),
});

/** The studio as the seller of an electronic invoice. */
export type Seller = z.infer<typeof sellerSchema>;
/** A client as its buyer. */
export type Buyer = z.infer<typeof buyerSchema>;
