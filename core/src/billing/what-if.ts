import { rateDefaults } from '../model/defaults';
import type { Id } from '../model/ids';
import type { Entry, RateLine } from '../model/records';
import { fromScaled, SCALE, toScaled, type Decimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import type { RateUnit } from '../money/price';
import { addExact, divideRounded, product, type RoundingRule } from '../money/rational';
import type { RoundingPolicy } from '../time/rounding';
import type { Seconds } from '../time/length';
import { Pricer, type PriceBook } from './pricer';
import { worthOf } from './to-bill';

/** Other terms for work that was done. What is null stays as it was. */
export interface Scenario {
  /** One price for all hours. */
  price: { price: Decimal; unit: RateUnit } | null;
  /** Every price raised by so many percent, or lowered where negative. */
  change: Decimal | null;
  /** All labour at cost with this markup, in percent. */
  markup: Decimal | null;
  rounding: RoundingPolicy | null;
  /** One amount for everything, in the client's currency. */
  fixedPrice: Minor | null;
}

/** The terms as they are: nothing is tried out. */
export const asItWas: Scenario = { price: null, change: null, markup: null, rounding: null, fixedPrice: null };

/** What work comes to on some terms. */
export interface Outcome {
  /** Billable, after rounding. */
  billed: Seconds;
  amount: Minor;
  /** Entries that nothing prices. */
  unpriced: number;
}

export interface TriedProject {
  projectId: Id;
  was: Outcome;
  would: Outcome;
}

export interface Tried {
  was: Outcome;
  would: Outcome;
  /** The same by project, in the order they were first worked on; all but a fixed price, which is of the whole. */
  projects: TriedProject[];
}

/**
 * What work of one client would have come to on other terms, beside what it comes to on those it has. Nothing is changed by it.
 *
 * @param entries of one client, billable part by billable part
 */
export function tryTerms(pricer: Pricer, entries: readonly Entry[], scenario: Scenario): Tried {
  const other = new Pricer(bookOn(pricer.book, scenario));
  const { price, markup } = scenario;
  // An own price of an entry is one of the terms that are changed.
  const changed = entries.map((entry) =>
    price ? { ...entry, rate: price } : markup !== null ? { ...entry, rate: null } : entry,
  );
  const projects = new Map<Id, TriedProject>();
  const was = worthOf(pricer, entries);
  const would = worthOf(other, changed);
  const nothing = (): Outcome => ({ billed: 0, amount: 0, unpriced: 0 });
  const whole = { was: nothing(), would: nothing() };
  entries.forEach((entry, index) => {
    const id = entry.projectId!;
    const own = projects.get(id) ?? { projectId: id, was: nothing(), would: nothing() };
    projects.set(id, own);
    for (const [side, list] of [
      ['was', was],
      ['would', would],
    ] as const) {
      const { billed, amount, price: priced } = list[index]!;
      for (const outcome of [own[side], whole[side]]) {
        outcome.billed += billed;
        outcome.amount = addExact(outcome.amount, amount);
        if (!priced) outcome.unpriced++;
      }
    }
  });
  if (scenario.fixedPrice !== null) whole.would.amount = scenario.fixedPrice;
  return { ...whole, projects: [...projects.values()] };
}

function bookOn(book: PriceBook, { change, markup, rounding }: Scenario): PriceBook {
  const rule = book.workspace.amountRounding;
  const lines =
    markup !== null
      ? [{ ...rateDefaults, id: 'tried', from: '0001-01-01', markup }]
      : change !== null
        ? book.rateLines.map((line) => raised(line, change, rule))
        : book.rateLines;
  const terms = { ...book, rateLines: lines };
  if (!rounding) return terms;
  return {
    ...terms,
    workspace: { ...book.workspace, rounding },
    clients: book.clients.map((client) => ({ ...client, rounding: null })),
    projects: book.projects.map((project) => ({ ...project, rounding: null })),
  };
}

/** A line with its price raised by so many percent, to four places; a markup has no price of its own. */
function raised(line: RateLine, change: Decimal, rule: RoundingRule): RateLine {
  if (line.price === null) return line;
  const whole = 100 * SCALE;
  const scaled = divideRounded(product(toScaled(line.price), whole + toScaled(change)), whole, rule);
  return { ...line, price: fromScaled(scaled) };
}

/**
 * What an hour came to: amount over billed hours.
 *
 * @returns minor units an hour, null where nothing was billed
 */
export const perHour = ({ billed, amount }: Outcome, rule: RoundingRule): Minor | null =>
  billed === 0 ? null : divideRounded(product(amount, 3600), billed, rule);
