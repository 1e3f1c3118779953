import type { ReportSheet } from '@half-penny/core/reports';
import { AccountPdf, InvoicePdf, registerFonts, ReportPdf, type ReportStudio } from '@half-penny/documents/pdf';
import { appendReceipts, joinPdfs, type ReceiptPart } from '@half-penny/documents/receipts';
import type { AccountPaper } from '@half-penny/core/billing';
import { eInvoiceName, eInvoiceOf, type EInvoiceKind, type PresentParties } from '@half-penny/core/e-invoice';
import type { FrozenInvoice, Picture } from '@half-penny/core/model';
import { pdf } from '@react-pdf/renderer';
import { expose } from 'comlink';

// Fonts are built as files of their own and fetched only where a document needs them.
const latin = import.meta.glob(
  '/../node_modules/@fontsource/atkinson-hyperlegible-next/files/*-latin*-{400,700}-normal.woff',
  { query: '?url', import: 'default', eager: true },
);
const others = import.meta.glob(
  [
    '/../node_modules/@fontsource/arimo/files/arimo-latin*-{400,700}-normal.woff',
    '/../node_modules/@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff',
    '/../node_modules/@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff',
    '/../node_modules/@fontsource/noto-emoji/files/noto-emoji-*-400-normal.woff',
  ],
  { query: '?url', import: 'default', eager: true },
);
const addresses = new Map(
  Object.entries({ ...latin, ...others }).map(([path, address]) => [path.split('/').at(-1)!, address as string]),
);

registerFonts((file) => {
  const address = addresses.get(file.split('/').at(-1)!);
  if (!address) throw new Error(`The font ${file} is missing from the build.`);
  return new URL(address, self.location.origin).href;
});

const work = {
  async invoice(
    invoice: FrozenInvoice,
    logo: Picture | undefined,
    receipts: readonly ReceiptFile[],
    marks: { copy?: boolean; voided?: boolean },
  ): Promise<Blob> {
    const alone = await pdf(<InvoicePdf invoice={invoice} logo={logo} {...marks} />).toBlob();
    if (receipts.length === 0) return alone;
    const parts: ReceiptPart[] = [];
    for (const { blob, ...receipt } of receipts) {
      parts.push({ ...receipt, bytes: new Uint8Array(await blob.arrayBuffer()) });
    }
    const whole = await appendReceipts(new Uint8Array(await alone.arrayBuffer()), parts);
    return new Blob([whole as Uint8Array<ArrayBuffer>], { type: 'application/pdf' });
  },

  /** An electronic invoice; a hybrid one is made of its paper, without receipts, as these may be no PDF/A. */
  async eInvoice(
    kind: EInvoiceKind,
    invoice: FrozenInvoice,
    present: PresentParties,
    logo: Picture | undefined,
  ): Promise<Blob> {
    const { mediaTypeOf, writeEInvoice } = await import('@half-penny/formats/e-invoice');
    const terms = eInvoiceOf(invoice, present);
    const paper =
      kind === 'factur-x'
        ? {
            name: eInvoiceName(kind, invoice.number),
            bytes: new Uint8Array(
              await (await pdf(<InvoicePdf invoice={invoice} logo={logo} />).toBlob()).arrayBuffer(),
            ),
          }
        : undefined;
    const bytes = await writeEInvoice(kind, terms, paper);
    return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mediaTypeOf(kind) });
  },

  account: (paper: AccountPaper, logo: Picture | undefined): Promise<Blob> =>
    pdf(<AccountPdf paper={paper} logo={logo} />).toBlob(),

  /** A report, with an invoice before it where one is given. */
  async report(
    sheet: ReportSheet,
    studio: ReportStudio,
    logo: Picture | undefined,
    invoice: { frozen: FrozenInvoice; logo: Picture | undefined } | null,
  ): Promise<Blob> {
    const own = await pdf(<ReportPdf sheet={sheet} studio={studio} logo={logo} />).toBlob();
    if (!invoice) return own;
    const first = await pdf(<InvoicePdf invoice={invoice.frozen} logo={invoice.logo} />).toBlob();
    const parts = await Promise.all([first, own].map(async (blob) => new Uint8Array(await blob.arrayBuffer())));
    return new Blob([(await joinPdfs(parts)) as Uint8Array<ArrayBuffer>], { type: 'application/pdf' });
  },
};
/** A receipt as it is kept, to be read when its turn comes. */
export type ReceiptFile = Omit<ReceiptPart, 'bytes'> & { blob: Blob };
export type PdfWork = typeof work;

expose(work);
