import { describe, expect, it } from 'vitest';
import { frozenInvoice, frozenLine, frozenTax } from '../testing/frozen';
import { creditorReference, isIban, payCode } from './pay-code';

describe('account numbers', () => {
  it('are IBANs by their check digits', () => {
    // Examples of the IBAN registry (ISO 13616), as remembered.
    for (const iban of ['GB82 WEST 1234 5698 7654 32', 'DE89370400440532013000', 'FR14 2004 1010 0505 0001 3M02 606'])
      expect(isIban(iban), iban).toBe(true);
    for (const other of ['GB83 WEST 1234 5698 7654 32', '20-00-00 12345678', '', 'GB82'])
      expect(isIban(other), other).toBe(false);
  });
});

describe('references', () => {
  it('have check digits that hold (ISO 11649)', () => {
    expect(creditorReference('539007547034')).toBe('RF18539007547034');
    // Letters and figures alone; whatever is checked comes to 1 by 97, as an IBAN does.
    expect(creditorReference('SL-0042/é')).toMatch(/^RF\d\dSL0042E$/);
    expect(creditorReference('–')).toBe('');
    expect(creditorReference('A'.repeat(22))).toBe('');
  });
});

describe('a code to pay by', () => {
  const account = { holder: 'Saltmere  Lighting', number: 'DE89 3704 0044 0532 0130 00', bic: 'COBADEFFXXX' };
  const { studio } = frozenInvoice([frozenLine(100)], []);
  const invoice = (more = {}) =>
    frozenInvoice([frozenLine(123_450)], [frozenTax('vat', '0', 'AE')], {
      currency: 'EUR',
      number: 'SL-0042',
      studio: { ...studio, account },
      ...more,
    });

  it('says who is paid, how much, into which account and for what (EPC069-12)', () => {
    expect(payCode(invoice()).split('\n')).toEqual([
      'BCD',
      '002',
      '1',
      'SCT',
      'COBADEFFXXX',
      'Saltmere Lighting',
      'DE89370400440532013000',
      'EUR1234.50',
      '',
      creditorReference('SL-0042'),
    ]);
    // A number that no reference can hold stands as text.
    expect(
      payCode(invoice({ number: 'Saltmere Lighting 2026/11/0042' }))
        .split('\n')
        .slice(9),
    ).toEqual(['', 'Saltmere Lighting 2026/11/0042']);
  });

  it('is there for euro to an IBAN alone, and only where something is to be paid', () => {
    expect(payCode(invoice({ currency: 'GBP' }))).toBe('');
    expect(payCode(invoice({ payable: 0 }))).toBe('');
    expect(payCode(invoice({ payable: 100_000_000_000 }))).toBe('');
    expect(payCode(invoice({ credits: { number: 'SL-0001', day: null, reason: 'Cut' } }))).toBe('');
    expect(payCode(invoice({ studio }))).toBe('');
    expect(payCode(invoice({ studio: { ...studio, account: { ...account, number: '12345678' } } }))).toBe('');
  });
});
