import * as z from 'zod';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { depositSchema, moneyInSchema, paymentSchema, type MoneyIn } from '../model/records';
import { showAmount } from '../money/amount';
import { addExact, lessExact, sumExact } from '../money/rational';
import { command, need, needAll, Plan } from '../engine/command';
import type { Reader } from '../engine/store';

/** A sum that came in, as it was read from a statement. */
export const moneyInLineSchema = moneyInSchema.omit({ id: true, setAside: true }).extend({
  /** What an older reading of the same file told it apart by. */
  was: z.string().max(300).optional(),
});
export type MoneyInLine = z.infer<typeof moneyInLineSchema>;

const sums = (count: number) => (count === 1 ? 'Money in' : `${count} sums that came in`);

/** Reads sums that came in from a statement. One that is there already, by its source, stays as it is. */
export const takeMoney = command({
  name: 'money.take',
  title: ({ lines }: { lines: unknown[] }) => `${sums(lines.length)} read`,
  input: z.strictObject({ lines: z.array(moneyInLineSchema).min(1, 'No sum came in.').max(50_000) }),
  async plan(reader, input, { newId }) {
    // Whatever is here already stays as it is: nothing comes in twice.
    const lines = new Map(input.lines.map((line) => [line.source, line]));
    const wanted = [...lines.values()].flatMap(({ source, was }) => (was ? [source, was] : [source]));
    const known = new Set((await reader.by('moneyIn', 'source', wanted)).map((row) => row.source));
    const plan = new Plan();
    for (const { was, ...line } of lines.values()) {
      if (known.has(line.source) || known.has(was ?? '')) continue;
      plan.put('moneyIn', { ...line, id: newId(), setAside: null });
    }
    return plan;
  },
});

const partSchema = z.strictObject({
  invoiceId: fields.id,
  amount: paymentSchema.shape.amount,
  fee: fields.minor.min(0).optional(),
  arrived: fields.minor.min(1).nullable().optional(),
});

const matchSchema = z.strictObject({
  /** The sum that came in. */
  id: fields.id,
  parts: z.array(partSchema).max(200),
  ahead: z.strictObject({ clientId: fields.id, amount: depositSchema.shape.amount }).nullable(),
});
type Match = z.infer<typeof matchSchema>;

/**
 * Says of sums that came in what they are for: invoices, with charges and what arrived in another currency, and what is paid ahead. All of
 * a sum has to be said of.
 *
 * @throws Fault where it is matched already, does not add up, or names an invoice that cannot be paid
 */
export const matchMoney = command({
  name: 'money.match',
  title: ({ matches }: { matches: unknown[] }) => `${sums(matches.length)} matched`,
  input: z.strictObject({ matches: z.array(matchSchema).min(1, 'Nothing is to be matched.').max(5_000) }),
  async plan(reader, { matches }, { newId }) {
    const rows = await needAll(
      reader,
      'moneyIn',
      matches.map((each) => each.id),
      'sum that came in',
    );
    await refuseMatched(reader, rows);
    const byId = new Map(rows.map((row) => [row.id, row]));
    const invoiceIds = matches.flatMap((each) => each.parts.map((part) => part.invoiceId));
    const invoices = new Map(
      (await needAll(reader, 'invoices', invoiceIds, 'invoice')).map((invoice) => [invoice.id, invoice]),
    );
    const plan = new Plan();
    for (const match of matches) {
      const sum = byId.get(match.id)!;
      refuseOtherSum(sum, match);
      const note = [sum.payer, sum.reference || sum.text].filter(Boolean).join(': ').slice(0, 300);
      for (const { invoiceId, amount, fee = 0, arrived = null } of match.parts) {
        const { frozen, voided, kind, currency } = invoices.get(invoiceId)!;
        if (!frozen || kind === 'credit note')
          throw new Fault('not-issued', 'Only an issued invoice can be paid.', 'parts');
        if (voided) throw new Fault('already-void', `${frozen.number} is void; nothing is to be paid on it.`, 'parts');
        if (currency !== sum.currency && arrived === null) {
          throw new Fault(
            'other-currency',
            `${frozen.number} is in ${currency}: say how much of the ${showAmount(sum.amount, sum.currency)} arrived for it.`,
            'parts',
          );
        }
        if (fee >= amount) throw new Fault('out-of-range', 'Charges are less than what was paid.', 'parts');
        plan.put('payments', {
          id: newId(),
          invoiceId,
          kind: 'payment',
          day: sum.day,
          amount,
          currency,
          note,
          moneyInId: sum.id,
          ...(fee > 0 && { fee }),
          ...(currency !== sum.currency && { arrived: { amount: arrived!, currency: sum.currency } }),
        });
      }
      if (match.ahead) {
        const { clientId, amount } = match.ahead;
        await need(reader, 'clients', clientId, 'client');
        const { day, currency, id: moneyInId } = sum;
        plan.put('deposits', { id: newId(), clientId, projectId: null, day, amount, currency, note, moneyInId });
      }
    }
    return plan;
  },
});

