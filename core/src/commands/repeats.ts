import * as z from 'zod';
import { readBook } from '../billing/book';
import { newDraft } from '../billing/draft';
import { Pricer } from '../billing/pricer';
import { toBill } from '../billing/to-bill';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { repeatSchema, type Client, type Invoice, type Repeat, type Workspace } from '../model/records';
import { draftIdOf, dueDays, occurrences, readRule } from '../repeats/repeat';
import { addDays, dayOf, type Day } from '../time/day';
import { command, defined, need, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { putOnDraft } from './invoices';

const { id: _id, prepared: _prepared, ...written } = repeatSchema.shape;
const optional = { until: true, paused: true, note: true, lines: true } as const;

/**
 * Agrees an invoice that comes again, by an RFC 5545 rule.
 *
 * @throws Fault where the rule cannot be read
 */
export const addRepeat = command({
  name: 'repeat.add',
  title: 'Recurring invoice agreed',
  input: z.strictObject({ id: fields.id.optional(), ...written }).partial(optional),
  async plan(reader, input, { newId }) {
    await need(reader, 'clients', input.clientId, 'client');
    readRule(input.rule);
    const repeat: Repeat = {
      until: null,
      paused: false,
      note: '',
      lines: [],
      ...defined(input),
      id: input.id ?? newId(),
      prepared: [],
    } as Repeat;
    return new Plan().put('repeats', repeat);
  },
});

/**
 * Changes such an agreement for what is prepared from now on.
 *
 * @throws Fault where the rule cannot be read
 */
export const editRepeat = command({
  name: 'repeat.edit',
  title: 'Recurring invoice changed',
  input: z.strictObject(written).partial().omit({ clientId: true }).extend({ id: fields.id }),
  async plan(reader, input) {
    if (input.rule !== undefined) readRule(input.rule);
    const before = await need(reader, 'repeats', input.id, 'recurring invoice');
    return new Plan().put('repeats', { ...before, ...defined(input) });
  },
});

/** Ends such an agreement; what was prepared stays. */
export const removeRepeat = command({
  name: 'repeat.remove',
  title: 'Recurring invoice ended',
  input: z.strictObject({ id: fields.id }),
  plan: async (reader, { id }) =>
    new Plan().remove('repeats', (await need(reader, 'repeats', id, 'recurring invoice')).id),
});

/** Drafts of every agreement whose day has come, each once. */
export const prepareRepeats = command({
  name: 'repeat.prepare',
  title: 'Recurring invoices prepared',
  input: z.strictObject({}),
  async plan(reader, _input, context) {
    const [workspace] = await reader.all('workspace');
    const today = dayOf(context.now, workspace?.zone ?? 'UTC');
    const plan = new Plan();
    const taken = new Set<Id>();
    for (const repeat of await reader.all('repeats')) {
      const days = dueDays(repeat, today);
      if (days.length === 0) continue;
      const client = await need(reader, 'clients', repeat.clientId, 'client');
      for (const day of repeat.kind === 'sums' ? days : days.slice(-1)) {
        const id = draftIdOf(repeat.id, day);
        // Another device may have made it; what it came to there stands.
        if (await reader.get('invoices', id)) continue;
        if (repeat.kind === 'sums')
          plan.put('invoices', {
            ...newDraft(client, { id, createdAt: context.now }),
            ...(repeat.ahead ? retainerOf(repeat, day, workspace!) : sumsOf(repeat)),
          });
        else if (!taken.has(client.id)) {
          taken.add(client.id);
          await putWorked(reader, plan, client, repeat, id, day, context);
        }
      }
      plan.put('repeats', { ...repeat, prepared: [...repeat.prepared, ...days] });
    }
    if (plan.rows.size === 0) throw new Fault('nothing-left', 'No recurring invoice is due.');
    return plan;
  },
});

const sumsOf = ({ lines, note }: Repeat) => ({ byHand: lines, note });

/** Money asked for ahead for the days until the agreement comes again. */
function retainerOf(repeat: Repeat, day: Day, { accounts }: Workspace): Pick<Invoice, 'byHand' | 'note' | 'advance'> {
  const next = occurrences(repeat, addDays(day, LONGEST)).find((each) => each > day);
  const { seconds, carried } = repeat.ahead!;
  return {
    byHand: repeat.lines.map((line) => ({ ...line, account: accounts.deposits })),
    note: repeat.note,
    advance: { seconds, until: next === undefined ? null : addDays(next, -1), carried, lapsed: null },
  };
}

/** No agreement comes more seldom than every other year. */
const LONGEST = 731;

/** All that is to bill for a client up to a day; where there is nothing, there is no draft. */
async function putWorked(
  reader: Reader,
  plan: Plan,
  client: Client,
  { note }: Repeat,
  id: Id,
  day: Day,
  context: CommandContext,
): Promise<void> {
  const open = await openOf(reader, client.id);
  const entryIds = open?.items.filter(({ entry }) => entry.day <= day).map(({ entry }) => entry.id) ?? [];
  const charges = open?.charges.filter((charge) => charge.day <= day && charge.fault === null) ?? [];
  const costLineIds = charges.filter((charge) => charge.line !== null).map((charge) => charge.id);
  const agreedIds = charges.filter((charge) => charge.agreed !== null).map((charge) => charge.id);
  if (entryIds.length + costLineIds.length + agreedIds.length === 0) return;
  const input = { id, clientId: client.id, entryIds, costLineIds, agreedIds };
  const own = await putOnDraft.plan(reader, input, context);
  for (const [key, change] of own.rows) plan.rows.set(key, change);
  const draft = [...own.rows.values()].find((change) => change.table === 'invoices');
  if (draft?.table === 'invoices' && draft.after) plan.put('invoices', { ...draft.after, note });
}

async function openOf(reader: Reader, clientId: Id) {
  const pricer = new Pricer(await readBook(reader));
  const projectIds = pricer.book.projects.filter((row) => row.clientId === clientId).map((row) => row.id);
  const [entries, costLines, agreed, milestones, adjustments] = await Promise.all([
    reader.by('entries', 'projectId', projectIds),
    reader.by('costLines', 'projectId', projectIds),
    reader.by('agreed', 'projectId', projectIds),
    reader.by('milestones', 'projectId', projectIds),
    reader.all('adjustments'),
  ]);
  const idsOf = (rows: readonly { id: Id }[]) => rows.map((row) => row.id);
  const costs = (await reader.many('costs', [...new Set(costLines.map((row) => row.costId))])).filter(
    (row) => row !== undefined,
  );
  const takings = [
    ...(await reader.by('allocations', 'entryId', idsOf(entries))),
    ...(await reader.by('allocations', 'costLineId', idsOf(costLines))),
    ...(await reader.by('allocations', 'agreedId', idsOf(agreed))),
    ...adjustments,
  ];
  return toBill(pricer, entries, takings, { costs, costLines, agreed, milestones }).find(
    (each) => each.client.id === clientId,
  );
}
