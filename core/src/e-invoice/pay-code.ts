import type { FrozenInvoice } from '../model/records';
import { plainAmount } from '../money/amount';

/** Letters and figures as ISO 7064 counts them: A is 10, Z is 35. */
const asFigures = (text: string): string => text.replace(/[A-Z]/g, (letter) => String(letter.charCodeAt(0) - 55));

/** The rest of a number of any length by 97 (ISO 7064, MOD 97-10). */
const rest97 = (figures: string): number => [...figures].reduce((rest, figure) => (rest * 10 + Number(figure)) % 97, 0);

const plain = (text: string): string => text.replace(/\s/g, '').toUpperCase();

/**
 * Whether it is an IBAN by its form and check digits (ISO 13616).
 *
 * @example isIban('GB82 WEST 1234 5698 7654 32') // → true
 */
export function isIban(text: string): boolean {
  const iban = plain(text);
  return /^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/.test(iban) && rest97(asFigures(iban.slice(4) + iban.slice(0, 4))) === 1;
}

/** The longest text that a creditor reference holds. */
const LONGEST = 21;

/**
 * A creditor reference (ISO 11649): RF, two check digits, and the letters and figures of what it refers to. Banks carry it through to the
 * statement unchanged. Empty where nothing in the text can stand in one, or more than 21 signs would have to.
 *
 * @example creditorReference('539007547034') // → 'RF18539007547034'
 */
export function creditorReference(text: string): string {
  const own = plain(text.normalize('NFD').replace(/[^A-Za-z0-9]/g, ''));
  if (own === '' || own.length > LONGEST) return '';
  return `RF${String(98 - rest97(asFigures(`${own}RF00`))).padStart(2, '0')}${own}`;
}

/** Most bytes of a code's lines, and most signs of a name (EPC069-12). */
const LONGEST_NAME = 70;

/** Whether a payment by code can be asked for: euro to an IBAN, more than nothing and less than a thousand million. */
const canBeScanned = ({ currency, payable, studio, credits }: FrozenInvoice): boolean =>
  currency === 'EUR' &&
  credits === null &&
  payable > 0 &&
  payable < 100_000_000_000 &&
  studio.account !== null &&
  isIban(studio.account.number);

/**
 * What a code on an invoice says to the payer's bank, by the guideline EPC069-12, version 002 (lines as remembered): who is paid, into which
 * account, how much, and the reference. Empty where no such payment can be asked for.
 */
export function payCode(invoice: FrozenInvoice): string {
  if (!canBeScanned(invoice)) return '';
  const { studio, payable, currency, number } = invoice;
  const account = studio.account!;
  const reference = creditorReference(number);
  const lines = [
    'BCD',
    '002',
    // UTF-8.
    '1',
    'SCT',
    plain(account.bic),
    (account.holder || studio.name).replace(/\s+/g, ' ').trim().slice(0, LONGEST_NAME),
    plain(account.number),
    `EUR${plainAmount(payable, currency)}`,
    '',
    reference,
    reference === '' ? number.slice(0, 140) : '',
  ];
  while (lines.at(-1) === '') lines.pop();
  return lines.join('\n');
}
