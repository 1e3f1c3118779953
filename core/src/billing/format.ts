import type { RateLine } from '../model/records';
import { currencyDigits, type CurrencyCode } from '../money/currency';
import { showDecimal, type Decimal } from '../money/decimal';
import { inStyle } from '../money/written';
import type { RateUnit } from '../money/price';

/** "78.00 /h". */
export function showPrice(line: { price: Decimal; unit: RateUnit; currency: CurrencyCode }): string {
  return `${showDecimal(line.price, currencyDigits(line.currency))} /${shortUnit[line.unit]}`;
}
const shortUnit = { second: 's', minute: 'min', hour: 'h', day: 'day' } as const;

/** "78.00 /h", or "cost + 62.5 %" where the cost of the time is marked up. */
export const showRate = (line: RateLine): string =>
  line.price === null
    ? `cost ${showMarkup(line.markup!)}`
    : showPrice({ price: line.price, unit: line.unit, currency: line.currency! });

/** "+ 62.5 %", "− 10 %". */
export const showMarkup = (markup: Decimal): string =>
  `${markup.startsWith('-') ? '−' : '+'} ${inStyle(markup.replace('-', ''))} %`;
