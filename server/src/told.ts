import { existsSync, readFileSync } from 'node:fs';
import * as z from 'zod';
import { writeSafely } from './files';

/** What happened and is told to the application whenever it asks, kept in a file; the oldest go when there are many. */
export class Told<T> {
  readonly #path: string;
  readonly #schema: z.ZodType<T>;
  readonly #most: number;

  constructor(path: string, schema: z.ZodType<T>, most: number) {
    this.#path = path;
    this.#schema = schema;
    this.#most = most;
  }

  all(): T[] {
    if (!existsSync(this.#path)) return [];
    try {
      return z.array(this.#schema).parse(JSON.parse(readFileSync(this.#path, 'utf8')));
    } catch {
      // A file that somebody changed by hand is begun again.
      return [];
    }
  }

  add(one: T): void {
    writeSafely(this.#path, JSON.stringify([...this.all(), one].slice(-this.#most)));
  }
}
