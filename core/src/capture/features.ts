import { minuteOf, type Zone } from '../time/day';
import type { Stretch } from './stretch';
import { documentName, tellingFolder, type Subject } from './subject';

const MOST = 60;
const LONGEST_WORD = 30;
/** Words of titles that say nothing about what is worked on: of a page, of a version, of a program. */
const QUIET = new Set([
  'the', 'and', 'for', 'with', 'from', 'new', 'untitled', 'page', 'inbox', 'search', 'home', 'about', 'your', 'you',
  'are', 'not', 'http', 'https', 'www', 'com', 'document', 'copy', 'final', 'draft', 'rev', 'version', 'file', 'edit',
  'view', 'of', 'in', 'on', 'at', 'to', 'by', 'or', 'an', 'is', 'it', 'no', 're', 'fw', 'aw',
]); // prettier-ignore

const segmenter = new Intl.Segmenter('und', { granularity: 'word' });
/** Letters of scripts that are written with spaces between words, and figures: most titles are made of these. */
const SPACED = /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{N}\p{P}\p{S}\p{Z}]*$/u;
const RUN = /[\p{L}\p{M}\p{N}]+/gu;
/** "v3", "r12": one version of many; "2": one of a few that there are of anything. */
const COUNTED = /^(?:[vr]?\d{1,2}|[vr]\d+)$/;
/** "OTC-22": a job number is one word, whatever its parts are. */
const NUMBERED = /\p{L}+-\p{N}+/gu;

/**
 * The words of a text that can tell what it is about, in small letters and composed (NFC): words of every script, job numbers and other
 * figures of three digits and more.
 */
export function wordsOf(text: string): string[] {
  const whole = text.normalize('NFC').toLowerCase();
  const runs = SPACED.test(whole)
    ? (whole.match(RUN) ?? [])
    : [...segmenter.segment(whole)].flatMap(({ segment, isWordLike }) => (isWordLike ? [segment] : []));
  return [...runs.filter((word) => isTelling(word)), ...(whole.match(NUMBERED) ?? [])];
}

function isTelling(word: string): boolean {
  if (word.length > LONGEST_WORD || QUIET.has(word) || COUNTED.test(word)) return false;
  // A single letter of an alphabet tells nothing; a single sign of other scripts may be a word.
  return word.length > 1 || !SPACED.test(word);
}

/** A plain mark by which things can be compared, with how much of a stretch it is seen in: from 0 to 1, and 1 where not given. */
export type Feature = string | [mark: string, weight: number];

export const markOf = (feature: Feature): string => (typeof feature === 'string' ? feature : feature[0]);
export const weightOf = (feature: Feature): number => (typeof feature === 'string' ? 1 : feature[1]);

/** To this power of its share of the time a mark weighs. */
const TELLS = 0.4;
/** What happened at a moment, or beside a call, counts as much as something seen for this share of the time. */
const MOMENT = 0.01;

/**
 * What a stretch looks like: words, people, sites, folders, documents and time of day. Each weighs by
 * its share of the time, so that a glance at a mail never outvotes an hour in a document, and still says something.
 *
 * @param around what is before and after, see {@link aroundFeature}
 */
export function featuresOf(stretch: Stretch, zone: Zone, around: readonly Feature[] = []): Feature[] {
  const shares = new Map<string, number>();
  for (const { subject, seen } of stretch.evidence) {
    const share = Math.max(MOMENT, seen / Math.max(1, stretch.seen));
    for (const mark of featuresOfSubject(subject)) {
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
export function featuresOfSubject(subject: Subject): string[] {
  const features: string[] = [];
  if (subject.file) features.push(`file ${subject.file.toLowerCase()}`);
  const folder = tellingFolder(subject.folder);
  if (folder) features.push(`folder ${folder.toLowerCase()}`);
  if (subject.site) features.push(`site ${subject.site}`);
  for (const person of subject.people) features.push(`person ${person}`);
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
