import { describe, expect, it } from 'vitest';
import { frozenInvoice, frozenLine, frozenTax } from '../testing';
import type { FrozenInvoice } from '../model/records';
import { buyerDefaults, sellerDefaults } from '../model/defaults';
import { slipAccount, slipOf } from '.';

const vat = frozenTax('S', '8.1', 'S');
const base = frozenInvoice([frozenLine(199_475)], [vat]);
const account = { holder: '', number: 'CH93 0076 2011 6238 5295 7', bic: '' };
const invoice = (more: Partial<FrozenInvoice> = {}): FrozenInvoice => ({
  ...base,
  currency: 'CHF',
  payCode: true,
  studio: {
    ...base.studio,
    taxNumber: '',
    name: 'Saltmere Lighting',
    address: 'Lantern Row 14\n8000 Saltmere',
    account,
  },
  client: { ...base.client, name: 'Maison Clairval', address: 'Quai des Voiliers 22\n1200 Clairval' },
  parties: {
    seller: { ...sellerDefaults, city: 'Saltmere', postCode: '8000' },
    buyer: { ...buyerDefaults, city: 'Clairval', postCode: '1200', country: 'CH' },
  },
  ...more,
});

describe('a Swiss account', () => {
  it('is told from others, and one that wants the bank’s own references from it', () => {
    // The IBAN of the registry's example for Switzerland, and that of Liechtenstein (ISO 13616, from memory).
    expect(slipAccount('CH93 0076 2011 6238 5295 7')).toBe('fits');
    expect(slipAccount('LI21 0881 0000 2324 013A A')).toBe('fits');
    // The QR-IBAN of the guidelines' examples (from memory): institutions 30000 to 31999.
    expect(slipAccount('CH44 3199 9123 0008 8901 2')).toBe('wants its own reference');
    expect(slipAccount('CH93 0076 2011 6238 5295 8')).toBe('not Swiss');
    expect(slipAccount('DE89 3704 0044 0532 0130 00')).toBe('not Swiss');
  });
});

describe('the Swiss payment part', () => {
  it('names both parties with structured addresses, the amount, and a creditor reference', () => {
    expect(slipOf(invoice())).toEqual({
      account: 'CH9300762011623852957',
      creditor: {
        name: 'Saltmere Lighting',
        street: 'Lantern Row 14',
        postCode: '8000',
        city: 'Saltmere',
        country: 'CH',
      },
      debtor: {
        name: 'Maison Clairval',
        street: 'Quai des Voiliers 22',
        postCode: '1200',
        city: 'Clairval',
        country: 'CH',
      },
      currency: 'CHF',
      amount: base.payable,
      reference: expect.stringMatching(/^RF\d\d/) as string,
      message: '',
    });
  });

  it('leaves the payer to be written in where the place is not known, and is none without the studio’s own', () => {
    const { seller, buyer } = invoice().parties!;
    expect(slipOf(invoice({ parties: { seller: seller! } }))).toMatchObject({ debtor: null });
    expect(slipOf(invoice({ parties: { buyer: buyer! } }))).toBeNull();
  });

  it('is for francs and euro alone, on invoices with something to pay', () => {
    expect(slipOf(invoice({ currency: 'EUR' }))).not.toBeNull();
    expect(slipOf(invoice({ currency: 'GBP' }))).toBeNull();
    expect(slipOf(invoice({ payable: 0 }))).toBeNull();
    expect(slipOf(invoice({ payable: 100_000_000_000 }))).toBeNull();
    expect(slipOf(invoice({ payCode: false }))).toBeNull();
    expect(slipOf(invoice({ credits: { number: 'SL-1', day: base.day, reason: '' } as never }))).toBeNull();
    const other = { ...base.studio, account: { ...account, number: 'CH44 3199 9123 0008 8901 2' } };
    expect(slipOf(invoice({ studio: other }))).toBeNull();
  });
});
