import * as z from 'zod';
import { command, Plan } from '../engine/command';
import { overlay } from '../engine/overlay';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { publicKeysSchema, WORKSPACE_ID, type Member, type PlannedTime } from '../model/records';
import { tableNames, tables, type TableName } from '../model/tables';
import { jobSheetSchema, jobSheetTables, signed, type JobSheet } from '../sealed-files';
import { byId } from '../sealed-files/sheets';
import { holderOf } from './keys';
import { needSigner, refuseOlder, taken } from './take-sealed';

/** Told by its source: planned time that the studio sent. */
const FROM_STUDIO = 'studio:';

/** What a member has of their own, or that is more than a list of what the studio has. */
const OWN = ['workspace', 'members', 'plans', 'absences'] as const satisfies readonly (keyof JobSheet['rows'])[];

/** What follows the studio altogether: what a job sheet has no more is gone. In an order in which none refers to a later one. */
const FOLLOWED = jobSheetTables.filter(
  (table): table is Exclude<(typeof jobSheetTables)[number], (typeof OWN)[number]> =>
    !(OWN as readonly string[]).includes(table),
);

/**
 * Sets up a member’s own workspace by a job sheet, or brings it up to date: what the studio has no more is removed, or finished where time
 * was recorded on it. What the member recorded, and set for themselves, stays.
 */
export const takeJobSheet = command({
  name: 'jobSheet.take',
  title: 'Job sheet taken',
  outward: 'What the studio sent stands until it sends something else.',
  input: z.strictObject({
    ...signed,
    file: jobSheetSchema,
    /** Whose keys are met by it: as the workspace is set up, or after its keys were lost and its member was invited again. */
    met: z.strictObject({ studio: publicKeysSchema, member: publicKeysSchema }).optional(),
  }),
  async plan(reader, { signer, file, met }, { now, newId }) {
    const [studio] = file.rows.workspace;
    const member = file.rows.members.find(({ id }) => id === file.memberId);
    if (!studio || studio.ofMember !== file.memberId || !member)
      throw new Fault('invalid', 'This job sheet does not hold together: it is of nobody. Nothing was taken.', 'file');
    const plan = new Plan();
    const workspace = await reader.get('workspace', WORKSPACE_ID);
    if (workspace) {
      await needOwn(reader, workspace.ofMember, file.memberId);
      if (!met) await needSigner(reader, null, signer, 'The studio');
      await refuseOlder(reader, file);
    }
    if (met || !workspace) {
      if (met?.studio.signing !== signer)
        throw new Fault(
          'other-signer',
          'This is not signed by the studio that invited you. Nothing was taken.',
          'file',
        );
      for (const memberId of [null, file.memberId]) {
        const id = (await holderOf(reader, memberId))?.id ?? newId();
        const keys = memberId === null ? met.studio : met.member;
        plan.put('keyHolders', { id, memberId, keys, standing: 'met', at: now });
      }
    }
    plan.put('workspace', studio);
    const before = await reader.get('members', file.memberId);
    for (const row of file.rows.members) plan.put('members', row.id === file.memberId ? own(before, row) : row);
    for (const table of FOLLOWED) for (const row of file.rows[table]) plan.put(table, row as never);
    for (const row of file.rows.absences) plan.put('absences', row);
    for (const row of file.rows.plans) plan.put('plans', { ...row, source: FROM_STUDIO + row.id });
    await removeGone(reader, plan, file);
    return taken(plan, file, now);
  },
});

/** @throws Fault where this is the studio’s workspace, or another member’s */
export async function needOwn(reader: Reader, ofMember: Id | undefined, memberId: Id): Promise<void> {
  if (ofMember === memberId) return;
  const whose = ofMember === undefined ? 'the studio itself' : ((await reader.get('members', ofMember))?.name ?? '');
  throw new Fault(
    'other-file',
    `This is for another member. This workspace is that of ${whose}. Nothing was taken.`,
    'file',
  );
}

/** What the studio says of a member beside what they set for themselves. */
function own(before: Member | undefined, sent: Member): Member {
  if (!before) return sent;
  const kept = { jobOrder: before.jobOrder, awayAfter: before.awayAfter, zone: before.zone, pinned: before.pinned };
  if (sent.locked) return { ...sent, ...kept };
  const { form, hiddenServices } = before;
  return { ...sent, ...kept, form, hiddenServices };
}

async function removeGone(reader: Reader, plan: Plan, { rows, memberId }: JobSheet): Promise<void> {
  const plans = new Set(rows.plans.map(({ id }) => id));
  for (const row of await reader.by('plans', 'memberId', [memberId])) {
    if (row.source.startsWith(FROM_STUDIO) && !plans.has(row.id)) await removePlan(reader, plan, row);
  }
  const absences = new Set(rows.absences.map(({ id }) => id));
  for (const row of await reader.all('absences'))
    if (row.memberId === null && !absences.has(row.id)) plan.remove('absences', row.id);
  for (const table of [...FOLLOWED].reverse()) {
    const sent = byId<{ id: Id }>(rows[table]);
    // Parts before what they are parts of: what still has a part that stays, stays.
    let gone = (await reader.all(table)).filter(({ id }) => !sent.has(id));
    for (let before = -1; gone.length !== before;) {
      before = gone.length;
      const kept: typeof gone = [];
      for (const row of gone) {
        if (await isNamed(overlay(reader, plan.changes()), table, row.id)) kept.push(row as never);
        else plan.remove(table, row.id);
      }
      gone = kept;
    }
    for (const row of gone) plan.put(table, over(table, row as never));
  }
}

/** Planned time that something was recorded by stays where it was. */
async function removePlan(reader: Reader, plan: Plan, row: PlannedTime): Promise<void> {
  const entries = await reader.by('entries', 'planId', [row.id]);
  if (entries.length === 0) plan.remove('plans', row.id);
}

/** Whether any record refers to this one. */
async function isNamed(after: Reader, table: TableName, id: Id): Promise<boolean> {
  for (const other of tableNames)
    for (const [field, target] of Object.entries(tables[other].references)) {
      if (target !== table || !tables[other].indexes.includes(field)) continue;
      if ((await after.by(other, field as never, [id])).length > 0) return true;
    }
  return false;
}

/** What is gone at the studio and has time on it here leaves the pickers. */
function over(table: TableName, row: { id: Id }): never {
  if (table === 'projects' || table === 'tasks') return { ...row, finished: true } as never;
  if (table === 'clients' || table === 'services') return { ...row, archived: true } as never;
  return row as never;
}
