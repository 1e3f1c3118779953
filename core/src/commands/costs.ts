import * as z from 'zod';
import { Charges } from '../billing/charges';
import { readBook } from '../billing/book';
import { Pricer } from '../billing/pricer';
import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import { Fault } from '../faults/fault';
import { rowsAfter } from '../model/change';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import * as R from '../model/records';
import type { Cost, CostLine } from '../model/records';
import { command, defined, need, Plan, needAll } from '../engine/command';
import { plainCommands } from '../engine/crud';
import { overlay } from '../engine/overlay';
import type { Reader } from '../engine/store';
import { planTakenBack, readDues } from './payouts';

const optionalIn = <D extends object>(defaults: D) =>
  Object.fromEntries(Object.keys(defaults).map((field) => [field, true])) as { [K in keyof D]: true };

const { costId: _of, id: lineId, ...lineFields } = R.costLineSchema.shape;
const lineOf = z.strictObject({ id: lineId, ...lineFields }).partial({ id: true, ...optionalIn(costLineDefaults) });
const linesOf = z.array(lineOf).min(1, 'A cost has at least one line.').max(500, 'A cost has at most 500 lines.');

const { id: costId, ...costFields } = R.costSchema.shape;

const receiptOf = R.receiptSchema.omit({ id: true, addedAt: true }).extend({ id: fields.id.optional() });

/**
 * Adds a cost with its lines: an expense, a supplier's bill or a line of the bookkeeping. Amounts are minor units of the cost's own
 * currency.
 */
export const addCost = command({
  name: 'cost.add',
  title: (input: { kind: R.CostKind }) => `${sayKind[input.kind]} added`,
  input: z.strictObject({ id: costId.optional(), ...costFields, lines: linesOf }).partial(optionalIn(costDefaults)),
  async plan(_reader, { lines, ...input }, { newId }) {
    const cost = { ...costDefaults, ...defined(input), id: input.id ?? newId() } as Cost;
    const plan = new Plan().put('costs', cost);
    lines.forEach((line, order) => plan.put('costLines', madeLine(line, cost.id, order, newId)));
    return plan;
  },
});

/** Bills of a supplier that came as one electronic invoice, all of them or none. */
export const takeBills = command({
  name: 'bill.take',
  title: ({ bills }: { bills: readonly unknown[] }) =>
    bills.length === 1 ? 'Supplier bill added' : `${bills.length} supplier bills added`,
  input: z.strictObject({ bills: z.array(addCost.input).min(1).max(50) }),
  async plan(reader, { bills }, context) {
    const plan = new Plan();
    for (const bill of bills) {
      const own = await addCost.plan(reader, { ...bill, kind: 'bill' }, context);
      for (const [key, change] of own.rows) plan.rows.set(key, change);
    }
    return plan;
  },
});

const sayKind: Record<R.CostKind, string> = { expense: 'Expense', bill: 'Supplier bill', ledger: 'Ledger line' };

function madeLine(line: z.output<typeof lineOf>, costId: Id, order: number, newId: () => Id): CostLine {
  return { ...costLineDefaults, order, ...defined(line), costId, id: line.id ?? newId() } as CostLine;
}

/**
 * Changes a cost; lines that are named by their ids stay, others are new, and those that are left out go. What stands on a draft follows.
 *
 * @throws Fault where a line that goes is on an issued invoice
 */
export const editCost = command({
  name: 'cost.edit',
  title: 'Cost changed',
  input: z
    .strictObject({ ...costFields, lines: linesOf })
    .partial()
    .extend({ id: costId }),
  async plan(reader, { lines, ...input }, { newId }) {
    const before = await need(reader, 'costs', input.id, 'cost');
    const plan = new Plan().put('costs', { ...before, ...defined(input) });
    if (lines) {
      const old = new Map((await reader.by('costLines', 'costId', [input.id])).map((row) => [row.id, row]));
      lines.forEach((line, order) => {
        const was = line.id === undefined ? undefined : old.get(line.id);
        plan.put(
          'costLines',
          was
            ? { ...was, order, ...defined(line), costId: was.costId, id: was.id }
            : madeLine(line, input.id, order, newId),
        );
        if (was) old.delete(was.id);
      });
      for (const id of old.keys()) await removeLine(reader, plan, id);
    }
    await followDrafts(reader, plan);
    return plan;
  },
});

