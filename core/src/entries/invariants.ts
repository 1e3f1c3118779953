import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { rowsAfter, type Change } from '../model/change';

// What must hold of time that is recorded, running or planned.

/**
 * What holds of timers, planned time and stretches, whatever command changed them.
 *
 * @throws Fault that names the row and field
 */
export async function checkTime(after: Reader, changes: readonly Change[]): Promise<void> {
  await checkTimers(after, changes);
  await checkPlans(after, changes);
  await checkStretches(after, changes);
}

/** At most one timer runs for a member. */
async function checkTimers(after: Reader, changes: readonly Change[]): Promise<void> {
  const members = new Set(rowsAfter(changes, 'timers').map((timer) => timer.memberId));
  if (members.size === 0) return;
  const running = await after.by('timers', 'memberId', [...members]);
  if (running.length > members.size)
    throw new Fault('timer-running', 'Only one timer can run for a member.', 'memberId');
}

/** Planned time becomes one entry at most. */
async function checkPlans(after: Reader, changes: readonly Change[]): Promise<void> {
  const plans = new Set(rowsAfter(changes, 'entries').flatMap(({ planId }) => planId ?? []));
  if (plans.size === 0) return;
  const entries = await after.by('entries', 'planId', [...plans]);
  if (entries.length > plans.size) throw new Fault('already', 'This planned time has been recorded already.', 'planId');
}

/** No stretch of noticed activity is two entries. */
async function checkStretches(after: Reader, changes: readonly Change[]): Promise<void> {
  const ids = new Set(rowsAfter(changes, 'entries').flatMap(({ stretchIds }) => stretchIds));
  if (ids.size === 0) return;
  const seen = new Set<Id>();
  for (const entry of await after.by('entries', '*stretchIds', [...ids])) {
    for (const id of entry.stretchIds) {
      if (seen.has(id)) throw new Fault('already', 'This stretch has been posted already.', 'stretchIds', { id });
      seen.add(id);
    }
  }
}
