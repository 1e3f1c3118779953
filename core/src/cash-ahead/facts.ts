import { computeDraft, newDraft } from '../billing/draft';
import type { Pricer } from '../billing/pricer';
import type { InvoiceBalance } from '../billing/standing';
import type { ToBill } from '../billing/to-bill';
import type { Id } from '../model/ids';
import type { Agreed, Invoice, Milestone, Repeat } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { percentOf } from '../money/price';
import { addExact } from '../money/rational';
import type { Day } from '../time/day';
import type { CashFacts } from './ahead';

/** Records that money to come is told of. */
export interface CashRows {
  invoices: readonly InvoiceBalance[];
  repeats: readonly Repeat[];
  /** What can be put on an invoice now, client by client. */
  open: readonly ToBill[];
  /** What drafts come to, with tax, in their own currencies. */
  drafts: readonly { invoice: Pick<Invoice, 'clientId' | 'currency'>; total: Minor }[];
  milestones: readonly Milestone[];
  agreed: readonly Agreed[];
  /** Agreed amounts that stand on an invoice or a draft. */
  spokenFor: ReadonlySet<Id>;
}

/** What is known on a day, in the studio's currency and with tax. */
export function cashFacts(pricer: Pricer, rows: CashRows, today: Day): CashFacts {
  const { workspace } = pricer.book;
  const inHome = (amount: Minor, currency: CurrencyCode): Minor | null =>
    pricer.rates.exchange.convert(amount, currency, workspace.currency, today, workspace.amountRounding);
  const withTax = (net: Minor, clientId: Id): Minor => {
    const tax = pricer.tax.get(pricer.client.get(clientId)?.taxId ?? '');
    return tax ? addExact(net, percentOf(net, tax.percent, workspace.amountRounding)) : net;
  };
  const currencyOf = (clientId: Id) => pricer.client.get(clientId)?.currency ?? workspace.currency;
  const toBill = new Map<Id, Minor>();
  const open = (clientId: Id, amount: Minor, currency: CurrencyCode) =>
    toBill.set(clientId, addExact(toBill.get(clientId) ?? 0, inHome(amount, currency) ?? 0));
  for (const { client, amount } of rows.open) open(client.id, withTax(amount, client.id), client.currency);
  for (const { invoice, total } of rows.drafts) open(invoice.clientId, total, invoice.currency);
  // Of a client with nothing open that is known as well: nothing is.
  for (const client of pricer.book.clients) if (!toBill.has(client.id)) toBill.set(client.id, 0);
  const milestone = new Map(rows.milestones.map((row) => [row.id, row]));
  return {
    today,
    invoices: rows.invoices,
    atHome: (amount, { currency }) => inHome(amount, currency),
    repeats: rows.repeats,
    sumOf(repeat) {
      const client = pricer.client.get(repeat.clientId);
      if (!client) return 0;
      const invoice = { ...newDraft(client, { id: repeat.id, createdAt: 0 }), byHand: repeat.lines };
      const { totals } = computeDraft(pricer, { invoice, entries: [], allocations: [], day: today });
      return inHome(totals.total, client.currency) ?? 0;
    },
    toBill,
    milestones: rows.agreed.flatMap((row) => {
      const at = milestone.get(row.milestoneId ?? '');
      const client = pricer.clientOf(row.projectId);
      if (!at || at.reached || !client || rows.spokenFor.has(row.id)) return [];
      const amount = inHome(withTax(row.amount, client.id), currencyOf(client.id)) ?? 0;
      return [{ clientId: client.id, day: at.day, amount, name: at.name }];
    }),
    termsOf: (clientId) => pricer.client.get(clientId)?.termsDays ?? workspace.termsDays,
  };
}
