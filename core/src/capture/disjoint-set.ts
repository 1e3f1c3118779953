/** Keys that are joined, directly or by way of others. */
export class DisjointSet {
  readonly #parents = new Map<string, string>();

  rootOf(key: string): string {
    let root = key;
    for (let up; (up = this.#parents.get(root)) !== undefined;) root = up;
    for (let at = key; at !== root;) {
      const up = this.#parents.get(at)!;
      this.#parents.set(at, root);
      at = up;
    }
    return root;
  }

  join(a: string, b: string): void {
    const [one, other] = [this.rootOf(a), this.rootOf(b)];
    if (one !== other) this.#parents.set(other, one);
  }
}
