import type { Entry } from '../model/records';
import type { Seconds } from '../time/length';
import { billedLengths, roundLength, type Recorded, type RoundingPolicy } from '../time/rounding';
import type { Pricer } from './pricer';

/** The billable part of an entry in seconds: what was said, or all that was worked. */
export const billableOf = (entry: Pick<Entry, 'seconds' | 'billableSeconds'>): Seconds =>
  entry.billableSeconds ?? entry.seconds;

/** The billed length of each entry by its job's policy: each by itself, or a member's day on a job together. */
export function billedLengthsOf(pricer: Pricer, entries: readonly Entry[], recorded: readonly Seconds[]): Seconds[] {
  const common = pricer.onlyPolicy;
  if (common?.per === 'entry') return recorded.map((seconds) => roundLength(seconds, common));
  if (common) return billedLengths(entries.map(recordedAs(recorded)), common);
  const byPolicy = new Map<RoundingPolicy, number[]>();
  entries.forEach((entry, index) => {
    const policy = pricer.policyOf(entry.projectId);
    const group = byPolicy.get(policy);
    if (group) group.push(index);
    else byPolicy.set(policy, [index]);
  });
  const billed = new Array<Seconds>(entries.length).fill(0);
  const asRecorded = recordedAs(recorded);
  for (const [policy, group] of byPolicy) {
    const lengths = billedLengths(
      group.map((index) => asRecorded(entries[index]!, index)),
      policy,
    );
    group.forEach((index, place) => (billed[index] = lengths[place]!));
  }
  return billed;
}

const recordedAs =
  (recorded: readonly Seconds[]) =>
  (entry: Entry, index: number): Recorded => ({ seconds: recorded[index]!, day: entry.day, job: jobOf(entry) });

/** A day's work on a job is one member's: what somebody else did there that day never changes its rounding. */
const jobOf = ({ taskId, projectId, memberId }: Entry): string => `${projectId} ${taskId} ${memberId}`;

/** The rounding unit that an entry is a part of; null where it is one by itself. */
export const unitKey = (pricer: Pricer, entry: Entry): string | null =>
  pricer.policyOf(entry.projectId).per === 'entry' ? null : `${entry.day} ${jobOf(entry)}`;
