import type { Pricer } from '../billing/pricer';
import type { Dimension } from './column-store/dimensions';
import { Dictionary } from './column-store/dictionary';

/** What a fact is of. */
export const factKinds = [
  'time',
  'expense',
  'bill',
  'ledger',
  'agreed',
  'invoice line',
  'plan',
  'day',
  'adjustment',
  'trail',
] as const;
export type FactKind = (typeof factKinds)[number];

/** How much of it is billable. */
export const billables = ['billable', 'billable in part', 'not billable'] as const;
export type Billable = (typeof billables)[number];

/**
 * Where a piece of work stands on its way to being paid. What is in more than one place at once counts for the first of these that any
 * of it is in.
 */
export const standings = ['to bill', 'on a draft', 'invoiced', 'paid', 'written down', 'not to bill'] as const;
export type FactStanding = (typeof standings)[number];

type Worded = Exclude<Dimension, 'day' | 'hour'>;

/** The words that codes stand for: ids of records, and names where there is no record. Days and hours are numbers and need none. */
export class Dictionaries {
  readonly #dictionaries = new Map<Dimension, Dictionary>();
  /** The records behind the ids, as they are now. */
  pricer: Pricer;

  constructor(pricer: Pricer) {
    this.pricer = pricer;
    for (const [dimension, words] of [
      ['what', factKinds],
      ['billable', billables],
      ['standing', standings],
    ] as const) {
      for (const word of words) this.of(dimension).code(word);
    }
  }

  of(dimension: Worded): Dictionary {
    let found = this.#dictionaries.get(dimension);
    if (!found) this.#dictionaries.set(dimension, (found = new Dictionary()));
    return found;
  }

  code(dimension: Worded, word: string | null | undefined): number {
    return this.of(dimension).code(word);
  }
}
