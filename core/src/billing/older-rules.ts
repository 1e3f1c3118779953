import type { FrozenInvoice, Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import { lessExact, sumExact } from '../money/rational';
import { totalsOf } from '../money/tax';
import { creditableOf } from './credit';
import { askedOf } from './paid';

/** An issued paper that comes to something else by the rules of now. What was issued stays; another paper puts it right. */
export interface OlderRule {
  invoice: Invoice;
  /** What was asked for, or credited in all. */
  issued: Minor;
  /** What it comes to by the rules of now. */
  byRule: Minor;
  /** What the client was asked for too much; negative where it was too little. */
  tooMuch: Minor;
  why: 'totals' | 'credits';
}

/**
 * Invoices and credits made by older rules whose sums those of now would make otherwise: discounts and taxes of several rates, and credits
 * of all lines that do not come to the invoice. Each once; invoices that were made by the rules of now are never among them.
 */
export function olderRules(invoices: readonly Invoice[]): OlderRule[] {
  return invoices.flatMap((invoice): OlderRule[] => {
    const { frozen, voided, kind } = invoice;
    if (!frozen || voided || kind === 'credit note') return [];
    const notes = invoices.filter((row) => row.ofId === invoice.id && row.frozen && !row.voided);
    const found: OlderRule[] = [];
    const issued = askedOf(frozen);
    if (isOlder(frozen)) {
      const byRule = totalByRule(frozen);
      if (byRule !== null && byRule !== issued)
        found.push({ invoice, issued, byRule, tooMuch: lessExact(issued, byRule), why: 'totals' });
    }
    if (notes.some((note) => isOlder(note.frozen!)) && frozen.lines.every((line) => creditableOf(line, notes) === 0)) {
      const credited = -sumExact(notes.map((note) => askedOf(note.frozen!)));
      if (credited !== issued)
        found.push({ invoice, issued: credited, byRule: issued, tooMuch: lessExact(issued, credited), why: 'credits' });
    }
    return found;
  });
}

/** How amounts were rounded has been kept since the rules are those of now. */
const isOlder = ({ amountRounding }: FrozenInvoice): boolean => amountRounding === null;

/** What its lines and discount come to by the rules of now; null where those would refuse it. */
function totalByRule({ lines, taxes, taxMethod, allowance, inclusive }: FrozenInvoice): Minor | null {
  try {
    const totals = totalsOf(lines, taxes, taxMethod, { allowance: allowance?.amount ?? 0, inclusive });
    return askedOf(totals);
  } catch {
    return null;
  }
}
