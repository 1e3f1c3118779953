import * as z from 'zod';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import { payeeSchema, payoutSchema, type Cost, type CostLine, type Deposit, type Payout } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { addExact, lessExact, sumExact } from '../money/rational';
import { duesOf, type Due } from '../paying-out';
import { command, defined, need, needAll, Plan } from '../engine/command';
import { plainCommands } from '../engine/crud';
import type { Reader } from '../engine/store';

/** Accounts of suppliers and members that money goes out to. */
export const payees = plainCommands('payees', 'payee', 'Payee', payeeSchema, { memberId: null, holder: '', bic: '' });

/** What is owed on some costs; those that are paid in full, or are owed to nobody, are not among it. */
export async function readDues(reader: Reader, costIds: readonly Id[]): Promise<Map<Id, Due>> {
  const costs = await needAll(reader, 'costs', costIds, 'cost');
  const due = costs.flatMap((cost) => cost.dueMilestoneId ?? []);
  const rows = {
    costs,
    costLines: await reader.by('costLines', 'costId', costIds),
    payouts: await reader.by('payouts', 'costId', costIds),
    payees: await reader.all('payees'),
    milestones: (await reader.many('milestones', due)).filter((row) => row !== undefined),
    taxes: await reader.all('taxes'),
    members: await reader.all('members'),
    rounding: (await reader.all('workspace'))[0]?.amountRounding ?? 'half away from zero',
  };
  return new Map(duesOf(rows).map((each) => [each.cost.id, each]));
}

const saidOf = (count: number) => (count === 1 ? 'Payment' : `${count} payments`);

/** What is paid of a cost: its id, and how much in minor units of its currency. */
const partOfCost = z.strictObject({ costId: fields.id, amount: payoutSchema.shape.amount });

/** Records what was paid of costs, in minor units of their currency. */
export const addPayouts = command({
  name: 'payout.add',
  title: ({ payouts }: { payouts: unknown[] }) => `${saidOf(payouts.length)} recorded`,
  input: z.strictObject({
    payouts: z
      .array(
        partOfCost.extend({
          day: fields.day,
          note: payoutSchema.shape.note.optional(),
          left: payoutSchema.shape.left,
        }),
      )
      .min(1, 'Pick at least one to pay.')
      .max(1_000),
  }),
  async plan(reader, { payouts }, { newId }) {
    const ids = payouts.map((each) => each.costId);
    const costs = new Map((await needAll(reader, 'costs', ids, 'cost')).map((cost) => [cost.id, cost]));
    const plan = new Plan();
    for (const each of payouts) {
      const { currency } = costs.get(each.costId)!;
      plan.put('payouts', { note: '', ...defined(each), id: newId(), standing: 'paid', currency } as Payout);
    }
    return plan;
  },
});

/**
 * Keeps what a payment file asks of the bank; it counts as paid once it went out.
 *
 * @throws Fault where nothing is left to pay, an account is missing, or there are several currencies
 */
export const askBank = command({
  name: 'payout.ask',
  title: ({ payouts }: { payouts: unknown[] }) => `${saidOf(payouts.length)} asked of the bank`,
  input: z.strictObject({
    /** The file's own id, where it is known before. */
    fileId: fields.id.optional(),
    /** The day on which the bank is to pay. */
    day: fields.day,
    payouts: z.array(partOfCost).min(1, 'Pick at least one to pay.').max(1_000),
  }),
  async plan(reader, { fileId, day, payouts }, { now, newId }) {
    const dues = await readDues(
      reader,
      payouts.map((each) => each.costId),
    );
    const file = { id: fileId ?? newId(), madeAt: now };
    const plan = new Plan();
    const currencies = new Set<CurrencyCode>();
    for (const { costId, amount } of payouts) {
      const due = dues.get(costId);
      if (!due || due.left <= 0)
        throw new Fault('nothing-left', 'Nothing is left to pay of this.', 'payouts', { costId });
      if (!due.payee)
        throw new Fault('not-set-up', `No account of ${due.name} is known. Write it down first.`, 'payouts', {
          costId,
        });
      const { currency } = due.cost;
      currencies.add(currency);
      plan.put('payouts', { id: newId(), costId, standing: 'asked', day, amount, currency, note: '', file });
    }
    if (currencies.size > 1) throw new Fault('mixed', 'A payment file is for one currency.', 'payouts');
    const [currency] = currencies;
    const [workspace] = await reader.all('workspace');
    if (!workspace?.bankAccounts.some((account) => account.currency === currency))
      throw new Fault('not-set-up', `The studio has no account in ${currency} to pay from.`, 'payouts');
    return plan;
  },
});

