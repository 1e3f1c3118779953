import type { Chance } from './chance';

const encoder = new TextEncoder();

/** What readers of any format stumble over. */
const anywhere = [
  ...[
    '',
    '"',
    "'",
    '\0',
    '\r',
    '\n',
    '\r\n',
    '\u2028',
    '\ufeff',
    '\u202e',
    ';',
    ',',
    '\t',
    ':',
    '=',
    '{',
    '[',
    '<',
    '&',
    '\\',
  ],
  ...['0', '-1', '1e309', '-0', 'NaN', '99999999999999999999', '0.00000000001', '2147483648', '1.7976931348623157e308'],
  ...[
    '__proto__',
    'constructor',
    'toString',
    'null',
    'undefined',
    'true',
    '=1+1',
    '@SUM(A1)',
    '1970-01-01',
    '9999-12-31',
  ],
  ...['\ud800', '𝟙', '١٢', 'ß', 'İ', '‎', 'a'.repeat(300)],
].map((text) => encoder.encode(text));

const join = (...parts: readonly Uint8Array[]): Uint8Array => {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
};

/** Nothing grows beyond this; floods are tests of their own. */
const LARGEST = 1 << 20;

type Mutation = (bytes: Uint8Array, chance: Chance, words: readonly Uint8Array[], other: Uint8Array) => Uint8Array;

const stretch = (bytes: Uint8Array, chance: Chance): [number, number] => {
  const from = chance.below(bytes.length + 1);
  return [from, Math.min(bytes.length, from + chance.below(chance.one([2, 8, 64, bytes.length + 1])))];
};

const mutations: readonly Mutation[] = [
  // A bit, or a byte, of what is there.
  (bytes, chance) => {
    const changed = bytes.slice();
    if (changed.length > 0) changed[chance.below(changed.length)]! ^= 1 << chance.below(8);
    return changed;
  },
  (bytes, chance) => {
    const changed = bytes.slice();
    if (changed.length > 0) changed[chance.below(changed.length)] = chance.below(256);
    return changed;
  },
  // Cut out, cut off, said twice, said over and over.
  (bytes, chance) => {
    const [from, to] = stretch(bytes, chance);
    return join(bytes.subarray(0, from), bytes.subarray(to));
  },
  (bytes, chance) => bytes.slice(0, chance.below(bytes.length + 1)),
  (bytes, chance) => {
    const [from, to] = stretch(bytes, chance);
    return join(bytes.subarray(0, to), bytes.subarray(from));
  },
  (bytes, chance) => {
    const [from, to] = stretch(bytes, chance);
    const times = Math.min(chance.one([3, 30, 3000]), Math.floor(LARGEST / 4 / Math.max(1, to - from)));
    return join(
      bytes.subarray(0, from),
      ...Array.from({ length: times }, () => bytes.subarray(from, to)),
      bytes.subarray(from),
    );
  },
  // Something put in, or put in the place of a word or a number.
  (bytes, chance, words) => {
    const at = chance.below(bytes.length + 1);
    return join(bytes.subarray(0, at), chance.one(chance.oneIn(2) ? words : anywhere), bytes.subarray(at));
  },
  (bytes, chance, words) => {
    const text = new TextDecoder('latin1').decode(bytes);
    const found = [...text.matchAll(chance.oneIn(2) ? /[\d.:-]+/g : /[A-Za-z]+/g)];
    if (found.length === 0) return bytes;
    const { index, 0: word } = chance.one(found);
    return join(
      bytes.subarray(0, index),
      chance.one(chance.oneIn(2) ? words : anywhere),
      bytes.subarray(index + word.length),
    );
  },
  // Lines in another order, and one file going on as another.
  (bytes, chance) => {
    const lines = new TextDecoder('latin1').decode(bytes).split('\n');
    const [one, two] = [chance.below(lines.length), chance.below(lines.length)];
    [lines[one], lines[two]] = [lines[two]!, lines[one]!];
    return Uint8Array.from(lines.join('\n'), (sign) => sign.charCodeAt(0));
  },
  (bytes, chance, _words, other) =>
    join(bytes.subarray(0, chance.below(bytes.length + 1)), other.subarray(chance.below(other.length + 1))),
];

/** A file changed in one to six ways; the same for the same chance. */
export function mutate(corpus: readonly Uint8Array[], words: readonly string[], chance: Chance): Uint8Array {
  const tokens = [...words].map((word) => encoder.encode(word));
  let bytes = chance.one(corpus);
  const times = 1 + chance.below(6);
  for (let done = 0; done < times; done++) {
    const changed = chance.one(mutations)(bytes, chance, tokens, chance.one(corpus));
    bytes = changed.length > LARGEST ? changed.slice(0, LARGEST) : changed;
  }
  return bytes;
}
