import * as z from 'zod';
import { isDue } from '../billing/charges';
import { newAllocation, newDraft } from '../billing/draft';
import { readBook } from '../billing/book';
import { refuseNotApproved } from '../billing/approved-only';
import { checkSays, codeOfEntry } from '../billing/lines';
import { Pricer, projectName } from '../billing/pricer';
import { sourceId, sourceTables } from '../billing/sources';
import { billableOf } from '../billing/billed-lengths';
import { Fault } from '../faults/fault';
import { changeOf, changesIn, type Change } from '../model/change';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import {
  condensings,
  dealSchema,
  invoiceSchema,
  WORKSPACE_ID,
  type Allocation,
  type Entry,
  type Invoice,
  type Project,
} from '../model/records';
import { command, defined, need, needAll, Plan, type CommandContext } from '../engine/command';
import { countOf, remainingOf, sayCount, type Remaining, type Picked } from './remaining';
import type { Reader } from '../engine/store';

const ids = z.array(fields.id).max(100_000).optional();

/** Fields of a command that picks sources. */
export const pickedFields = { entryIds: ids, costLineIds: ids, agreedIds: ids };

const dealFields = {
  text: dealSchema.shape.text,
  amount: dealSchema.shape.amount.optional(),
  price: dealSchema.shape.price.optional(),
};
type DealInput = z.infer<z.ZodObject<typeof dealFields>>;

const isDeal = (deal: DealInput) => (deal.amount ?? null) !== null || (deal.price ?? null) !== null;
const noDeal = { message: 'Say the sum, or the price of an hour.', path: ['amount'] };

const dealOf = ({ text, amount, price }: DealInput, id: Id) => ({
  id,
  text,
  amount: amount ?? null,
  price: price ?? null,
});

/**
 * Puts time, costs and agreed amounts on a draft of their client, a new one where none is named: all that is left to bill of each, or the
 * parts that are said.
 *
 * @throws Fault where one is somebody else's, has nothing left, or is not billed by the hour
 */
export const putOnDraft = command({
  name: 'invoice.draft',
  title: (input: Picked) => `${sayCount(input)} put on an invoice`,
  input: z
    .strictObject({
      /** The draft to add to; a new one where there is none of this id. */
      id: fields.id.optional(),
      clientId: fields.id,
      ...pickedFields,
      /** Less of a source than is left to bill, by its id: seconds of an entry, minor units of another. */
      parts: z.record(fields.id, z.int()).optional(),
      condense: z.enum(condensings).optional(),
      /** A markup of this invoice's own on everything that is picked. */
      markup: fields.markup.optional(),
      /** Markups of its own on single sources, by their ids. */
      markups: z.record(fields.id, fields.markup).optional(),
      /** One price agreed for all hours that are picked. */
      deal: z.strictObject(dealFields).refine(isDeal, noDeal).optional(),
    })
    .refine((input) => countOf(input) > 0, { message: 'Pick at least one entry.', path: ['entryIds'] })
    .refine((input) => input.deal === undefined || (input.entryIds ?? []).length > 0, {
      message: 'Pick the hours that this price is for.',
      path: ['entryIds'],
    }),
  async plan(reader, input, { now, newId }) {
    const client = await need(reader, 'clients', input.clientId, 'client');
    const before = input.id === undefined ? undefined : await reader.get('invoices', input.id);
    if (before?.frozen)
      throw new Fault('issued', `${before.frozen.number} has been issued; start another invoice.`, 'id');
    const invoice = before ?? newDraft(client, { id: input.id ?? newId(), createdAt: now, condense: input.condense });
    const deal = input.deal && dealOf(input.deal, newId());
    const plan = new Plan().put('invoices', deal ? { ...invoice, deals: [...invoice.deals, deal] } : invoice);
    const left = await remainingOf(reader, input);
    await refuseNotDue(reader, input, left);
    const workspace = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
    refuseNotApproved(workspace, client, await needAll(reader, 'entries', input.entryIds ?? [], 'entry'));
    for (const [id, source] of left) {
      const part = input.parts?.[id] ?? source.left;
      if (part === 0 || Math.abs(part) > Math.abs(source.left) || part > 0 !== source.left > 0) {
        throw new Fault('nothing-left', 'No more of this is left to bill.', 'parts', { id, left: source.left });
      }
      const counted = source.table === 'entries' ? { seconds: part } : { part };
      const markup = source.table === 'agreed' ? null : (input.markups?.[id] ?? input.markup ?? null);
      const field = sourceTables[source.table];
      const dealId = source.table === 'entries' && deal ? deal.id : null;
      plan.put(
        'allocations',
        newAllocation({ id: newId(), invoiceId: invoice.id, [field]: id, ...counted, markup, dealId }),
      );
    }
    return plan;
  },
});