/**
 * Says that payments asked of the bank went out, and on which day.
 *
 * @throws Fault where one was paid already
 */
export const settlePayouts = command({
  name: 'payout.settle',
  title: ({ ids }: { ids: Id[] }) => `${saidOf(ids.length)} went out`,
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one.').max(1_000), day: fields.day }),
  async plan(reader, { ids, day }) {
    const plan = new Plan();
    for (const payout of await needAll(reader, 'payouts', ids, 'payment')) {
      if (payout.standing === 'paid') throw new Fault('already', 'This was paid already.', 'ids', { id: payout.id });
      plan.put('payouts', { ...payout, standing: 'paid', day });
    }
    return plan;
  },
});

/** Takes payments back. A statement's line that paid waits to be placed again. */
export const removePayouts = command({
  name: 'payout.remove',
  title: ({ ids }: { ids: Id[] }) => `${saidOf(ids.length)} taken back`,
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one.').max(1_000) }),
  async plan(reader, { ids }, { newId }) {
    const plan = new Plan();
    await planTakenBack(reader, plan, await needAll(reader, 'payouts', ids, 'payment'), newId);
    return plan;
  },
});

/** Puts into a plan that payments are taken back. A statement's line is said of as a whole: without one of its payments it waits to be placed. */
export async function planTakenBack(
  reader: Reader,
  plan: Plan,
  payouts: readonly Payout[],
  newId: () => Id,
): Promise<void> {
  for (const row of payouts) plan.remove('payouts', row.id);
  const sources = [...new Set(payouts.flatMap((row) => row.source ?? []))];
  if (sources.length === 0) return;
  const told = await reader.by('payouts', 'source', sources);
  const refunds = await reader.by('payments', 'source', sources);
  const wanted = new Set<string | undefined>(sources);
  const back = refunds.map(({ source, amount }) => ({ source, amount }));
  for (const row of told) plan.remove('payouts', row.id);
  for (const row of refunds) plan.remove('payments', row.id);
  for (const deposit of await reader.all('deposits')) {
    const gone = (deposit.paidBack ?? []).filter((each) => wanted.has(each.source));
    if (gone.length === 0) continue;
    back.push(...gone.map(({ source, amount }) => ({ source, amount })));
    plan.put('deposits', { ...deposit, paidBack: deposit.paidBack!.filter((each) => !gone.includes(each)) });
  }
  for (const source of sources) {
    const own = told.filter((row) => row.source === source);
    const first = own[0]!;
    const cost = await need(reader, 'costs', first.costId, 'cost');
    const refunded = back.filter((row) => row.source === source).map((row) => row.amount);
    const amount = sumExact([...own.map((row) => row.left?.amount ?? row.amount), ...refunded]);
    const currency = first.left?.currency ?? first.currency;
    const made = { ...costDefaults, kind: 'ledger', day: first.day, supplier: cost.supplier, source, currency };
    const id = newId();
    plan.put('costs', { ...made, id } as Cost);
    plan.put('costLines', { ...costLineDefaults, id: newId(), costId: id, text: first.note, amount } as CostLine);
  }
}

/** What of a line of a statement pays what: a bill or a member, or money that goes back to a client. */
export const outPartSchema = z.strictObject({
  kind: z.enum(['cost', 'invoice', 'deposit']),
  /** The cost, the invoice that was overpaid, or the money that was paid ahead. */
  id: fields.id,
  /** In minor units of its own currency. */
  amount: fields.minor.min(1, 'A payment is more than nothing.'),
  /** What left the account for it, where that is in another currency. */
  left: fields.minor.min(1).nullable(),
});
export type OutPart = z.infer<typeof outPartSchema>;

/** A line of a statement as far as paying goes. */
interface OutLine {
  source: string;
  day: string;
  supplier: string;
  text: string;
  amount: Minor;
  currency: CurrencyCode;
}