/** A line that is on an issued invoice stays; one on a draft leaves it. */
async function removeLine(reader: Reader, plan: Plan, id: Id): Promise<void> {
  for (const each of await reader.by('allocations', 'costLineId', [id])) {
    if (each.amount !== null) throw new Fault('issued', await onInvoice(reader, each.invoiceId), 'lines', { id });
    plan.remove('allocations', each.id);
  }
  for (const each of await reader.by('adjustments', 'costLineId', [id])) plan.remove('adjustments', each.id);
  plan.remove('costLines', id);
}

async function onInvoice(reader: Reader, invoiceId: Id): Promise<string> {
  const invoice = await reader.get('invoices', invoiceId);
  return `This cost is on ${invoice?.frozen?.number ?? 'an issued invoice'} and stays. What was billed too much is credited.`;
}

/** What stands of a cost on a draft follows what the cost comes to now. */
async function followDrafts(reader: Reader, plan: Plan): Promise<void> {
  const changed = plan.changes();
  const after = overlay(reader, changed);
  const costIds = rowsAfter(changed, 'costs').map(({ id }) => id);
  const ofLines = rowsAfter(changed, 'costLines').map(({ costId }) => costId);
  const costs = (await after.many('costs', [...new Set([...costIds, ...ofLines])])).filter((row) => row !== undefined);
  const costLines = await after.by(
    'costLines',
    'costId',
    costs.map((row) => row.id),
  );
  const lineIds = costLines.map((row) => row.id);
  const allocations = await after.by('allocations', 'costLineId', lineIds);
  if (!allocations.some((each) => each.amount === null)) return;
  const adjustments = await after.by('adjustments', 'costLineId', lineIds);
  const charges = new Charges(new Pricer(await readBook(after)), { costs, costLines, agreed: [], milestones: [] });
  for (const line of costLines) {
    const draft = allocations.find((each) => each.costLineId === line.id && each.amount === null);
    if (!draft) continue;
    const spoken = [...allocations, ...adjustments].filter(
      (each) => each.costLineId === line.id && each.id !== draft.id,
    );
    const left = (charges.billableOfLine(line) ?? 0) - spoken.reduce((sum, each) => sum + each.part, 0);
    if (left === 0) plan.remove('allocations', draft.id);
    else plan.put('allocations', { ...draft, part: left });
  }
}

/**
 * Deletes costs with their lines, off drafts as well.
 *
 * @throws Fault where a line is on an issued invoice
 */
export const removeCosts = command({
  name: 'cost.remove',
  title: ({ ids }: { ids: Id[] }) => (ids.length === 1 ? 'Cost deleted' : `${ids.length} costs deleted`),
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one cost.') }),
  async plan(reader, input) {
    const plan = new Plan();
    for (const line of await reader.by('costLines', 'costId', input.ids)) await removeLine(reader, plan, line.id);
    for (const { id } of await needAll(reader, 'costs', input.ids, 'cost')) plan.remove('costs', id);
    return plan;
  },
});

/**
 * Says of lines for which project and cost code they were spent, and whether the client pays.
 *
 * @throws Fault where a line is gone
 */
export const placeLines = command({
  name: 'cost.place',
  title: ({ lineIds }: { lineIds: Id[] }) => `${lineIds.length} ${lineIds.length === 1 ? 'line' : 'lines'} placed`,
  input: z
    .strictObject({
      lineIds: z.array(fields.id).min(1, 'Pick at least one line.'),
      projectId: fields.id.nullable(),
      costCodeId: fields.id.nullable(),
      forClient: z.boolean(),
      unlisted: z.string().max(200),
    })
    .partial()
    .required({ lineIds: true }),
  async plan(reader, { lineIds, ...input }) {
    const plan = new Plan();
    const rows = await reader.many('costLines', lineIds);
    for (const [index, row] of rows.entries()) {
      if (!row) throw new Fault('gone', 'This line is not there any more.', 'lineIds', { id: lineIds[index] });
      const placed = input.projectId ? { unlisted: '' } : {};
      plan.put('costLines', { ...row, ...placed, ...defined(input) });
    }
    await followDrafts(reader, plan);
    return plan;
  },
});

