import { asOf } from '../billing/account-statement';
import type { Minor } from '../money/amount';
import { addExact } from '../money/rational';
import { addDays, daysBetween, type Day } from '../time/day';
import { cashAhead, WEEKS_AHEAD, type CashFacts } from './ahead';

/** What would have been foreseen, and what came. */
export interface HeldOut {
  /** The day that was stood on. */
  from: Day;
  weeks: { to: Day; low: Minor; likely: Minor; high: Minor; came: Minor }[];
  /** In how many weeks what came lay within what was foreseen. */
  within: number;
}

/** With less than this to foresee from, or to compare with, nothing is told. */
const FEWEST_WEEKS = 4;

/**
 * Stands some weeks back, foresees from what was known then, and compares with what came. Up to the end of each week all that came counts,
 * as in what is foreseen. A young studio is stood back half of its time.
 *
 * @returns null where there is too little to foresee from
 */
export function heldOut(facts: CashFacts, most = WEEKS_AHEAD): HeldOut | null {
  const first = facts.invoices.reduce<Day>(
    (day, { invoice: { frozen } }) => (frozen && frozen.day < day ? frozen.day : day),
    facts.today,
  );
  const weeks = Math.min(most, Math.floor(daysBetween(first, facts.today) / 14));
  if (weeks < FEWEST_WEEKS) return null;
  const from = addDays(facts.today, -7 * weeks);
  const known = facts.invoices
    .filter(({ invoice: { frozen } }) => frozen !== null && frozen.day <= from)
    .map((row) => asOf(row, from));
  // What could be invoiced then is not known any more.
  const then: CashFacts = { ...facts, today: from, invoices: known, toBill: new Map(), milestones: [] };
  const foreseen = cashAhead(then, weeks);
  let came = 0;
  const compared = foreseen.weeks.map(({ from: first, to, low, likely, high }) => {
    for (const { invoice, payments } of facts.invoices)
      for (const { kind, day, amount } of payments) {
        if (kind === 'write-off' || day < first || day > to) continue;
        const home = facts.atHome(amount, invoice) ?? 0;
        came = addExact(came, kind === 'refund' ? -home : home);
      }
    return { to, low, likely, high, came };
  });
  return {
    from,
    weeks: compared,
    within: compared.filter(({ low, high, came: sum }) => sum >= low && sum <= high).length,
  };
}
