import { Fault } from '@half-penny/core/model';
import { EncryptedPDFError, PDFDocument, PDFName, rgb, StandardFonts, type PDFPage } from '@cantoo/pdf-lib';

/** The most bytes of one receipt. */
export const MOST_RECEIPT_BYTES = 50_000_000;

export type ReceiptType = 'image/png' | 'image/jpeg' | 'application/pdf';

/** A receipt to be put behind an invoice. */
export interface ReceiptPart {
  name: string;
  mediaType: ReceiptType;
  bytes: Uint8Array;
  /** The line of the invoice that it belongs to, counted from 1. */
  line: number;
}

const startsWith = (bytes: Uint8Array, head: readonly number[]) => head.every((byte, index) => bytes[index] === byte);

/** What a file is by its first bytes, whatever it is called. */
export function receiptType(bytes: Uint8Array): ReceiptType | null {
  if (startsWith(bytes, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) return 'image/png';
  if (startsWith(bytes, [0xff, 0xd8, 0xff])) return 'image/jpeg';
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024));
  return head.includes('%PDF-') ? 'application/pdf' : null;
}

/**
 * Looks into a receipt before it is kept.
 *
 * @returns its type, and how many pages it has
 * @throws Fault when it is too large, no picture or PDF, broken, or locked with a password
 */
export async function inspectReceipt(
  bytes: Uint8Array,
  name: string,
): Promise<{ mediaType: ReceiptType; pages: number }> {
  const said = `“${name.slice(0, 80)}”`;
  if (bytes.length === 0) throw new Fault('empty-file', `${said} is empty.`, 'receipt');
  if (bytes.length > MOST_RECEIPT_BYTES) throw new Fault('too-large', tooLarge(name, bytes.length), 'receipt');
  const mediaType = receiptType(bytes);
  if (!mediaType) {
    throw new Fault('other-file', `${said} is no picture and no PDF. A receipt is a PNG, a JPEG or a PDF.`, 'receipt');
  }
  if (mediaType !== 'application/pdf') {
    const pixels = pixelsOf(bytes, mediaType);
    if (pixels !== null && pixels > MOST_PIXELS) {
      throw new Fault(
        'too-large',
        `${said} has ${Math.round(pixels / 1_000_000)} million pixels; a receipt has at most ${MOST_PIXELS / 1_000_000} million. Save it smaller.`,
        'receipt',
      );
    }
    try {
      const scratch = await PDFDocument.create();
      await (mediaType === 'image/png' ? scratch.embedPng(bytes) : scratch.embedJpg(bytes));
    } catch {
      throw new Fault(
        'broken-file',
        `${said} begins like a picture and cannot be read to its end. Save or photograph it again.`,
        'receipt',
      );
    }
    return { mediaType, pages: 1 };
  }
  return { mediaType, pages: (await openPdf(bytes, said)).getPageCount() };
}

/** A page scanned at 600 dots an inch has 35 million; beyond this a picture takes more memory than a browser has. */
const MOST_PIXELS = 100_000_000;

/** The size that a picture says it has, in pixels, without reading the picture; null where its head does not say. */
function pixelsOf(bytes: Uint8Array, type: 'image/png' | 'image/jpeg'): number | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  // IHDR comes first (PNG, 11.2.1).
  if (type === 'image/png') return bytes.length < 24 ? null : view.getUint32(16) * view.getUint32(20);
  // Segments of a JPEG (ITU-T T.81, B.1.1.4): a frame header SOF0 to SOF15 holds height and width.
  for (let at = 2; at + 9 < bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1]!;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return view.getUint16(at + 5) * view.getUint16(at + 7);
    at += 2 + view.getUint16(at + 2);
  }
  return null;
}

export const tooLarge = (name: string, bytes: number): string =>
  `“${name.slice(0, 80)}” has ${Math.ceil(bytes / 1_000_000)} MB; a receipt has at most ${MOST_RECEIPT_BYTES / 1_000_000} MB. It was not kept.`;

/** The trailer of a PDF names its encryption in plain text, whatever else of it cannot be read (ISO 32000-1, 7.5.5). */
const isLocked = (bytes: Uint8Array): boolean => new TextDecoder('latin1').decode(bytes).includes('/Encrypt');