/**
 * Says on which day expenses were paid back to who spent them: as payments of what is still owed. Without a day those payments are taken
 * back.
 *
 * @throws Fault where an expense is owed to nobody
 */
export const payBack = command({
  name: 'cost.payBack',
  title: 'Paid back',
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one expense.'), day: fields.day.nullable() }),
  async plan(reader, { ids, day }, { newId }) {
    const plan = new Plan();
    const costs = await needAll(reader, 'costs', ids, 'expense');
    const dues = await readDues(reader, ids);
    const payouts = await reader.by('payouts', 'costId', ids);
    if (day === null) await planTakenBack(reader, plan, payouts, newId);
    for (const cost of costs) {
      const { id, currency } = cost;
      if (!cost.owedBack) throw new Fault('not-owed', 'This is not owed to anybody.', 'ids', { id });
      const due = dues.get(id);
      const own = payouts.filter((each) => each.costId === id);
      if (day === null) {
        if (cost.paidBackOn !== null) plan.put('costs', { ...cost, paidBackOn: null });
      } else if (due) {
        for (const each of own.filter((row) => row.standing === 'asked'))
          plan.put('payouts', { ...each, standing: 'paid', day });
        if (due.left !== 0)
          plan.put('payouts', { id: newId(), costId: id, standing: 'paid', day, amount: due.left, currency, note: '' });
      }
    }
    return plan;
  },
});

/** Adds receipts by the SHA-256 of their bytes, and ties them to costs. The same bytes stay one receipt. */
export const addReceipts = command({
  name: 'receipt.add',
  title: ({ receipts }: { receipts: unknown[] }) =>
    receipts.length === 1 ? 'Receipt added' : `${receipts.length} receipts added`,
  input: z.strictObject({
    receipts: z.array(receiptOf).min(1).max(500),
    /** Costs that they serve. */
    costIds: z.array(fields.id).optional(),
  }),
  async plan(reader, input, { now, newId }) {
    const plan = new Plan();
    const ids: Id[] = [];
    for (const receipt of input.receipts) {
      // The same bytes are one receipt, however often they are dropped.
      const [same] = await reader.by('receipts', 'sha256', [receipt.sha256]);
      const id = same?.id ?? receipt.id ?? newId();
      if (!same) plan.put('receipts', { ...receipt, id, addedAt: now });
      ids.push(id);
    }
    for (const costId of input.costIds ?? []) {
      const cost = await need(reader, 'costs', costId, 'cost');
      plan.put('costs', { ...cost, receiptIds: [...new Set([...cost.receiptIds, ...ids])] });
    }
    return plan;
  },
});

/** Deletes a receipt. Invariants refuse it while a cost still has it. */
export const removeReceipt = command({
  name: 'receipt.remove',
  title: 'Receipt deleted',
  input: z.strictObject({ id: fields.id }),
  plan: async (reader, input) =>
    new Plan().remove('receipts', (await need(reader, 'receipts', input.id, 'receipt')).id),
});

/** What a unit of a cost is charged at: a kilometre, a print. Amounts are entered as so many of them. */
export const unitRates = plainCommands('unitRates', 'unitRate', 'Unit rate', R.unitRateSchema, { costCodeId: null });
/** Rules by which lines of the bookkeeping find their project and cost code, tried in their order. */
export const matchRules = plainCommands('matchRules', 'matchRule', 'Matching rule', R.matchRuleSchema, {
  order: 0,
  projectId: null,
  costCodeId: null,
  forClient: true,
});
/** Orders to suppliers, which bills are held against. */
export const orders = plainCommands('orders', 'order', 'Order', R.orderSchema, {
  costCodeId: null,
  number: '',
  text: '',
  closed: false,
});
