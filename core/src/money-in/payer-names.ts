/** Forms of firms, which banks cut off and people leave out. */
const FORMS = new Set(
  'ltd limited plc llp llc inc corp co company sarl sas sa eurl gmbh ag kg ug mbh bv nv srl spa sl ab oy as the and et und y e'.split(
    ' ',
  ),
);

/** The words of a name as banks write it: without accents, signs and forms of firms. */
export function nameWords(name: string): string[] {
  const words = name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  const telling = words.filter((word) => !FORMS.has(word));
  return telling.length > 0 ? telling : words;
}

/** The shortest word that says something by itself. */
const LONG = 5;
/** The shortest beginning of a word that says something by itself. */
const CUT = 4;

/**
 * Whether a payer may be the one of a name. Banks cut long names off: every word of the shorter one stands in the longer, the last perhaps
 * cut short; one word alone has to be long.
 *
 * @example namesAgree('QUAYSIDE PLAYHOU', 'Quayside Playhouse Ltd') // → true
 */
export function namesAgree(payer: string, name: string): boolean {
  const [few, many] = [nameWords(payer), nameWords(name)].sort((a, b) => a.length - b.length) as [string[], string[]];
  if (few.length === 0) return false;
  if (few.length === 1 && few[0]!.length < LONG) return few[0] === many.join(' ');
  const last = few.length - 1;
  const cut = (word: string) =>
    // A last letter alone says something only after words that do.
    (word.length >= CUT || few.slice(0, last).some((each) => each.length >= LONG)) &&
    many.some((other) => other.startsWith(word) || (other.length >= CUT && word.startsWith(other)));
  return few.every((word, index) => many.includes(word) || (index === last && cut(word)));
}
