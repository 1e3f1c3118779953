const RECENT = 16;
const NEWLINE = 10;
/** Longer than any line, so that an empty place among the recent ones fits none. */
const NO_LENGTH = 0x3fff_ffff;

/** Bytes with a look at several of them at a time. */
export interface Text {
  bytes: Uint8Array;
  words: DataView;
}

const textOf = (bytes: Uint8Array): Text => ({
  bytes,
  words: new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
});

/** FNV-1a, four bytes at a time, with the high bits mixed in, as those of words of text vary least. */
function hashOf({ bytes, words }: Text, from: number, end: number): number {
  let hash = 0x811c9dc5;
  let at = from;
  for (; at + 4 <= end; at += 4) {
    hash = Math.imul(hash ^ words.getInt32(at, true), 0x01000193);
    hash ^= hash >>> 15;
  }
  for (; at < end; at++) hash = Math.imul(hash ^ bytes[at]!, 0x01000193);
  return hash >>> 0;
}

/**
 * Whether the bytes from `own` on are those of a text; from the end, as that is where lines that begin alike differ. Eight at a time as
 * doubles: of those only zeros, of which lines of JSON have none, and what is no number, which is taken for unlike, compare otherwise than
 * their bytes.
 */
function alike(store: Text, own: number, text: Text, from: number, end: number): boolean {
  const length = end - from;
  if (length < 8) {
    for (let at = 0; at < length; at++) if (store.bytes[own + at] !== text.bytes[from + at]) return false;
    return true;
  }
  const { words } = store;
  const others = text.words;
  const shift = own - from;
  for (let at = end - 8; at >= from; at -= 8) {
    if (words.getFloat64(at + shift, true) !== others.getFloat64(at, true)) return false;
  }
  return words.getFloat64(own, true) === others.getFloat64(from, true);
}

/** Lines known again by their bytes, without making strings of them: a table of hashes over one store of bytes. */
export class InternedLines {
  #slots = new Int32Array(1024).fill(-1);
  #hashes = new Uint32Array(512);
  #offsets = new Float64Array(513);
  #numbers = new Int32Array(512);
  #count = 0;
  #store = textOf(new Uint8Array(1 << 16));
  /** What was looked for last: where it belongs if it is to be added. */
  #hash = 0;
  #slot = 0;
  #last = this.#store;
  #from = 0;
  #end = 0;

  // People go back and forth between a few things: those are looked at first, and need no hash.
  readonly #recent = new Int32Array(RECENT).fill(-1);
  readonly #lengths = new Int32Array(RECENT).fill(NO_LENGTH);
  #turn = 0;

  /** The number of what {@link endOf} found. */
  found = -1;

  /**
   * Where what begins at `from` ends, if it is a line that was met lately with a new line behind it; −1 otherwise. Its end need not be
   * looked for first.
   */
  endOf(text: Text, from: number, limit: number): number {
    const { bytes } = text;
    const lengths = this.#lengths;
    for (let at = 0; at < RECENT; at++) {
      const end = from + lengths[at]!;
      if (end >= limit || bytes[end] !== NEWLINE) continue;
      const known = this.#recent[at]!;
      if (!alike(this.#store, this.#offsets[known]!, text, from, end)) continue;
      this.found = this.#numbers[known]!;
      return end;
    }
    return -1;
  }

  /** The number that bytes were added with; −1 where they are not known. */
  find(text: Text, from: number, end: number): number {
    const hash = hashOf(text, from, end);
    const mask = this.#slots.length - 1;
    let slot = (hash ^ (hash >>> 15)) & mask;
    for (let known; (known = this.#slots[slot]!) >= 0; slot = (slot + 1) & mask) {
      if (this.#hashes[known] !== hash || this.#lengthOf(known) !== end - from) continue;
      if (!alike(this.#store, this.#offsets[known]!, text, from, end)) continue;
      this.#remember(known);
      return this.#numbers[known]!;
    }
    this.#last = text;
    this.#hash = hash;
    this.#slot = slot;
    this.#from = from;
    this.#end = end;
    return -1;
  }

  /** Adds what was just looked for and not found. */
  add(number: number): void {
    const own = this.#count++;
    const length = this.#end - this.#from;
    const offset = this.#offsets[own]!;
    if (offset + length > this.#store.bytes.length) this.#store = textOf(longer(this.#store.bytes, offset + length));
    this.#store.bytes.set(this.#last.bytes.subarray(this.#from, this.#end), offset);
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
      told(this.#store.bytes.subarray(this.#offsets[own], this.#offsets[own + 1]), this.#numbers[own]!);
    }
  }

  /** The bytes that are looked at; mostly the same as before. */
  textOf(bytes: Uint8Array): Text {
    return this.#last.bytes === bytes ? this.#last : (this.#last = textOf(bytes));
  }

  #lengthOf(known: number): number {
    return this.#offsets[known + 1]! - this.#offsets[known]!;
  }

  #remember(known: number): void {
    const at = this.#turn++ % RECENT;
    this.#recent[at] = known;
    this.#lengths[at] = this.#lengthOf(known);
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
