import type { Pricer } from '../billing/pricer';
import type { IdSource } from '../model/ids';
import type { Quote, QuoteLine } from '../model/records';
import { fromScaled, SCALE } from '../money/decimal';
import { divideRounded, product } from '../money/rational';
import type { Day } from '../time/day';

/**
 * A line for each task of a quote's project that says how long it will take and does not stand on it yet: its hours at what an hour of
 * the project sells for on a day. None where the project has no usual rate by the hour in the quote's currency.
 */
export function linesOfTasks(pricer: Pricer, quote: Quote, day: Day, newId: IdSource): QuoteLine[] {
  const { projectId, currency, taxId } = quote;
  if (projectId === null) return [];
  const rate = pricer.rates.usualOn(projectId, day);
  if (!rate || rate.price === null || rate.unit !== 'hour' || rate.currency !== currency) return [];
  const price = rate.price;
  const said = new Set(quote.lines.map((line) => line.text.trim()));
  return pricer.book.tasks
    .filter((task) => task.projectId === projectId && task.estimate !== null && !task.finished)
    .filter((task) => !said.has(task.name.trim()))
    .sort((a, b) => a.order - b.order)
    .map((task) => ({
      key: newId(),
      text: task.name,
      quantity: fromScaled(divideRounded(product(task.estimate!, SCALE), 3600, 'half away from zero')),
      unitName: 'h',
      price,
      taxId,
      basis: 'estimate',
      optional: false,
      costCodeId: null,
    }));
}
