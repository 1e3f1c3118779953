import { GroupIndex } from './group-index';
import type { Dimension, BaseMeasure } from './dimensions';
import { CHUNK, type Chunk, type FactTable } from './fact-table';

/** One thing that is grouped by: of each code of a dimension its own code, from 0. */
export interface Level {
  dimension: Dimension;
  /** Beyond its end, and where it is null, codes stand for themselves. */
  map: Int32Array | null;
  /** Its own codes are below this. */
  size: number;
}

/** Facts that pass: those whose code of a dimension is marked with 1. */
export interface FilterMask {
  dimension: Dimension;
  passes: Uint8Array;
}

/**
 * Facts grouped by levels, with the sums of some measures. Whole chunks are worked column by column: which rows pass, which group each
 * falls in, and what is added to it. A fact can be taken off again, so that an open report follows a change without being made again.
 */
export class Aggregator {
  readonly levels: readonly Level[];
  readonly filters: readonly FilterMask[];
  readonly measures: readonly BaseMeasure[];
  /** Levels in stages, each of as many as can be told apart by one key; the groups of one are the first digit of the next one's keys. */
  readonly #stages: readonly { levels: readonly Level[]; groups: GroupIndex }[];
  /** Facts in each group. */
  facts = new Int32Array(1024);
  /** Of each measure, its sum in each group. */
  readonly sums: Float64Array[];
  readonly #rows = new Int32Array(CHUNK);
  readonly #keys: Float64Array;
  readonly #groupOf = new Int32Array(CHUNK);

  constructor(levels: readonly Level[], filters: readonly FilterMask[], measures: readonly BaseMeasure[]) {
    this.levels = levels;
    this.filters = filters;
    this.measures = measures;
    this.#stages = stagesOf(levels).map((stage) => ({ levels: stage.levels, groups: new GroupIndex(stage.size) }));
    this.sums = measures.map(() => new Float64Array(1024));
    this.#keys = new Float64Array(this.#stages.every(({ groups }) => groups.dense) ? 0 : CHUNK);
  }

  /** How many groups were met so far; those that nothing is in any more are among them. */
  get count(): number {
    return this.#stages.at(-1)!.groups.count;
  }

  /** Adds all facts of a table; with a pause after each chunk. */
  *addAll(table: FactTable): Generator<number, void> {
    for (let at = 0; at < table.chunks.length; at++) {
      const chunk = table.chunks[at]!;
      this.#add(chunk, this.#passing(chunk), 1);
      yield (at + 1) / table.chunks.length;
    }
  }

  /** Adds some rows, or takes them off. */
  addRows(table: FactTable, rows: readonly number[], sign: 1 | -1): void {
    for (const row of rows) {
      const chunk = table.chunks[row >>> 16]!;
      const at = row & 0xffff;
      if (!this.filters.every(({ dimension, passes }) => passes[chunk.codes[dimension]?.[at] ?? 0])) continue;
      this.#rows[0] = at;
      this.#add(chunk, 1, sign);
    }
  }

