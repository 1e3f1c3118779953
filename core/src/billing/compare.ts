import type { Entry } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { exactly, type RoundingPolicy } from '../time/rounding';
import type { Seconds } from '../time/length';
import { Pricer } from './pricer';
import { worthOf } from './to-bill';

/** What a policy makes of a set of entries, beside what they come to to the second. */
export interface PolicyOutcome {
  policy: RoundingPolicy;
  /** Billed lengths together. */
  seconds: Seconds;
  /** Against the exact lengths. */
  moreSeconds: Seconds;
  /** Against exact lengths, by currency; entry by entry, as each stands on its own. */
  more: ReadonlyMap<CurrencyCode, Minor>;
}

/**
 * What each policy would have made of the billable part of entries, wherever they are billed by another one. Of those only that a client
 * pays by the hour: rounding gains nothing where a price was agreed for the whole.
 */
export function comparePolicies(
  pricer: Pricer,
  entries: readonly Entry[],
  policies: readonly RoundingPolicy[],
): PolicyOutcome[] {
  const byTheHour = entries.filter((entry) => pricer.billsEntry(entry) && pricer.clientOf(entry.projectId));
  const exact = outcomeOf(pricer, byTheHour, exactly);
  return policies.map((policy) => {
    const { seconds, amounts } = outcomeOf(pricer, byTheHour, policy);
    const more = new Map(
      [...amounts].map(([currency, amount]) => [currency, amount - (exact.amounts.get(currency) ?? 0)]),
    );
    return { policy, seconds, moreSeconds: seconds - exact.seconds, more };
  });
}

function outcomeOf(pricer: Pricer, entries: readonly Entry[], rounding: RoundingPolicy) {
  const { book } = pricer;
  const asIf = new Pricer({
    ...book,
    workspace: { ...book.workspace, rounding },
    clients: book.clients.map((client) => ({ ...client, rounding: null })),
    projects: book.projects.map((project) => ({ ...project, rounding: null })),
  });
  const amounts = new Map<CurrencyCode, Minor>();
  let seconds = 0;
  for (const { billed, amount, price } of worthOf(asIf, entries)) {
    if (!price) continue;
    seconds += billed;
    amounts.set(price.currency, (amounts.get(price.currency) ?? 0) + amount);
  }
  return { seconds, amounts };
}
