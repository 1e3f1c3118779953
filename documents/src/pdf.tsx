export { fontFiles, registerFonts } from './fonts';
export { InvoicePdf } from './invoice-pdf';
