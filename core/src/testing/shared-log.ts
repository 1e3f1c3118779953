import { engine } from '../commands';
import { MemoryStore, type Settlement } from '../engine';
import { canonical } from '../model/canonical';
import type { Id } from '../model/ids';
import { idSource } from '../model/ids';
import { tableNames } from '../model/tables';
import {
  beginning,
  bodySchema,
  checkFollows,
  checkNotLost,
  hashOfRow,
  LOG_START,
  SharedWorkspace,
  type LogBody,
  type LogHead,
  type LogRow,
  type OpenedRow,
  type Share,
  type SharedTransaction,
} from '../shared-log';

// Devices and a relay in memory, with whatever can happen between them. Seals are left out here: formats has them, with tests of their own.

const BOOK = '01a1cfaa-35a2-7000-9e89-000000000001';

/** A workspace in memory with where it stands in a log. */
class MemoryShared extends MemoryStore implements SharedTransaction {
  standing: Share | null = null;

  async share(): Promise<Share | null> {
    return this.standing;
  }

  async settle(settlement: Settlement | null, share: Share): Promise<void> {
    if (settlement) this.become(settlement);
    this.standing = share;
  }
}

/** What a relay answers to an append: taken, or what came in between. */
type Answer = { taken: true; head: LogHead } | { taken: false; rows: LogRow[] };

/** A relay that keeps what it is given, in one order. */
export class MemoryRelay {
  rows: LogRow[] = [];

  get head(): LogHead {
    const last = this.rows.at(-1);
    return last ? { number: last.number, hash: hashOfRow(last) } : { number: 0, hash: '' };
  }

  after(number: number, most = 500): LogRow[] {
    return this.rows.slice(number, number + most);
  }

  append(after: LogHead, rows: readonly LogRow[]): Answer {
    if (canonical(after) !== canonical(this.head)) return { taken: false, rows: this.after(after.number) };
    this.rows.push(...rows);
    return { taken: true, head: this.head };
  }
}

/** Binds bodies to a head, as rows. */
export function rowsFrom(head: LogHead, bodies: readonly LogBody[], writer: string): LogRow[] {
  let { number, hash: previous } = head;
  return bodies.map((body) => {
    const row: LogRow = { book: BOOK, epoch: 1, number: ++number, previous, writer, sealed: canonical(body) };
    previous = hashOfRow(row);
    return row;
  });
}

/** Opens rows that follow a head. @throws LogFault */
export function openedOf(head: LogHead, rows: readonly LogRow[]): OpenedRow[] {
  const hashes = checkFollows(head, BOOK, rows);
  return rows.map(({ sealed, ...header }, index): OpenedRow => {
    const body = bodySchema.parse(JSON.parse(sealed)) as LogBody;
    return { ...header, hash: hashes[index]!, body };
  });
}

/** One device of a shared workspace. */
export class MemoryDevice {
  readonly store = new MemoryShared();
  readonly shared = new SharedWorkspace(engine);
  readonly device: Id;
  readonly newId: () => Id;
  memberId: Id | null = null;
  now: number;
  /** How much of what was done here did not fit when others were first. */
  everRefused = 0;

  /** @param device its id, where that matters */
  constructor(number: number, now: number, device?: Id) {
    this.now = now;
    let state = number * 7919 + 1;
    this.newId = idSource(
      () => this.now,
      (bytes) => bytes.map(() => (state = (state * 1103515245 + 12345) % 2147483648) >> 8),
    );
    this.device = device ?? this.newId();
  }

  /** Begins from a workspace as it was when it was shared. */
  begin(from: MemoryStore, head: LogHead = LOG_START, book = BOOK): void {
    this.store.load(Object.fromEntries(tableNames.map((table) => [table, from.rows(table)])), from.journal);
    this.store.standing = beginning(book, this.device, head);
  }

  readonly here = () => ({ now: this.now, memberId: this.memberId });

  #last: Promise<unknown> = Promise.resolve();

  /** One after another, as a database would have it. */
  transact<T>(work: (tx: SharedTransaction) => Promise<T>): Promise<T> {
    const turn = this.#last.then(() => work(this.store));
    this.#last = turn.catch(() => undefined);
    return turn;
  }

  run = (command: string, input: unknown) =>
    this.transact((tx) => this.shared.run(tx, this.newId(), command, input, this.here()));
  undo = (seq?: number) => this.transact((tx) => this.shared.undo(tx, this.newId(), this.here(), seq));
  redo = () => this.transact((tx) => this.shared.redo(tx, this.newId(), this.here()));

  /** Reads rows as they came. @throws LogFault */
  async hear(rows: readonly LogRow[]): Promise<void> {
    const opened = openedOf(this.store.standing!.head, rows);
    const { refused } = await this.transact((tx) => this.shared.hear(tx, opened, this.here()));
    this.everRefused += refused.length;
  }

  /** What goes out next, bound to where this device stands. */
  async outgoing(): Promise<{ after: LogHead; rows: LogRow[] } | null> {
    const out = await this.shared.outgoing(this.store, this.here());
    return out && { after: out.after, rows: rowsFrom(out.after, out.bodies, this.device) };
  }

  /** Until everything that waits is in the log and everything of the log is here. */
  async settle(relay: MemoryRelay): Promise<void> {
    for (;;) {
      checkNotLost(this.store.standing!.head, relay.head.number);
      const rows = relay.after(this.store.standing!.head.number);
      if (rows.length > 0) await this.hear(rows);
      const out = await this.outgoing();
      if (!out) return;
      const answer = relay.append(out.after, out.rows);
      await this.hear(answer.taken ? out.rows : answer.rows);
    }
  }
}
