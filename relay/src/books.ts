import type { LogHead, LogRow } from '@half-penny/core/shared-log';
import { checkFollows, LogFault } from '@half-penny/core/shared-log';
import {
  GrantFault,
  NO_WRITERS,
  writersAfter,
  type Grant,
  type SignedAs,
  type Writers,
} from '@half-penny/formats/sealed-log';
import { bytesToHex } from '@noble/hashes/utils.js';
import { RelayFault } from './fault';
import type { Asking, Database, Row } from './sql';

/** The channel on which processes tell each other that a book has grown. */
export const GROWN = 'half_penny_grown';
/** So many rows are sent at once at most. */
export const MOST_ROWS = 500;

/** So long a device counts as let in lately, in milliseconds. */
const LATELY = 10_000;
const MOST_LATELY = 10_000;

/** A book as it stands. */
export interface BookStanding {
  epoch: number;
  head: LogHead;
  /** Rows up to this one are not kept any more. */
  base: number;
  bytes: number;
}

interface KeptRow extends Row {
  number: number;
  epoch: number;
  previous: string;
  writer: string;
  sealed: Uint8Array;
}

const notLetIn = () =>
  new RelayFault('not let in', 'There is no such book here, or this device may not write it. Nothing was changed.');

/** The logs that a relay keeps, and who may write them. It reads nothing of them but what stands outside of the seals. */
export class Books {
  readonly #database: Database;
  /** The most that rows, snapshots and blobs of one book may come to, in bytes. */
  readonly #quota: number;
  /** When a device was last seen to be let in, by book and key. */
  readonly #letIn = new Map<string, number>();

  constructor(database: Database, quota: number) {
    this.#database = database;
    this.#quota = quota;
  }

