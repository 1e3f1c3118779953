import {
  hasSoundTimes,
  jobKeyOf,
  mayNameFile,
  NamedFiles,
  outcomeOf,
  TrailArrays,
  type DocumentFamily,
  type KeptActivity,
  type Outcome,
  type Stretch,
} from '@half-penny/core/capture';
import type { Interval } from '@half-penny/core/time';
import { trail } from '../data/trail';

/** A document with where most of its time was placed; null where none was. */
export interface PlacedDocument extends DocumentFamily {
  placed: Outcome | null;
}

/** A window's title that may mean several files. */
export interface UnclearTitle {
  title: string;
  files: string[];
  /** The one that the person said. */
  chosen: string | null;
  seen: number;
}

const DAY_MS = 86_400_000;

/** What was kept with impossible times before they were refused never keeps a day from being shown. */
async function activitiesOf(bounds: Interval): Promise<KeptActivity[]> {
  const near = trail.activities.where('from').between(bounds.start - DAY_MS, bounds.end);
  return (await near.toArray()).filter((row) => hasSoundTimes(row));
}

/** Titles that may mean several files, with the time they were in front. */
export type Unclear = Map<string, UnclearTitle>;

/** Activities as columns; a window that names the one file it can mean, or that the person said, is of that file. */
export async function columnsOf(bounds: Interval, unclear: Unclear = new Map()): Promise<TrailArrays> {
  const [rows, said] = [await activitiesOf(bounds), await trail.meant.toArray()];
  const meant = new Map(said.map(({ title, file }) => [title, file]));
  const files = new NamedFiles(rows.flatMap(({ file }) => file ?? []));
  const columns = new TrailArrays();
  for (const row of rows) {
    const fits = mayNameFile(row) ? files.of(row.title!) : [];
    const chosen = fits.length > 1 ? meant.get(row.title!) : fits[0];
    if (fits.length > 1) {
      const each = unclear.get(row.title!) ?? { title: row.title!, files: [...fits], chosen: chosen ?? null, seen: 0 };
      unclear.set(row.title!, each);
      each.seen += Math.max(0, Math.min(row.to, bounds.end) - Math.max(row.from, bounds.start));
    }
    columns.add(chosen === undefined ? row : { ...row, file: chosen });
  }
  return columns;
}

/** By file, and there by job, how long it was seen in what was placed; what is private tells of nothing. */
export function placesOfFiles(stretches: readonly Stretch[]): Map<string, Map<string, number>> {
  const places = new Map<string, Map<string, number>>();
  for (const { outcome, evidence } of stretches) {
    if (outcome?.act !== 'place') continue;
    const job = jobKeyOf(outcome);
    for (const { subject, seen } of evidence) {
      if (!subject.file) continue;
      const of = places.get(subject.file) ?? new Map<string, number>();
      places.set(subject.file, of.set(job, (of.get(job) ?? 0) + Math.max(1, seen)));
    }
  }
  return places;
}

/** Where most of a document's time was placed; null where none was. */
export function placeOf(
  { files }: DocumentFamily,
  places: ReadonlyMap<string, ReadonlyMap<string, number>>,
): Outcome | null {
  const sums = new Map<string, number>();
  for (const { file } of files)
    for (const [job, seen] of places.get(file) ?? []) sums.set(job, (sums.get(job) ?? 0) + seen);
  const [most] = [...sums].sort((a, b) => b[1] - a[1]);
  return most ? outcomeOf(most[0]) : null;
}
