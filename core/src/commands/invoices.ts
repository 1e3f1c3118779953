import * as z from 'zod';
import { readBook } from '../billing/book';
import { computeDraft, freeze, newDraft, nextSeq, shareOfSources, type Draft } from '../billing/draft';
import { Pricer, type PriceBook } from '../billing/pricer';
import { allocatedSeconds, billableOf } from '../billing/to-bill';
import { capsOf, refusePastCap } from '../costs/caps';
import { Fault } from '../model/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { condensings, invoiceSchema, paymentSchema, type Entry, type Invoice, type Project } from '../model/records';
import { dayOf, type Day } from '../time/day';
import { command, defined, need, Plan, type Circumstances } from './command';
import type { Reader } from './store';

const entryIds = z.array(fields.id).min(1, 'Pick at least one entry.');

export const putOnDraft = command({
  name: 'invoice.draft',
  title: (input: { entryIds: Id[] }) =>
    `${input.entryIds.length} ${input.entryIds.length === 1 ? 'entry' : 'entries'} put on an invoice`,
  input: z.strictObject({
    /** The draft to add to; a new one where there is none of this id. */
    id: fields.id.optional(),
    clientId: fields.id,
    entryIds,
    condense: z.enum(condensings).optional(),
  }),
  async plan(reader, input, { now, newId }) {
    const client = await need(reader, 'clients', input.clientId, 'client');
    const before = input.id === undefined ? undefined : await reader.get('invoices', input.id);
    if (before?.frozen) throw new Fault(`${before.frozen.number} has been issued; start another invoice.`, 'id');
    const invoice = before ?? newDraft(client, { id: input.id ?? newId(), createdAt: now, condense: input.condense });
    const plan = new Plan().put('invoices', invoice);
    const taken = allocatedSeconds(await reader.by('allocations', 'entryId', input.entryIds));
    const entries = await reader.many('entries', input.entryIds);
    const unbilled = await notByTheHour(reader, entries);
    entries.forEach((entry, index) => {
      const entryId = input.entryIds[index]!;
      if (!entry) throw new Fault('This entry is not there any more.', 'entryIds', { id: entryId });
      const project = unbilled.get(entry.projectId ?? '');
      if (project) {
        const why = project.kind === 'internal' ? 'is internal' : 'has a fixed price';
        throw new Fault(`${project.name} ${why}; its hours are not invoiced by the hour.`, 'entryIds', { id: entryId });
      }
      const seconds = billableOf(entry) - (taken.get(entryId) ?? 0);
      if (seconds <= 0)
        throw new Fault('This entry is on an invoice already, or not billable.', 'entryIds', { id: entryId });
      plan.put('allocations', { id: newId(), invoiceId: invoice.id, entryId, line: '', seconds, amount: null });
    });
    return plan;
  },
});

export const editDraft = command({
  name: 'invoice.edit',
  title: 'Draft changed',
  input: z
    .strictObject({
      id: fields.id,
      condense: z.enum(condensings),
      texts: z.record(fields.text, fields.text),
      note: fields.text,
      taxId: fields.id.nullable(),
      purchaseOrder: invoiceSchema.shape.purchaseOrder,
    })
    .partial()
    .required({ id: true }),
  async plan(reader, input) {
    const draft = await needDraft(reader, input.id);
    return new Plan().put('invoices', { ...draft, ...defined(input) });
  },
});

export const takeOffDraft = command({
  name: 'invoice.takeOff',
  title: 'Taken off the draft',
  input: z.strictObject({ id: fields.id, entryIds }),
  async plan(reader, input) {
    await needDraft(reader, input.id);
    const off = new Set(input.entryIds);
    const plan = new Plan();
    for (const each of await reader.by('allocations', 'invoiceId', [input.id])) {
      if (off.has(each.entryId)) plan.remove('allocations', each.id);
    }
    return plan;
  },
});

export const discardDraft = command({
  name: 'invoice.discard',
  title: 'Draft discarded',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, input) {
    await needDraft(reader, input.id);
    const plan = new Plan();
    for (const each of await reader.by('allocations', 'invoiceId', [input.id])) plan.remove('allocations', each.id);
    return plan.remove('invoices', input.id);
  },
});

