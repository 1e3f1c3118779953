import type { FrozenInvoice } from '../model/records';
import { showAmount } from '../money/amount';
import { percentOf } from '../money/price';
import type { TaxCategory } from '../money/tax';
import { eInvoiceOf, type EInvoice } from './e-invoice';
import type { EInvoiceKind } from './kinds';
import type { Party, PresentParties } from './party';

/** Where what is lacking is written: in Setup, at the client, at a tax, or on the invoice, where an issued one no longer changes. */
export type LackingAt = 'studio' | 'client' | 'taxes' | 'accounts' | 'invoice';

/** A term that the standard wants and nobody wrote. */
export interface Lacking {
  /** Its number in EN 16931-1: "BT-40". */
  term: string;
  at: LackingAt;
  /** The field's name there. */
  field: string;
  /** In words, with what to do. */
  message: string;
}

/**
 * What keeps an issued invoice from being sent as an electronic one, in the order of the standard's terms; nothing where it can be.
 *
 * Sources: EN 16931-1 rules BR-1 to BR-67, BR-CO, BR-S, Z, E, AE, IC, G and O; PEPPOL-EN16931-R003, R010 and R020; XRechnung BR-DE-1 to
 * BR-DE-15 (all as remembered from their published lists).
 */
export function lackingFor(kind: EInvoiceKind, frozen: FrozenInvoice, present: PresentParties): Lacking[] {
  const invoice = eInvoiceOf(frozen, present);
  const lacking = new Checklist();
  parties(lacking, invoice);
  taxes(lacking, invoice, frozen);
  if (kind === 'peppol') peppol(lacking, invoice);
  if (kind === 'xrechnung') xrechnung(lacking, invoice, frozen);
  return lacking.inOrder();
}

/** The order of the standard: BT-10 before BT-40. */
export const byTerm = (one: Lacking, other: Lacking): number => Number(one.term.slice(3)) - Number(other.term.slice(3));

class Checklist {
  readonly #found = new Map<string, Lacking>();

