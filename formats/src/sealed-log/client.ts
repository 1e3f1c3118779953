import type { Id } from '@half-penny/core/model';
import type { LogHead, LogRow } from '@half-penny/core/shared-log';
import * as z from 'zod';
import { signRequest } from './requests';
import { grantSchema, type Grant } from './writers';

/** Why a relay did not do what it was asked, by its own codes (docs/relay.md). */
export class RelayRefusal extends Error {
  override name = 'RelayRefusal';
  readonly code: string;
  readonly data: Readonly<Record<string, unknown>>;

  constructor(code: string, message: string, data: Readonly<Record<string, unknown>> = {}) {
    super(message);
    this.code = code;
    this.data = data;
  }
}

/** Whether a relay refused something for one of some reasons, by its own codes. */
export const isRefused = (thrown: unknown, ...codes: readonly string[]): boolean =>
  thrown instanceof RelayRefusal && codes.includes(thrown.code);

/** A relay that was not reached, or did not answer in its own words: whether it did what it was asked nobody knows. */
export class RelayUnreached extends Error {
  override name = 'RelayUnreached';
}

const headSchema = z.object({ number: z.int().min(0), hash: z.string() });
const rowSchema = z.object({
  book: z.string(),
  epoch: z.int().min(1),
  number: z.int().min(1),
  previous: z.string(),
  writer: z.string(),
  sealed: z.string(),
});
const rowsSchema = z.object({ head: headSchema, rows: z.array(rowSchema) });
const standingSchema = z.object({
  epoch: z.int(),
  head: headSchema,
  base: z.int(),
  bytes: z.number(),
  snapshot: z
    .object({
      id: z.string(),
      epoch: z.int(),
      number: z.int(),
      hash: z.string(),
      writer: z.string(),
      pieces: z.int().min(1),
    })
    .nullable(),
});
const refusalSchema = z.looseObject({ code: z.string(), message: z.string() });

/** A book as a relay tells of it. */
export type BookTold = z.infer<typeof standingSchema>;
/** A sealed file that waits. */
export interface LetterTold {
  id: string;
  /** Epoch milliseconds, by the relay's clock. */
  at: number;
  bytes: number;
}

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

interface ClientOptions {
  /** Where the relay is: "https://relay.saltmere-lighting.example". */
  address: string;
  /** The device's private Ed25519 key, in hex. */
  signing: string;
  /** Epoch milliseconds. */
  now?: () => number;
  fetch?: typeof fetch;
  /** So long an answer is waited for, in milliseconds. */
  patience?: number;
}

/** Talks to a relay as docs/relay.md says: every request signed, every answer looked at before it is believed. */
export class RelayClient {
  readonly #address: string;
  readonly #signing: string;
  readonly #now: () => number;
  readonly #fetch: typeof fetch;
  readonly #patience: number;
  /** How far the relay's clock is ahead of this one, in milliseconds, once it said so. */
  #ahead = 0;

  constructor({ address, signing, now = Date.now, fetch: ask = fetch, patience = 30_000 }: ClientOptions) {
    this.#address = address.replace(/\/+$/, '');
    this.#signing = signing;
    this.#now = now;
    // A browser's fetch is the window's alone.
    this.#fetch = (...args) => ask(...args);
    this.#patience = patience;
  }

  found = (first: Grant) => this.#send('POST', '/books', first);
  letIn = (next: Grant) => this.#send('POST', `/books/${next.book}/writers`, next);