/** What cannot go on an invoice now: billed already, by the hour where a price is fixed, covered by an estimate, or not agreed yet. */
async function refuseNotDue(reader: Reader, input: Picked, left: ReadonlyMap<Id, Remaining>): Promise<void> {
  const entries = await reader.many('entries', input.entryIds ?? []);
  const unbilled = await notByTheHour(reader, entries);
  for (const entry of entries) {
    const project = unbilled.get(entry?.projectId ?? '');
    if (!project) continue;
    const why = project.kind === 'internal' ? 'is internal' : 'has a fixed price';
    throw new Fault('not-hourly', `${project.name} ${why}; its hours are not invoiced by the hour.`, 'entryIds', {
      id: entry!.id,
    });
  }
  await refuseCovered(reader, input, entries);
  for (const [id, source] of left) {
    const gone = source.table === 'costLines' ? source.left === 0 : source.left <= 0;
    if (gone) throw new Fault('already-billed', alreadyBilled[source.table], `${sourceTables[source.table]}s`, { id });
  }
  const agreed = (await reader.many('agreed', input.agreedIds ?? [])).filter((row) => row !== undefined);
  if (agreed.length === 0) return;
  const milestones = new Map((await reader.all('milestones')).map((row) => [row.id, row]));
  const early = agreed.find((row) => !isDue(row, milestones));
  if (early)
    throw new Fault('too-early', `“${early.text.slice(0, 60)}” is not to bill yet.`, 'agreedIds', { id: early.id });
}

/** @throws Fault for hours and costs in whose place an estimate is billed */
async function refuseCovered(reader: Reader, input: Picked, entries: readonly (Entry | undefined)[]): Promise<void> {
  const pricer = new Pricer(await readBook(reader));
  const refuse = (id: Id, projectId: Id | null, costCodeId: Id | null, field: string) => {
    const estimate = pricer.estimateOver(projectId, costCodeId);
    if (!estimate) return;
    const heading = pricer.costCode.get(costCodeId ?? '')?.name ?? 'no cost code';
    throw new Fault(
      'already-billed',
      `The estimate for ${projectName(pricer, estimate.projectId)}, ${heading} is billed in place of this.`,
      field,
      { id },
    );
  };
  for (const entry of entries) if (entry) refuse(entry.id, entry.projectId, codeOfEntry(pricer, entry), 'entryIds');
  for (const line of await reader.many('costLines', input.costLineIds ?? []))
    if (line) refuse(line.id, line.projectId, line.costCodeId, 'costLineIds');
}

const alreadyBilled = {
  entries: 'This entry is on an invoice already, or not billable.',
  costLines: 'This cost is on an invoice already.',
  agreed: 'This amount is on an invoice already.',
} as const;

/** Projects of entries whose hours do not go on invoices. */
async function notByTheHour(reader: Reader, entries: readonly (Entry | undefined)[]): Promise<Map<Id, Project>> {
  const projectIds = [...new Set(entries.map((entry) => entry?.projectId).filter((id) => id != null))];
  const projects = (await reader.many('projects', projectIds)).filter((row) => row !== undefined);
  return new Map(
    projects.filter((row) => row.kind === 'internal' || row.kind === 'fixed price').map((row) => [row.id, row]),
  );
}

const shape = invoiceSchema.shape;

/**
 * Changes how a draft is put together and what it says; nothing of the records behind it.
 *
 * @throws Fault where it is issued, a tax is unknown, or a discount is above 100 %
 */
