/** Signs that turn the order of what follows them (Unicode Standard Annex 9, 2.1–2.4: embeddings, overrides, isolates). */
const TURNING = /[\u202a-\u202e\u2066-\u2069]/g;

/** The narrow space between thousands, which our faces do not have, and the space that no line breaks at either. */
const NARROW = '\u202f';
const BROAD = '\u00a0';

/**
 * A document's texts without the signs that turn the order of letters: on paper nobody sees where such a sign stands, and an amount beside a
 * note would read backwards. Scripts that are written from the right keep their order by themselves.
 */
export function inOrder<T>(value: T): T {
  if (typeof value === 'string') return value.replace(TURNING, '').replaceAll(NARROW, BROAD) as T;
  if (Array.isArray(value)) return value.map((each: unknown) => inOrder(each)) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, inOrder(each as unknown)])) as T;
}
