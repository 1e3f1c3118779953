import { showRate, type Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { dayOf } from '@half-penny/core/time';

/** "£85.00 an hour": what an hour of anybody's usual work on a project sells for now; that there is none, where there is none. */
export function usualRate(pricer: Pricer, projectId: Id): string {
  const line = pricer.rates.usualOn(projectId, dayOf(Date.now(), pricer.book.workspace.zone));
  if (line) return showRate(line);
  // Rates may be said by person, role or service alone.
  return pricer.book.rateLines.length === 0 ? 'no rate yet' : '';
}
