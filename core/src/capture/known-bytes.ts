const RECENT = 16;

/** A few bytes of a text and its length as one number; texts that differ mostly differ in it. */
function printOf(bytes: Uint8Array, from: number, end: number): number {
  const middle = (from + end) >> 1;
  const last = bytes[end - 3]! | (bytes[end - 4]! << 8) | (bytes[end - 5]! << 16) | (bytes[end - 8]! << 24);
  const inside = bytes[middle]! | (bytes[middle + 1]! << 8) | (bytes[middle - 1]! << 16) | (bytes[middle + 3]! << 24);
  return Math.imul(last, 0x9e3779b1) ^ Math.imul(inside, 0x85ebca6b) ^ (end - from);
}

/** Texts known again by their bytes, without making strings of them: a table of hashes (FNV-1a) over one store of bytes. */
export class KnownBytes {
  #slots = new Int32Array(1024).fill(-1);
  #hashes = new Uint32Array(512);
  #offsets = new Float64Array(513);
  #numbers = new Int32Array(512);
  #count = 0;
  #store = new Uint8Array(1 << 16);
  /** What was looked for last: where it belongs if it is to be added. */
  #hash = 0;
  #slot = 0;
  #last: Uint8Array = this.#store;
  #from = 0;
  #end = 0;

  // People go back and forth between a few things: those are looked at first, by a print of a few bytes, and need no hash of all.
  readonly #recent = new Int32Array(RECENT).fill(-1);
  readonly #prints = new Int32Array(RECENT);
  #turn = 0;
  #print = 0;

  /** The number that bytes were added with; −1 where they are not known. */
  find(bytes: Uint8Array, from: number, end: number): number {
    const print = printOf(bytes, from, end);
    this.#print = print;
    for (let at = 0; at < RECENT; at++) {
      if (this.#prints[at] !== print) continue;
      const known = this.#recent[at]!;
      if (known >= 0 && this.#same(known, bytes, from, end)) return this.#numbers[known]!;
    }
    let hash = 0x811c9dc5;
    for (let at = from; at < end; at++) hash = Math.imul(hash ^ bytes[at]!, 0x01000193);
    hash >>>= 0;
    const mask = this.#slots.length - 1;
    let slot = (hash ^ (hash >>> 15)) & mask;
    for (let known; (known = this.#slots[slot]!) >= 0; slot = (slot + 1) & mask) {
      if (this.#hashes[known] === hash && this.#same(known, bytes, from, end)) {
        this.#remember(known);
        return this.#numbers[known]!;
      }
    }
    this.#hash = hash;
    this.#slot = slot;
    this.#last = bytes;
    this.#from = from;
    this.#end = end;
    return -1;
  }

  /** Adds what was just looked for and not found. */
  add(number: number): void {
    const own = this.#count++;
    const length = this.#end - this.#from;
    const offset = this.#offsets[own]!;
    if (offset + length > this.#store.length) this.#store = longer(this.#store, offset + length);
    this.#store.set(this.#last.subarray(this.#from, this.#end), offset);
    if (own + 1 >= this.#numbers.length) {
      this.#hashes = longer(this.#hashes);
      this.#numbers = longer(this.#numbers);
      this.#offsets = longer(this.#offsets);
    }
    this.#offsets[own + 1] = offset + length;
    this.#hashes[own] = this.#hash;
    this.#numbers[own] = number;
    this.#slots[this.#slot] = own;
    this.#remember(own);
    if (this.#count * 2 > this.#slots.length) this.#spread();
  }

  /** Calls back with the bytes of each text and the number it was added with. */
  each(told: (bytes: Uint8Array, number: number) => void): void {
    for (let own = 0; own < this.#count; own++) {
      told(this.#store.subarray(this.#offsets[own], this.#offsets[own + 1]), this.#numbers[own]!);
    }
  }

  #remember(own: number): void {
    const at = this.#turn++ % RECENT;
    this.#recent[at] = own;
    this.#prints[at] = this.#print;
  }

  #same(known: number, bytes: Uint8Array, from: number, end: number): boolean {
    const offset = this.#offsets[known]!;
    if (this.#offsets[known + 1]! - offset !== end - from) return false;
    const store = this.#store;
    for (let at = from, own = offset; at < end; at++, own++) if (store[own] !== bytes[at]) return false;
    return true;
  }

  #spread(): void {
    this.#slots = new Int32Array(this.#slots.length * 2).fill(-1);
    const mask = this.#slots.length - 1;
    for (let own = 0; own < this.#count; own++) {
      const hash = this.#hashes[own]!;
      let slot = (hash ^ (hash >>> 15)) & mask;
      while (this.#slots[slot]! >= 0) slot = (slot + 1) & mask;
      this.#slots[slot] = own;
    }
  }
}

function longer<T extends Uint8Array | Uint32Array | Int32Array | Float64Array>(column: T, least = 0): T {
  const next = new (column.constructor as new (length: number) => T)(Math.max(column.length * 2, least * 2));
  next.set(column);
  return next;
}
