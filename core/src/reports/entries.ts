import { showDayShort } from '../time/day';
import type { FactTable } from './column-store/fact-table';
import { fields, wordOf, type FieldName } from './fields';
import type { Dictionaries } from './dictionaries';

// Single entries, costs and amounts as groups: what they are called and where they stand is known by their facts alone.

const rowOf = (words: Dictionaries, table: FactTable, source: string): number | undefined => {
  const code = words.of('source').find(source);
  return code > 0 ? table.rowsOf(code).at(-1) : undefined;
};

/** "12 Nov 2026 · Plot sheet 4"; what it is of where it says nothing. */
export function sayEntry(words: Dictionaries, table: FactTable, source: string): string {
  const row = rowOf(words, table, source);
  if (row === undefined) return fields.entry.none;
  const shown = (name: FieldName) => {
    const { dimension, key, show } = fields[name];
    const own = key(words, wordOf(words, dimension, table.code(dimension, row)));
    return own === '' ? '' : show(words, own);
  };
  // What the trail noticed is one source, of many days.
  if (wordOf(words, 'what', table.code('what', row)) === 'trail') return shown('what');
  const day = wordOf(words, 'day', table.code('day', row));
  const says = shown('note').split('\n')[0] || [shown('what'), shown('member')].filter(Boolean).join(', ');
  return [day && showDayShort(day), says].filter(Boolean).join(' · ');
}

/** Puts single entries in the order of their days. */
export function placeEntries(
  level: { keys: readonly string[]; ranks: Int32Array },
  words: Dictionaries,
  table: FactTable,
): void {
  const days = level.keys.map((key) => {
    const row = key === '' ? undefined : rowOf(words, table, key);
    return row === undefined ? Infinity : table.code('day', row);
  });
  const order = level.keys.map((_, code) => code).sort((a, b) => (days[a] === days[b] ? a - b : days[a]! - days[b]!));
  order.forEach((code, place) => (level.ranks[code] = place));
}