export const editDraft = command({
  name: 'invoice.edit',
  title: 'Draft changed',
  input: z
    .strictObject({
      id: fields.id,
      condense: shape.condense,
      ways: shape.ways,
      says: shape.says,
      texts: shape.texts,
      lineTaxes: shape.lineTaxes,
      discounts: shape.discounts,
      order: shape.order,
      headings: shape.headings,
      byHand: shape.byHand,
      allowance: shape.allowance,
      attention: shape.attention,
      inclusive: shape.inclusive,
      grossedUp: shape.grossedUp,
      retention: shape.retention,
      retentionDue: shape.retentionDue,
      deposits: shape.deposits,
      openBook: shape.openBook,
      withReceipts: shape.withReceipts,
      collects: shape.collects,
      note: shape.note,
      taxId: shape.taxId,
      purchaseOrder: shape.purchaseOrder,
      taxPoint: shape.taxPoint,
    })
    .partial()
    .required({ id: true }),
  async plan(reader, input) {
    const draft = await needDraft(reader, input.id);
    if (input.says !== undefined) checkSays(input.says);
    if (input.collects) await refuseSecondCollector(reader, draft);
    for (const [key, discount] of Object.entries(input.discounts ?? {})) {
      if (Number(discount) > 100) throw new Fault('out-of-range', 'A discount is at most 100 %.', 'discounts', { key });
    }
    for (const taxId of [...Object.values(input.lineTaxes ?? {}), ...(input.byHand ?? []).map((line) => line.taxId)]) {
      if (taxId) await need(reader, 'taxes', taxId, 'tax');
    }
    return new Plan().put('invoices', { ...draft, ...defined(input) });
  },
});

async function refuseSecondCollector(reader: Reader, draft: Invoice): Promise<void> {
  const others = (await reader.by('invoices', 'clientId', [draft.clientId])).filter(
    (each) => each.id !== draft.id && !each.frozen && each.collects,
  );
  if (others.length > 0) throw new Fault('already', 'Another draft of this client takes new time already.', 'collects');
}

/** Takes sources off a draft; they are to bill again. */
export const takeOffDraft = command({
  name: 'invoice.takeOff',
  title: 'Taken off the draft',
  input: z.strictObject({ id: fields.id, sourceIds: z.array(fields.id).min(1, 'Pick at least one.') }),
  async plan(reader, input) {
    await needDraft(reader, input.id);
    const off = new Set(input.sourceIds);
    const plan = new Plan();
    for (const each of await reader.by('allocations', 'invoiceId', [input.id])) {
      if (off.has(sourceId(each))) plan.remove('allocations', each.id);
    }
    return plan;
  },
});

/**
 * Deletes a draft; all that was on it is to bill again.
 *
 * @throws Fault where it is issued
 */
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

/** Sources on a draft, changed one by one. */
async function changeAllocations(
  reader: Reader,
  id: Id,
  sourceIds: readonly Id[],
  change: (row: Allocation) => Allocation,
): Promise<Plan> {
  await needDraft(reader, id);
  const wanted = new Set(sourceIds);
  const plan = new Plan();
  for (const each of await reader.by('allocations', 'invoiceId', [id])) {
    if (wanted.has(sourceId(each))) plan.put('allocations', change(each));
  }
  return plan;
}

/** Marks up sources for one draft alone, before what project and client say. Null takes that back; agreed amounts have no markup. */
export const markUp = command({
  name: 'invoice.markUp',
  title: 'Marked up for this invoice',
  input: z.strictObject({ id: fields.id, sourceIds: z.array(fields.id).min(1), markup: fields.markup.nullable() }),
  plan: (reader, input) =>
    changeAllocations(reader, input.id, input.sourceIds, (row) =>
      row.agreedId === null ? { ...row, markup: input.markup } : row,
    ),
});

/**
 * Bills part of a source: seconds of an entry, minor units of another. The rest stays to bill.
 *
 * @throws Fault for a part of none
 */
export const billPart = command({
  name: 'invoice.part',
  title: 'Part billed',
  input: z.strictObject({ id: fields.id, sourceId: fields.id, part: z.int() }),
  plan: (reader, input) =>
    changeAllocations(reader, input.id, [input.sourceId], (row) => {
      if (input.part === 0) throw new Fault('out-of-range', 'Take it off the draft instead of billing none.', 'part');
      return row.entryId === null ? { ...row, part: input.part } : { ...row, seconds: input.part };
    }),
});

