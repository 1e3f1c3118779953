import * as z from 'zod';
import { refuseNotApproved } from '../billing/approved-only';
import { withoutReceipt } from '../billing/before-issuing';
import { aheadOn } from '../billing/advances';
import { readBook, readSources, type InvoiceSources } from '../billing/book';
import { creditNote } from '../billing/credit';
import { computeDraft, type Draft } from '../billing/draft';
import { shareOfSources } from '../billing/draft-prices';
import { freeze, nextSeq } from '../billing/freeze';
import { netShares } from '../billing/paid';
import { Pricer, type PriceBook } from '../billing/pricer';
import { sourceId } from '../billing/sources';
import { heldOn } from '../billing/standing';
import { capsOf, refusePastCap, sharesOf, type Cap } from '../costing/caps';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { invoiceDefaults } from '../model/defaults-billing';
import { paymentSchema, type PaymentKind } from '../model/records';
import { dayOf, showDayShort, type Day } from '../time/day';
import { takenApart } from './money-in';
import { command, defined, need, Plan, type CommandContext } from '../engine/command';
import { needDraft } from './invoices';
import type { Reader } from '../engine/store';

/**
 * Issues a draft: it gets the next number and is frozen with its texts, rates and taxes; each source keeps what was billed of it.
 *
 * @throws Fault where a cap would be passed, a receipt is asked for and missing, or time is not approved and has to be
 */
export const issueInvoice = command({
  name: 'invoice.issue',
  title: 'Invoice issued',
  outward: 'An issued invoice has been seen outside and is not undone. Void it instead, with a reason.',
  inTurn: true,
  input: z.strictObject({ id: fields.id, day: fields.day.optional() }),
  async plan(reader, input, context) {
    const invoice = await needDraft(reader, input.id);
    const book = await readBook(reader);
    const allocations = await reader.by('allocations', 'invoiceId', [invoice.id]);
    const pricer = new Pricer(book);
    const sources = await readSources(reader, pricer, allocations);
    const day = input.day ?? today(book, context);
    const deposits = await reader.by('deposits', 'clientId', [invoice.clientId]);
    const draft = computeDraft(pricer, { invoice, allocations, day, deposits, ...sources });
    await refuseWithoutReceipts(reader, pricer, draft, sources);
    refuseNotApproved(book.workspace, pricer.client.get(invoice.clientId)!, sources.entries);
    const shares = sharesOf(pricer, draft);
    const caps = capsOf(
      pricer,
      await reader.all('budgets'),
      shares.map(({ source }) => source),
    );
    for (const cap of caps) {
      refusePastCap(cap, draft, shares, await invoicedUnder(reader, cap));
    }
    const seq = nextSeq(await reader.all('invoices'), book.workspace.firstNumber);
    const frozen = freeze(pricer, draft, invoice, seq, day);
    const issued = { ...invoice, seq, issuedAt: context.now, frozen };
    const siblings = (await reader.by('invoices', 'clientId', [invoice.clientId])).filter(
      (row) => row.id !== invoice.id,
    );
    const ahead = invoice.advance ? undefined : aheadOn(issued, [...siblings, issued], book.workspace.amountRounding);
    const plan = new Plan().put('invoices', {
      ...issued,
      ...(ahead && ahead.length > 0 && { frozen: { ...frozen, ahead } }),
    });
    const bySource = new Map(allocations.map((each) => [sourceId(each), each]));
    for (const line of draft.lines) {
      const shares = shareOfSources(pricer, line);
      const sources = [
        ...line.sources.map(({ entry, billed }) => ({ id: entry.id, billed })),
        ...line.charges.map(({ id }) => ({ id, billed: null })),
      ];
      sources.forEach(({ id, billed }, index) => {
        plan.put('allocations', { ...bySource.get(id)!, line: line.key, billed, amount: shares[index]! });
      });
    }
    return plan;
  },
});

/** What stands on issued invoices of everything that a cap covers: before tax, and after discounts on the whole. */
async function invoicedUnder(reader: Reader, cap: Cap): Promise<number> {
  const entries = (await reader.by('entries', 'projectId', cap.projectIds)).filter((row) => cap.covers(row));
  const others = [
    ...(await reader.by('costLines', 'projectId', cap.projectIds)),
    ...(await reader.by('agreed', 'projectId', cap.projectIds)),
  ].filter(({ projectId, costCodeId }) => cap.covers({ projectId, taskId: null, serviceId: null, costCodeId }));
  const ids = [...entries, ...others].map((row) => row.id);
  const covered = new Set<Id>();
  const invoiceIds = new Set<Id>();
  for (const field of ['entryId', 'costLineId', 'agreedId'] as const) {
    for (const each of await reader.by('allocations', field, ids)) {
      if (each.amount === null) continue;
      covered.add(each.id);
      invoiceIds.add(each.invoiceId);
    }
  }
  let sum = 0;
  for (const invoice of await reader.many('invoices', [...invoiceIds])) {
    if (!invoice?.frozen) continue;
    const { byAllocation } = netShares(invoice, await reader.by('allocations', 'invoiceId', [invoice.id]));
    for (const [id, net] of byAllocation) if (covered.has(id)) sum += net;
  }
  return sum;
}

