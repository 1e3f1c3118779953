import { PDFDocument } from '@cantoo/pdf-lib';
import { Fault } from '@half-penny/core/model';

/** What the data of a hybrid invoice is called in its PDF: Factur-X and ZUGFeRD from version 1 on, and XRechnung. */
const NAMES = ['factur-x.xml', 'zugferd-invoice.xml', 'xrechnung.xml'];

/** Larger data than any invoice has. */
const MOST_BYTES = 20_000_000;

/**
 * The data of an electronic invoice: the file itself, or what is attached to it where it is a PDF.
 *
 * @throws Fault when the PDF cannot be opened or has no such data in it, or when there is too much of it
 */
export async function invoiceDataOf(bytes: Uint8Array, name: string): Promise<Uint8Array> {
  const data = isPdf(bytes) ? await attachedTo(bytes, name) : bytes;
  if (data.length > MOST_BYTES)
    throw new Fault('too-large', `${name} has ${Math.ceil(data.length / 1e6)} MB of data; no invoice has.`, 'file');
  return data;
}

/** Whether a file begins as a PDF does (ISO 32000-1, 7.5.2). */
export const isPdf = (bytes: Uint8Array): boolean => new TextDecoder('latin1').decode(bytes.subarray(0, 5)) === '%PDF-';

async function attachedTo(bytes: Uint8Array, name: string): Promise<Uint8Array> {
  let attachments: { name: string; data: Uint8Array }[];
  try {
    attachments = (await PDFDocument.load(bytes, { updateMetadata: false })).getAttachments();
  } catch {
    throw new Fault('broken-file', `${name} cannot be opened: it is broken, or locked with a password.`, 'file');
  }
  const found =
    attachments.find((each) => NAMES.includes(each.name.toLowerCase())) ??
    attachments.find((each) => /\.xml$/i.test(each.name));
  if (!found)
    throw new Fault(
      'other-file',
      `${name} is a PDF without the data of an e-invoice in it. Write the bill down instead.`,
      'file',
    );
  return found.data;
}
