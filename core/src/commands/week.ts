import * as z from 'zod';
import { jobKey, type Job } from '../entries/week';
import { withLength } from '../entries/spans';
import { blankEntry, withTimes } from '../entries/timer';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Entry } from '../model/records';
import { showDayShort } from '../time/day';
import { showExactly } from '../time/length';
import { command, need, Plan } from '../engine/command';
import { putNewEntry, isIssued, putEntry } from './entry-writes';
import { jobAfter, jobInput } from './job-fields';

const cellSchema = z.strictObject({
  day: fields.day,
  projectId: jobInput.projectId,
  unlisted: jobInput.unlisted,
  taskId: jobInput.taskId,
  /** What the cell is to come to; nothing empties it. */
  seconds: fields.seconds.max(86_400, 'A day has no more than 24 hours to fill.'),
});

/** Fills cells of a member's week, as when a block is pasted: all of them or none. */
export const fillWeek = command({
  name: 'week.fill',
  title: ({ cells }: { cells: unknown[] }) => (cells.length === 1 ? 'Hours set' : `Hours set in ${cells.length} cells`),
  input: z.strictObject({ memberId: fields.id, cells: z.array(cellSchema).min(1).max(2000) }),
  async plan(reader, { memberId, cells }, { newId }) {
    const member = await need(reader, 'members', memberId, 'member');
    const days = [...new Set(cells.map((cell) => cell.day))];
    const there = new Map<string, Entry[]>();
    const keyOf = (day: string, job: Job) => `${day} ${jobKey(job)}`;
    for (const entry of await reader.by(
      'entries',
      'memberId+day',
      days.map((day) => [memberId, day]),
    )) {
      const key = keyOf(entry.day, entry);
      there.set(key, [...(there.get(key) ?? []), entry]);
    }
    const plan = new Plan();
    for (const { day, seconds, ...rest } of cells) {
      const job = jobAfter(rest);
      const entries = there.get(keyOf(day, job)) ?? [];
      const sum = entries.reduce((total, entry) => total + entry.seconds, 0);
      if (sum === seconds) continue;
      const [only, another] = entries;
      if (another) {
        throw new Fault(
          'several',
          `On ${showDayShort(day)} ${entries.length} entries of ${showExactly(sum)} together stand in one cell. Fold it out and change one of them.`,
          'cells',
          { day },
        );
      }
      if (!only) {
        putNewEntry(plan, blankEntry({ id: newId(), memberId, day, seconds, ...job }));
      } else if (seconds === 0) {
        if (await isIssued(reader, only.id))
          throw new Fault('issued', `What stands on ${showDayShort(day)} has been invoiced.`, 'cells', { day });
        for (const each of await reader.by('allocations', 'entryId', [only.id])) plan.remove('allocations', each.id);
        plan.remove('entries', only.id);
      } else {
        const times = only.spans.length > 0 ? withLength(only.spans, seconds) : seconds;
        const after = withTimes(only, times, member.zone);
        const { billableSeconds } = only;
        await putEntry(plan, reader, only, {
          ...after,
          billableSeconds: billableSeconds === null ? null : Math.min(billableSeconds, seconds),
        });
      }
    }
    return plan;
  },
});
