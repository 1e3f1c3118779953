export { AccountPdf } from './account-pdf';
export { fontFiles, registerFonts } from './fonts';
export { InvoicePdf } from './invoice-pdf';
export { ReportPdf } from './report-pdf';
export type { ReportStudio } from './sheet-head';
