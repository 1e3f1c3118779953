import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Cost, CostLine, Receipt, SealedFile, SealedKind } from '../model/records';
import type { Plan } from '../engine/command';
import { showDayShort, dayOf } from '../time/day';
import { holderOf } from './keys';

// What is asked of every sealed file before anything of it is taken.

/** @throws Fault unless it was signed by who it says it is from, and they are met */
export async function needSigner(reader: Reader, memberId: Id | null, signer: string, name: string): Promise<void> {
  const holder = await holderOf(reader, memberId);
  if (holder?.standing !== 'met')
    throw new Fault('not-met', `${name} is not met yet: compare the short codes first. Nothing was taken.`, 'signer');
  if (holder.keys?.signing !== signer)
    throw new Fault(
      'other-signer',
      `This is not signed by the keys that ${name} was met with. Nothing was taken. Ask them whether they made new keys.`,
      'signer',
    );
}

/** @throws Fault where it was taken already, or a later one of its kind was */
export async function refuseOlder(
  reader: Reader,
  { id, kind, memberId, madeAt }: { id: Id; kind: SealedKind; memberId: Id; madeAt: number },
): Promise<void> {
  const taken = (await reader.by('sealedFiles', 'memberId', [memberId])).filter(
    (row) => row.kind === kind && !row.sent,
  );
  const zone = (await reader.get('members', memberId))?.zone ?? 'UTC';
  const same = taken.find((row) => row.id === id);
  if (same)
    throw new Fault(
      'already',
      `This ${kind} was taken on ${showDayShort(dayOf(same.at, zone))} already. Nothing was changed.`,
      'id',
    );
  const later = taken.find((row) => row.madeAt >= madeAt);
  if (later)
    throw new Fault(
      'outdated',
      `A later ${kind}, made on ${showDayShort(dayOf(later.madeAt, zone))}, was taken already. Nothing was changed.`,
      'madeAt',
    );
}

/** Notes that a file was taken. */
export const taken = (
  plan: Plan,
  file: { id: Id; kind: SealedKind; memberId: Id; madeAt: number },
  at: number,
  more: Partial<Pick<SealedFile, 'from' | 'to' | 'answers'>> = {},
): Plan => {
  const { id, kind, memberId, madeAt } = file;
  return plan.put('sealedFiles', { id, kind, memberId, sent: false, madeAt, at, from: null, to: null, ...more });
};

/** Puts a cost with the lines that it has now, and takes off those that it has no more. */
export function putCost(
  plan: Plan,
  cost: Cost,
  lines: readonly CostLine[],
  before: readonly CostLine[],
  receipts: ReadonlyMap<Id, Receipt>,
): void {
  for (const id of cost.receiptIds) {
    const receipt = receipts.get(id);
    if (receipt) plan.put('receipts', receipt);
  }
  plan.put('costs', cost);
  for (const line of lines) plan.put('costLines', line);
  const kept = new Set(lines.map(({ id }) => id));
  for (const { id } of before) if (!kept.has(id)) plan.remove('costLines', id);
}
