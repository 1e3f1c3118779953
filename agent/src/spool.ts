import { writeLine, type Activity } from '@half-penny/core/capture';
import { LineSealer } from '@half-penny/formats/sealed-lines';
import { randomBytes } from 'node:crypto';
import { appendFileSync, existsSync, mkdirSync, readFileSync, renameSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

interface State {
  device: string;
  /** The number of the first line in the spool. */
  first: number;
  /** The server has everything up to this number. */
  sent: number;
}

/** So many are sent at once, and no more are under way. */
export const MOST_UNDER_WAY = 1000;

/** What is to be sent: in clear only what an earlier version left on the disk so. */
export type Outgoing = { first: number; count: number } & ({ activities: Activity[] } | { sealed: string[] });

/**
 * What was noticed and not sent yet, each with a number of its own. On the disk it is sealed for the browser that will collect it, so that
 * nothing of it is lost while nobody listens, and nobody reads it. Until that browser has said who it is, and by choice always, it stays
 * in memory.
 */
export class Spool {
  readonly #path: string;
  readonly #statePath: string;
  readonly #refusedPath: string;
  readonly #inMemory: boolean;
  #state: State;
  /** As they stand on the disk or would: sealed ones in quotation marks, activities of earlier versions as objects. */
  #lines: string[];
  /** Noticed before anyone said for whom it is to be sealed. */
  #unsealed: Activity[] = [];
  #sealer: { key: string; sealer: LineSealer } | null = null;
  #work: Promise<void> = Promise.resolve();

  constructor(folder: string, { inMemory = false, kind = 'agent' }: { inMemory?: boolean; kind?: string } = {}) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.#path = join(folder, 'spool.jsonl');
    this.#statePath = join(folder, 'state.json');
    this.#refusedPath = join(folder, 'refused.jsonl');
    this.#inMemory = inMemory;
    this.#state = existsSync(this.#statePath)
      ? (JSON.parse(readFileSync(this.#statePath, 'utf8')) as State)
      : { device: `${kind}-${randomBytes(6).toString('hex')}`, first: 1, sent: 0 };
    const text = existsSync(this.#path) ? readFileSync(this.#path, 'utf8') : '';
    // A last line that was cut off was never counted.
    const whole = text.slice(0, text.lastIndexOf('\n') + 1);
    if (whole.length < text.length) truncateSync(this.#path, Buffer.byteLength(whole));
    this.#lines = whole.split('\n').filter(Boolean);
    // Numbers of a batch that was under way when the last one ended are not given again.
    if (inMemory && this.#lines.length === 0) {
      const sent = this.#state.sent + MOST_UNDER_WAY;
      this.#state = { ...this.#state, sent, first: sent + 1 };
    }
    this.#keepState();
  }

  get device(): string {
    return this.#state.device;
  }

  /** Says for whom lines are sealed from now on; what waited for that is sealed, too. */
  sealFor(publicKey: string): void {
    if (this.#sealer?.key !== publicKey) this.#sealer = { key: publicKey, sealer: new LineSealer(publicKey) };
    this.add([]);
  }

  add(activities: readonly Activity[]): void {
    this.#unsealed.push(...activities);
    this.#work = this.#work.then(() => this.#seal());
  }

  /** Once everything that was added is sealed, if it can be. */
  settled(): Promise<void> {
    return this.#work;
  }

  /** Drops what is not wished any more of what is not sealed yet. */
  sift(keep: (activity: Activity) => Activity | null): void {
    this.#unsealed = this.#unsealed.flatMap((each) => keep(each) ?? []);
  }

  async #seal(): Promise<void> {
    const by = this.#sealer?.sealer;
    if (!by || this.#unsealed.length === 0) return;
    const taken = this.#unsealed.splice(0);
    let lines: string[];
    try {
      lines = await Promise.all(taken.map(async (each) => JSON.stringify(await by.seal(writeLine(each)))));
    } catch {
      // The key was none; another one may come.
      this.#unsealed.unshift(...taken);
      return;
    }
    if (!this.#inMemory) appendFileSync(this.#path, lines.map((line) => `${line}\n`).join(''), { mode: 0o600 });
    this.#lines.push(...lines);
  }

  /** What is to be sent next, all of it sealed or none; null where nothing waits. */
  next(most: number): Outgoing | null {
    const skip = this.#state.sent + 1 - this.#state.first;
    const lines = this.#lines.slice(skip, skip + most).map((line) => JSON.parse(line) as Activity | string);
    const isSealed = typeof lines[0] === 'string';
    const end = lines.findIndex((line) => (typeof line === 'string') !== isSealed);
    const alike = end < 0 ? lines : lines.slice(0, end);
    if (alike.length === 0) return null;
    const numbers = { first: this.#state.sent + 1, count: alike.length };
    return isSealed ? { ...numbers, sealed: alike as string[] } : { ...numbers, activities: alike as Activity[] };
  }

  /** Whether something waits, sealed or not. */
  get waits(): boolean {
    return this.#unsealed.length > 0 || this.#state.sent < this.#last;
  }

  /** Whether what waits cannot be sent, as nobody has said for whom it is to be sealed. */
  get isUnpaired(): boolean {
    return this.#sealer === null && this.#unsealed.length > 0;
  }

  get #last(): number {
    return this.#state.first + this.#lines.length - 1;
  }

  /** The server has everything up to a number. */
  sent(upTo: number): void {
    if (upTo <= this.#state.sent) return;
    this.#state = { ...this.#state, sent: upTo };
    this.#keepState();
    if (upTo < this.#last) return;
    // The state says where the next one begins before the lines go: after a mishap between, they are only sent once more.
    if (existsSync(this.#path)) truncateSync(this.#path, 0);
    this.#lines = [];
    this.#state = { ...this.#state, first: upTo + 1 };
    this.#keepState();
  }

  /** Throws away what waits, and what was put aside. */
  wipe(): void {
    this.#unsealed = [];
    if (existsSync(this.#refusedPath)) truncateSync(this.#refusedPath, 0);
    this.sent(this.#last);
  }

  /** Puts aside what the server will not have, and why; what follows it goes on. */
  refuse(upTo: number, why: string): void {
    const from = this.#state.sent + 1 - this.#state.first;
    const lines = this.#lines.slice(from, upTo + 1 - this.#state.first);
    if (!this.#inMemory)
      appendFileSync(this.#refusedPath, lines.map((line) => `${JSON.stringify({ why })}\n${line}\n`).join(''), {
        mode: 0o600,
      });
    this.sent(upTo);
  }

  #keepState(): void {
    writeFileSync(`${this.#statePath}.new`, JSON.stringify(this.#state), { mode: 0o600 });
    renameSync(`${this.#statePath}.new`, this.#statePath);
  }
}
