// Apart from the rules that they are checked by, which showing them does without.

/** Whether two tags are one word, whatever their capitals. */
export const sameWord = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

export interface Tagged {
  tags?: readonly string[] | undefined;
}

/** The tags of a row; none where it has no such field. */
export const tagsOf = (row: Tagged): readonly string[] => row.tags ?? [];

/** Tags as they stand in a line, and as they are typed: with commas between. */
export const showTags = (list: readonly string[]): string => list.join(', ');

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Several lists of tags as one, in order of the alphabet; of words that differ only by capitals the first stays. */
export function joinTags(...lists: readonly (readonly string[])[]): string[] {
  const byWord = new Map<string, string>();
  for (const each of lists.flat()) if (!byWord.has(each.toLowerCase())) byWord.set(each.toLowerCase(), each);
  return [...byWord.values()].sort(collator.compare);
}

/** Tags without some of them, whatever their capitals. */
export const withoutTags = (list: readonly string[], gone: readonly string[]): string[] =>
  list.filter((each) => !gone.some((other) => sameWord(each, other)));
