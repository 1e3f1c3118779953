import { readMarkup } from '@half-penny/core/costs';
import { Fault } from '@half-penny/core/model';
import { readDecimal } from '@half-penny/core/money';

/** A price as typed: up to four decimals, not negative. */
export function readPrice(text: string): string {
  const price = readDecimal(text, 'rate');
  if (price.startsWith('-')) throw new Error('A rate cannot be negative.');
  return price;
}

/** A markup typed where there is no room to ask back: a share, such as 0.35, is answered with what may have been meant. */
export function typedMarkup(typed: string): string {
  const { percent, meant } = readMarkup(typed);
  if (meant === null) return percent;
  throw new Fault(`Is ${meant} % meant? Write ${meant}, or ${percent} % with its sign.`, 'percent');
}
