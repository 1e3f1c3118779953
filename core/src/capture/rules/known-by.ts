import type { Condition } from './rule';

/** By what a project is known wherever it is met: words in titles and documents, and whole sites. */
export interface KnownBy {
  words: readonly string[];
  sites: readonly string[];
}

/** The fields that a word is looked for in; a document is called by its file or as a title calls it. */
const WORDED = ['title', 'file', 'people'] as const;

/** The rule's condition; null where nothing is said. */
export function conditionOfKnown({ words, sites }: KnownBy): Condition | null {
  const any: Condition[] = [
    ...words.flatMap((text) => WORDED.map((field): Condition => ({ field, verb: 'has', text }))),
    ...sites.map((text): Condition => ({ field: 'site', verb: 'is', text })),
  ];
  return any.length === 0 ? null : { any };
}

/** What such a condition says; null where it says more, as one that was written by hand may. */
export function knownOfCondition(when: Condition): KnownBy | null {
  if (!('any' in when)) return null;
  const words = new Set<string>();
  const sites: string[] = [];
  for (const each of when.any) {
    if (!('verb' in each)) return null;
    if (each.field === 'site' && each.verb === 'is') sites.push(each.text);
    else if (each.verb === 'has' && (WORDED as readonly string[]).includes(each.field)) words.add(each.text);
    else return null;
  }
  const known = { words: [...words], sites };
  // One that lacks a field of a word, or stands in another order, was changed by hand.
  return JSON.stringify(conditionOfKnown(known)) === JSON.stringify(when) ? known : null;
}
