import type { Id } from '../model/ids';
import type { Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import { computeDraft, type DraftInput } from './draft';
import type { Pricer } from './pricer';

export type OnePrice = Pick<Invoice['deals'][number], 'amount' | 'price'>;

const TRIED = 'tried';

/** What hours of a draft come to at their own rates, and what at one price that would be agreed; hours without a rate come to nothing. */
export function tryOnePrice(
  pricer: Pricer,
  input: DraftInput,
  entryIds: readonly Id[],
  agreed: OnePrice,
): { before: Minor; after: Minor } {
  const wanted = new Set<Id | null>(entryIds);
  const deal = { id: TRIED, text: '', ...agreed };
  const draft = computeDraft(pricer, {
    ...input,
    invoice: { ...input.invoice, deals: [...input.invoice.deals, deal] },
    allocations: input.allocations.map((row) => (wanted.has(row.entryId) ? { ...row, dealId: TRIED } : row)),
  });
  const line = draft.lines.find((each) => each.key === `deal ${TRIED}`);
  if (!line) return { before: 0, after: 0 };
  const own = line.sources.map(({ billed, price }) => (price ? pricer.amount(billed, price) : 0));
  return { before: sumExact(own), after: line.gross };
}
