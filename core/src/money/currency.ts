import { Fault } from '../faults/fault';

/** An ISO 4217 alphabetic code, upper case. */
export type CurrencyCode = string;

// ISO 4217's active national currencies by the number of digits after the decimal separator; those not named have two.
// Funds, metals and test codes (XAU, XTS …) are left out: nobody is invoiced in them.
const NO_DIGITS = 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF';
const THREE_DIGITS = 'BHD IQD JOD KWD LYD OMR TND';
const FOUR_DIGITS = 'CLF UYW';
const TWO_DIGITS =
  'AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP CRC CUP ' +
  'CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD ' +
  'KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO ' +
  'NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL ' +
  'THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VES WST XCD YER ZAR ZMW';

const digitsByCode = new Map<CurrencyCode, number>();
for (const [codes, digits] of [
  [NO_DIGITS, 0],
  [TWO_DIGITS, 2],
  [THREE_DIGITS, 3],
  [FOUR_DIGITS, 4],
] as const) {
  for (const code of codes.split(' ')) digitsByCode.set(code, digits);
}

/** All currency codes known here, in alphabetical order. */
export const currencyCodes: readonly CurrencyCode[] = [...digitsByCode.keys()].sort();

/**
 * Whether a code is a currency's (ISO 4217).
 *
 * @example isCurrency('GBP') // → true
 */
export const isCurrency = (code: string): boolean => digitsByCode.has(code);

/**
 * Digits after the decimal separator (ISO 4217): 2 for GBP, 0 for JPY, 3 for KWD.
 *
 * @throws Fault when the code is not an ISO 4217 currency
 * @example currencyDigits('JPY') // → 0
 */
export function currencyDigits(code: CurrencyCode): number {
  const digits = digitsByCode.get(code);
  if (digits === undefined) {
    throw new Fault(
      'not-a-currency',
      `“${code.slice(0, 20)}” is not a currency. Use a three-letter ISO 4217 code such as GBP.`,
      'currency',
      { code },
    );
  }
  return digits;
}

/**
 * Minor units in one major unit: 100 for GBP, 1 for JPY.
 *
 * @example minorPerMajor('KWD') // → 1000
 */
export const minorPerMajor = (code: CurrencyCode): number => 10 ** currencyDigits(code);
