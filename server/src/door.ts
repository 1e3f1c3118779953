import type { FastifyReply, FastifyRequest } from 'fastify';
import { randomInt, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

const SLOWEST = 5000;
const MOST_ADDRESSES = 1000;

/** The head in which the page sends its secret. */
export const SECRET_HEAD = 'x-half-penny';

/** Letters that are not taken for others, neither by eye nor by ear of who types them. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz';
const SECRET = /^[a-z]{8}$/;

/**
 * Counts who comes with something wrong, each address by itself, and answers slowly the oftener it was. What is right is answered at
 * once, whatever others tried.
 */
export class Guesses {
  readonly #wrong = new Map<string, number>();

  /** @returns how many there have been, after a wait that grows with them */
  async wrong(address: string): Promise<number> {
    const count = (this.#wrong.get(address) ?? 0) + 1;
    if (this.#wrong.size >= MOST_ADDRESSES) this.#wrong.clear();
    this.#wrong.set(address, count);
    await new Promise((resolve) => setTimeout(resolve, Math.min(SLOWEST, 250 * 2 ** Math.min(count, 6))));
    return count;
  }

  right(address: string): void {
    this.#wrong.delete(address);
  }
}

/** Whether two texts are the same, in a time that does not tell where they part. */
export function isSame(given: string | undefined, wanted: string): boolean {
  const left = Buffer.from(given ?? '');
  const right = Buffer.from(wanted);
  return left.length === right.length && timingSafeEqual(left, right);
}

interface Kept {
  pattern: RegExp;
  make: () => string;
  /** What is told when the file holds something else: what it was, and what to do. */
  damaged: string;
}

/** What a file of one line keeps for its owner alone; made when it is not there, put aside when it cannot be read. */
export function keptIn(path: string, { pattern, make, damaged }: Kept): string {
  if (existsSync(path)) {
    const kept = readFileSync(path, 'utf8').trim();
    if (pattern.test(kept)) return kept;
    renameSync(path, `${path}.damaged`);
    console.warn(damaged);
  }
  return keepIn(path, make());
}

/** Writes such a file again. */
export function keepIn(path: string, text: string): string {
  mkdirSync(dirname(path), { recursive: true, mode: 0o700 });
  writeFileSync(path, `${text}\n`, { mode: 0o600 });
  return text;
}

/** The secret that the printed address carries to the page: eight letters, made once and kept in a file. */
export const secretIn = (path: string): string =>
  keptIn(path, {
    pattern: SECRET,
    make: () => Array.from({ length: 8 }, () => LETTERS[randomInt(LETTERS.length)]).join(''),
    damaged: 'The secret of the page cannot be read and was put aside. Open the address printed here to connect again.',
  });

/**
 * Lets in what the application itself asks for: a request of a page of this address that knows the secret. Looked at before anything
 * of a body is read.
 *
 * @param address of the application, as in "http://127.0.0.1:4350"
 */
export function ownPage(secret: string, address: string) {
  const guesses = new Guesses();
  return async ({ ip, headers }: FastifyRequest, reply: FastifyReply): Promise<void> => {
    const site = headers['sec-fetch-site'];
    if ((headers.origin ?? address) !== address || (site ?? 'same-origin') !== 'same-origin') {
      await reply.code(403).send({ message: 'Only a page of Half Penny may ask for this.' });
      return;
    }
    const given = headers[SECRET_HEAD];
    if (isSame(typeof given === 'string' ? given : undefined, secret)) return guesses.right(ip);
    // Nothing was guessed by a page that does not know it yet.
    const count = given === undefined ? 0 : await guesses.wrong(ip);
    if (count > 0) console.warn(`A wrong page secret was sent (${count} so far).`);
    await reply
      .code(401)
      .send({ message: 'This page does not know the server’s secret. Open the address that npm start printed.' });
  };
}