  /** Every word on who may write, in order. */
  async writers(book: Id): Promise<Grant[]> {
    const schema = z.object({ writers: z.array(grantSchema) });
    return (await this.#read(schema, 'GET', `/books/${book}/writers`)).writers;
  }

  standing = (book: Id): Promise<BookTold> => this.#read(standingSchema, 'GET', `/books/${book}`);

  /** Rows after a number, as many as the relay sends at once, and how far the log is. */
  rows = (book: Id, after: number): Promise<{ head: LogHead; rows: LogRow[] }> =>
    this.#read(rowsSchema, 'GET', `/books/${book}/rows?after=${after}`);

  /** Puts rows behind a head. @returns what came in between where others were first */
  async append(
    book: Id,
    after: LogHead,
    rows: readonly LogRow[],
  ): Promise<{ taken: true } | { taken: false; head: LogHead; rows: LogRow[] }> {
    try {
      await this.#send('POST', `/books/${book}/rows`, { after, rows });
      return { taken: true };
    } catch (thrown) {
      if (!(thrown instanceof RelayRefusal) || thrown.code !== 'head has moved') throw thrown;
      return { taken: false, ...readAs(rowsSchema, thrown.data) };
    }
  }

  /**
   * Calls back whenever a log may have grown, until the line is lost or given up.
   *
   * @throws RelayRefusal, RelayUnreached
   */
  async wait(book: Id, grown: () => void, signal: AbortSignal): Promise<void> {
    const answer = await this.#ask('GET', `/books/${book}/wait`, undefined, signal);
    try {
      const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
      // A message may come in two parts.
      for (let text = ''; ;) {
        const { value, done } = await reader.read();
        if (done) return;
        const lines = (text + value).split('\n\n');
        text = lines.pop()!;
        if (lines.some((line) => line.startsWith('data:'))) grown();
      }
    } catch (thrown) {
      if (!signal.aborted) throw new RelayUnreached('The line to the relay was lost.', { cause: thrown });
    }
  }

  /** Puts a sealed workspace in pieces, for devices that are new. */
  async putSnapshot(book: Id, of: LogHead & { epoch: number }, pieces: readonly Uint8Array[]): Promise<string> {
    const path = `/books/${book}/snapshots`;
    const { id } = await this.#read(z.object({ id: z.string() }), 'POST', path, { ...of, pieces: pieces.length });
    for (const [piece, bytes] of pieces.entries()) await this.#send('PUT', `${path}/${id}/pieces/${piece}`, bytes);
    await this.#send('POST', `${path}/${id}/finish`);
    return id;
  }

  async snapshot(book: Id, { id, pieces }: { id: string; pieces: number }): Promise<Uint8Array[]> {
    const read: Uint8Array[] = [];
    for (let piece = 0; piece < pieces; piece++)
      read.push(await this.#bytes(`/books/${book}/snapshots/${id}/pieces/${piece}`));
    return read;
  }

  /** Begins an epoch from a snapshot: the relay drops what was before. */
  beginEpoch = (book: Id, epoch: number, at: LogHead, snapshot: string) =>
    this.#send('POST', `/books/${book}/epochs`, { epoch, at, snapshot });

  putBlob = (book: Id, name: string, sealed: Uint8Array) => this.#send('PUT', `/books/${book}/blobs/${name}`, sealed);
  blob = (book: Id, name: string) => this.#bytes(`/books/${book}/blobs/${name}`);

  /** Puts a sealed file into the mailbox of whoever holds a key. @param to their Ed25519 key, in hex */
  post = (to: string, sealed: Uint8Array) => this.#send('POST', `/mailboxes/${to}`, sealed);
  /** What waits for this device's key, the oldest first. */
  async letters(): Promise<LetterTold[]> {
    const letter = z.object({ id: z.string(), at: z.number(), bytes: z.number() });
    return (await this.#read(z.object({ letters: z.array(letter) }), 'GET', '/mailbox')).letters;
  }
  letter = (id: string) => this.#bytes(`/mailbox/${id}`);
  removeLetter = (id: string) => this.#send('DELETE', `/mailbox/${id}`);

  async #send(method: Method, path: string, content?: object | Uint8Array): Promise<void> {
    await (await this.#ask(method, path, content)).arrayBuffer();
  }

  async #bytes(path: string): Promise<Uint8Array> {
    return new Uint8Array(await (await this.#ask('GET', path)).arrayBuffer());
  }

  async #read<T extends z.ZodType>(schema: T, method: Method, path: string, content?: object): Promise<z.output<T>> {
    const answer = await this.#ask(method, path, content);
    return readAs(schema, await answer.json().catch(() => null));
  }

  async #ask(
    method: Method,
    path: string,
    content?: object | Uint8Array,
    signal?: AbortSignal,
    again = false,
  ): Promise<Response> {
    const isBytes = content instanceof Uint8Array;
    const body = isBytes ? content : new TextEncoder().encode(content ? JSON.stringify(content) : '');
    let answer: Response;
    try {
      answer = await this.#fetch(this.#address + path, {
        method,
        headers: {
          ...(content && { 'content-type': isBytes ? 'application/octet-stream' : 'application/json' }),
          ...(await signRequest({ method, path, body }, this.#signing, this.#now() + this.#ahead)),
        },
        ...(content && { body: body as BodyInit }),
        // Only what waits is let take its time.
        signal: signal ?? AbortSignal.timeout(this.#patience),
        cache: 'no-store',
        redirect: 'error',
        referrerPolicy: 'no-referrer',
      });
    } catch (thrown) {
      throw new RelayUnreached('The relay was not reached.', { cause: thrown });
    }
    if (answer.ok) return answer;
    const said = refusalSchema.safeParse(await answer.json().catch(() => null));
    if (!said.success) throw new RelayUnreached(`What is at the relay’s address answered ${answer.status}.`);
    const { code, message, ...data } = said.data;
    if (code === 'wrong time' && typeof data.now === 'number' && !again) {
      // A device's clock may be wrong for good; its own records keep it, its requests go by the relay's.
      this.#ahead = data.now - this.#now();
      return this.#ask(method, path, content, signal, true);
    }
    if (code === 'not now') throw new RelayUnreached(message);
    throw new RelayRefusal(code, message, data);
  }
}

function readAs<T extends z.ZodType>(schema: T, value: unknown): z.output<T> {
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw new RelayUnreached('What is at the relay’s address does not answer as a relay does.');
  return parsed.data;
}
