import { sweptActivities, sweptPlacings, type Sweep } from '@half-penny/core/capture';
import { trail, outdateBackup, readPauses } from './trail';

const DAY = 86_400_000;

/**
 * Deletes times from the trail for good: everything that was seen in them, or only some programs and sites. It cannot be undone, as
 * nothing of it is kept; its backup goes, too. Where everything goes, what devices still hold of those times is not taken in either.
 *
 * @returns how many activities went or were cut
 */
export async function deleteFromTrail(sweep: Sweep): Promise<number> {
  const { spans, only } = sweep;
  if (spans.length === 0) return 0;
  const start = Math.min(...spans.map((each) => each.start));
  const end = Math.max(...spans.map((each) => each.end));
  const device = `cut-${crypto.randomUUID()}`;
  let seq = 0;
  return trail.transaction(
    'rw',
    [trail.activities, trail.placings, trail.settings, trail.backup, trail.meant],
    async () => {
      const near = await trail.activities
        .where('from')
        .between(start - DAY, end)
        .toArray();
      const activities = sweptActivities(near, sweep, () => ({ device, seq: ++seq }));
      await trail.activities.bulkDelete(activities.gone.map((each) => [each.device, each.seq]));
      await trail.activities.bulkPut(activities.changed);
      if (only === null) {
        const placings = sweptPlacings(await trail.placings.toArray(), spans);
        await trail.placings.bulkDelete(placings.gone.map((each) => each.id));
        await trail.placings.bulkPut(placings.changed);
        const pauses = [...(await readPauses()), ...spans.map((each) => ({ from: each.start, to: each.end }))];
        // An open pause stays the last one, by which it is ended.
        pauses.sort((a, b) => Number(a.to === null) - Number(b.to === null));
        await trail.settings.put({ key: 'pauses', value: pauses.slice(-200) });
      }
      await trail.meant.bulkDelete(activities.gone.flatMap(({ title }) => (title ? [title] : [])));
      await outdateBackup();
      return activities.gone.length;
    },
  );
}
