import { putEntries } from './entry-writes';
import * as z from 'zod';
import { sourceTables } from '../billing/sources';
import { agreedDefaults } from '../model/defaults-billing';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import * as R from '../model/records';
import { dayOf } from '../time/day';
import { command, need, Plan, needAll } from '../engine/command';
import { pickedFields } from './invoices';
import { countOf, remainingOf, sayCount, type Picked } from './remaining';
import { plainCommands } from '../engine/crud';

/** Amounts agreed with a client beside the hours: fixed prices, fees, parts of them. */
export const agreed = plainCommands(
  'agreed',
  'agreed',
  'Agreed amount',
  z.strictObject(R.agreedSchema.shape),
  agreedDefaults,
);
/** Money that was paid ahead and waits for an invoice. */
export const deposits = plainCommands('deposits', 'deposit', 'Deposit', R.depositSchema, { projectId: null, note: '' });

/** Pays back some of what was paid ahead, in minor units. Invariants refuse more than is left. */
export const payDepositBack = command({
  name: 'deposit.payBack',
  title: 'Paid back',
  input: z.strictObject({
    id: fields.id,
    day: fields.day,
    amount: fields.minor.min(1, 'More than nothing is paid back.'),
    note: z.string().max(500).optional(),
  }),
  async plan(reader, { id, day, amount, note = '' }, { newId }) {
    const deposit = await need(reader, 'deposits', id, 'deposit');
    const paidBack = [...(deposit.paidBack ?? []), { id: newId(), day, amount, note }];
    return new Plan().put('deposits', { ...deposit, paidBack });
  },
});

/**
 * Writes down or off what is left to bill of sources, or leaves it for later; negative parts write up.
 *
 * @throws Fault where nothing is left of one
 */
export const adjust = command({
  name: 'bill.adjust',
  title: (input: Picked & { kind: R.AdjustmentKind }) =>
    `${sayCount(input)} ${input.kind === 'later' ? 'left for later' : input.kind}`,
  input: z
    .strictObject({
      ...pickedFields,
      kind: z.enum(R.adjustmentKinds),
      /** What is written down of a source, or up where negative, by its id; all that is left where not given. */
      parts: z.record(fields.id, z.int()).optional(),
      reason: R.adjustmentSchema.shape.reason,
      until: fields.day.nullable().optional(),
    })
    .refine((input) => countOf(input) > 0, { message: 'Pick at least one.', path: ['entryIds'] }),
  async plan(reader, input, { now, memberId, newId }) {
    const [workspace] = await reader.all('workspace');
    const day = dayOf(now, workspace?.zone ?? 'UTC');
    const plan = new Plan();
    const left = await remainingOf(reader, input);
    for (const [id, { table, left: rest }] of left) {
      const field = sourceTables[table];
      const part = input.kind === 'later' ? 0 : (input.parts?.[id] ?? rest);
      if (input.kind !== 'later' && part === 0)
        throw new Fault('nothing-left', 'Nothing of this is left to bill.', 'parts', { id });
      plan.put('adjustments', {
        id: newId(),
        entryId: null,
        costLineId: null,
        agreedId: null,
        [field]: id,
        kind: input.kind,
        seconds: field === 'entryId' ? part : 0,
        part: field === 'entryId' ? 0 : part,
        reason: input.reason,
        day,
        until: input.kind === 'later' ? (input.until ?? null) : null,
        memberId,
      });
    }
    return plan;
  },
});

/** Takes such adjustments back: it is to bill again. */
export const removeAdjustments = command({
  name: 'bill.restore',
  title: 'To bill again',
  input: z.strictObject({ ids: z.array(fields.id).min(1, 'Pick at least one.') }),
  async plan(reader, input) {
    const plan = new Plan();
    for (const { id } of await needAll(reader, 'adjustments', input.ids, 'adjustment')) plan.remove('adjustments', id);
    return plan;
  },
});

/** Makes time not billable and costs the studio's own, instead of writing them off. */
export const makeInternal = command({
  name: 'bill.internal',
  title: (input: Picked) => `${sayCount(input)} not for the client`,
  input: z.strictObject({ entryIds: pickedFields.entryIds, costLineIds: pickedFields.costLineIds }),
  async plan(reader, input) {
    const plan = new Plan();
    const entries = await needAll(reader, 'entries', input.entryIds ?? [], 'entry');
    await putEntries(
      plan,
      reader,
      entries.map((entry) => [entry, { ...entry, billableSeconds: 0 }] as const),
    );
    for (const line of await needAll(reader, 'costLines', input.costLineIds ?? [], 'cost')) {
      plan.put('costLines', { ...line, forClient: false });
    }
    return plan;
  },
});
