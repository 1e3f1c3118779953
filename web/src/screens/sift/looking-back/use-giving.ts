import { placeOn, type LookingAt, type PlacingRule, type SiftBook } from '@half-penny/core/capture';
import type { Job } from '@half-penny/core/entries';
import type { Day, Zone } from '@half-penny/core/time';
import { newId } from '../../../data/registry';
import { useSession } from '../../../data/session';
import { useTrailChanges } from '../../../data/trail-changes';
import { captureWork } from '../../../workers/capture';
import { conditionOf } from './condition-of';

interface Period {
  from: Day;
  to: Day;
  zone: Zone;
}

/** Stretches as they are given to a job: what is known of them without it. */
type Found = Awaited<ReturnType<ReturnType<typeof captureWork>['mostlyOf']>>;

/** Giving what one sees to a job: for good by rules, once by placing what is loose, or a stretch by itself. Each can be undone. */
export function useGiving(book: SiftBook) {
  const { entry: workspace } = useSession();
  const change = useTrailChanges();
  const outcomeOf = (job: Job) => placeOn({ ...job, workspaceId: workspace.id });
  const place = (found: Found, job: Job) => {
    const put = found.map((each) => ({
      ...each,
      id: newId(),
      outcome: outcomeOf(job),
      note: '',
      billableSeconds: null,
      at: Date.now(),
    }));
    return change(placedText(put.length), { placings: { put } });
  };
  return {
    /** Makes a rule of each row, after those there are. */
    always: (by: LookingAt, keys: readonly string[], job: Job, rules: readonly PlacingRule[]) => {
      const order = Math.max(0, ...rules.map((each) => each.order));
      const then = outcomeOf(job);
      const put = keys.flatMap((key, index): PlacingRule[] => {
        const when = conditionOf(by, key);
        return when ? [{ id: newId(), order: order + index + 1, when, then, since: 0, posts: false, on: true }] : [];
      });
      return change(put.length === 1 ? 'Rule made' : `${put.length} rules made`, { rules: { put } });
    },
    /** Places what is loose and mostly of these rows. */
    once: async (period: Period, by: LookingAt, keys: readonly string[], job: Job) =>
      place(await captureWork().mostlyOf({ ...period, book }, by, keys), job),
    /** Places one stretch of a day. */
    stretch: async (day: Day, zone: Zone, id: string, job: Job) =>
      place(await captureWork().stretchOf({ from: day, to: day, zone, book }, id), job),
  };
}

function placedText(count: number): string {
  if (count === 0) return 'Nothing to place: all of it is placed already';
  return count === 1 ? 'Stretch placed' : `${count} stretches placed`;
}
