import { readSentence, type PlacingRule } from '../capture';

/** A placing rule as it is written, which does not post by itself. */
export const placingRule = (sentence: string, then: PlacingRule['then']): PlacingRule => ({
  id: sentence,
  order: 1,
  when: readSentence(sentence),
  then,
  since: 0,
  posts: false,
  on: true,
});
