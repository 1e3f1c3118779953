import { LogFault, type Heard, type SharedWorkspace } from '@half-penny/core/shared-log';
import { isRefused, RelayUnreached, Sync, type BookTold } from '@half-penny/formats/sealed-log';
import { liveQuery } from 'dexie';
import type { SharedBook, Standing } from '../database';
import { DexieTransaction } from '../executor';
import { wordsOf } from '../in-words';
import { registry } from '../registry';
import type { Session } from '../session';
import { Bell } from './bell';
import { editBook, needBook, shareOf } from './book';
import { clientOf } from './client';
import { changeKey, goOnFromEpoch, isBehind, NOT_TOLD, takeLetters } from './epochs';
import { inOneTab } from './one-tab';
import { carryReceipts } from './receipts';

// A shared workspace and its log are brought together for as long as the application is open: whenever something was done here, whenever
// the relay says that others did something, and when the line is back.

const SOONEST = 1_000;
const LATEST = 30_000;
/** With a line open, so seldom it is looked by itself, in milliseconds. */
const SELDOM = 60_000;

/** Told of what came of meeting the log. */
export type Told = (heard: Heard) => void;

/** Keeps this workspace and its log together: one tab does it for all. @returns ends it */
export const keepTogether = (session: Session, told: Told): (() => void) =>
  inOneTab(`share ${session.entry.id}`, (signal) => new Together(session, told, signal).keep());

class Together {
  readonly #session: Session;
  readonly #told: Told;
  readonly #signal: AbortSignal;
  readonly #bell = new Bell();
  #line: AbortController | null = null;
  /** What the relay said of the book; asked again after anything went wrong. */
  #book: BookTold | null = null;
  /** The relay said that something happened. */
  #isTold = false;
  #sync: { of: string; sync: Sync } | null = null;
  #workspace: SharedWorkspace | null = null;

  constructor(session: Session, told: Told, signal: AbortSignal) {
    this.#session = session;
    this.#told = told;
    this.#signal = signal;
  }

  async keep(): Promise<void> {
    const { database, entry } = this.#session;
    const { ring } = this.#bell;
    const watching = [
      liveQuery(async () => (await shareOf(database))?.waiting.at(-1)?.op).subscribe(ring, ring),
      liveQuery(async () => askedFor(await registry.shared.get(entry.id))).subscribe(ring, ring),
    ];
    window.addEventListener('online', ring);
    try {
      for (let patience = SOONEST; !this.#signal.aborted;) {
        const book = await registry.shared.get(entry.id);
        const isHere = book && !book.removed && (await shareOf(database)) !== null;
        if (!isHere) {
          // A backup that was brought back into its place is shared with nobody.
          if (book && !book.removed) await registry.shared.delete(entry.id);
          this.#hangUp();
          await this.#bell.sleep(SELDOM, this.#signal);
          continue;
        }
        try {
          await this.#bringTogether(book);
          await this.#stand({ kind: 'together', at: Date.now() });
          patience = SOONEST;
          this.#listen(book);
          await this.#bell.sleep(SELDOM, this.#signal);
        } catch (thrown) {
          this.#book = null;
          this.#hangUp();
          await this.#failed(thrown);
          await this.#bell.sleep(patience, this.#signal);
          patience = Math.min(LATEST, patience * 2);
        }
      }
    } finally {
      this.#hangUp();
      window.removeEventListener('online', ring);
      for (const each of watching) each.unsubscribe();
    }
  }

  async #bringTogether(book: SharedBook): Promise<void> {
    try {
      await this.#once(book);
    } catch (thrown) {
      // A key was changed meanwhile: with what is told of that it may well do.
      const isOld =
        (thrown instanceof LogFault && thrown.kind === 'cannot be opened') ||
        isRefused(thrown, 'not there', 'does not follow', 'head has moved');
      if (!isOld || this.#signal.aborted) throw thrown;
      this.#book = null;
      await this.#once(await needBook(book.id));
    }
  }

