import * as z from 'zod';
import { Fault } from '../faults/fault';
import { joinTags, sameWord } from './tags';

/** The longest a tag may be. */
const LONGEST_TAG = 60;
/** Tags of one record at most. */
const MOST_TAGS = 20;

const tag = z
  .string()
  .min(1, 'A tag is a word or a few.')
  .max(LONGEST_TAG, `A tag has at most ${LONGEST_TAG} characters.`)
  .refine((value) => value === value.trim() && !/[,\n\r]/.test(value), {
    error: ({ input }) => `“${String(input)}” is not one tag: commas stand between tags.`,
  });

/** Free words on a record. A record that has never had any has no such field. */
export const tags = z
  .array(tag)
  .max(MOST_TAGS, `A record has at most ${MOST_TAGS} tags.`)
  .refine((list) => list.every((each, index) => list.findIndex((other) => sameWord(each, other)) === index), {
    message: 'A tag is given only once.',
  })
  .optional();

/**
 * Reads tags from what was typed, with commas or new lines between. A sign in front, as in "#urgent", is taken off.
 *
 * @throws Fault for a tag that is too long, or for too many
 */
export function readTags(text: string): string[] {
  const list = joinTags(
    text
      .split(/[,;\n]/)
      .map((each) => each.trim().replace(/^#+/, '').trim().replace(/\s+/g, ' '))
      .filter(Boolean),
  );
  const parsed = tags.safeParse(list);
  if (!parsed.success) throw new Fault('not-a-tag', parsed.error.issues[0]!.message, 'tags', { tags: list });
  return list;
}
