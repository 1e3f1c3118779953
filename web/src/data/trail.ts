import {
  captureDefaults,
  captureSettingsSchema,
  hasSoundTimes,
  Recording,
  recordingOf,
  whyUnsound,
  type Activity,
  type CaptureSettings,
  type Heard,
  type KeptActivity,
  type PlacingRule,
  type RecordingSettings,
} from '@half-penny/core/capture';
import type { LineKeys } from '@half-penny/formats/sealed-lines';
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

/** Devices that were heard, the last heard first; undefined while they are being read. */
export const useDevices = (): Heard[] | undefined =>
  useLiveQuery(async () => (await trail.devices.toArray()).sort((a, b) => b.heard - a.heard), []);

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
      throw new Fault('invalid', issue!.message, issue!.path.join('.'));
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

const inPause = (activity: Activity, pauses: readonly Pause[]): boolean =>
  pauses.some((each) => activity.from >= each.from && activity.from < (each.to ?? Infinity));

/** What devices and this browser may record. */
export async function readRecording(): Promise<RecordingSettings> {
  const [settings, rules, wiped] = [await readSettings(), await trail.rules.toArray(), await trail.own.get('wiped')];
  return recordingOf(settings, wiped && 'at' in wiped ? wiped.at : 0, rules);
}

/** Only who hears devices needs it. */
const sealedLines = () => import('@half-penny/formats/sealed-lines');

/** The keys that open what devices seal for this browser; made when they are first asked for. */
export async function lineKeys(): Promise<LineKeys> {
  const found = async () => {
    const row = await trail.own.get('line keys');
    return row && 'keys' in row ? row.keys : null;
  };
  const before = await found();
  if (before) return before;
  const { makeLineKeys } = await sealedLines();
  const made = await makeLineKeys();
  // Another tab may have been sooner.
  return trail.transaction('rw', trail.own, async () => {
    const meanwhile = await found();
    if (!meanwhile) await trail.own.put({ key: 'line keys', keys: made });
    return meanwhile ?? made;
  });
}

/** What comes from a file was chosen by the person, and the made-up week is nobody's: both may be of before a wiping. */
const isChosen = (device: string): boolean => device.startsWith(FILE) || device.startsWith('made-up-');
const FILE = 'file-';

/**
 * Keeps activities of a device, numbered from `first` on. What is kept already stays one, under whatever name it comes again.
 *
 * @param activities those that are texts were sealed for this browser
 * @returns what could not be kept, each in words
 */
export async function keepActivities(
  device: string,
  first: number,
  activities: readonly (Activity | string)[],
): Promise<string[]> {
  const [settings, pauses] = [await readRecording(), await readPauses()];
  const recording = new Recording({ ...settings, paused: false });
  const refused: string[] = [];
  const allowed: KeptActivity[] = [];
  const opened = await openAll(activities);
  for (const [index, each] of opened.entries()) {
    if (each === null) continue;
    const why = whyUnsound(each);
    if (why !== null) {
      refused.push(`${(each.title || each.program || each.kind).slice(0, 60)}: ${why}`);
      continue;
    }
    const kept = isChosen(device) ? recording.whateverTime(each) : recording.of(each);
    if (kept && !inPause(kept, pauses)) allowed.push({ ...kept, device, seq: first + index });
  }
  const closed = opened.filter((each) => each === null).length;
  if (closed > 0) refused.push(`${closed} of ${device} were sealed for another browser and cannot be read here.`);
  await trail.activities.bulkPut(await notKept(allowed));
  return refused;
}

/** Activities as they are, and out of their seals; null where one does not open or holds none. */
async function openAll(activities: readonly (Activity | string)[]): Promise<(Activity | null)[]> {
  if (!activities.some((each) => typeof each === 'string')) return activities as Activity[];
  const [keys, { openLine }] = [await lineKeys(), await sealedLines()];
  return Promise.all(
    activities.map(async (each) => {
      if (typeof each !== 'string') return each;
      try {
        return JSON.parse((await openLine(keys, each)) ?? 'null') as Activity | null;
      } catch {
        return null;
      }
    }),
  );
}

/** Those that are not kept under another name or number: the same fact, noticed twice. */
async function notKept(activities: readonly KeptActivity[]): Promise<KeptActivity[]> {
  if (activities.length === 0) return [];
  let [least, most] = [Infinity, -Infinity];
  for (const { from } of activities) [least, most] = [Math.min(least, from), Math.max(most, from)];
  const kept = new Map<string, string>();
  await trail.activities
    .where('from')
    .between(least, most, true, true)
    .each((each) => void kept.set(factOf(each), nameOf(each)));
  return activities.filter((each) => {
    const [fact, name] = [factOf(each), nameOf(each)];
    const before = kept.get(fact);
    if (before === undefined) kept.set(fact, name);
    return before === undefined || before === name;
  });
}

const nameOf = ({ device, seq }: KeptActivity): string => `${device} ${seq}`;
const factOf = ({ kind, from, to, program, title, address, file, people }: Activity): string =>
  JSON.stringify([kind, from, to, program, title, address, file, people]);

/** A file is known again by its name and its first moment: imported once more it changes nothing, and next month's of the same name is another. */
export const deviceOfFile = (name: string, activities: readonly Activity[]): string =>
  `${FILE}${name} ${activities[0]!.from}`;

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
 * What is noted in the same step is that its backup goes too, and that what devices still hold of it is thrown away.
 */
export async function wipeTrail(all: boolean): Promise<void> {
  await trail.transaction('rw', trail.tables, async () => {
    const tables: Table[] = [trail.activities, trail.placings, trail.switches, trail.openedFor, trail.meant];
    const { paused } = await readSettings();
    const pauses = await readPauses();
    for (const table of all ? [...tables, trail.rules, trail.settings] : tables) await table.clear();
    // A pause is no setting that one is rid of by the way: it goes on.
    if (all && paused) {
      await trail.settings.put({ key: 'capture', value: { ...captureDefaults, paused } });
      await trail.settings.put({ key: 'pauses', value: pauses });
    }
    // What devices still hold of the time before is not taken in any more.
    await trail.own.put({ key: 'wiped', at: Date.now() });
    await outdateBackup();
  });
}

/** Changes as often as anything that a day's stretches are made of does. */
export function useTrailVersion(start: number, end: number): string | undefined {
  const read = async () => {
    const activities = trail.activities.where('from').between(start - DAY, end);
    const [count, last, placings, rules, settings, switches, openedFor, meant] = await Promise.all([
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
      trail.meant.toArray(),
    ]);
    // Placings are few and small; their contents tell whether anything changed.
    return JSON.stringify([count, last?.seq, last?.to, placings, rules, settings, switches, openedFor, meant]);
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