  async #once(known: SharedBook): Promise<void> {
    const { database, entry } = this.#session;
    const client = clientOf(known);
    let book = known;
    if (!this.#book || this.#isTold || book.afreshIn !== undefined) {
      this.#isTold = false;
      const told = await client.standing(book.book);
      // The key of an epoch is told before it begins.
      if (told.epoch !== this.#book?.epoch) {
        await takeLetters(client, book);
        book = await needBook(entry.id);
      }
      const share = await shareOf(database);
      if (!book.epochs.some(([epoch]) => epoch === told.epoch)) throw new Error(NOT_TOLD);
      const isOlder = share !== null && told.base > share.head.number;
      if (isOlder || (book.afreshIn !== undefined && told.epoch >= book.afreshIn))
        await goOnFromEpoch(client, this.#session, book, told);
      this.#book = told;
    }
    await (await this.#syncOf(book, this.#book.epoch)).run(this.#told);
    if (book.changesKey) {
      await changeKey(client, this.#session, this.#book).catch((thrown: unknown) => {
        if (!isBehind(thrown)) throw thrown;
        this.#bell.ring();
      });
      this.#book = null;
      this.#bell.ring();
    }
    await carryReceipts(client, database, book, this.#signal);
  }

  /** Kept for as long as it writes with the same keys: it knows by then who may write. */
  async #syncOf(book: SharedBook, epoch: number): Promise<Sync> {
    const of = JSON.stringify([book.relay, book.book, book.keys.signing, book.epochs, epoch]);
    if (this.#sync?.of === of) return this.#sync.sync;
    const { database, executor } = this.#session;
    this.#workspace ??= await executor.shared();
    const at = {
      transact: <T>(work: (tx: DexieTransaction) => Promise<T>) =>
        database.transaction('rw', database.tables, (tx) => work(new DexieTransaction(tx))) as Promise<T>,
      here: () => ({ now: Date.now(), memberId: this.#session.memberId }),
    };
    const sync = new Sync(this.#workspace, at, clientOf(book), {
      signing: book.keys.signing,
      epoch,
      keys: new Map(book.epochs),
    });
    this.#sync = { of, sync };
    return sync;
  }

  /** Waits at the relay for what others do; a line that is lost is looked after at once. */
  #listen(book: SharedBook): void {
    if (this.#line) return;
    const line = (this.#line = new AbortController());
    const over = () => {
      if (this.#line === line) this.#line = null;
      if (!line.signal.aborted) setTimeout(this.#bell.ring, SOONEST);
    };
    const told = () => {
      this.#isTold = true;
      this.#bell.ring();
    };
    clientOf(book).wait(book.book, told, line.signal).then(over, over);
  }

  #hangUp(): void {
    this.#line?.abort();
    this.#line = null;
  }

  async #failed(thrown: unknown): Promise<void> {
    const since = Date.now();
    if (this.#signal.aborted) return;
    if (thrown instanceof RelayUnreached) return this.#stand({ kind: 'off line', since });
    if (isRefused(thrown, 'not let in')) await editBook(this.#session.entry.id, (row) => (row.removed = true));
    return this.#stand({ kind: 'stopped', since, why: wordsOf(thrown) });
  }

  /** Kept where every tab sees it; written only where it says something else. */
  async #stand(standing: Standing): Promise<void> {
    await editBook(this.#session.entry.id, (row) => {
      const before = row.standing;
      if (
        before.kind !== standing.kind ||
        (standing.kind === 'stopped' && 'why' in before && before.why !== standing.why)
      )
        row.standing = standing;
      else if (before.kind === 'together' && standing.kind === 'together' && standing.at - before.at > SELDOM)
        row.standing = standing;
    });
  }
}

/** What somebody asked for that the loop has to do. */
const askedFor = (book: SharedBook | undefined) =>
  book && [book.changesKey, book.afreshIn, book.receipts, book.removed, book.relay, book.epochs.length];