/**
 * Puts into a plan what a line of a statement paid. What the bank was asked for and now tells of is paid; the rest is recorded.
 *
 * @throws Fault where the parts are not all of the line, or are of something that is not there
 */
export async function planPaid(
  reader: Reader,
  plan: Plan,
  line: OutLine,
  parts: readonly OutPart[],
  newId: () => Id,
): Promise<void> {
  const { source, day, currency } = line;
  const said = sumExact(parts.map((part) => part.left ?? part.amount));
  if (said !== line.amount) {
    throw new Fault(
      'not-the-sum',
      `What ${line.supplier || 'this line'} paid for comes to ${showAmount(said, currency)}; ${showAmount(line.amount, currency)} left the account.`,
      'lines',
      { rest: lessExact(line.amount, said) },
    );
  }
  const note = [line.supplier, line.text].filter(Boolean).join(': ').slice(0, 300);
  for (const { kind, id, amount, left } of parts) {
    if (kind === 'cost') {
      const cost = await need(reader, 'costs', id, 'cost');
      refuseOtherCurrency(cost.currency, currency, left, cost.supplier);
      const other = cost.currency === currency ? {} : { left: { amount: left!, currency } };
      const asked = (await reader.by('payouts', 'costId', [id])).find(
        (row) => row.standing === 'asked' && row.amount === amount && plan.rows.get(`payouts ${row.id}`) === undefined,
      );
      const payout: Payout = asked ?? {
        id: newId(),
        costId: id,
        standing: 'paid',
        day,
        amount,
        currency: cost.currency,
        note,
      };
      plan.put('payouts', { ...payout, ...other, standing: 'paid', day, note, source });
    } else if (kind === 'invoice') {
      const invoice = await need(reader, 'invoices', id, 'invoice');
      refuseOtherCurrency(invoice.currency, currency, null, invoice.frozen?.number ?? 'This invoice');
      plan.put('payments', { id: newId(), invoiceId: id, kind: 'refund', day, amount, currency, note, source });
    } else {
      const changed = plan.rows.get(`deposits ${id}`)?.after as Deposit | undefined;
      const deposit = changed ?? (await need(reader, 'deposits', id, 'deposit'));
      refuseOtherCurrency(deposit.currency, currency, null, 'What was paid ahead');
      const paidBack = [...(deposit.paidBack ?? []), { id: newId(), day, amount, note, source }];
      plan.put('deposits', { ...deposit, paidBack });
    }
  }
}

function refuseOtherCurrency(own: CurrencyCode, line: CurrencyCode, left: Minor | null, what: string): void {
  if (own !== line && left === null)
    throw new Fault('other-currency', `${what} is in ${own}: say how much left the account for it.`, 'lines');
}

/**
 * Makes of a statement's line, which counted as a cost until now, the payment of what was owed.
 *
 * @throws Fault where it came from no statement, or is on an invoice
 */
export const payWithLine = command({
  name: 'ledger.pays',
  title: 'Line of the statement pays what was owed',
  input: z.strictObject({
    /** A line that was read from a statement, and is a cost until now. */
    costId: fields.id,
    parts: z.array(outPartSchema).min(1, 'Say what it paid.').max(200),
  }),
  async plan(reader, { costId, parts }, { newId }) {
    const cost = await need(reader, 'costs', costId, 'line of the statement');
    if (cost.kind !== 'ledger' || cost.source === '')
      throw new Fault('invalid', 'Only a line that was read from a statement pays something.', 'costId');
    const lines = await reader.by('costLines', 'costId', [costId]);
    const ids = lines.map((line) => line.id);
    if ((await reader.by('allocations', 'costLineId', ids)).length > 0)
      throw new Fault('already-billed', 'This line is on an invoice as a cost. Take it off there first.', 'costId');
    const plan = new Plan();
    for (const each of await reader.by('adjustments', 'costLineId', ids)) plan.remove('adjustments', each.id);
    for (const id of ids) plan.remove('costLines', id);
    plan.remove('costs', costId);
    const amount = lines.reduce((sum, line) => addExact(sum, line.amount ?? 0), 0);
    const { source, day, supplier, currency } = cost;
    await planPaid(reader, plan, { source, day, supplier, currency, amount, text: lines[0]?.text ?? '' }, parts, newId);
    return plan;
  },
});
