import { RelayFault } from './fault';
import type { Database } from './sql';

/** A sealed file in a mailbox. */
export interface Letter {
  id: string;
  /** Epoch milliseconds. */
  at: number;
  bytes: number;
}

/** So many letters, and so many bytes, wait in one mailbox at most. */
const MOST_LETTERS = 500;

/** Where sealed files wait for whoever holds a key: put in by anybody who signs, taken out by that key alone. */
export class Mailboxes {
  readonly #database: Database;
  readonly #most: number;

  /** @param most bytes that wait in one mailbox */
  constructor(database: Database, most: number) {
    this.#database = database;
    this.#most = most;
  }

  /** @returns its id @throws RelayFault where the mailbox is full */
  async put(mailbox: string, bytes: Uint8Array): Promise<string> {
    const [put] = await this.#database.query<{ id: string }>(
      `INSERT INTO letters (mailbox, bytes)
       SELECT $1::text, $2::bytea
       WHERE (SELECT count(*) < $3 AND coalesce(sum(length(bytes)), 0) + length($2::bytea) <= $4 FROM letters WHERE mailbox = $1::text)
       RETURNING id`,
      [mailbox, bytes, MOST_LETTERS, this.#most],
    );
    if (!put) throw new RelayFault('no room', 'The mailbox is full until its owner has looked into it.');
    return put.id;
  }

  /** The oldest first. */
  async list(mailbox: string): Promise<Letter[]> {
    const rows = await this.#database.query<{ id: string; put: Date | string; bytes: number }>(
      'SELECT id, put, length(bytes) AS bytes FROM letters WHERE mailbox = $1 ORDER BY put, id',
      [mailbox],
    );
    return rows.map(({ id, put, bytes }) => ({ id, at: new Date(put).getTime(), bytes }));
  }

  /** @throws RelayFault where there is none */
  async read(mailbox: string, id: string): Promise<Uint8Array> {
    const [found] = await this.#database.query<{ bytes: Uint8Array }>(
      'SELECT bytes FROM letters WHERE mailbox = $1 AND id = $2',
      [mailbox, id],
    );
    if (!found) throw new RelayFault('not there', 'There is no such letter in this mailbox.');
    return found.bytes;
  }

  /** Takes a letter out for good. */
  async remove(mailbox: string, id: string): Promise<void> {
    await this.#database.query('DELETE FROM letters WHERE mailbox = $1 AND id = $2', [mailbox, id]);
  }
}