export const issueInvoice = command({
  name: 'invoice.issue',
  title: 'Invoice issued',
  outward: 'An issued invoice has been seen outside and is not undone. Void it instead, with a reason.',
  input: z.strictObject({ id: fields.id, day: fields.day.optional() }),
  async plan(reader, input, circumstances) {
    const invoice = await needDraft(reader, input.id);
    const book = await readBook(reader);
    const allocations = await reader.by('allocations', 'invoiceId', [invoice.id]);
    const entries = (await reader.many(
      'entries',
      allocations.map((each) => each.entryId),
    )) as Entry[];
    const pricer = new Pricer(book);
    const day = input.day ?? today(book, circumstances);
    const draft = computeDraft(pricer, { invoice, entries, allocations, day });
    await refuseCaps(reader, pricer, draft, entries);
    const seq = nextSeq(await reader.all('invoices'), book.workspace.firstNumber);
    const frozen = freeze(pricer, draft, invoice, seq, day);
    const plan = new Plan().put('invoices', { ...invoice, seq, issuedAt: circumstances.now, frozen });
    const byEntry = new Map(allocations.map((each) => [each.entryId, each]));
    for (const line of draft.lines) {
      const shares = shareOfSources(line);
      line.sources.forEach((source, index) => {
        plan.put('allocations', { ...byEntry.get(source.entry.id)!, line: line.key, amount: shares[index]! });
      });
    }
    return plan;
  },
});

export const voidInvoice = command({
  name: 'invoice.void',
  title: 'Invoice voided',
  outward: 'A void invoice stays void; its entries are to bill again.',
  input: z.strictObject({ id: fields.id, reason: fields.name, day: fields.day.optional() }),
  async plan(reader, input, circumstances) {
    const invoice = await need(reader, 'invoices', input.id, 'invoice');
    if (!invoice.frozen) throw new Fault('A draft is discarded, not voided.', 'id');
    if (invoice.voided) throw new Fault(`${invoice.frozen.number} is void already.`, 'id');
    if ((await reader.by('payments', 'invoiceId', [invoice.id])).length > 0) {
      throw new Fault(`${invoice.frozen.number} has payments. Remove them before voiding it.`, 'id');
    }
    const book = await readBook(reader);
    const day = input.day ?? today(book, circumstances);
    const plan = new Plan().put('invoices', {
      ...invoice,
      voided: { at: circumstances.now, day, reason: input.reason },
    });
    for (const each of await reader.by('allocations', 'invoiceId', [invoice.id])) {
      plan.put('allocations', {
        ...each,
        id: circumstances.newId(),
        seconds: -each.seconds,
        amount: each.amount === null ? null : -each.amount || 0,
      });
    }
    return plan;
  },
});

export const addPayment = command({
  name: 'payment.add',
  title: 'Payment recorded',
  input: paymentSchema.omit({ id: true, currency: true }).extend({ currency: fields.currency.optional() }),
  async plan(reader, input, { newId }) {
    const invoice = await need(reader, 'invoices', input.invoiceId, 'invoice');
    if (!invoice.frozen || invoice.voided) throw new Fault('Only an issued invoice can be paid.', 'invoiceId');
    const currency = input.currency ?? invoice.currency;
    if (currency !== invoice.currency) {
      throw new Fault(
        `${invoice.frozen.number} is in ${invoice.currency}; record what arrived in ${invoice.currency}.`,
        'currency',
      );
    }
    return new Plan().put('payments', { ...input, currency, id: newId() });
  },
});

export const removePayment = command({
  name: 'payment.remove',
  title: 'Payment removed',
  input: z.strictObject({ id: fields.id }),
  plan: async (reader, input) =>
    new Plan().remove('payments', (await need(reader, 'payments', input.id, 'payment')).id),
});

/** @throws Fault where the draft would take what is invoiced past a cap of a contract or budget */
async function refuseCaps(reader: Reader, pricer: Pricer, draft: Draft, entries: readonly Entry[]): Promise<void> {
  for (const cap of capsOf(pricer, await reader.all('budgets'), entries)) {
    const covered = await reader.by('entries', 'projectId', cap.projectIds);
    const ids = covered.map((entry) => entry.id);
    refusePastCap(cap, draft, { entries: covered, allocations: await reader.by('allocations', 'entryId', ids) });
  }
}

/** Projects of entries whose hours do not go on invoices. */
async function notByTheHour(reader: Reader, entries: readonly (Entry | undefined)[]): Promise<Map<Id, Project>> {
  const ids = [...new Set(entries.map((entry) => entry?.projectId).filter((id) => id != null))];
  const projects = (await reader.many('projects', ids)).filter((row) => row !== undefined);
  return new Map(
    projects.filter((row) => row.kind === 'internal' || row.kind === 'fixed price').map((row) => [row.id, row]),
  );
}

async function needDraft(reader: Reader, id: Id): Promise<Invoice> {
  const invoice = await need(reader, 'invoices', id, 'draft');
  if (invoice.frozen) throw new Fault(`${invoice.frozen.number} has been issued and stays as it was sent.`, 'id');
  return invoice;
}

const today = (book: PriceBook, { now }: Circumstances): Day => dayOf(now, book.workspace.zone);
