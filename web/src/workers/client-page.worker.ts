import type { ClientPage } from '@half-penny/core/client-page';
import type { Picture } from '@half-penny/core/model';
import { clientPageHtml, type PageReceipt } from '@half-penny/documents/client-page';
import { expose } from 'comlink';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2?url';
import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2?url';
import type { ReceiptFile } from './pdf.worker';

/** A file as an address that holds it. */
const addressOf = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reading = new FileReader();
    reading.onload = () => resolve(reading.result as string);
    reading.onerror = () => reject(new Error('A part of the page could not be read.'));
    reading.readAsDataURL(blob);
  });

const fontOf = async (address: string): Promise<string> =>
  addressOf(new Blob([await (await fetch(address)).arrayBuffer()], { type: 'font/woff2' }));

const work = {
  async make(page: ClientPage, logo: Picture | undefined, receipts: readonly ReceiptFile[]): Promise<string> {
    const shown: PageReceipt[] = [];
    for (const { line, name, mediaType, blob } of receipts) {
      const address = await addressOf(new Blob([blob], { type: mediaType }));
      shown.push({ line, name, address, picture: mediaType !== 'application/pdf' });
    }
    return clientPageHtml(page, {
      logo: logo ? `data:${logo.mediaType};base64,${logo.data}` : '',
      receipts: shown,
      fonts: { 400: await fontOf(regular), 700: await fontOf(bold) },
    });
  },
};
export type PageWork = typeof work;

expose(work);
