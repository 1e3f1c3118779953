import type { FrozenInvoice, Picture } from '@half-penny/core/model';
import { renderToBuffer } from '@react-pdf/renderer';
import { createRequire } from 'node:module';
import { registerFonts } from './fonts';
import { InvoicePdf } from './invoice-pdf';

const { resolve } = createRequire(import.meta.url);
let ready = false;

/** An invoice as PDF, for programs that run in Node. */
export async function invoicePdf(invoice: FrozenInvoice, logo?: Picture): Promise<Uint8Array> {
  if (!ready) registerFonts((file) => resolve(file));
  ready = true;
  return renderToBuffer(<InvoicePdf invoice={invoice} logo={logo} />);
}
