import type { ClientPage } from '../client-page';
import { frozenInvoice, frozenLine, frozenTax } from './frozen';

/** A client's page of an invoice of £123.45 before tax, with nothing behind it. */
export const clientPage = (more: Partial<ClientPage> = {}): ClientPage => ({
  frozen: frozenInvoice([frozenLine(12_345)], [frozenTax('vat', '20', 'S')]),
  items: [],
  roundings: {},
  rest: null,
  quote: null,
  pay: null,
  made: '2026-11-12',
  ...more,
});
