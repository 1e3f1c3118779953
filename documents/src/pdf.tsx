export { fontFiles, registerFonts } from './fonts';
export { InvoicePdf } from './invoice-pdf';
export { ReportPdf, type ReportStudio } from './report-pdf';