  /** Notes a term as lacking unless it holds; the first word on a term stands. */
  need(holds: unknown, term: string, at: LackingAt, field: string, message: string): void {
    if (!holds && !this.#found.has(term)) this.#found.set(term, { term, at, field, message });
  }

  inOrder(): Lacking[] {
    return [...this.#found.values()].sort(byTerm);
  }
}

function parties(lacking: Checklist, { seller, buyer }: EInvoice): void {
  lacking.need(
    seller.country,
    'BT-40',
    'studio',
    'Country',
    'The country of the studio is not known. Write it in Setup → Studio.',
  );
  lacking.need(
    buyer.country,
    'BT-55',
    'client',
    'Country',
    `The country of ${buyer.name} is not known. Write it at the client.`,
  );
}

const hasTaxNumber = (party: Party): boolean => party.vatId !== '' || party.taxNumber !== '';

function taxes(lacking: Checklist, invoice: EInvoice, frozen: FrozenInvoice): void {
  const { seller, buyer } = invoice;
  const used = new Set<TaxCategory>(invoice.taxes.map((tax) => tax.category));
  const untaxed = invoice.lines.find((line) => line.tax === null);
  lacking.need(
    !untaxed,
    'BT-151',
    'taxes',
    'Taxes',
    `“${untaxed?.text.slice(0, 60)}” has no tax. EN 16931 asks for a category on each line: give it a tax of 0 % in Setup → Invoicing, credit this invoice and issue it again.`,
  );
  lacking.need(
    [...used].every((each) => each === 'O') || hasTaxNumber(seller),
    'BT-31',
    'studio',
    'Tax number',
    'The studio has no tax number. Write it in Setup → Studio; it holds from the next invoice on.',
  );
  lacking.need(
    !(used.has('AE') || used.has('K')) || seller.vatId,
    'BT-31',
    'studio',
    'Tax number',
    `The studio’s tax number “${seller.taxNumber.slice(0, 40)}” is no VAT number: it begins with two letters of the country, such as GB 123 4567 89.`,
  );
  lacking.need(
    !(used.has('AE') || used.has('K')) || buyer.vatId,
    'BT-48',
    'client',
    'Tax number',
    `The VAT number of ${buyer.name} is not on the invoice, and the tax on it asks for it. Write it at the client, credit this invoice and issue it again.`,
  );
  const unsaid = invoice.taxes.find((tax) => tax.category !== 'S' && tax.category !== 'Z' && tax.reason === '');
  lacking.need(
    !unsaid,
    'BT-120',
    'taxes',
    'Taxes',
    'A tax of category E says why nothing is charged. Write its sentence in Setup → Invoicing, credit this invoice and issue it again.',
  );
  // Line by line, the tax may be some minor units beside the rate on the sum, which is what the standard works out (BR-CO-17).
  for (const tax of invoice.taxes) {
    const asked = percentOf(tax.basis, tax.percent ?? '0', 'half away from zero');
    lacking.need(
      frozen.credits !== null || asked === tax.amount || frozen.taxMethod === 'invoice',
      'BT-117',
      'invoice',
      'Tax is worked out',
      `The tax of this invoice was worked out line by line and comes to ${showAmount(tax.amount, invoice.currency)}; EN 16931 asks for the rate on the sum, ${showAmount(asked, invoice.currency)}. Invoices of another method can be sent.`,
    );
  }
}

function peppol(lacking: Checklist, invoice: EInvoice): void {
  endpoints(lacking, invoice);
  lacking.need(
    invoice.buyerReference || invoice.purchaseOrder,
    'BT-10',
    'client',
    'Reference that it wants on invoices',
    `Peppol asks for a reference of ${invoice.buyer.name} or its order number. Write the reference at the client.`,
  );
}

function endpoints(lacking: Checklist, { seller, buyer }: EInvoice): void {
  lacking.need(
    seller.endpoint,
    'BT-34',
    'studio',
    'Electronic address',
    'The studio has no electronic address. Write one in Setup → Studio.',
  );
  lacking.need(
    buyer.endpoint,
    'BT-49',
    'client',
    'Electronic address',
    `${buyer.name} has no electronic address. Write it at the client.`,
  );
}

function xrechnung(lacking: Checklist, invoice: EInvoice, frozen: FrozenInvoice): void {
  const { seller, buyer } = invoice;
  endpoints(lacking, invoice);
  lacking.need(
    invoice.buyerReference,
    'BT-10',
    'client',
    'Reference that it wants on invoices',
    `XRechnung asks for the reference of ${buyer.name}, of a public office its Leitweg-ID. Write it at the client.`,
  );
  for (const [party, at, town, post] of [
    [seller, 'studio', 'BT-37', 'BT-38'],
    [buyer, 'client', 'BT-52', 'BT-53'],
  ] as const) {
    lacking.need(party.city, town, at, 'Town', `The town of ${party.name} is not known by itself. Write it.`);
    lacking.need(
      party.postCode,
      post,
      at,
      'Post code',
      `The post code of ${party.name} is not known by itself. Write it.`,
    );
  }
  lacking.need(
    seller.contact.telephone,
    'BT-42',
    'studio',
    'Telephone for questions',
    'XRechnung asks for a telephone number for questions. Write it in Setup → Studio.',
  );
  lacking.need(
    seller.contact.email,
    'BT-43',
    'studio',
    'E-mail',
    'XRechnung asks for a mail address for questions. Write it in Setup → Studio; it holds from the next invoice on.',
  );
  lacking.need(
    invoice.account,
    'BT-84',
    'accounts',
    'Accounts to pay into',
    `XRechnung asks for the account to pay into. Write that for ${frozen.currency} in Setup → Invoicing; it holds from the next invoice on.`,
  );
}
