/** Words as small whole numbers, from 1; 0 stands for none. A word keeps its code for good. */
export class Dictionary {
  readonly #codes = new Map<string, number>();
  readonly #words: string[] = [''];

  /** The code of a word, a new one where it was not there yet; 0 for nothing. */
  code(word: string | null | undefined): number {
    if (!word) return 0;
    let code = this.#codes.get(word);
    if (code === undefined) {
      code = this.#words.push(word) - 1;
      this.#codes.set(word, code);
    }
    return code;
  }

  /** The code of a word that is there; -1 for one that is not. */
  find(word: string): number {
    return word === '' ? 0 : (this.#codes.get(word) ?? -1);
  }

  word(code: number): string {
    return this.#words[code] ?? '';
  }

  /** How many codes there are, that for none included. */
  get size(): number {
    return this.#words.length;
  }
}
