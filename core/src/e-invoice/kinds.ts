/** The kinds that an invoice can be given out in: all three carry what EN 16931-1 asks for, the last two also rules of their own. */
export const eInvoiceKinds = ['factur-x', 'peppol', 'xrechnung'] as const;
export type EInvoiceKind = (typeof eInvoiceKinds)[number];

/** What the file of an electronic invoice is called. @example eInvoiceName('peppol', 'SL-0131') // → 'SL-0131-peppol.xml' */
export const eInvoiceName = (kind: EInvoiceKind, number: string): string =>
  `${number.replace(/[^\w.-]+/g, '-')}-${kind}.${kind === 'factur-x' ? 'pdf' : 'xml'}`;
