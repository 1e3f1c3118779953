import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import type { Day } from '../time/day';

// An electronic invoice as somebody wrote it: what it says, in whatever syntax, before anybody asks whether it holds.

/** A tax as a line or a sum bears it: UNTDID 5305, and percent; empty where there is no rate. */
export interface ReadTax {
  category: string;
  percent: string;
}

export interface ReadParty {
  name: string;
  address: string;
  country: string;
  vatId: string;
  taxNumber: string;
  endpoint: { scheme: string; id: string } | null;
  contact: { name: string; telephone: string; email: string };
}

/** Something taken off (or, as a charge, put on) a line or the whole. */
export interface ReadAllowance {
  charge: boolean;
  amount: Minor;
  reason: string;
  tax: ReadTax;
}

export interface ReadInvoiceLine {
  id: string;
  text: string;
  quantity: string;
  unit: string;
  price: string;
  /** The price is for so many units; "1" where nothing is said. */
  per: string;
  allowances: ReadAllowance[];
  net: Minor;
  tax: ReadTax;
}

/** What an electronic invoice says. Texts are empty and amounts null where it says nothing. */
export interface ReadInvoice {
  syntax: 'ubl' | 'cii';
  specification: string;
  type: string;
  number: string;
  issued: Day;
  due: Day | '';
  taxPoint: Day | '';
  delivered: Day | '';
  currency: CurrencyCode;
  buyerReference: string;
  purchaseOrder: string;
  preceding: string;
  notes: string;
  seller: ReadParty;
  buyer: ReadParty;
  /** UNTDID 4461. */
  paymentMeans: string;
  account: string;
  terms: string;
  lines: ReadInvoiceLine[];
  allowances: ReadAllowance[];
  taxes: (ReadTax & { basis: Minor; amount: Minor; reason: string })[];
  totals: {
    lines: Minor;
    allowances: Minor | null;
    charges: Minor | null;
    net: Minor;
    tax: Minor | null;
    gross: Minor;
    prepaid: Minor | null;
    rounding: Minor | null;
    due: Minor;
  };
}