/** All of a sum is said of: what arrived for each invoice, and what is paid ahead. */
function refuseOtherSum(sum: MoneyIn, { parts, ahead }: Match): void {
  if (parts.length === 0 && !ahead) throw new Fault('empty', 'Say what the money is for.', 'parts');
  const arrived = parts.map(({ amount, fee = 0, arrived: own }) => own ?? lessExact(amount, fee));
  const said = addExact(sumExact(arrived), ahead?.amount ?? 0);
  if (said === sum.amount) return;
  const rest = lessExact(sum.amount, said);
  throw new Fault(
    'not-the-sum',
    rest > 0
      ? `${showAmount(rest, sum.currency)} of the ${showAmount(sum.amount, sum.currency)} are for nothing yet.`
      : `That is ${showAmount(-rest, sum.currency)} more than the ${showAmount(sum.amount, sum.currency)} that came in.`,
    'parts',
    { rest },
  );
}

async function refuseMatched(reader: Reader, rows: readonly MoneyIn[]): Promise<void> {
  const ids = rows.map((row) => row.id);
  const matched = new Set(
    [...(await reader.by('payments', 'moneyInId', ids)), ...(await reader.by('deposits', 'moneyInId', ids))].map(
      (row) => row.moneyInId,
    ),
  );
  const row = rows.find((each) => matched.has(each.id) || each.setAside !== null);
  if (!row) return;
  const why = row.setAside === null ? 'is matched already' : `was set aside: ${row.setAside.slice(0, 100)}`;
  throw new Fault(
    'already',
    `The ${showAmount(row.amount, row.currency)} of ${row.payer || 'this sum'} ${why}.`,
    'id',
    {
      id: row.id,
    },
  );
}

/**
 * Sets sums aside that are for nothing here, with a reason.
 *
 * @throws Fault where one is matched
 */
export const setMoneyAside = command({
  name: 'money.setAside',
  title: ({ ids }: { ids: Id[] }) => `${sums(ids.length)} set aside`,
  input: z.strictObject({
    ids: z.array(fields.id).min(1, 'Pick at least one.').max(5_000),
    reason: fields.name.max(500),
  }),
  async plan(reader, { ids, reason }) {
    const rows = await needAll(reader, 'moneyIn', ids, 'sum that came in');
    await refuseMatched(reader, rows);
    const plan = new Plan();
    for (const row of rows) plan.put('moneyIn', { ...row, setAside: reason });
    return plan;
  },
});

/** Undoes what was said of a sum: its payments and what was paid ahead with it go, and it waits again. */
export const takeMoneyApart = command({
  name: 'money.apart',
  title: 'Money in waits again',
  input: z.strictObject({ id: fields.id }),
  plan: (reader, { id }) => takenApart(reader, id),
});

/** A sum that came in waits again: its payments and what was paid ahead with it are gone. */
export async function takenApart(reader: Reader, id: Id): Promise<Plan> {
  const row = await need(reader, 'moneyIn', id, 'sum that came in');
  const plan = new Plan();
  for (const each of await reader.by('payments', 'moneyInId', [id])) plan.remove('payments', each.id);
  for (const each of await reader.by('deposits', 'moneyInId', [id])) plan.remove('deposits', each.id);
  if (row.setAside !== null) plan.put('moneyIn', { ...row, setAside: null });
  return plan;
}

/**
 * Deletes sums that came in.
 *
 * @throws Fault where one is matched
 */
export const removeMoney = command({
  name: 'money.remove',
  title: ({ ids }: { ids: Id[] }) => `${sums(ids.length)} deleted`,
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one.').max(5_000) }),
  async plan(reader, { ids }) {
    const rows = await needAll(reader, 'moneyIn', ids, 'sum that came in');
    await refuseMatched(
      reader,
      rows.map((row) => ({ ...row, setAside: null })),
    );
    const plan = new Plan();
    for (const row of rows) plan.remove('moneyIn', row.id);
    return plan;
  },
});