/**
 * Agrees one sum, or one price an hour, for hours on a draft.
 *
 * @throws Fault where none of them is on it
 */
export const dealHours = command({
  name: 'invoice.deal',
  title: 'One price for these hours',
  input: z
    .strictObject({
      id: fields.id,
      entryIds: z.array(fields.id).min(1, 'Pick at least one entry.'),
      ...dealFields,
    })
    .refine(isDeal, noDeal),
  async plan(reader, input, { newId }) {
    const invoice = await needDraft(reader, input.id);
    const deal = dealOf(input, newId());
    const plan = await changeAllocations(reader, input.id, input.entryIds, (row) => ({ ...row, dealId: deal.id }));
    if (plan.rows.size === 0) throw new Fault('unknown', 'None of these entries is on this draft.', 'entryIds');
    return plan.put('invoices', { ...invoice, deals: [...invoice.deals, deal] });
  },
});

/** Ends such an agreement: the hours are at their own rates again. */
export const endDeal = command({
  name: 'invoice.endDeal',
  title: 'Hours at their own rates again',
  input: z.strictObject({ id: fields.id, dealId: fields.id }),
  async plan(reader, input) {
    const invoice = await needDraft(reader, input.id);
    const plan = new Plan().put('invoices', {
      ...invoice,
      deals: invoice.deals.filter((deal) => deal.id !== input.dealId),
    });
    for (const each of await reader.by('allocations', 'invoiceId', [input.id])) {
      if (each.dealId === input.dealId) plan.put('allocations', { ...each, dealId: null });
    }
    return plan;
  },
});

/** @throws Fault when there is no such draft, or when it has been issued */
export async function needDraft(reader: Reader, id: Id): Promise<Invoice> {
  const invoice = await need(reader, 'invoices', id, 'draft');
  if (invoice.frozen)
    throw new Fault('issued', `${invoice.frozen.number} has been issued and stays as it was sent.`, 'id');
  return invoice;
}

/** Time that is new goes onto its client's draft, where one takes it. */
export async function collect(reader: Reader, changes: readonly Change[], context: CommandContext): Promise<Change[]> {
  const entries = changesIn(changes, 'entries').flatMap(({ before, after }) => (after && !before ? [after] : []));
  if (entries.length === 0 || changes.some((change) => change.table === 'allocations')) return [];
  const rows = await collected(reader, entries, context);
  return rows.map((row) => changeOf('allocations', row.id, null, row));
}

/**
 * Allocations for entries that are new: time of a client whose draft takes new time goes onto it as it is recorded.
 *
 * @param entries rows that were not there before
 */
async function collected(reader: Reader, entries: readonly Entry[], { newId }: CommandContext): Promise<Allocation[]> {
  const open = entries.filter((entry) => entry.projectId !== null && billableOf(entry) > 0);
  if (open.length === 0) return [];
  const projects = (await reader.many('projects', [...new Set(open.map((entry) => entry.projectId!))])).filter(
    (row) => row !== undefined && row.clientId !== null && (row.kind === 'hourly' || row.kind === 'cost-plus'),
  ) as Project[];
  if (projects.length === 0) return [];
  const clientIds = [...new Set(projects.map((row) => row.clientId!))];
  const drafts = (await reader.by('invoices', 'clientId', clientIds)).filter((row) => row.collects && !row.frozen);
  if (drafts.length === 0) return [];
  const draftOf = new Map(
    projects.flatMap((project) => {
      const draft = drafts.find((row) => row.clientId === project.clientId);
      return draft ? [[project.id, draft.id] as const] : [];
    }),
  );
  const pricer = new Pricer(await readBook(reader));
  return open.flatMap((entry) => {
    if (!pricer.billsEntry(entry)) return [];
    const invoiceId = draftOf.get(entry.projectId!);
    if (!invoiceId) return [];
    return [newAllocation({ id: newId(), invoiceId, entryId: entry.id, seconds: billableOf(entry) })];
  });
}
