/** Chance that is the same for the same seed, on every machine. */
export interface Chance {
  /** 0 up to, but not, `below`. */
  below(below: number): number;
  one<T>(of: readonly T[]): T;
  /** True once in so many. */
  oneIn(many: number): boolean;
}

/** Mulberry32, a generator in the public domain; from memory. */
export function chanceOf(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
  const below = (most: number) => Math.floor(next() * most);
  return { below, one: (of) => of[below(of.length)]!, oneIn: (many) => below(many) === 0 };
}