  /** Rows that pass and fall in one of some groups, by their numbers in the table. */
  rowsIn(table: FactTable, wanted: (group: number) => boolean, most: number): number[] {
    const found: number[] = [];
    for (let at = 0; at < table.chunks.length && found.length < most; at++) {
      const chunk = table.chunks[at]!;
      const count = this.#passing(chunk);
      this.#group(chunk, count);
      for (let i = 0; i < count && found.length < most; i++) {
        if (wanted(this.#groupOf[i]!)) found.push(at * CHUNK + this.#rows[i]!);
      }
    }
    return found;
  }

  /** The code that a group has on each level. */
  codesOf(group: number): number[] {
    const codes: number[] = [];
    for (let stage = this.#stages.length - 1; stage >= 0; stage--) {
      const { levels, groups } = this.#stages[stage]!;
      let key = groups.keys[group]!;
      for (let at = levels.length - 1; at >= 0; at--) {
        const { size } = levels[at]!;
        codes.unshift(key % size);
        key = Math.floor(key / size);
      }
      group = key;
    }
    return codes;
  }

  /** The rows of a chunk that pass every filter, in `#rows`. */
  #passing(chunk: Chunk): number {
    const rows = this.#rows;
    let count = chunk.length;
    let all = true;
    for (const { dimension, passes } of this.filters) {
      const codes = chunk.codes[dimension];
      if (!codes) {
        if (!passes[0]) return 0;
        continue;
      }
      let kept = 0;
      // Written without a branch: which rows pass is anybody's guess, and guessing wrong costs more than writing one too many.
      if (all) {
        for (let i = 0; i < count; i++) {
          rows[kept] = i;
          kept += passes[codes[i]!]!;
        }
      } else {
        for (let i = 0; i < count; i++) {
          const row = rows[i]!;
          rows[kept] = row;
          kept += passes[codes[row]!]!;
        }
      }
      all = false;
      count = kept;
    }
    if (all) for (let i = 0; i < count; i++) rows[i] = i;
    return count;
  }

  #add(chunk: Chunk, count: number, sign: 1 | -1): void {
    if (count === 0) return;
    this.#group(chunk, count);
    this.#grow();
    const groupOf = this.#groupOf;
    const { facts } = this;
    for (let i = 0; i < count; i++) facts[groupOf[i]!]! += sign;
    this.measures.forEach((measure, index) => {
      const values = chunk.measures[measure];
      if (!values) return;
      if (values instanceof Int32Array) addWhole(this.sums[index]!, values, this.#rows, groupOf, count, sign);
      else addMoney(this.sums[index]!, values, this.#rows, groupOf, count, sign);
    });
  }

  /** Which group each row in `#rows` falls in, in `#groupOf`. */
  #group(chunk: Chunk, count: number): void {
    this.#groupOf.fill(0, 0, count);
    for (const { levels, groups } of this.#stages) {
      const keys = groups.dense ? this.#groupOf : this.#keys;
      if (!groups.dense) for (let i = 0; i < count; i++) keys[i] = this.#groupOf[i]!;
      for (const { dimension, map, size } of levels) {
        const codes = chunk.codes[dimension];
        if (!codes) {
          const code = map ? map[0]! : 0;
          for (let i = 0; i < count; i++) keys[i] = keys[i]! * size + code;
        } else if (map) addMapped(keys, codes, map, size, this.#rows, count);
        else addCodes(keys, codes, size, this.#rows, count);
      }
      groups.find(keys, this.#groupOf, count);
    }
  }

  #grow(): void {
    const wanted = this.count;
    if (wanted <= this.facts.length) return;
    const length = Math.max(wanted, this.facts.length * 2);
    const longer = new Int32Array(length);
    longer.set(this.facts);
    this.facts = longer;
    this.sums.forEach((sums, index) => {
      const more = new Float64Array(length);
      more.set(sums);
      this.sums[index] = more;
    });
  }
}

/** More groups than a stage ever has. */
const MOST_GROUPS = 2 ** 27;

/** Levels one after the other, a new stage wherever their keys would pass 2^53. */
function stagesOf(levels: readonly Level[]): { levels: Level[]; size: number }[] {
  const stages = [{ levels: [] as Level[], size: 1 }];
  for (const level of levels) {
    let last = stages.at(-1)!;
    if (last.size * level.size > Number.MAX_SAFE_INTEGER) stages.push((last = { levels: [], size: MOST_GROUPS }));
    last.levels.push(level);
    last.size *= level.size;
  }
  return stages;
}

// Each of the loops stands by itself, so that each meets one kind of array alone and is compiled for that.

type Keys = Float64Array | Int32Array;

function addMapped(keys: Keys, codes: Int32Array, map: Int32Array, size: number, rows: Int32Array, count: number) {
  for (let i = 0; i < count; i++) keys[i] = keys[i]! * size + map[codes[rows[i]!]!]!;
}

function addCodes(keys: Keys, codes: Int32Array, size: number, rows: Int32Array, count: number) {
  for (let i = 0; i < count; i++) keys[i] = keys[i]! * size + codes[rows[i]!]!;
}

function addWhole(
  sums: Float64Array,
  values: Int32Array,
  rows: Int32Array,
  groupOf: Int32Array,
  count: number,
  sign: number,
) {
  for (let i = 0; i < count; i++) sums[groupOf[i]!]! += sign * values[rows[i]!]!;
}

function addMoney(
  sums: Float64Array,
  values: Float64Array,
  rows: Int32Array,
  groupOf: Int32Array,
  count: number,
  sign: number,
) {
  for (let i = 0; i < count; i++) sums[groupOf[i]!]! += sign * values[rows[i]!]!;
}
