import type { Id } from '../model/ids';
import type { Entry, LineUnit } from '../model/records';
import type { Decimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import type { Seconds } from '../time/length';
import type { Charge } from './charges';
import type { Price } from './pricer';

/** A piece of an entry on a line: its own seconds, as billed, and what it is worth by itself. */
export interface Source {
  entry: Entry;
  seconds: Seconds;
  billed: Seconds;
  price: Price | null;
}

/** A line of a draft, derived from what stands on it. */
export interface DraftLine {
  /** Stays the same while the draft is condensed the same way; texts written by hand hang on it. */
  key: string;
  text: string;
  /** Whether the text was written by hand. */
  written: boolean;
  /** A heading that stands above it. */
  heading: string;
  /** Entries on it. */
  sources: Source[];
  /** Costs and agreed amounts on it. */
  charges: Charge[];
  seconds: Seconds;
  billed: Seconds;
  /** What an hour or so of it sells for; null where the line is a sum or pieces. */
  price: Price | null;
  unit: LineUnit;
  /** Of pieces and sums. */
  quantity: Decimal;
  unitName: string;
  /** What stands in the column of prices. */
  unitPrice: Decimal;
  /** Before its own discount. */
  gross: Minor;
  discount: Decimal | null;
  amount: Minor;
  /** What all of it cost, in the invoice's currency; null where something on it has no known cost. */
  cost: Minor | null;
  /** The one percentage that was added; null where there is none, or several. */
  markup: Decimal | null;
  taxId: Id | null;
  /** The income account it is booked to; empty where the service has none, or its services have several. */
  account: string;
  /** Whether it was written by hand and stands for no source. */
  byHand: boolean;
}

/** A line with nothing on it yet; written out in full, as thousands of them are made and read. */
export const emptyLine = (key: string, taxId: Id | null, account: string): DraftLine => ({
  key,
  text: '',
  written: false,
  heading: '',
  sources: [],
  charges: [],
  seconds: 0,
  billed: 0,
  price: null,
  unit: 'lump',
  quantity: '1',
  unitName: '',
  unitPrice: '0',
  gross: 0,
  discount: null,
  amount: 0,
  cost: null,
  markup: null,
  taxId,
  account,
  byHand: false,
});
