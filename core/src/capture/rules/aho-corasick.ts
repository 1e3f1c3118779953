/**
 * Finds many texts, given in small letters, in one pass over another: an automaton after Aho and Corasick, "Efficient string matching"
 * (1975). The time it takes does not depend on how many there are to find.
 */
export class AhoCorasick {
  readonly #classes = new Uint16Array(65_536);
  #width = 1;
  #next: Int32Array;
  readonly #found: number[][] = [];

  constructor(texts: readonly string[]) {
    for (const text of texts) {
      for (let at = 0; at < text.length; at++) {
        const code = text.charCodeAt(at);
        if (this.#classes[code] === 0) this.#classes[code] = this.#width++;
      }
    }
    // Capitals count as the small letters they are.
    for (let small = 97; small <= 122; small++) this.#classes[small - 32] = this.#classes[small]!;
    const states = texts.reduce((sum, text) => sum + text.length, 1);
    const width = this.#width;
    const next = (this.#next = new Int32Array(states * width));
    let last = 0;
    this.#found[0] = [];
    texts.forEach((text, number) => {
      let state = 0;
      for (let at = 0; at < text.length; at++) {
        const slot = state * width + this.#classes[text.charCodeAt(at)]!;
        if (next[slot] === 0) {
          next[slot] = ++last;
          this.#found[last] = [];
        }
        state = next[slot]!;
      }
      this.#found[state]!.push(number);
    });
    this.#link(last + 1);
  }

  /** Turns the tree of texts into an automaton that never goes back: each state knows where every letter leads. */
  #link(states: number): void {
    const width = this.#width;
    const next = this.#next;
    const fail = new Int32Array(states);
    const queue: number[] = [];
    for (let letter = 0; letter < width; letter++) if (next[letter]) queue.push(next[letter]!);
    for (let at = 0; at < queue.length; at++) {
      const state = queue[at]!;
      const back = fail[state]!;
      this.#found[state] = [...this.#found[state]!, ...this.#found[back]!];
      for (let letter = 0; letter < width; letter++) {
        const slot = state * width + letter;
        const onward = next[back * width + letter]!;
        if (next[slot] === 0) next[slot] = onward;
        else {
          fail[next[slot]!] = onward;
          queue.push(next[slot]!);
        }
      }
    }
  }

  /**
   * Calls back with the number of each text that is found and where it ends; the same text as often as it is there. Capitals of ASCII count
   * as small letters. A text with letters beyond ASCII is not looked at to its end: false.
   */
  find(text: string, found: Found): boolean {
    return this.#pass(text, 127, found);
  }

  /** The same in a text that is in small letters already, of whatever letters. */
  findSmall(text: string, found: Found): void {
    this.#pass(text, 0xffff, found);
  }

  #pass(text: string, last: number, found: Found): boolean {
    const width = this.#width;
    const next = this.#next;
    const classes = this.#classes;
    let state = 0;
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      if (code > last) return false;
      state = next[state * width + classes[code]!]!;
      if (state === 0) continue;
      const list = this.#found[state]!;
      for (let each = 0; each < list.length; each++) found(list[each]!, at + 1);
    }
    return true;
  }
}

type Found = (number: number, end: number) => void;

/** Whether a text is like a pattern in which * stands for anything: in time of their lengths at most multiplied, whatever they are. */
export function isLike(text: string, pattern: string): boolean {
  let at = 0;
  let part = 0;
  let star = -1;
  let resumed = 0;
  while (at < text.length) {
    if (part < pattern.length && pattern[part] === '*') {
      star = part++;
      resumed = at;
    } else if (part < pattern.length && pattern[part] === text[at]) {
      at++;
      part++;
    } else if (star >= 0) {
      part = star + 1;
      at = ++resumed;
    } else return false;
  }
  while (pattern[part] === '*') part++;
  return part === pattern.length;
}
