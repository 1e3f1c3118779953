import { readMarkup } from '@half-penny/core/costs';
import { readRate, type Decimal, type RateUnit } from '@half-penny/core/money';
import { Fault } from '@half-penny/core/model';

/** A markup typed where there is no room to ask back: a share, such as 0.35, is answered with what may have been meant. */
export function typedMarkup(typed: string): string {
  const { percent, meant } = readMarkup(typed);
  if (meant === null) return percent;
  throw new Fault(
    'ambiguous-percent',
    `Is ${meant} % meant? Write ${meant}, or ${percent} % with its sign.`,
    'percent',
  );
}

/** A rate with its unit: what is said beside the figure goes before what was chosen in the list. */
export function rateTyped(text: string, chosen: RateUnit): { price: Decimal; unit: RateUnit } {
  const { price, unit } = readRate(text);
  return { price, unit: unit ?? chosen };
}
