import type { MemberKey, ServiceKey } from './basics';

/** Enquiries that hours went to before anybody set them up: Imogen's and Teodor's, days ago. */
export const enquiries: readonly { words: string; member: MemberKey; daysAgo: number; hours: number; note: string }[] =
  [
    {
      words: 'Lantern Lane arches',
      member: 'imogen',
      daysAgo: 8,
      hours: 1.5,
      note: 'Site walk with the town architect',
    },
    { words: 'Lantern Lane arches', member: 'teodor', daysAgo: 6, hours: 2, note: 'First sketch of the arches' },
    { words: 'EN-14 chapel roof', member: 'imogen', daysAgo: 3, hours: 0.75, note: 'Call about the chapel roof' },
  ];

/** Time meant for the days around today. */
export const plans: readonly {
  member: MemberKey;
  project: string;
  service: ServiceKey;
  inDays: number;
  hours: number;
  note: string;
  at?: number;
}[] = [
  {
    member: 'imogen',
    project: 'Museum gallery 3',
    service: 'site',
    inDays: 0,
    hours: 1.5,
    note: 'Lux readings, gallery 3',
    at: 16,
  },
  {
    member: 'imogen',
    project: 'Winter season rig',
    service: 'design',
    inDays: 1,
    hours: 4,
    note: 'Plot sheets 5 and 6',
  },
  {
    member: 'imogen',
    project: 'Spring double bill',
    service: 'meeting',
    inDays: 1,
    hours: 1,
    note: 'Notes with the director',
    at: 10,
  },
  {
    member: 'imogen',
    project: 'Footbridge lighting',
    service: 'plans',
    inDays: 4,
    hours: 3,
    note: 'Section at the abutment',
  },
  {
    member: 'teodor',
    project: 'Winter season rig',
    service: 'plans',
    inDays: 1,
    hours: 6,
    note: 'Rig plan, stage left',
  },
  {
    member: 'asha',
    project: 'Spring double bill',
    service: 'programming',
    inDays: 1,
    hours: 6,
    note: 'Cue list, act two',
  },
];

/** Days on which less is owed, counted from today. */
export const absences: readonly {
  member: MemberKey | null;
  name: string;
  inDays: number;
  days: number;
  hours: number | null;
}[] = [
  { member: null, name: 'Harbour day', inDays: -24, days: 1, hours: null },
  { member: 'asha', name: 'Away', inDays: 12, days: 5, hours: null },
  { member: 'teodor', name: 'Dentist', inDays: -9, days: 1, hours: 2 },
];

/** Words that tell by a note how the studio tags such work. */
const telling: readonly (readonly [RegExp, string])[] = [
  [/\brev [A-Z]\b|\bdraft two\b/, 'revision'],
  [/\b(?:site|focus|ladders|rig check|mock-up)\b/i, 'on site'],
  [/\bextra\b|\badded\b/i, 'extra'],
  [/\bcall\b/i, 'on the telephone'],
];

/** What the studio tags an entry with, by its note. */
export const tagsOfNote = (note: string): string[] =>
  telling.flatMap(([words, tag]) => (words.test(note) ? [tag] : [])).sort();

/** Part of this month's time that clients will not be asked for. */
export const writtenDown: readonly { client: string; minutes: number; reason: string }[] = [
  { client: 'quayside', minutes: 15, reason: 'Put right what was drawn wrong' },
  { client: 'quayside', minutes: 10, reason: 'Waited for the ladders' },
  { client: 'clairval', minutes: 12, reason: 'Put right what was drawn wrong' },
];
