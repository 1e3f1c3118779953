import {
  captureDefaults,
  captureSettingsSchema,
  hasSoundTimes,
  RuleBook,
  subjectOf,
  whyUnsound,
  type Activity,
  type CaptureSettings,
  type KeptActivity,
  type RuleTime,
  type PlacingRule,
} from '@half-penny/core/capture';
import { Fault } from '@half-penny/core/model';
import type { Table } from 'dexie';
import { useLiveQuery } from 'dexie-react-hooks';
import { TrailDatabase, type Pause, type TrailBackup } from './trail-database';

export const trail = new TrailDatabase();

const DAY = 86_400_000;

/** What the person set; undefined while it is being read. */
export const useCaptureSettings = (): CaptureSettings | undefined => useLiveQuery(readSettings, []);

/** The person's rules, as they were put; undefined while they are being read. */
export const useRules = (): PlacingRule[] | undefined => useLiveQuery(() => trail.rules.toArray(), []);

/** How many rules post by themselves. */
export const usePostingRules = (): number | undefined =>
  useLiveQuery(() => trail.rules.filter((rule) => rule.on && rule.posts).count(), []);

/** What documents were said to be opened for. */
export const useOpenedFor = () => useLiveQuery(() => trail.openedFor.toArray(), []);

/** How many activities are kept. */
export const useActivityCount = (): number | undefined => useLiveQuery(() => trail.activities.count(), []);

export async function readSettings(): Promise<CaptureSettings> {
  const stored = await trail.settings.get('capture');
  return stored ? captureSettingsSchema.parse(stored.value) : captureDefaults;
}

export async function readPauses(): Promise<Pause[]> {
  return ((await trail.settings.get('pauses'))?.value as Pause[] | undefined) ?? [];
}

export async function saveSettings(change: Partial<CaptureSettings>): Promise<void> {
  await trail.transaction('rw', trail.settings, async () => {
    const before = await readSettings();
    const parsed = captureSettingsSchema.safeParse({ ...before, ...change });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      throw new Fault(issue!.message, issue!.path.join('.'));
    }
    const value = parsed.data;
    await trail.settings.put({ key: 'capture', value });
    if (value.paused === before.paused) return;
    const pauses = await readPauses();
    const next = value.paused
      ? [...pauses, { from: Date.now(), to: null }]
      : pauses.map((each) => (each.to === null ? { ...each, to: Date.now() } : each));
    await trail.settings.put({ key: 'pauses', value: next.slice(-200) });
  });
}

const begins = (text: string, list: readonly string[]): boolean =>
  list.some((each) => text.toLowerCase().startsWith(each.toLowerCase()));

/** What of activities may be kept: not what was to be recorded never, nor what happened in a pause. */
export function allowed<T extends Activity>(
  list: readonly T[],
  settings: CaptureSettings,
  pauses: readonly Pause[],
  never: RuleBook = new RuleBook([]),
): T[] {
  const { neverPrograms, neverSites, neverFolders } = settings;
  return list.filter((activity) => {
    if (pauses.some((each) => activity.from >= each.from && activity.from < (each.to ?? Infinity))) return false;
    const subject = subjectOf(activity);
    if (subject.program && begins(subject.program, neverPrograms)) return false;
    if (subject.site && neverSites.some((site) => isAt(subject.site, site))) return false;
    if (subject.file && begins(subject.file, neverFolders)) return false;
    return never.decide(subject, never.caught(subject), () => hereAndThen(activity.from))[0] === null;
  });
}

/** A moment as rules see it, by this computer's clock. */
function hereAndThen(at: number): RuleTime {
  const time = new Date(at);
  return { at, minute: time.getHours() * 60 + time.getMinutes(), weekday: ((time.getDay() + 6) % 7) + 1 };
}

/** A site is meant with all that belongs to it: "news.example" with "www.news.example". */
const isAt = (site: string, never: string): boolean => {
  const wanted = never.toLowerCase().replace(/^www\./, '');
  return site === wanted || site.endsWith(`.${wanted}`);
};