async function openPdf(bytes: Uint8Array, said: string): Promise<PDFDocument> {
  let pdf: PDFDocument;
  try {
    pdf = await PDFDocument.load(bytes, { throwOnInvalidObject: true, updateMetadata: false });
  } catch (thrown) {
    if (thrown instanceof EncryptedPDFError || isLocked(bytes)) {
      throw new Fault(
        'locked-file',
        `${said} is locked with a password. Save it without one, then add it again.`,
        'receipt',
      );
    }
    throw new Fault('broken-file', `${said} is a broken PDF: it could not be read to its end.`, 'receipt');
  }
  if (pdf.isEncrypted)
    throw new Fault(
      'locked-file',
      `${said} is locked with a password. Save it without one, then add it again.`,
      'receipt',
    );
  try {
    if (pdf.getPageCount() === 0) throw new Error('no pages');
  } catch {
    throw new Fault('broken-file', `${said} is a broken PDF: it has no pages.`, 'receipt');
  }
  return pdf;
}

const LABEL = 9;
const MARGIN = 36;
const A4: [number, number] = [595.28, 841.89];

/** Puts receipts behind an invoice, a page each or more, every page marked with the line it belongs to. */
export async function appendReceipts(invoice: Uint8Array, receipts: readonly ReceiptPart[]): Promise<Uint8Array> {
  if (receipts.length === 0) return invoice;
  const pdf = await PDFDocument.load(invoice);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const mark = (page: PDFPage, text: string) => {
    const { width, height } = page.getSize();
    const long = font.widthOfTextAtSize(text, LABEL);
    page.drawRectangle({ x: width - long - 24, y: height - 26, width: long + 16, height: 16, color: rgb(1, 1, 1) });
    page.drawText(text, { x: width - long - 16, y: height - 21, size: LABEL, font, color: rgb(0.07, 0.13, 0.17) });
  };
  for (const { bytes, mediaType, line, name } of receipts) {
    const label = `Receipt for line ${line}`;
    if (mediaType === 'application/pdf') {
      const source = await openPdf(bytes, `“${name}”`);
      makeInert(source);
      for (const page of await pdf.copyPages(source, source.getPageIndices())) mark(pdf.addPage(page), label);
      continue;
    }
    const image = await (mediaType === 'image/png' ? pdf.embedPng(bytes) : pdf.embedJpg(bytes));
    const page = pdf.addPage(A4);
    const [width, height] = [A4[0] - 2 * MARGIN, A4[1] - 2 * MARGIN - 20];
    const scale = Math.min(1, width / image.width, height / image.height);
    const size = { width: image.width * scale, height: image.height * scale };
    page.drawImage(image, { ...size, x: (A4[0] - size.width) / 2, y: A4[1] - MARGIN - 20 - size.height });
    mark(page, label);
  }
  return pdf.save();
}

/** What a page of a PDF can hold besides what it shows (ISO 32000-1, 7.7.3.3): notes, links, actions, files, and what programs left there. */
const BESIDES = ['Annots', 'AA', 'A', 'AF', 'B', 'Metadata', 'PieceInfo', 'PresSteps', 'Trans', 'Dur', 'StructParents'];

/**
 * Takes from a receipt all that does something: annotations and their actions, scripts, launches, embedded files. What fields of a form show
 * becomes part of the page first. Scripts and files of the document itself are left behind, as pages alone are copied.
 */
function makeInert(pdf: PDFDocument): void {
  try {
    pdf.getForm().flatten();
  } catch {
    // A form that cannot be drawn shows nothing; its fields go with the other annotations.
  }
  for (const page of pdf.getPages()) for (const name of BESIDES) page.node.delete(PDFName.of(name));
}

/** Puts documents one behind the other into one PDF. */
export async function joinPdfs(documents: readonly Uint8Array[]): Promise<Uint8Array> {
  const whole = await PDFDocument.create();
  for (const bytes of documents) {
    const source = await PDFDocument.load(bytes);
    for (const page of await whole.copyPages(source, source.getPageIndices())) whole.addPage(page);
  }
  return whole.save();
}
