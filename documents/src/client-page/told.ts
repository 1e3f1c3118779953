import type { ClientPage } from '@half-penny/core/client-page';
import type { InvoiceView } from '../invoice-view';
import type { Words } from '../words';

/** A receipt that can be looked at in a page. */
export interface PageReceipt {
  /** The line that it belongs to, counted from 1. */
  line: number;
  name: string;
  /** Its bytes as a data address. */
  address: string;
  picture: boolean;
}

/** What every part of the sheet needs. */
export interface Told {
  page: ClientPage;
  view: InvoiceView;
  t: Words;
  receipts: readonly PageReceipt[];
}
