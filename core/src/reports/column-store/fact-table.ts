import type { Dimension, BaseMeasure } from './dimensions';
import { dimensions, isMoney, measures } from './dimensions';

/** Rows of one chunk: few enough that what is worked on stays near the processor, many enough that starting a chunk costs nothing. */
export const CHUNK = 1 << 16;

/** The values of some rows. A column in which every row has 0 has no array at all. */
export interface Chunk {
  length: number;
  readonly codes: Record<Dimension, Int32Array | null>;
  readonly measures: Record<BaseMeasure, Int32Array | Float64Array | null>;
  /** Of each row, the next one of the same source; -1 for the last. */
  next: Int32Array | null;
}

/** One fact: codes of what it is told by, and whole numbers of what it measures. What is left out is 0. */
export type Fact = Partial<Record<Dimension | BaseMeasure, number>>;

const nothing = <K extends string>(keys: readonly K[]): Record<K, null> =>
  Object.fromEntries(keys.map((key) => [key, null])) as Record<K, null>;

/**
 * Facts as typed columns, in chunks. Codes are 32-bit, lengths 32-bit seconds, money exact whole numbers in doubles (up to 2^53).
 * Facts of a source can be taken out again; the last row then moves to where they stood, so that the rows never have holes.
 */
export class FactTable {
  readonly chunks: Chunk[] = [];
  length = 0;
  /** Of each source's code, its first row; -1 for none. Facts without a source are never taken out. */
  #first = new Int32Array(1024).fill(-1);

  /** Puts in a fact of a source, or of none. */
  add(fact: Fact): void {
    const row = this.length++;
    const chunk = (this.chunks[row >>> 16] ??= {
      length: 0,
      codes: nothing(dimensions),
      measures: nothing(measures),
      next: null,
    });
    const at = chunk.length++;
    for (const key in fact) {
      const value = fact[key as Dimension];
      if (!value) continue;
      if (key in chunk.codes) (chunk.codes[key as Dimension] ??= new Int32Array(CHUNK))[at] = value;
      else this.#measure(chunk, key as BaseMeasure)[at] = value;
    }
    if (fact.source) this.#link(fact.source, row);
  }

  /** The rows of a source. */
  rowsOf(source: number): number[] {
    const rows: number[] = [];
    for (let row = this.#first[source] ?? -1; row >= 0; row = this.#next(row)) rows.push(row);
    return rows;
  }

  /** Takes out everything of a source. */
  remove(source: number): void {
    // Backwards, so that a row which moves into a hole is never one that is still to go.
    for (const row of this.rowsOf(source).sort((a, b) => b - a)) {
      this.#unlink(source, row);
      const last = this.length - 1;
      if (row !== last) this.#move(last, row);
      this.#clear(last);
      this.length = last;
      if (--this.chunks[last >>> 16]!.length === 0) this.chunks.pop();
    }
  }

  code(dimension: Dimension, row: number): number {
    return this.chunks[row >>> 16]?.codes[dimension]?.[row & 0xffff] ?? 0;
  }

  measure(measure: BaseMeasure, row: number): number {
    return this.chunks[row >>> 16]?.measures[measure]?.[row & 0xffff] ?? 0;
  }

  #measure(chunk: Chunk, key: BaseMeasure): Int32Array | Float64Array {
    return (chunk.measures[key] ??= isMoney(key) ? new Float64Array(CHUNK) : new Int32Array(CHUNK));
  }

  #next(row: number): number {
    return this.chunks[row >>> 16]!.next?.[row & 0xffff] ?? -1;
  }

  #setNext(row: number, next: number): void {
    const chunk = this.chunks[row >>> 16]!;
    (chunk.next ??= new Int32Array(CHUNK).fill(-1))[row & 0xffff] = next;
  }

  #link(source: number, row: number): void {
    if (source >= this.#first.length) {
      const longer = new Int32Array(Math.max(source + 1, this.#first.length * 2)).fill(-1);
      longer.set(this.#first);
      this.#first = longer;
    }
    const first = this.#first[source]!;
    this.#first[source] = row;
    if (first >= 0) this.#setNext(row, first);
  }

  /** Takes a row out of its source's list; what pointed to it points to what came after. */
  #unlink(source: number, row: number, instead = this.#next(row)): void {
    if (this.#first[source] === row) {
      this.#first[source] = instead;
      return;
    }
    for (let at = this.#first[source]!; at >= 0; at = this.#next(at)) {
      if (this.#next(at) === row) return this.#setNext(at, instead);
    }
  }

  #move(from: number, to: number): void {
    const source = this.code('source', from);
    const next = this.#next(from);
    const [a, b] = [this.chunks[from >>> 16]!, this.chunks[to >>> 16]!];
    const [i, j] = [from & 0xffff, to & 0xffff];
    for (const dimension of dimensions) {
      const value = a.codes[dimension]?.[i] ?? 0;
      if (value !== 0) (b.codes[dimension] ??= new Int32Array(CHUNK))[j] = value;
      else if (b.codes[dimension]) b.codes[dimension][j] = 0;
    }
    for (const measure of measures) {
      const value = a.measures[measure]?.[i] ?? 0;
      if (value !== 0) this.#measure(b, measure)[j] = value;
      else if (b.measures[measure]) b.measures[measure][j] = 0;
    }
    if (next >= 0 || b.next) this.#setNext(to, next);
    if (source) this.#unlink(source, from, to);
  }

  #clear(row: number): void {
    const chunk = this.chunks[row >>> 16]!;
    const at = row & 0xffff;
    for (const dimension of dimensions) if (chunk.codes[dimension]) chunk.codes[dimension][at] = 0;
    for (const measure of measures) if (chunk.measures[measure]) chunk.measures[measure][at] = 0;
    if (chunk.next) chunk.next[at] = -1;
  }
}