/**
 * Voids an issued invoice: it keeps its number, and what was on it is to bill again by allocations of the opposite sign.
 *
 * @throws Fault for a draft, a credit note, or where it is void, paid or credited already
 */
export const voidInvoice = command({
  name: 'invoice.void',
  title: 'Invoice voided',
  outward: 'A void invoice stays void; what was on it is to bill again.',
  inTurn: true,
  input: z.strictObject({ id: fields.id, reason: fields.name, day: fields.day.optional() }),
  async plan(reader, input, context) {
    const invoice = await need(reader, 'invoices', input.id, 'invoice');
    if (!invoice.frozen) throw new Fault('not-issued', 'A draft is discarded, not voided.', 'id');
    if (invoice.voided) throw new Fault('already-void', `${invoice.frozen.number} is void already.`, 'id');
    if (invoice.kind === 'credit note')
      throw new Fault('credit-note', 'A credit note is not voided; invoice the work again.', 'id');
    if ((await reader.by('payments', 'invoiceId', [invoice.id])).length > 0) {
      throw new Fault('paid', `${invoice.frozen.number} has payments. Remove them before voiding it.`, 'id');
    }
    if ((await reader.by('invoices', 'ofId', [invoice.id])).length > 0) {
      throw new Fault('credited', `${invoice.frozen.number} has been credited and is not voided on top of that.`, 'id');
    }
    const book = await readBook(reader);
    const day = input.day ?? today(book, context);
    const plan = new Plan().put('invoices', {
      ...invoice,
      voided: { at: context.now, day, reason: input.reason },
    });
    for (const each of await reader.by('allocations', 'invoiceId', [invoice.id])) {
      plan.put('allocations', {
        ...each,
        id: context.newId(),
        seconds: -each.seconds || 0,
        billed: each.billed === null ? null : -each.billed || 0,
        part: -each.part || 0,
        amount: each.amount === null ? null : -each.amount || 0,
      });
    }
    return plan;
  },
});

/**
 * Issues a credit note over all of an invoice or some of its lines, with a number of its own.
 *
 * @throws Fault where it is not issued or void, or more would be credited of a line than is left
 */
export const creditInvoice = command({
  name: 'invoice.credit',
  title: 'Credit note issued',
  outward: 'An issued credit note has been seen outside and is not undone. Invoice the work again instead.',
  inTurn: true,
  input: z.strictObject({
    id: fields.id,
    reason: fields.name,
    day: fields.day.optional(),
    /** What is taken back of each line, by its key, in minor units before tax; all of every line where not given. */
    lines: z.record(fields.text, fields.minor).optional(),
    /** Whether what stood on the lines is to bill again. */
    free: z.boolean(),
  }),
  async plan(reader, input, context) {
    const invoice = await need(reader, 'invoices', input.id, 'invoice');
    if (!invoice.frozen || invoice.kind === 'credit note')
      throw new Fault('not-issued', 'Only an issued invoice is credited.', 'id');
    if (invoice.voided)
      throw new Fault('already-void', `${invoice.frozen.number} is void; there is nothing to credit.`, 'id');
    const book = await readBook(reader);
    const day = input.day ?? today(book, context);
    const seq = nextSeq(await reader.all('invoices'), book.workspace.firstNumber);
    const notes = await reader.by('invoices', 'ofId', [invoice.id]);
    const allocations = await reader.by('allocations', 'invoiceId', [invoice.id, ...notes.map((note) => note.id)]);
    const credit = creditNote(new Pricer(book), { invoice, notes, allocations, ...input, day, seq });
    const id = context.newId();
    const plan = new Plan().put('invoices', {
      ...invoiceDefaults,
      id,
      clientId: invoice.clientId,
      kind: 'credit note',
      ofId: invoice.id,
      currency: invoice.currency,
      createdAt: context.now,
      condense: invoice.condense,
      taxId: invoice.taxId,
      // Reports count a credited line to the project that it was written for.
      byHand: invoice.byHand,
      seq,
      issuedAt: context.now,
      frozen: credit.frozen,
    });
    for (const each of credit.allocations) {
      plan.put('allocations', { ...each, id: context.newId(), invoiceId: id });
    }
    return plan;
  },
});

