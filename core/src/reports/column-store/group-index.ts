/** Keys below this are looked up in an array of their own size. */
const DENSE = 1 << 22;

/** Gives each key it meets a small number, in the order they come. */
export class GroupIndex {
  /** The key of each group. */
  keys = new Float64Array(1024);
  count = 0;
  readonly dense: boolean;
  #table: Int32Array;

  /** @param size keys are below this; at most 2^53 */
  constructor(size: number) {
    if (size > Number.MAX_SAFE_INTEGER) throw new RangeError('There are more groups than can be numbered.');
    this.dense = size <= DENSE;
    // 0 stands for a place that is free, so groups are put in one higher.
    this.#table = new Int32Array(this.dense ? size : 1 << 12);
  }

  /** The group of each key. */
  find(keys: Float64Array | Int32Array, into: Int32Array, count: number): void {
    if (this.dense) this.#findDense(keys as Int32Array, into, count);
    else this.#findHashed(keys as Float64Array, into, count);
  }

  #findDense(keys: Int32Array, into: Int32Array, count: number): void {
    const table = this.#table;
    for (let i = 0; i < count; i++) {
      const key = keys[i]!;
      let group = table[key]!;
      if (group === 0) table[key] = group = this.#new(key) + 1;
      into[i] = group - 1;
    }
  }

  #findHashed(keys: Float64Array, into: Int32Array, count: number): void {
    for (let i = 0; i < count; i++) {
      const key = keys[i]!;
      let at = this.#placeOf(key);
      if (this.#table[at] === 0) {
        if (this.count * 2 >= this.#table.length) {
          this.#widen();
          at = this.#placeOf(key);
        }
        this.#table[at] = this.#new(key) + 1;
      }
      into[i] = this.#table[at]! - 1;
    }
  }

  /** Where a key stands, or the free place where it would. */
  #placeOf(key: number): number {
    const table = this.#table;
    const mask = table.length - 1;
    // The halves of the key, mixed by odd factors (Knuth, The Art of Computer Programming 3, 6.4: multiplicative hashing).
    const high = Math.floor(key / 4294967296);
    let at = Math.imul((key | 0) ^ Math.imul(high, 0x85ebca6b), 0x9e3779b1);
    at = (at ^ (at >>> 15)) & mask;
    for (;;) {
      const group = table[at]!;
      if (group === 0 || this.keys[group - 1] === key) return at;
      at = (at + 1) & mask;
    }
  }

  #widen(): void {
    this.#table = new Int32Array(this.#table.length * 4);
    for (let group = 0; group < this.count; group++) this.#table[this.#placeOf(this.keys[group]!)] = group + 1;
  }

  #new(key: number): number {
    if (this.count === this.keys.length) {
      const longer = new Float64Array(this.keys.length * 2);
      longer.set(this.keys);
      this.keys = longer;
    }
    this.keys[this.count] = key;
    return this.count++;
  }
}