/**
 * Keeps activities of a device, numbered from `first` on; what is kept already stays one.
 *
 * @returns what could not be kept, each in words
 */
export async function keepActivities(
  device: string,
  first: number,
  activities: readonly Activity[],
): Promise<string[]> {
  const [settings, pauses] = [await readSettings(), await readPauses()];
  const refused: string[] = [];
  const numbered = activities.flatMap((each, index): KeptActivity[] => {
    const why = whyUnsound(each);
    if (why === null) return [{ ...each, device, seq: first + index }];
    refused.push(`${(each.title || each.program || each.kind).slice(0, 60)}: ${why}`);
    return [];
  });
  const never = new RuleBook((await trail.rules.toArray()).filter((each) => each.then.act === 'never record'));
  await trail.activities.bulkPut(allowed(numbered, settings, pauses, never));
  return refused;
}

/** A file is known again by its name and its first moment: imported once more it changes nothing, and next month's of the same name is another. */
export const deviceOfFile = (name: string, activities: readonly Activity[]): string =>
  `file-${name} ${activities[0]!.from}`;

/** Removes what was kept with impossible times before such were refused; returns how many there were. */
export const forgetImpossible = (): Promise<number> =>
  trail.activities.filter((activity) => !hasSoundTimes(activity)).delete();

/** Forgets what is older than the person keeps it. */
export async function forgetOld(now: number): Promise<void> {
  const { keepDays } = await readSettings();
  if (keepDays > 0)
    await trail.activities
      .where('from')
      .below(now - keepDays * DAY)
      .delete();
}

/**
 * Wipes the trail: activity, what was learned from it, and switched clocks; rules and settings stay unless all is to go.
 * What is noted in the same step is that its backup goes too.
 */
export async function wipeTrail(all: boolean): Promise<void> {
  await trail.transaction('rw', trail.tables, async () => {
    const tables: Table[] = [trail.activities, trail.placings, trail.switches, trail.openedFor];
    for (const table of all ? [...tables, trail.rules, trail.settings] : tables) await table.clear();
    await outdateBackup();
  });
}

/** Changes as often as anything that a day's stretches are made of does. */
export function useTrailVersion(start: number, end: number): string | undefined {
  const read = async () => {
    const activities = trail.activities.where('from').between(start - DAY, end);
    const [count, last, placings, rules, settings, switches, openedFor] = await Promise.all([
      activities.count(),
      trail.activities
        .where('from')
        .between(start - DAY, end)
        .last(),
      trail.placings.toArray(),
      trail.rules.toArray(),
      trail.settings.toArray(),
      trail.switches.count(),
      trail.openedFor.toArray(),
    ]);
    // Placings are few and small; their contents tell whether anything changed.
    return JSON.stringify([count, last?.seq, last?.to, placings, rules, settings, switches, openedFor]);
  };
  return useLiveQuery(() => trail.transaction('r', trail.tables, read), [start, end]);
}

/**
 * Says that what lies in a backup is to be removed from there; to be called within the transaction that deletes it here. The trail goes on
 * being backed up under another name, by the same passphrase.
 */
export async function outdateBackup(stop = false): Promise<void> {
  const chosen = await chosenBackup();
  if (!chosen) return;
  const waiting = await backupsToRemove();
  await trail.backup.put({ key: 'to remove', ids: [...waiting, chosen.id] });
  if (stop) await trail.backup.delete('chosen');
  else await trail.backup.put({ ...chosen, id: crypto.randomUUID(), last: null });
}

/** How the trail is backed up; undefined where nobody chose that it is. */
export const chosenBackup = async (): Promise<TrailBackup | undefined> =>
  (await trail.backup.get('chosen')) as TrailBackup | undefined;

/** Backups that are to go and may still lie somewhere. */
export async function backupsToRemove(): Promise<string[]> {
  const row = await trail.backup.get('to remove');
  return row && 'ids' in row ? row.ids : [];
}
