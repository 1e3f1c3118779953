import type { ExchangeRate } from '../model/records';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { divideRounded, type RoundingRule } from '../money/rational';
import type { Day } from '../time/day';

/** How much of one currency another is on a day, as an exact fraction, and the rows it was computed from. */
export interface Exchanged {
  numerator: bigint;
  denominator: bigint;
  used: readonly ExchangeRate[];
}

const PLACES = 8;

/** A plain decimal as a whole number of hundred-millionths. */
function scaledRate(rate: string): bigint {
  const [whole, fraction = ''] = rate.split('.');
  return BigInt(whole + fraction.padEnd(PLACES, '0'));
}

/** Finds exchange rates by day: straight, turned round, or by way of a currency that both are quoted against. */
export class ExchangeRates {
  // base → currency → rows by date, latest first.
  readonly #quotes = new Map<CurrencyCode, Map<CurrencyCode, ExchangeRate[]>>();

  constructor(rows: readonly ExchangeRate[]) {
    for (const row of rows) {
      let quoted = this.#quotes.get(row.base);
      if (!quoted) this.#quotes.set(row.base, (quoted = new Map()));
      const dated = quoted.get(row.currency);
      if (dated) dated.push(row);
      else quoted.set(row.currency, [row]);
    }
    for (const quoted of this.#quotes.values()) {
      for (const dated of quoted.values()) dated.sort((a, b) => (a.from < b.from ? 1 : a.from > b.from ? -1 : 0));
    }
  }

  /** What one unit of `from` is in `to` on a day; null where no row tells. */
  between(from: CurrencyCode, to: CurrencyCode, day: Day): Exchanged | null {
    if (from === to) return { numerator: 1n, denominator: 1n, used: [] };
    const straight = this.#on(from, to, day);
    const turned = this.#on(to, from, day);
    const one = 10n ** BigInt(PLACES);
    // Of two ways to say the same, the later one holds; on one day the straight one.
    if (straight && (!turned || straight.from >= turned.from)) {
      return { numerator: scaledRate(straight.rate), denominator: one, used: [straight] };
    }
    if (turned) return { numerator: one, denominator: scaledRate(turned.rate), used: [turned] };
    // Of several ways round the latest holds; one is as old as the older of its two rates.
    let best: { a: ExchangeRate; b: ExchangeRate; from: Day } | null = null;
    for (const base of this.#quotes.keys()) {
      const a = this.#on(base, from, day);
      const b = this.#on(base, to, day);
      if (!a || !b) continue;
      const since = a.from < b.from ? a.from : b.from;
      if (!best || since > best.from || (since === best.from && a.base < best.a.base)) best = { a, b, from: since };
    }
    if (!best) return null;
    return { numerator: scaledRate(best.b.rate), denominator: scaledRate(best.a.rate), used: [best.a, best.b] };
  }

  /** Every day on which what one currency is in another may change. */
  datesBetween(from: CurrencyCode, to: CurrencyCode): Day[] {
    if (from === to) return [];
    const days = new Set<Day>();
    for (const quoted of this.#quotes.values()) {
      for (const currency of [from, to]) for (const row of quoted.get(currency) ?? []) days.add(row.from);
    }
    return [...days];
  }

  /**
   * An amount in another currency, rounded once; null where no row tells.
   *
   * @param minor whole minor units of `from`
   * @returns whole minor units of `to`
   */
  convert(minor: Minor, from: CurrencyCode, to: CurrencyCode, day: Day, rule: RoundingRule): Minor | null {
    if (from === to) return minor;
    const exchanged = this.between(from, to, day);
    if (!exchanged) return null;
    const numerator = BigInt(minor) * exchanged.numerator * BigInt(minorPerMajor(to));
    return divideRounded(numerator, exchanged.denominator * BigInt(minorPerMajor(from)), rule);
  }

  #on(base: CurrencyCode, currency: CurrencyCode, day: Day): ExchangeRate | undefined {
    return this.#quotes
      .get(base)
      ?.get(currency)
      ?.find((row) => row.from <= day);
  }
}
