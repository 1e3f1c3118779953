import type { InvoiceBalance } from '../billing/standing';
import { owedOn } from '../billing/standing';
import type { Id } from '../model/ids';
import { daysBetween, type Day } from '../time/day';
import type { Chance } from './chance';

/** How many days past its due day a client paid, invoice by invoice; negative where it was before. */
export type LateDays = ReadonlyMap<Id, readonly number[]>;

/** What was paid longer ago says little of how a client pays now. */
const LOOKED_AT = 24;

/** How late clients paid the invoices that are paid in full, the last ones of each. */
export function lateDaysOf(invoices: readonly InvoiceBalance[]): LateDays {
  const paid = invoices
    .filter((row) => row.invoice.frozen && row.payments.some((each) => each.kind === 'payment') && owedOn(row) <= 0)
    .sort((one, other) => one.invoice.seq! - other.invoice.seq!);
  const found = new Map<Id, number[]>();
  for (const { invoice, payments } of paid) {
    const last = payments.reduce<Day>((day, each) => (each.kind === 'payment' && each.day > day ? each.day : day), '');
    const own = found.get(invoice.clientId) ?? [];
    found.set(invoice.clientId, [...own, daysBetween(invoice.frozen!.dueDay, last)].slice(-LOOKED_AT));
  }
  return found;
}

/** Where nothing was ever paid: on the day, or some days to weeks after. Practice, no source. */
const USUAL: readonly number[] = [-2, 0, 1, 3, 7, 14, 24];

/** What the studio's other clients do counts as so many invoices of one's own. */
const OTHERS_COUNT = 3;
/** One who is later than ever before pays within so many days, or so it is thought. */
const AT_LAST = 42;
/** Nobody pays after exactly the days of an earlier invoice. */
const ABOUT = 2;
const TRIES = 24;

/** Draws how late a client pays: as it paid before, and a little as the others do. */
export class PayingHabits {
  readonly #late: LateDays;
  readonly #all: readonly number[];

  constructor(late: LateDays) {
    this.#late = late;
    const all = [...late.values()].flat();
    this.#all = all.length > 0 ? all : USUAL;
  }

  /**
   * @param than it is so many days past its due day and not paid yet; negative where it is not due
   * @returns days past the due day, more than that
   */
  draw(chance: Chance, clientId: Id, than: number): number {
    const own = this.#late.get(clientId) ?? [];
    for (let tries = 0; tries < TRIES; tries++) {
      const mine = chance.next() * (own.length + OTHERS_COUNT) < own.length;
      const late = chance.pick(mine ? own : this.#all) + chance.between(-ABOUT, ABOUT);
      if (late > than) return late;
    }
    return than + chance.between(1, AT_LAST);
  }

  /** How late a client pays mostly: the middle of what it did, and of what all do where it paid nothing yet. */
  usual(clientId: Id): number {
    const own = this.#late.get(clientId) ?? this.#all;
    return own.toSorted((one, other) => one - other)[Math.floor(own.length / 2)]!;
  }
}
