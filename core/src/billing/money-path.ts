import type { Payment } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { addExact } from '../money/rational';
import { addDays, type Day } from '../time/day';
import { owedOn, standingOf, type InvoiceBalance } from './standing';
import type { ToBill } from './to-bill';

/** How many days back money that came in is counted as come in lately. */
export const LATELY_DAYS = 30;

/** Where money stands on its way: what is to bill, what was asked for and is not due, what is late, and what came in lately. */
export const pathStages = ['to bill', 'not due', 'late', 'paid'] as const;
export type PathStage = (typeof pathStages)[number];

export type Sums = ReadonlyMap<CurrencyCode, Minor>;

/** What stands where, by currency: different money is never added together. */
export interface MoneyPath {
  sums: Readonly<Record<PathStage, Sums>>;
  /** Drafts are not summed: what one comes to is known once its lines are made. */
  drafts: number;
  /** Seconds that are recorded and to bill. */
  seconds: number;
}

/**
 * Where money stands on its way from the clock to the bank.
 *
 * @param invoices all invoices and credit notes with what came in on them
 */
export function moneyPath(toBill: readonly ToBill[], invoices: readonly InvoiceBalance[], today: Day): MoneyPath {
  const sums: Record<PathStage, Map<CurrencyCode, Minor>> = {
    'to bill': new Map(),
    'not due': new Map(),
    late: new Map(),
    paid: new Map(),
  };
  const add = (stage: PathStage, currency: CurrencyCode, amount: Minor) => {
    if (amount !== 0) sums[stage].set(currency, addExact(sums[stage].get(currency) ?? 0, amount));
  };
  for (const { amount, currency } of toBill) add('to bill', currency, amount);
  for (const balance of invoices) {
    const { invoice, payments } = balance;
    const owed = owedOn(balance);
    // What was overpaid is nobody's debt.
    if (owed > 0) add(standingOf(balance, today) === 'overdue' ? 'late' : 'not due', invoice.currency, owed);
    if (!invoice.voided) for (const each of payments) add('paid', invoice.currency, cameIn(each, today));
  }
  return {
    sums,
    drafts: invoices.filter(({ invoice }) => !invoice.frozen).length,
    // What waits to be approved is recorded as well.
    seconds: toBill.reduce((sum, { seconds, waiting }) => sum + seconds + waiting.seconds, 0),
  };
}

/** What a payment brought lately: less where it was paid back, nothing where it was written off. */
function cameIn({ kind, amount, day }: Payment, today: Day): Minor {
  if (kind === 'write-off' || day > today || day <= addDays(today, -LATELY_DAYS)) return 0;
  return kind === 'refund' ? -amount : amount;
}

/** How thick each stage is drawn, 0 to 1, by its money in one currency; all 0 where there is none of it. */
export function thicknessOf({ sums }: MoneyPath, currency: CurrencyCode): Record<PathStage, number> {
  const of = (stage: PathStage) => Math.max(0, sums[stage].get(currency) ?? 0);
  const most = Math.max(1, ...pathStages.map(of));
  return Object.fromEntries(pathStages.map((stage) => [stage, of(stage) / most])) as Record<PathStage, number>;
}
