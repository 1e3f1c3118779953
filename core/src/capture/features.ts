import { minuteOf, type Zone } from '../time/day';
import type { Leads } from './leads';
import type { Stretch } from './stretch';
import { wordsOf } from './words';
import { documentName, tellingFolder, type Subject } from './subject';

const MOST = 60;
/** A plain mark by which things can be compared, with how much of a stretch it is seen in: from 0 to 1, and 1 where not given. */
export type Feature = string | [mark: string, weight: number];

/** What a feature says, without its weight. */
export const markOf = (feature: Feature): string => (typeof feature === 'string' ? feature : feature[0]);
/** What a feature weighs: 1 where nothing is said. */
export const weightOf = (feature: Feature): number => (typeof feature === 'string' ? 1 : feature[1]);

/** To this power of its share of the time a mark weighs. */
const TELLS = 0.4;
/** What happened at a moment, or beside a call, counts as much as something seen for this share of the time. */
const MOMENT = 0.01;

/**
 * What a stretch looks like: words, people, sites, folders, documents and time of day. Each weighs by
 * its share of the time, so that a glance at a mail never outvotes an hour in a document, and still says something.
 *
 * @param leads what the workspace knows of where things belong
 * @param around what is before and after, see {@link aroundFeature}
 */
export function featuresOf(
  stretch: Stretch,
  zone: Zone,
  leads: Leads | null = null,
  around: readonly Feature[] = [],
): Feature[] {
  const shares = new Map<string, number>();
  for (const { subject, seen } of stretch.evidence) {
    const share = Math.max(MOMENT, seen / Math.max(1, stretch.seen));
    for (const mark of featuresOfSubject(subject, leads)) {
      const known = shares.get(mark);
      if (known !== undefined) shares.set(mark, Math.min(1, known + share));
      else if (shares.size < MOST) shares.set(mark, share);
    }
  }
  const features = [...shares].map(([mark, share]): Feature => weighed(mark, share ** TELLS));
  features.push(`hour ${Math.floor(minuteOf(stretch.spans[0]!.start, zone) / 180)}`);
  return [...features, ...around];
}

/** Half as near as this counts half as much, in milliseconds. */
const NEAR = 10 * 60_000;

/** What is before or after a stretch, which is likely of the same job: the more so the nearer it is and the surer. */
export const aroundFeature = (which: 'before' | 'after', job: string, apart: number, confidence = 1): Feature =>
  weighed(`${which} ${job}`, confidence * 0.5 ** (Math.max(0, apart) / NEAR));

/** To two places: features are kept for every placing. */
function weighed(mark: string, weight: number): Feature {
  const rounded = Math.round(weight * 100) / 100;
  return rounded >= 1 ? mark : [mark, rounded];
}

/** What several stretches look like as one. */
export function joinedFeatures(lists: readonly (readonly Feature[])[], most: number): Feature[] {
  const joined = new Map<string, Feature>();
  for (const feature of lists.flat()) {
    const known = joined.get(markOf(feature));
    if (!known || weightOf(known) < weightOf(feature)) joined.set(markOf(feature), feature);
  }
  return [...joined.values()].slice(0, most);
}

/** What one thing looks like by itself. */
export function featuresOfSubject(subject: Subject, leads: Leads | null = null): string[] {
  const features = leads?.marksOf(subject) ?? [];
  if (subject.file) features.push(`file ${subject.file.toLowerCase()}`);
  const folder = tellingFolder(subject.folder);
  if (folder) features.push(`folder ${folder.toLowerCase()}`);
  if (subject.site) features.push(`site ${subject.site}`);
  for (const person of subject.people) features.push(`person ${leads?.personOf(person) ?? person}`);
  if (subject.program) features.push(`program ${subject.program.toLowerCase()}`);
  const said = subject.file ? documentName(subject.file) : subject.thread || subject.title;
  const ofProgram = new Set(wordsOf(subject.program));
  for (const word of wordsOf(said)) if (!ofProgram.has(word)) features.push(`word ${word}`);
  return features;
}

/** A feature in words, as a reason: "the word “lux”". */
export function sayFeature(feature: string): string {
  const space = feature.indexOf(' ');
  const value = feature.slice(space + 1);
  switch (feature.slice(0, space)) {
    case 'file':
      return `the document ${value.slice(value.lastIndexOf('/') + 1)}`;
    case 'folder':
      return `files under ${value.slice(value.lastIndexOf('/') + 1)}`;
    case 'site':
      return `pages of ${value}`;
    case 'person':
      return value;
    case 'program':
      return `done in ${value}`;
    case 'word':
      return `the word “${value}”`;
    case 'hour':
      return 'this time of day';
    default:
      return 'it follows what was placed there';
  }
}
