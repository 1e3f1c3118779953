import { chargeText, effectOf, jobName, Pricer, type Effect, type PriceBook } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { showDayShort } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useBillable } from '../data/billing';

const MOST_LISTED = 6;

interface EffectSlipProps {
  pricer: Pricer;
  /** The book as it would be; null while nothing that can be read is typed. */
  book: PriceBook | null;
  clientId?: Id;
}

/**
 * What a change would do to everything to bill: entries, before, after, difference. As high as its longest answer from the beginning: what
 * stands below it must not move from under a press.
 */
export function EffectSlip({ pricer, book, clientId }: EffectSlipProps) {
  const rows = useBillable(pricer, clientId ? { clientId } : 'every client');
  const effect = useMemo(
    () => (book && rows ? effectOf(pricer, new Pricer(book), rows.entries, rows.allocations, rows.rows) : null),
    [pricer, book, rows],
  );
  return (
    <section
      aria-label="Effect on what is to bill"
      aria-live="polite"
      className="torn min-h-[196px] border border-rule bg-sheet px-3 pt-2 pb-5 text-sm"
    >
      {!effect && <p className="text-soft">The effect on everything to bill is shown here before you save.</p>}
      {effect?.affected.length === 0 && <p className="text-soft">Nothing to bill changes.</p>}
      {effect && effect.affected.length > 0 && (
        <>
          <table className="w-full font-mono text-xs">
            <caption className="pb-1 text-left font-sans text-sm font-semibold text-ink">{countOf(effect)}</caption>
            <thead className="sr-only">
              <tr>
                <th scope="col">Entry</th>
                <th scope="col">Before</th>
                <th scope="col">After</th>
              </tr>
            </thead>
            <tbody>
              {effect.affected.slice(0, MOST_LISTED).map(({ entry, charge, before, after, currency }) => (
                <tr key={entry?.id ?? charge!.id}>
                  <td className="max-w-40 truncate pr-2">
                    {entry
                      ? `${showDayShort(entry.day)} ${entry.note || jobName(pricer, entry.projectId)}`
                      : chargeText(charge!)}
                  </td>
                  <td className="text-right whitespace-nowrap text-soft">{inWords(before, currency)}</td>
                  <td className="pl-3 text-right whitespace-nowrap">{inWords(after, currency)}</td>
                </tr>
              ))}
              {effect.affected.length > MOST_LISTED && (
                <tr>
                  <td colSpan={3} className="text-soft">
                    and {effect.affected.length - MOST_LISTED} more
                  </td>
                </tr>
              )}
            </tbody>
            <tfoot>
              {[...effect.sums].map(([currency, { before, after }]) => (
                <tr key={currency} className="border-t border-ink font-semibold">
                  <td>Total {difference(after - before, currency)}</td>
                  <td className="text-right whitespace-nowrap">{showAmount(before, currency)}</td>
                  <td className="pl-3 text-right whitespace-nowrap text-money">{showAmount(after, currency)}</td>
                </tr>
              ))}
            </tfoot>
          </table>
        </>
      )}
    </section>
  );
}

/** "3 entries to bill change", "1 thing to bill changes". */
function countOf({ affected }: Effect): string {
  const [one, many] = affected.every((each) => each.entry) ? ['entry', 'entries'] : ['thing', 'things'];
  return affected.length === 1 ? `1 ${one} to bill changes` : `${affected.length} ${many} to bill change`;
}

const inWords = (minor: number | null, currency: string): string =>
  minor === null ? 'no rate' : showAmount(minor, currency);

/** "+ £60.00", "− £12.50". */
export const difference = (minor: number, currency: string): string =>
  `${minor < 0 ? '−' : '+'} ${showAmount(Math.abs(minor), currency)}`;
