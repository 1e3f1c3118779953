import { inspectReceipt, tooLarge, MOST_RECEIPT_BYTES } from '@half-penny/documents/receipts';
import { Fault, messageOf, type Receipt } from '@half-penny/core/model';
import { expose } from 'comlink';

// Reading a receipt of many megabytes, hashing it and drawing it small must not hold up the page.

/** What is known of a receipt before it is kept, or why it cannot be. */
export type PreparedReceipt =
  | { ok: true; receipt: Pick<Receipt, 'name' | 'mediaType' | 'bytes' | 'sha256' | 'preview' | 'pages'> }
  | { ok: false; message: string };

/** The longer edge of the small picture, in pixels. */
const SMALL = 160;

const work = {
  async prepare(file: File): Promise<PreparedReceipt> {
    try {
      // Refused before it is read: what is far too large would fill the memory.
      if (file.size > MOST_RECEIPT_BYTES) throw new Fault(tooLarge(file.name, file.size), 'receipt');
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { mediaType, pages } = await inspectReceipt(bytes, file.name);
      const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
      const sha256 = [...hash].map((byte) => byte.toString(16).padStart(2, '0')).join('');
      const preview = mediaType === 'application/pdf' ? '' : await drawnSmall(file);
      const name = file.name.trim().slice(0, 200) || 'receipt';
      return { ok: true, receipt: { name, mediaType, bytes: bytes.length, sha256, preview, pages } };
    } catch (thrown) {
      return { ok: false, message: messageOf(thrown) };
    }
  },
};
export type ReceiptWork = typeof work;

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
