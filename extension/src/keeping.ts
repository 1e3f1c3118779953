import { captureDefaults, isAt, Recording, recordingOf, siteOf, type Activity } from '@half-penny/core/capture';
import { LineSealer } from '@half-penny/formats/sealed-lines';
import { writeLine } from '@half-penny/core/capture';
import type { Memory, Shelf } from './shelf';

const UNSAID = recordingOf(captureDefaults, 0, []);
/** Months of pages; when nobody has listened for so long, the oldest make room. */
const MOST_LINES = 50_000;

/** Whether a site is not recorded now, by what was chosen in the extension. */
export const isOut = (sites: Shelf['sites'], site: string, now: number): boolean =>
  Object.entries(sites).some(([each, until]) => isAt(site, each) && (until === 'never' || now < until));

/** What of what was noticed may be recorded. */
export function allowed(shelf: Shelf, activities: readonly Activity[], now: number): Activity[] {
  if (shelf.paused) return [];
  const recording = new Recording(shelf.welcome?.recording ?? UNSAID);
  return activities.flatMap((each) => {
    const kept = recording.of(each);
    return kept && !isOut(shelf.sites, siteOf(each.address ?? ''), now) ? [kept] : [];
  });
}

/** Seals what waits in the memory, as soon as somebody has said for whom. */
export async function seal(shelf: Shelf, memory: Memory, now: number): Promise<{ shelf: Shelf; memory: Memory }> {
  if (!shelf.welcome || memory.unsealed.length === 0) return { shelf, memory };
  const sealer = new LineSealer(shelf.welcome.publicKey);
  const lines = await Promise.all(allowed(shelf, memory.unsealed, now).map((each) => sealer.seal(writeLine(each))));
  const all = [...shelf.lines, ...lines];
  const over = Math.max(0, all.length - MOST_LINES);
  return {
    shelf: { ...shelf, lines: all.slice(over), first: shelf.first + over },
    memory: { ...memory, unsealed: [] },
  };
}
