import { randomUUID } from 'node:crypto';
import type { ServerResponse } from 'node:http';
import { GROWN } from './books';
import type { Database } from './sql';

/** A line that keeps proxies from ending what is silent, in milliseconds. */
const SIGN_OF_LIFE = 25_000;

/** Devices that wait for a book to grow, over server-sent events; processes wake each other through the database. */
export class Waiting {
  readonly #database: Database;
  readonly #by = new Map<string, Set<ServerResponse>>();
  readonly #signs: NodeJS.Timeout;
  /** This process among those on the same database. */
  readonly #name = randomUUID();
  /** Books that grew here and are told of together. */
  readonly #grown = new Set<string>();

  constructor(database: Database) {
    this.#database = database;
    this.#signs = setInterval(() => this.#each((response) => response.write(':\n\n')), SIGN_OF_LIFE);
    this.#signs.unref();
  }

  /** How many wait in this process. */
  get count(): number {
    let count = 0;
    for (const set of this.#by.values()) count += set.size;
    return count;
  }

  begin(): Promise<void> {
    return this.#database.listen(GROWN, (told) => {
      const [from, ...books] = told.split(' ');
      // Nothing named: the line to the database was down, so anything may have grown.
      if (told === '') this.#wake([...this.#by.keys()]);
      else if (from !== this.#name) this.#wake(books);
    });
  }

  /** Lets a device wait until it goes away. */
  add(book: string, response: ServerResponse): void {
    const set = this.#by.get(book) ?? new Set();
    this.#by.set(book, set.add(response));
    response.on('close', () => {
      set.delete(response);
      if (set.size === 0 && this.#by.get(book) === set) this.#by.delete(book);
    });
    response.write('retry: 1000\n\n');
  }

  /** Tells whoever waits that a book has grown: here at once, in other processes what grew in one turn together. */
  tell(book: string): void {
    this.#wake([book]);
    if (this.#grown.size === 0) setImmediate(() => void this.#flush());
    this.#grown.add(book);
  }

  async #flush(): Promise<void> {
    const books = [...this.#grown].slice(0, 200);
    for (const book of books) this.#grown.delete(book);
    if (this.#grown.size > 0) setImmediate(() => void this.#flush());
    try {
      await this.#database.query('SELECT pg_notify($1, $2)', [GROWN, [this.#name, ...books].join(' ')]);
    } catch {
      // Whoever waits looks by itself when its line to here is begun again.
    }
  }

  #wake(books: readonly string[]): void {
    for (const book of books) for (const response of this.#by.get(book) ?? []) response.write('data: grown\n\n');
  }

  close(): void {
    clearInterval(this.#signs);
    this.#each((response) => response.end());
  }

  #each(task: (response: ServerResponse) => void): void {
    for (const set of this.#by.values()) for (const response of set) task(response);
  }
}