  /** Founds a book: its first writer grants itself. @throws RelayFault */
  async found(as: SignedAs, first: Grant): Promise<void> {
    await this.#grant(as, first, async ({ query }) => {
      const [made] = await query('INSERT INTO books (id) VALUES ($1) ON CONFLICT DO NOTHING RETURNING id', [
        first.book,
      ]);
      if (!made) throw notLetIn();
    });
  }

  /** Lets a device write, or not any more. @throws RelayFault */
  grant(as: SignedAs, next: Grant): Promise<void> {
    return this.#grant(as, next, async ({ query }) => {
      // One at a time, so that their numbers have no gaps.
      const [book] = await query('SELECT id FROM books WHERE id = $1 FOR UPDATE', [next.book]);
      if (!book) throw notLetIn();
    });
  }

  async #grant(as: SignedAs, next: Grant, begin: (asking: Asking) => Promise<void>): Promise<void> {
    if (as.device !== next.by) throw new RelayFault('not let in', 'Who sends it did not sign it.');
    await this.#database.together(async (asking) => {
      await begin(asking);
      const before = follow(NO_WRITERS, await grantsOf(asking, next.book), next.book);
      follow(before, [next], next.book);
      const { book, number, device, key, may, by, signature } = next;
      await asking.query(
        'INSERT INTO writers (book, number, device, key, may, signed_by, signature) VALUES ($1, $2, $3, $4, $5, $6, $7)',
        [book, number, device, key, may, by, signature],
      );
      if (may) await asking.query('INSERT INTO may_write VALUES ($1, $2) ON CONFLICT DO NOTHING', [book, key]);
      else await asking.query('DELETE FROM may_write WHERE book = $1 AND key = $2', [book, key]);
    });
  }

  /** Everybody who ever might write, each word on it in its order. */
  grants = (book: string): Promise<Grant[]> => grantsOf(this.#database, book);

  /**
   * Whether a device was let in a moment ago, so that its body is worth reading: what it does with that is asked of the database all the
   * same.
   *
   * @throws RelayFault where it may not write the book, or there is none
   */
  async needLately(book: string, key: string): Promise<void> {
    const name = `${book} ${key}`;
    const now = performance.now();
    if (now - (this.#letIn.get(name) ?? -Infinity) < LATELY) return;
    await this.needWriter(book, key);
    if (this.#letIn.size >= MOST_LATELY) this.#letIn.clear();
    this.#letIn.set(name, now);
  }

  /** @throws RelayFault where a device may not write a book, or there is none */
  async needWriter(book: string, key: string): Promise<void> {
    const [found] = await this.#database.query('SELECT 1 AS one FROM may_write WHERE book = $1 AND key = $2', [
      book,
      key,
    ]);
    if (!found) throw notLetIn();
  }

  /** @throws RelayFault where there is no such book */
  async standing(book: string, { query }: Asking = this.#database): Promise<BookStanding> {
    const [row] = await query<{
      epoch: number;
      head: number;
      head_hash: string;
      base: number;
      bytes: string | number;
    }>('SELECT epoch, head, head_hash, base, bytes FROM books WHERE id = $1', [book]);
    if (!row) throw notLetIn();
    const { epoch, head, head_hash: hash, base, bytes } = row;
    return { epoch, head: { number: head, hash }, base, bytes: Number(bytes) };
  }

  /** Rows after a number, the next first. @throws RelayFault where the next is not kept any more */
  async after(book: string, number: number): Promise<{ head: LogHead; rows: LogRow[] }> {
    const { head, base } = await this.standing(book);
    if (number < base)
      throw new RelayFault('not there', `Rows up to ${base} are not kept any more: begin from the snapshot.`, { base });
    const rows = await this.#database.query<KeptRow>(
      'SELECT number, epoch, previous, writer, sealed FROM log_rows WHERE book = $1 AND number > $2 ORDER BY number LIMIT $3',
      [book, number, MOST_ROWS],
    );
    return { head, rows: rows.map(({ sealed, ...header }) => ({ book, ...header, sealed: bytesToHex(sealed) })) };
  }

  /**
   * Puts rows behind a head, all of them or none: in one statement, with whether the request was there before and whether its device may.
   *
   * @returns the new head
   * @throws RelayFault with the rows that came in between where the head is another one
   */
  async append(as: SignedAs, book: string, after: LogHead, rows: readonly LogRow[]): Promise<LogHead> {
    const head = followed(as, book, after, rows);
    const bytes = rows.reduce((sum, { sealed }) => sum + sealed.length / 2, 0);
    const [answer] = await this.#database.query<{ seen: boolean; put: number }>(
      `WITH once AS (
         INSERT INTO nonces (device, nonce) VALUES ($1, $2) ON CONFLICT DO NOTHING RETURNING 1
       ), moved AS (
         UPDATE books SET head = $3, head_hash = $4, bytes = bytes + $5
         WHERE id = $6 AND head = $7 AND head_hash = $8 AND epoch = $9 AND bytes + $5 <= $10
           AND EXISTS (SELECT 1 FROM once)
           AND EXISTS (SELECT 1 FROM may_write WHERE book = $6 AND key = $1)
         RETURNING id
       ), put AS (
         INSERT INTO log_rows (book, number, epoch, previous, writer, sealed)
         SELECT moved.id, r.number, r.epoch, r.previous, r.writer, decode(r.sealed, 'hex')
         FROM moved, jsonb_to_recordset($11::jsonb) AS r(number int, epoch int, previous text, writer text, sealed text)
         RETURNING number
       )
       SELECT NOT EXISTS (SELECT 1 FROM once) AS seen, (SELECT count(*)::int FROM put) AS put`,
      [
        ...[as.device, as.nonce, head.number, head.hash, bytes, book, after.number, after.hash, rows[0]!.epoch],
        ...[this.#quota, JSON.stringify(rows)],
      ],
    );
    if (answer!.put === rows.length) return head;
    if (answer!.seen) throw seenBefore();
    await this.needWriter(book, as.device);
    const standing = await this.standing(book);
    if (standing.head.number === after.number && standing.head.hash === after.hash) {
      if (standing.epoch !== rows[0]!.epoch)
        throw new RelayFault('does not follow', `Epoch ${standing.epoch} has begun.`, { epoch: standing.epoch });
      throw this.#noRoom(standing.bytes);
    }
    throw new RelayFault(
      'head has moved',
      'Others were first.',
      await this.after(book, Math.max(after.number, standing.base)),
    );
  }

  /** Adds to what a book takes up. @throws RelayFault where that is more than it may */
  async take(asking: Asking, book: string, bytes: number): Promise<void> {
    const [taken] = await asking.query(
      'UPDATE books SET bytes = bytes + $2 WHERE id = $1 AND bytes + $2 <= $3 RETURNING id',
      [book, bytes, this.#quota],
    );
    if (!taken) throw this.#noRoom((await this.standing(book, asking)).bytes);
  }

  #noRoom = (bytes: number) =>
    new RelayFault('no room', `The book takes up ${bytes} of ${this.#quota} bytes, and this does not fit.`, {
      bytes,
      quota: this.#quota,
    });
}

export const seenBefore = () =>
  new RelayFault('seen before', 'This very request was here before. Nothing was changed by this one.');

async function grantsOf({ query }: Asking, book: string): Promise<Grant[]> {
  const rows = await query<Omit<Grant, 'by' | 'book'> & { signed_by: string }>(
    'SELECT number, device, key, may, signed_by, signature FROM writers WHERE book = $1 ORDER BY number',
    [book],
  );
  return rows.map(({ signed_by: by, ...rest }) => ({ book, ...rest, by }));
}

function follow(before: Writers, grants: readonly Grant[], book: string): Writers {
  try {
    return writersAfter(before, grants, book);
  } catch (thrown) {
    if (thrown instanceof GrantFault) throw new RelayFault('not let in', thrown.message);
    throw thrown;
  }
}

/** @throws RelayFault where rows do not follow the head they are put behind, or are another device's */
function followed({ device }: SignedAs, book: string, after: LogHead, rows: readonly LogRow[]): LogHead {
  try {
    const hashes = checkFollows(after, book, rows);
    const [first] = rows;
    if (rows.some(({ writer }) => writer !== device))
      throw new RelayFault('does not follow', 'A row is of another device.');
    if (rows.some(({ epoch }) => epoch !== first!.epoch))
      throw new RelayFault('does not follow', 'Rows that are put together are of one epoch.');
    return { number: rows.at(-1)!.number, hash: hashes.at(-1)! };
  } catch (thrown) {
    if (thrown instanceof LogFault) throw new RelayFault('does not follow', thrown.message);
    throw thrown;
  }
}
