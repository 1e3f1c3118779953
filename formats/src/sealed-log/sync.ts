import type { Id } from '@half-penny/core/model';
import {
  checkNotLost,
  LogFault,
  needShare,
  type Heard,
  type Here,
  type LogRow,
  type OpenedRow,
  type Share,
  type SharedTransaction,
  type SharedWorkspace,
} from '@half-penny/core/shared-log';
import type { RelayClient } from './client';
import { openRows, sealRows } from './rows';
import { NO_WRITERS, writersAfter } from './writers';

/** A workspace that is shared, wherever it is kept. */
export interface Shared {
  transact<T>(work: (tx: SharedTransaction) => Promise<T>): Promise<T>;
  here(): Here;
}

/** What a device holds of a shared workspace besides it. */
export interface LogKeys {
  /** The device's private Ed25519 key, in hex. */
  signing: string;
  /** The epoch it writes in. */
  epoch: number;
  /** The workspace's keys by epoch, each 32 bytes in hex. */
  keys: ReadonlyMap<number, string>;
}

type Client = Pick<RelayClient, 'rows' | 'append' | 'writers'>;

/** Brings a device and the log together. One runs at a time for a workspace. */
export class Sync {
  readonly #shared: SharedWorkspace;
  readonly #at: Shared;
  readonly #client: Client;
  readonly #keys: LogKeys;
  #writers: ReadonlyMap<Id, string> = new Map();

  constructor(shared: SharedWorkspace, at: Shared, client: Client, keys: LogKeys) {
    this.#shared = shared;
    this.#at = at;
    this.#client = client;
    this.#keys = keys;
  }

  /**
   * Until everything that waits here is in the log, and everything that is in the log is here.
   *
   * @param heard told of each step that was taken
   * @throws RelayRefusal, RelayUnreached; what waits goes on waiting
   * @throws LogFault where the log is not what it must be; nothing of that was applied
   */
  async run(heard: (what: Heard) => void = () => undefined): Promise<void> {
    for (let isCurrent = false; ;) {
      const out = await this.#at.transact((tx) => this.#shared.outgoing(tx, this.#at.here()));
      const share = await this.#at.transact(needShare);
      if (out) {
        const { book } = share;
        const key = this.#keys.keys.get(this.#keys.epoch)!;
        const rows = sealRows(out.after, out.bodies, {
          book,
          epoch: this.#keys.epoch,
          key,
          signing: this.#keys.signing,
        });
        const answer = await this.#client.append(book, out.after, rows);
        if (answer.taken) heard(await this.#hear(await this.#open(share, rows)));
        else heard(await this.#take(share, answer.head.number, answer.rows));
        isCurrent = answer.taken;
        continue;
      }
      if (isCurrent) return;
      const { head, rows } = await this.#client.rows(share.book, share.head.number);
      if (rows.length > 0) heard(await this.#take(share, head.number, rows));
      else checkNotLost(share.head, head.number);
      isCurrent = head.number === share.head.number + rows.length;
    }
  }

  async #take(share: Share, told: number, rows: readonly LogRow[]): Promise<Heard> {
    checkNotLost(share.head, told);
    return this.#hear(await this.#open(share, rows));
  }

  #hear = (rows: readonly OpenedRow[]): Promise<Heard> =>
    this.#at.transact((tx) => this.#shared.hear(tx, rows, this.#at.here()));

  async #open(share: Share, rows: readonly LogRow[]): Promise<OpenedRow[]> {
    const open = () => openRows(share.head, rows, { book: share.book, keys: this.#keys.keys, writers: this.#writers });
    try {
      return await open();
    } catch (thrown) {
      if (!(thrown instanceof LogFault) || thrown.kind !== 'not by this device') throw thrown;
      // One that was let in since is known by a row of the writers.
      this.#writers = writersAfter(NO_WRITERS, await this.#client.writers(share.book), share.book).ever;
      return open();
    }
  }
}
