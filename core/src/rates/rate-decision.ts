import type { CostRate, RateLine } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Day } from '../time/day';
import type { Exchanged } from './exchange';

/** What decides from a day on: the rate line, and where that marks up a cost, the cost and how its currency is exchanged. */
export interface RateDecision {
  from: Day;
  line: RateLine;
  /** What the client is invoiced in. */
  currency: CurrencyCode;
  cost: CostRate | null;
  /** Null where nothing tells what the cost's currency is in the client's. */
  exchanged: Exchanged | null;
  /** What is computed from it, kept beside it by whoever computes: it is asked for every entry. */
  cachedPrice: unknown;
}
