import type { Id, JournalRow, Timer } from '@half-penny/core/model';
import type { Heard } from '@half-penny/core/shared-log';
import type { EndedTimer } from '../database';

/** What whoever works here is told at once of what came from other devices: what did not fit, and a timer of theirs that ended. */
export function heardWords({ refused, applied }: Heard, memberId: Id | null): string[] {
  const said = refused.map(
    ({ title, why }) => `“${title}” did not fit any more: ${why} It is kept in Setup → Devices.`,
  );
  if (applied.some((row) => endsTimerOf(row, memberId)))
    said.push('A timer was started on another device, so the one that ran before ended at that moment.');
  return said;
}

/** Timers of somebody's that later starts elsewhere ended. */
export const endedTimers = ({ applied }: Heard, memberId: Id | null): EndedTimer[] =>
  applied
    .filter((row) => endsTimerOf(row, memberId))
    .flatMap(({ changes, device }) =>
      changes
        .filter(({ table, before, after }) => table === 'entries' && before === null && after !== null)
        .map(({ id }) => ({ entryId: id, device })),
    );

/** Whether a start took the place of a timer of somebody's. */
function endsTimerOf({ command, changes }: JournalRow, memberId: Id | null): boolean {
  if (command !== 'timer.start' && command !== 'timer.resume') return false;
  return changes.some(
    (change) => change.table === 'timers' && change.after === null && (change.before as Timer).memberId === memberId,
  );
}
