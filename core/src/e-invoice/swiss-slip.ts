import type { FrozenInvoice } from '../model/records';
import type { Minor } from '../money/amount';
import { partiesOf, type Party } from './party';
import { creditorReference, isIban } from './pay-code';

// The Swiss payment part with its QR code (Swiss Implementation Guidelines for the QR-bill; limits and rules as remembered).

/** Whom a payment part names: structured addresses only. */
export interface SlipParty {
  name: string;
  street: string;
  postCode: string;
  city: string;
  /** ISO 3166-1. */
  country: string;
}

/** What a Swiss payment part says. */
export interface Slip {
  account: string;
  creditor: SlipParty;
  /** Left to be written in by hand where the client's place is not known. */
  debtor: SlipParty | null;
  currency: 'CHF' | 'EUR';
  amount: Minor;
  /** ISO 11649; empty where the number makes none. */
  reference: string;
  /** What it is for, where no reference says it. */
  message: string;
}

const plain = (number: string): string => number.replace(/\s/g, '').toUpperCase();

/** Whether it is an IBAN of Switzerland or Liechtenstein; those of institutions 30000 to 31999 want references of the bank's own. */
export function slipAccount(number: string): 'fits' | 'wants its own reference' | 'not Swiss' {
  const iban = plain(number);
  if (!isIban(iban) || !/^(CH|LI)/.test(iban)) return 'not Swiss';
  return /^..\d\d3[01]\d{3}/.test(iban) ? 'wants its own reference' : 'fits';
}

/** The most that a payment part can ask for: 999,999,999.99. */
const MOST = 99_999_999_999;

/** The payment part of an invoice; null where it has none: another currency or account, nothing to pay, or no town and post code known. */
export function slipOf(frozen: FrozenInvoice): Slip | null {
  const { studio, currency, payable, credits, quote, number, payCode } = frozen;
  if (!payCode || quote || credits !== null || payable <= 0 || payable > MOST) return null;
  if (currency !== 'CHF' && currency !== 'EUR') return null;
  if (!studio.account || slipAccount(studio.account.number) !== 'fits') return null;
  const account = plain(studio.account.number);
  const { seller, buyer } = partiesOf(frozen, {});
  const creditor = partyOf({ ...seller, name: studio.account.holder.trim() || seller.name }, account.slice(0, 2));
  if (!creditor) return null;
  const reference = creditorReference(number);
  const message = reference === '' ? number.slice(0, 140) : '';
  return { account, creditor, debtor: partyOf(buyer, ''), currency, amount: payable, reference, message };
}

function partyOf({ name, lines, city, postCode, country }: Party, otherwise: string): SlipParty | null {
  const place = country || otherwise;
  if (!city || !postCode || !place) return null;
  const one = (text: string, most: number) => text.replace(/\s+/g, ' ').trim().slice(0, most);
  return {
    name: one(name, 70),
    street: one(lines[0] ?? '', 70),
    postCode: one(postCode, 16),
    city: one(city, 35),
    country: place,
  };
}
