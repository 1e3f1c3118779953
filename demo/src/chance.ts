import { Chance as Draws } from '@half-penny/core/cash-ahead';

/** Repeatable chance: the same seed gives the same sequence everywhere. */
export class Chance extends Draws {
  happens(share: number): boolean {
    return this.next() < share;
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
