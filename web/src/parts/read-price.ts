import { readDecimal } from '@half-penny/core/money';

/** A price as typed: up to four decimals, not negative. */
export function readPrice(text: string): string {
  const price = readDecimal(text, 'rate');
  if (price.startsWith('-')) throw new Error('A rate cannot be negative.');
  return price;
}
