import type { LogHead } from '@half-penny/core/shared-log';
import type { Books } from './books';
import { RelayFault } from './fault';
import type { Database } from './sql';

/** A sealed workspace as it was after a row, in pieces. */
export interface Snapshot {
  id: string;
  epoch: number;
  number: number;
  hash: string;
  /** The key of the device that made it. */
  writer: string;
  pieces: number;
}

/** So long a snapshot that nobody finishes is kept. */
const UNFINISHED = '1 day';
const MOST_PIECES = 2000;

/** Sealed workspaces and sealed receipts of books. */
export class Store {
  readonly #database: Database;
  readonly #books: Books;

  constructor(database: Database, books: Books) {
    this.#database = database;
    this.#books = books;
  }

  /** Begins a snapshot; its pieces follow. */
  async begin(book: string, writer: string, at: LogHead & { epoch: number }, pieces: number): Promise<string> {
    if (pieces > MOST_PIECES) throw new RelayFault('too large', `A snapshot has at most ${MOST_PIECES} pieces.`);
    await this.#sweep(book);
    const [made] = await this.#database.query<{ id: string }>(
      'INSERT INTO snapshots (book, epoch, number, hash, writer, pieces) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id',
      [book, at.epoch, at.number, at.hash, writer, pieces],
    );
    return made!.id;
  }

  /** Puts a piece, from 0; one that is there already stays. @throws RelayFault */
  async putPiece(book: string, snapshot: string, piece: number, bytes: Uint8Array): Promise<void> {
    await this.#database.together(async (asking) => {
      const [of] = await asking.query<{ pieces: number }>(
        'SELECT pieces FROM snapshots WHERE id = $1 AND book = $2 AND NOT finished',
        [snapshot, book],
      );
      if (!of || piece >= of.pieces) throw new RelayFault('not there', 'No such piece is waited for.');
      const put = await asking.query(
        'INSERT INTO pieces (snapshot, piece, bytes) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING RETURNING piece',
        [snapshot, piece, bytes],
      );
      if (put.length > 0) await this.#books.take(asking, book, bytes.length);
    });
  }

  /** Makes a snapshot the one that devices begin from; those before it go. @throws RelayFault where a piece is missing */
  async finish(book: string, snapshot: string): Promise<void> {
    await this.#database.together(async (asking) => {
      const [of] = await asking.query<{ pieces: number; there: number; number: number }>(
        `SELECT pieces, number, (SELECT count(*)::int FROM pieces WHERE snapshot = snapshots.id) AS there
         FROM snapshots WHERE id = $1 AND book = $2`,
        [snapshot, book],
      );
      if (!of) throw new RelayFault('not there', 'There is no such snapshot.');
      if (of.there < of.pieces)
        throw new RelayFault('does not follow', `${of.pieces - of.there} of ${of.pieces} pieces are missing.`);
      await asking.query('UPDATE snapshots SET finished = true WHERE id = $1', [snapshot]);
      await this.#drop(asking, book, 'finished AND number < $2', [of.number]);
    });
  }

  /** The snapshot to begin from; null where there is none. */
  async newest(book: string): Promise<Snapshot | null> {
    const [found] = await this.#database.query<Snapshot & Record<string, unknown>>(
      'SELECT id, epoch, number, hash, writer, pieces FROM snapshots WHERE book = $1 AND finished ORDER BY number DESC, begun DESC LIMIT 1',
      [book],
    );
    return found ?? null;
  }

  /** @throws RelayFault where there is no such piece */
  async piece(book: string, snapshot: string, piece: number): Promise<Uint8Array> {
    const [found] = await this.#database.query<{ bytes: Uint8Array }>(
      'SELECT bytes FROM pieces JOIN snapshots ON snapshots.id = snapshot WHERE book = $1 AND snapshot = $2 AND piece = $3',
      [book, snapshot, piece],
    );
    if (!found) throw new RelayFault('not there', 'There is no such piece.');
    return found.bytes;
  }

  /** Keeps what is sealed by what its device calls it; what is there already stays. @throws RelayFault where there is no room */
  async putBlob(book: string, hash: string, bytes: Uint8Array): Promise<void> {
    await this.#database.together(async (asking) => {
      const put = await asking.query(
        'INSERT INTO blobs (book, hash, bytes) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING RETURNING hash',
        [book, hash, bytes],
      );
      if (put.length > 0) await this.#books.take(asking, book, bytes.length);
    });
  }

  /** @throws RelayFault where there is none */
  async blob(book: string, hash: string): Promise<Uint8Array> {
    const [found] = await this.#database.query<{ bytes: Uint8Array }>(
      'SELECT bytes FROM blobs WHERE book = $1 AND hash = $2',
      [book, hash],
    );
    if (!found) throw new RelayFault('not there', 'There is no such file.');
    return found.bytes;
  }

  /**
   * Begins an epoch behind a head: rows up to it go, with every snapshot but the one that the epoch begins from.
   *
   * @throws RelayFault where the head has moved, or the snapshot is not of it
   */
  async beginEpoch(book: string, epoch: number, at: LogHead, snapshot: string): Promise<void> {
    await this.#database.together(async (asking) => {
      const [of] = await asking.query(
        'SELECT id FROM snapshots WHERE id = $1 AND book = $2 AND finished AND number = $3 AND hash = $4 AND epoch = $5',
        [snapshot, book, at.number, at.hash, epoch],
      );
      if (!of) throw new RelayFault('does not follow', 'An epoch begins from a finished snapshot of its first moment.');
      const [moved] = await asking.query(
        'UPDATE books SET epoch = $2, base = head WHERE id = $1 AND epoch = $2 - 1 AND head = $3 AND head_hash = $4 RETURNING id',
        [book, epoch, at.number, at.hash],
      );
      if (!moved) throw new RelayFault('head has moved', 'Others were first.');
      const [gone] = await asking.query<{ bytes: string | number }>(
        `WITH gone AS (DELETE FROM log_rows WHERE book = $1 RETURNING length(sealed) AS bytes)
         SELECT coalesce(sum(bytes), 0) AS bytes FROM gone`,
        [book],
      );
      await asking.query('UPDATE books SET bytes = bytes - $2 WHERE id = $1', [book, Number(gone!.bytes)]);
      await this.#drop(asking, book, 'id <> $2', [snapshot]);
    });
  }

  #sweep = (book: string) =>
    this.#database.together((asking) =>
      this.#drop(asking, book, `NOT finished AND begun < now() - interval '${UNFINISHED}'`, []),
    );

  async #drop(
    asking: Pick<Database, 'query'>,
    book: string,
    which: string,
    values: readonly (string | number)[],
  ): Promise<void> {
    const [gone] = await asking.query<{ bytes: string | number }>(
      `SELECT coalesce(sum(length(bytes)), 0) AS bytes FROM pieces
       WHERE snapshot IN (SELECT id FROM snapshots WHERE book = $1 AND ${which})`,
      [book, ...values],
    );
    await asking.query(`DELETE FROM snapshots WHERE book = $1 AND ${which}`, [book, ...values]);
    await asking.query('UPDATE books SET bytes = bytes - $2 WHERE id = $1', [book, Number(gone!.bytes)]);
  }
}
