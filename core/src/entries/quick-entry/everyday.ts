import { isCommon } from './common-words';

// Words that people write about any work. Alone, none of them says which job is meant.

const linking = new Set(
  'a an and at by for from in into my of off on onto or our out s some that the their these this those to up with your'.split(
    ' ',
  ),
);
const SHORTEST = 4;

/** Whether a word, in small letters, says nothing by itself about which job is meant: common in any work, or very short. */
export const isEveryday = (word: string): boolean => word.length < SHORTEST || isCommon(word);

/** Articles and the like: they neither name nor tell apart. */
export const isLinking = (word: string): boolean => linking.has(word);
