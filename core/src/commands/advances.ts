import * as z from 'zod';
import { advanceStanding, openAdvances } from '../billing/advances';
import { computeDraft, newDraft } from '../billing/draft';
import { Pricer } from '../billing/pricer';
import { readBook, readSources } from '../billing/book';
import { plainPrice } from '../billing/draft-prices';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { HandLine, Invoice } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { lessExact, sumExact } from '../money/rational';
import { dayOf, showDayShort } from '../time/day';
import { command, need, Plan } from '../engine/command';
import { needDraft } from './invoices';

/** Drafts an invoice for money ahead: a deposit of a sum before tax, or a retainer that stands for so many seconds of work. */
export const askAhead = command({
  name: 'advance.ask',
  title: 'Deposit invoice drafted',
  input: z.strictObject({
    id: fields.id.optional(),
    clientId: fields.id,
    text: fields.name.max(1000),
    /** Before tax. */
    amount: fields.minor.min(1, 'A deposit is more than nothing.'),
    taxId: fields.id.nullable(),
    /** How long it stands for; a sum alone where not said. */
    seconds: z.int().min(1).nullable().optional(),
    /** The day on which its tax falls due: that on which it is paid, where that comes first. */
    taxPoint: fields.day.nullable().optional(),
  }),
  async plan(reader, input, { now, newId }) {
    const client = await need(reader, 'clients', input.clientId, 'client');
    const [workspace] = await reader.all('workspace');
    const id = input.id ?? newId();
    const line: HandLine = {
      key: newId(),
      text: input.text,
      quantity: '1',
      unitName: '',
      price: plainPrice(input.amount, client.currency),
      taxId: input.taxId,
      account: workspace?.accounts.deposits ?? '',
      projectId: null,
    };
    return new Plan().put('invoices', {
      ...newDraft(client, { id, createdAt: now }),
      byHand: [line],
      taxId: input.taxId,
      taxPoint: input.taxPoint ?? null,
      advance: { seconds: input.seconds ?? null, until: null, carried: true, lapsed: null },
    });
  },
});

/** Takes off a draft what was invoiced ahead: a line for each tax, as much as there is to take it off. */
export const drawAhead = command({
  name: 'advance.draw',
  title: 'Deducted what was invoiced ahead',
  input: z.strictObject({
    /** The draft. */
    id: fields.id,
    advanceId: fields.id,
    /** Before tax; as much as there is where not said. */
    amount: fields.minor.min(1).optional(),
  }),
  async plan(reader, { id, advanceId, amount }, context) {
    const draft = await needDraft(reader, id);
    const advance = await need(reader, 'invoices', advanceId, 'invoice');
    const book = await readBook(reader);
    const rule = book.workspace.amountRounding;
    const all = await reader.by('invoices', 'clientId', [draft.clientId]);
    const open = openAdvances(all, rule).find((row) => row.invoice.id === advanceId);
    if (!open || advance.currency !== draft.currency)
      throw new Fault('nothing-left', 'Nothing is left of it that could be deducted here.', 'advanceId');
    if (draft.inclusive !== advance.inclusive)
      throw new Fault(
        'lengths-differ',
        `${advance.frozen!.number} has prices ${advance.inclusive ? 'with' : 'without'} tax; make this draft’s the same first.`,
        'advanceId',
      );
    const day = dayOf(context.now, book.workspace.zone);
    const most = await onDraft(reader, new Pricer(book), draft, day);
    let wanted = amount ?? Infinity;
    const lines: HandLine[] = [];
    for (const { taxId, left } of open.parts) {
      const part = Math.min(left, most.get(taxId) ?? 0, wanted);
      if (part <= 0) continue;
      wanted = wanted === Infinity ? wanted : lessExact(wanted, part);
      lines.push({
        key: context.newId(),
        text: `${advance.frozen!.lines[0]!.text}, ${advance.frozen!.number}`.slice(0, 1000),
        quantity: '-1',
        unitName: '',
        price: plainPrice(part, draft.currency),
        taxId,
        account: book.workspace.accounts.deposits,
        projectId: null,
        advanceId,
      });
    }
    if (lines.length === 0)
      throw new Fault(
        'nothing-left',
        `Nothing on this draft is under the tax of ${advance.frozen!.number}, or all of it is deducted already.`,
        'advanceId',
      );
    if (amount !== undefined && wanted > 0)
      throw new Fault(
        'more-than-left',
        `Only ${showAmount(sumExact([amount, -wanted]), draft.currency)} can be deducted here.`,
        'amount',
      );
    return new Plan().put('invoices', { ...draft, byHand: [...draft.byHand, ...lines] });
  },
});

/** What a draft comes to under each tax, before tax. */
async function onDraft(reader: Parameters<typeof readBook>[0], pricer: Pricer, invoice: Invoice, day: string) {
  const allocations = await reader.by('allocations', 'invoiceId', [invoice.id]);
  const draft = computeDraft(pricer, {
    invoice,
    allocations,
    day,
    ...(await readSources(reader, pricer, allocations)),
  });
  const sums = new Map<string | null, Minor>();
  for (const { taxId, amount } of draft.lines) sums.set(taxId, sumExact([sums.get(taxId) ?? 0, amount]));
  return sums;
}

/**
 * Lets go of what is left of a retainer whose time is over, by tax.
 *
 * @throws Fault where its time lasts on, it is carried on by agreement, or nothing is left
 */
export const lapseAhead = command({
  name: 'advance.lapse',
  title: 'What was left of a retainer lapsed',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }, { now }) {
    const invoice = await need(reader, 'invoices', id, 'invoice');
    const [workspace] = await reader.all('workspace');
    const day = dayOf(now, workspace?.zone ?? 'UTC');
    const { advance, frozen } = invoice;
    if (!advance || !frozen || invoice.voided) throw new Fault('unknown', 'This is no retainer.', 'id');
    if (advance.lapsed) throw new Fault('already', `What was left of ${frozen.number} lapsed already.`, 'id');
    if (advance.carried || advance.until === null)
      throw new Fault('declined', `What is left of ${frozen.number} is carried on by agreement.`, 'id');
    if (advance.until >= day)
      throw new Fault('too-early', `Its time lasts until ${showDayShort(advance.until)}.`, 'id');
    const all = await reader.by('invoices', 'clientId', [invoice.clientId]);
    const { parts } = advanceStanding(invoice, all, workspace?.amountRounding ?? 'half away from zero');
    const left = parts.filter((part) => part.left > 0).map(({ taxId, left: amount }) => ({ taxId, amount }));
    if (left.length === 0) throw new Fault('nothing-left', `Nothing is left of ${frozen.number}.`, 'id');
    return new Plan().put('invoices', { ...invoice, advance: { ...advance, lapsed: { day, parts: left } } });
  },
});
