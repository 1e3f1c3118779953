import { minuteOf, type Zone } from '../time/day';
import type { Stretch } from './stretch';
import { documentName, tellingFolder, type Subject } from './subject';

const MOST = 60;
const SHORTEST_WORD = 3;
/** Words of titles that say nothing about what is worked on. */
const QUIET = new Set([
  'the', 'and', 'for', 'with', 'from', 'new', 'untitled', 'page', 'inbox', 'search', 'home', 'about', 'your', 'you',
  'are', 'not', 'http', 'https', 'www', 'com', 'document', 'copy', 'final', 'draft', 'rev', 'file', 'edit', 'view',
]); // prettier-ignore

export const wordsOf = (text: string): string[] =>
  (text.toLowerCase().match(/[\p{L}][\p{L}\p{N}]+/gu) ?? []).filter(
    (word) => word.length >= SHORTEST_WORD && word.length <= 30 && !QUIET.has(word),
  );

/**
 * What a stretch looks like, as plain marks that can be compared: words, people, sites, folders, documents, time of day, and what was
 * placed just before it.
 */
export function featuresOf(stretch: Stretch, zone: Zone, before: string | null = null): string[] {
  const features = new Set<string>();
  for (const { subject } of stretch.evidence) {
    if (features.size >= MOST) break;
    for (const feature of featuresOfSubject(subject)) features.add(feature);
  }
  features.add(`hour ${Math.floor(minuteOf(stretch.spans[0]!.start, zone) / 180)}`);
  if (before !== null) features.add(`before ${before}`);
  return [...features];
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
  for (const word of wordsOf(said)) features.push(`word ${word}`);
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
