import type { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { isApproved } from '../checking/standing';
import { approvedPolicyOf } from './approved-only';
import { lacksReceipt } from './receipts';
import { grouped } from '../model/grouped';
import type { Cost, FrozenInvoice, Invoice } from '../model/records';
import { showAmount } from '../money/amount';
import { showDayShort, type Day } from '../time/day';
import type { ChargeRows } from './charges';
import type { Draft } from './draft';
import { bankAccountOf, homeOf, readinessFaults } from './freeze';
import type { Pricer } from './pricer';

/** Where what is missing can be put right. */
export type Remedy =
  | { kind: 'client' | 'rates' | 'draft' | 'exchange' | 'studio' | 'taxes' | 'accounts' }
  | { kind: 'cost'; costId: Id }
  | { kind: 'date' | 'checking' };

/** What is missing on a draft or odd about it. */
export interface Finding {
  /** What keeps it from being issued, and what is only odd. */
  weight: 'refused' | 'odd';
  text: string;
  remedy: Remedy;
}

export interface BeforeIssuing {
  draft: Draft;
  invoice: Invoice;
  day: Day;
  /** Papers that have been issued, in any order. */
  issued: readonly FrozenInvoice[];
  /** Costs whose lines stand on the draft, with all their lines. */
  rows: Pick<ChargeRows, 'costs' | 'costLines'>;
}

/**
 * Everything that is missing on a draft, or odd about it, before it is issued: first what keeps it from being issued. The law asks for most of it (EN
 * 16931-1 BR-08, BR-CO-26, BR-AE-02, BR-S-02; Directive 2006/112/EC, Articles 226 and 230).
 */
export function beforeIssuing(pricer: Pricer, of: BeforeIssuing): Finding[] {
  const { draft, invoice, day, issued } = of;
  const client = pricer.client.get(invoice.clientId)!;
  const { workspace } = pricer.book;
  const found: Finding[] = readinessFaults(pricer, draft, invoice).map((fault) => ({
    weight: 'refused',
    text: fault.message,
    remedy: remedyOf(fault),
  }));
  const odd = (text: string, remedy: Remedy) => found.push({ weight: 'odd', text, remedy });
  const categories = draft.totals.taxes.map(({ tax }) => pricer.tax.get(tax.id)?.category);
  if (!client.address.trim()) odd(`${client.name} has no address.`, { kind: 'client' });
  if (categories.some((category) => category === 'AE' || category === 'K') && !client.taxNumber.trim())
    odd(`The customer accounts for the tax, and ${client.name} has no VAT number.`, { kind: 'client' });
  if (draft.totals.tax !== 0 && !workspace.taxNumber.trim())
    odd('Tax is charged, and the studio has no tax number.', { kind: 'studio' });
  if (!workspace.paymentDetails.trim() && !bankAccountOf(workspace, invoice.currency))
    odd('Nothing says how to pay: there are no payment details and no account.', { kind: 'accounts' });
  else if (workspace.bankAccounts.length > 0 && !bankAccountOf(workspace, invoice.currency))
    odd(`No account takes ${invoice.currency}; only the words under “How to pay” are printed.`, { kind: 'accounts' });
  const lastDay = issued.reduce<Day>((last, each) => (each.day > last ? each.day : last), '');
  if (day < lastDay) odd(`The invoice before it is of ${showDayShort(lastDay)}, which is later.`, { kind: 'date' });
  const worked = [
    ...draft.lines.flatMap((line) => line.sources.map(({ entry }) => entry.day)),
    ...draft.lines.flatMap((line) => line.charges.map((charge) => charge.day).filter(Boolean)),
  ].reduce<Day>((last, each) => (each > last ? each : last), '');
  if (day < worked) odd(`It has work of ${showDayShort(worked)}, which is later.`, { kind: 'date' });
  if (
    invoice.currency !== workspace.currency &&
    draft.totals.tax !== 0 &&
    !homeOf(pricer, invoice.currency, invoice.taxPoint ?? day, draft.totals.tax)
  )
    odd(`No exchange rate says what the tax is in ${workspace.currency}.`, { kind: 'exchange' });
  const policy = workspace.receiptPolicy ?? 'warn';
  for (const cost of policy === 'note' ? [] : withoutReceipt(pricer, of)) {
    const finding: Finding = {
      weight: policy === 'require' ? 'refused' : 'odd',
      text: `${cost.supplier || 'A cost'} of ${showDayShort(cost.day)} is above ${showAmount(workspace.receiptOver!, workspace.currency)} and has no receipt.`,
      remedy: { kind: 'cost', costId: cost.id },
    };
    // What keeps it from being issued comes first.
    if (policy === 'require') found.unshift(finding);
    else found.push(finding);
  }
  const unapproved = draft.lines.flatMap((line) => line.sources).filter(({ entry }) => !isApproved(entry)).length;
  const asked = approvedPolicyOf(workspace, client);
  if (asked !== 'free' && unapproved > 0) {
    const text = `${unapproved} ${unapproved === 1 ? 'entry on it is' : 'entries on it are'} not approved.`;
    const remedy: Remedy = { kind: 'checking' };
    if (asked === 'only') found.unshift({ weight: 'refused', text, remedy });
    else found.push({ weight: 'odd', text, remedy });
  }
  return found;
}

function remedyOf({ path, data }: Fault): Remedy {
  if ('entries' in data) return { kind: 'rates' };
  if ('costs' in data) return { kind: 'exchange' };
  return { kind: path === 'taxes' ? 'taxes' : 'draft' };
}

/** Costs on the draft that need a receipt and have none. */
export function withoutReceipt(pricer: Pricer, { draft, rows }: Pick<BeforeIssuing, 'draft' | 'rows'>): Cost[] {
  const onDraft = new Set(draft.lines.flatMap((line) => line.charges.map((charge) => charge.cost?.id)));
  const linesOf = grouped(rows.costLines, (line) => line.costId);
  return rows.costs.filter((cost) => onDraft.has(cost.id) && lacksReceipt(pricer, cost, linesOf.get(cost.id) ?? []));
}
