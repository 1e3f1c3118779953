import type { EInvoice, EInvoiceKind } from '@half-penny/core/e-invoice';
import type { Invoice, Logger } from '@e-invoice-eu/core';
import { inTerms } from './in-terms';

/** How the writing library calls each kind. */
const FORMATS: Readonly<Record<EInvoiceKind, string>> = {
  'factur-x': 'Factur-X-EN16931',
  peppol: 'UBL',
  xrechnung: 'XRECHNUNG-CII',
};

/** Peppol BIS Billing 3.0 as its documents name themselves. */
const PEPPOL = 'urn:cen.eu:en16931:2017#compliant#urn:fdc:peppol.eu:2017:poacc:billing:3.0';

/** The terms of an electronic invoice of a kind, as they are handed to the library. */
export function termsFor(kind: EInvoiceKind, invoice: EInvoice): Invoice {
  if (kind === 'peppol') return inTerms(invoice, PEPPOL);
  const terms = inTerms(invoice);
  // For CII the library looks for the number of a credited invoice one level higher than UBL has it, and writes its day where the schema
  // has none.
  const { preceding } = invoice;
  if (preceding) Object.assign(terms['ubl:Invoice'], { 'cac:BillingReference': [{ 'cbc:ID': preceding.number }] });
  return terms;
}

// It tells what it does as it goes; what matters is thrown.
const silent: Logger = { log: () => undefined, warn: () => undefined, error: () => undefined };

/** The paper that a hybrid invoice is made of. */
export interface Paper {
  bytes: Uint8Array;
  name: string;
}

/**
 * An electronic invoice as bytes: XML, or of Factur-X the paper with the XML in it (PDF/A-3).
 *
 * The library's own check of its input makes code from text, which the pages' policy forbids; it is done in the tests instead, over the
 * same terms.
 *
 * @param paper the invoice as PDF; of Factur-X alone
 */
export async function writeEInvoice(kind: EInvoiceKind, invoice: EInvoice, paper?: Paper): Promise<Uint8Array> {
  // It is large, and whoever only reads has no use for it.
  const { FormatFactoryService } = await import('@e-invoice-eu/core');
  const writer = new FormatFactoryService().createFormatService(FORMATS[kind], silent);
  const terms = termsFor(kind, invoice);
  writer.fillInvoiceDefaults(terms);
  const written = await writer.generate(terms, {
    format: FORMATS[kind].toLowerCase(),
    lang: 'en',
    noWarnings: true,
    ...(paper && { pdf: { buffer: paper.bytes, filename: paper.name, mimetype: 'application/pdf' } }),
  });
  return typeof written === 'string' ? new TextEncoder().encode(written) : written;
}

/** @example mediaTypeOf('peppol') // → 'application/xml' */
export const mediaTypeOf = (kind: EInvoiceKind): string =>
  kind === 'factur-x' ? 'application/pdf' : 'application/xml';
