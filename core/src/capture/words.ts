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
