export { fontFiles, registerFonts } from './fonts';
export { InvoicePdf } from './invoice-pdf';
export { MOST_ON_PAPER, ReportPdf, type ReportStudio } from './report-pdf';
