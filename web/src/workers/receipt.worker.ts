import { inspectReceipt, tooLarge, MOST_RECEIPT_BYTES } from '@half-penny/documents/receipts';
import type { ReadInvoice } from '@half-penny/core/e-invoice';
import { Fault, messageOf, type Receipt } from '@half-penny/core/model';
import { expose } from 'comlink';

// Reading a receipt of many megabytes, hashing it and drawing it small must not hold up the page.

/** What is known of a receipt before it is kept, or why it cannot be. */
export type PreparedReceipt =
  | {
      ok: true;
      receipt: Pick<Receipt, 'name' | 'mediaType' | 'bytes' | 'sha256' | 'preview' | 'pages'>;
      /** A photo turned upright and made smaller, which is kept in place of the file; null where the file itself is. */
      smaller: Blob | null;
    }
  | { ok: false; message: string };

/** The longer edge of the small picture, in pixels. */
const SMALL = 160;

const work = {
  async prepare(chosen: File, photo: boolean): Promise<PreparedReceipt> {
    try {
      const smaller = photo ? await uprightAndSmaller(chosen) : null;
      const file = smaller ?? chosen;
      // Refused before it is read: what is far too large would fill the memory.
      if (file.size > MOST_RECEIPT_BYTES) throw new Fault('too-large', tooLarge(chosen.name, file.size), 'receipt');
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { mediaType, pages } = await inspectReceipt(bytes, chosen.name);
      const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
      const sha256 = [...hash].map((byte) => byte.toString(16).padStart(2, '0')).join('');
      const preview = mediaType === 'application/pdf' ? '' : await drawnSmall(file);
      const name = nameOf(chosen, smaller !== null);
      return { ok: true, receipt: { name, mediaType, bytes: bytes.length, sha256, preview, pages }, smaller };
    } catch (thrown) {
      return { ok: false, message: messageOf(thrown) };
    }
  },

  /** What an electronic invoice says, as a file of its own or in a PDF; or why it cannot be read. */
  async eInvoice(file: File): Promise<ReadAttempt> {
    try {
      if (file.size > MOST_RECEIPT_BYTES) throw new Fault('too-large', tooLarge(file.name, file.size), 'file');
      const bytes = new Uint8Array(await file.arrayBuffer());
      const [{ invoiceDataOf, isPdf }, { readEInvoice }] = await Promise.all([
        import('@half-penny/documents/attached'),
        import('@half-penny/formats/e-invoice'),
      ]);
      const name = file.name.slice(0, 80);
      return { ok: true, invoice: readEInvoice(await invoiceDataOf(bytes, name), name), pdf: isPdf(bytes) };
    } catch (thrown) {
      return { ok: false, message: messageOf(thrown) };
    }
  },
};
/** What was read of an electronic invoice, and whether its file can be kept as a receipt. */
export type ReadAttempt = { ok: true; invoice: ReadInvoice; pdf: boolean } | { ok: false; message: string };
export type ReceiptWork = typeof work;

/** The longer edge of a photo that is kept, in pixels: the small print of a till receipt can still be read. */
const LARGEST = 2000;
const QUALITY = 0.82;

/** A file's name; of a photo that was drawn again with the ending of what it has become. */
function nameOf(file: File, drawn: boolean): string {
  const name = file.name.trim().slice(0, 190) || 'receipt';
  return drawn ? `${name.replace(/\.[a-z0-9]{1,5}$/i, '')}.jpg` : name;
}

/**
 * A photo as it was meant to be looked at, no larger than needed: what the camera noted of how it was held is followed, and is gone then
 * with everything else it noted. Null where the browser cannot draw it.
 */
async function uprightAndSmaller(file: File): Promise<Blob | null> {
  try {
    const picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
    const scale = Math.min(1, LARGEST / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * scale)),
      Math.max(1, Math.round(picture.height * scale)),
    );
    canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    return await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
  } catch {
    return null;
  }
}

/** A small JPEG in base64; empty where the browser cannot draw it. */
async function drawnSmall(file: Blob): Promise<string> {
  try {
    const picture = await createImageBitmap(file);
    const scale = Math.min(1, SMALL / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * scale)),
      Math.max(1, Math.round(picture.height * scale)),
    );
    canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    const bytes = new Uint8Array(
      await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.7 })).arrayBuffer(),
    );
    return btoa(String.fromCharCode(...bytes));
  } catch {
    return '';
  }
}

expose(work);
