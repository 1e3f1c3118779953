/** Repeatable chance: the same seed gives the same sequence everywhere (mulberry32, a 32-bit generator). */
export class Chance {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** At least 0, below 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from `least` to `most`, both possible. */
  between(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1));
  }

  happens(share: number): boolean {
    return this.next() < share;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)]!;
  }

  /** Picks in proportion to each one's weight. */
  weighted<T extends { weight: number }>(list: readonly T[]): T {
    let at = this.next() * list.reduce((sum, each) => sum + each.weight, 0);
    for (const each of list) {
      at -= each.weight;
      if (at < 0) return each;
    }
    return list.at(-1)!;
  }

  bytes = (bytes: Uint8Array): Uint8Array => {
    for (let i = 0; i < bytes.length; i++) bytes[i] = this.between(0, 255);
    return bytes;
  };
}
