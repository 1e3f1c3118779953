/**
 * JSON with keys in code-unit order at every depth: the same content is always the same text, whatever order it was built in.
 * Fields that are undefined are left out, as in JSON.
 */
export function canonical(value: unknown): string {
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (Array.isArray(value)) {
    let text = '[';
    for (let i = 0; i < value.length; i++) text += (i === 0 ? '' : ',') + canonical(value[i]);
    return `${text}]`;
  }
  const record = value as Record<string, unknown>;
  let text = '';
  for (const [key, label] of sortedKeys(record)) {
    const field = record[key];
    if (field !== undefined) text += (text === '' ? '{' : ',') + label + canonical(field);
  }
  return text === '' ? '{}' : `${text}}`;
}

type Keys = readonly (readonly [key: string, label: string])[];

// Records of one kind mostly have their keys in one order, so sorting and quoting them is done once for each.
const keysByShape = new Map<string, { names: readonly string[]; keys: Keys }>();
const MOST_SHAPES = 2000;

function sortedKeys(record: object): Keys {
  const names = Object.keys(record);
  const shape = names.join();
  const known = keysByShape.get(shape);
  // A comma within a key could make two lists look alike.
  if (known && known.names.length === names.length && known.names.every((name, index) => name === names[index])) {
    return known.keys;
  }
  const keys = names.toSorted().map((key) => [key, `${JSON.stringify(key)}:`] as const);
  if (!known && keysByShape.size < MOST_SHAPES) keysByShape.set(shape, { names, keys });
  return keys;
}

/** Whether two pieces of plain data hold the same. */
export function sameData(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return false;
  return canonical(a) === canonical(b);
}