/**
 * Says from which day what was held back of an invoice is due, or takes that back.
 *
 * @throws Fault where nothing is held back
 */
export const releaseRetention = command({
  name: 'invoice.release',
  title: 'Retention due',
  input: z.strictObject({ id: fields.id, day: fields.day.nullable() }),
  async plan(reader, input) {
    const invoice = await need(reader, 'invoices', input.id, 'invoice');
    const credits = await reader.by('invoices', 'ofId', [invoice.id]);
    if (invoice.voided || heldOn({ invoice, credits }) === 0)
      throw new Fault('nothing-left', 'Nothing is held back of this invoice.', 'id');
    return new Plan().put('invoices', { ...invoice, releasedOn: input.day });
  },
});

/**
 * Says that a client disputes an invoice, from which day and why; null settles it.
 *
 * @throws Fault where it is not issued, void, or a credit note
 */
export const disputeInvoice = command({
  name: 'invoice.dispute',
  title: ({ note }: { note: string | null }) => (note === null ? 'Dispute settled' : 'In dispute'),
  input: z.strictObject({ id: fields.id, note: z.string().max(500).nullable(), day: fields.day.optional() }),
  async plan(reader, { id, note, day }, context) {
    const invoice = await need(reader, 'invoices', id, 'invoice');
    if (!invoice.frozen || invoice.kind === 'credit note' || invoice.voided)
      throw new Fault('not-issued', 'Only an issued invoice can be in dispute.', 'id');
    const since = day ?? today(await readBook(reader), context);
    return new Plan().put('invoices', { ...invoice, disputed: note === null ? null : { since, note } });
  },
});

const paymentTitles: Record<PaymentKind, string> = {
  payment: 'Payment recorded',
  'write-off': 'Written off',
  refund: 'Refund recorded',
};

/**
 * Records a payment, a refund or what is written off of an issued invoice, in minor units of its currency.
 *
 * @throws Fault in another currency, or where what is written off has no reason
 */
export const addPayment = command({
  name: 'payment.add',
  title: (input: { kind?: PaymentKind | undefined }) => paymentTitles[input.kind ?? 'payment'],
  input: paymentSchema
    .omit({ id: true, currency: true, kind: true, moneyInId: true, arrived: true })
    .extend({ currency: fields.currency.optional(), kind: paymentSchema.shape.kind.optional() }),
  async plan(reader, input, { newId }) {
    const invoice = await need(reader, 'invoices', input.invoiceId, 'invoice');
    if (!invoice.frozen || invoice.voided || invoice.kind === 'credit note') {
      throw new Fault('not-issued', 'Only an issued invoice can be paid.', 'invoiceId');
    }
    const currency = input.currency ?? invoice.currency;
    if (currency !== invoice.currency) {
      throw new Fault(
        'other-currency',
        `${invoice.frozen.number} is in ${invoice.currency}; record what arrived in ${invoice.currency}.`,
        'currency',
      );
    }
    const kind = input.kind ?? 'payment';
    if (kind === 'write-off' && !input.note.trim()) throw new Fault('empty', 'Say why it is written off.', 'note');
    return new Plan().put('payments', { ...defined(input), kind, currency, id: newId() });
  },
});

/** Removes a payment. One that came of a sum in a statement sets that whole sum waiting again. */
export const removePayment = command({
  name: 'payment.remove',
  title: 'Payment removed',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, input) {
    const payment = await need(reader, 'payments', input.id, 'payment');
    // A sum that came in is said of as a whole: without one of its payments it waits again.
    return payment.moneyInId === undefined
      ? new Plan().remove('payments', payment.id)
      : takenApart(reader, payment.moneyInId);
  },
});

const today = (book: PriceBook, { now }: CommandContext): Day => dayOf(now, book.workspace.zone);

/** @throws Fault where the studio asks for receipts before a cost is invoiced, and one has neither a receipt nor a reason */
async function refuseWithoutReceipts(
  reader: Reader,
  pricer: Pricer,
  draft: Draft,
  { rows }: Pick<InvoiceSources, 'rows'>,
): Promise<void> {
  const { workspace } = pricer.book;
  if (workspace.receiptPolicy !== 'require') return;
  const ids = rows.costs.map((cost) => cost.id);
  const costLines = await reader.by('costLines', 'costId', ids);
  const [cost, ...others] = withoutReceipt(pricer, { draft, rows: { costs: rows.costs, costLines } });
  if (!cost) return;
  const more = others.length > 0 ? `, and ${others.length} more` : '';
  throw new Fault(
    'no-receipt',
    `${cost.supplier || 'A cost'} of ${showDayShort(cost.day)} has no receipt${more}. Add it, or say on its page why there is none.`,
    'lines',
    { costs: [cost, ...others].map((each) => each.id) },
  );
}
