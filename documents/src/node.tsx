import type { AccountPaper } from '@half-penny/core/billing';
import type { FrozenInvoice, Picture } from '@half-penny/core/model';
import { renderToBuffer } from '@react-pdf/renderer';
import { createRequire } from 'node:module';
import { registerFonts } from './fonts';
import type { ReportSheet } from '@half-penny/core/reports';
import { AccountPdf } from './account-pdf';
import { InvoicePdf } from './invoice-pdf';
import { ReportPdf } from './report-pdf';
import type { ReportStudio } from './sheet-head';

const { resolve } = createRequire(import.meta.url);
let ready = false;

/** An invoice as PDF, for programs that run in Node. */
export async function invoicePdf(invoice: FrozenInvoice, logo?: Picture): Promise<Uint8Array> {
  needFonts();
  return renderToBuffer(<InvoicePdf invoice={invoice} logo={logo} />);
}

/** A report as PDF, for programs that run in Node. */
export async function reportPdf(sheet: ReportSheet, studio: ReportStudio, logo?: Picture): Promise<Uint8Array> {
  needFonts();
  return renderToBuffer(<ReportPdf sheet={sheet} studio={studio} logo={logo} />);
}

/** A statement of account as PDF, for programs that run in Node. */
export async function accountPdf(paper: AccountPaper, logo?: Picture): Promise<Uint8Array> {
  needFonts();
  return renderToBuffer(<AccountPdf paper={paper} logo={logo} />);
}

function needFonts(): void {
  if (!ready) registerFonts((file) => resolve(file));
  ready = true;
}
