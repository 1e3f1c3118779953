import { writeLine, type Activity } from '@half-penny/core/capture';
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

/** What was noticed and not sent yet, on disk, each with a number of its own; nothing of it is lost while nobody listens. */
export class Spool {
  readonly #path: string;
  readonly #statePath: string;
  readonly #refusedPath: string;
  #state: State;
  #lines: string[];

  constructor(folder: string) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.#path = join(folder, 'spool.jsonl');
    this.#statePath = join(folder, 'state.json');
    this.#refusedPath = join(folder, 'refused.jsonl');
    this.#state = existsSync(this.#statePath)
      ? (JSON.parse(readFileSync(this.#statePath, 'utf8')) as State)
      : { device: `agent-${randomBytes(6).toString('hex')}`, first: 1, sent: 0 };
    const text = existsSync(this.#path) ? readFileSync(this.#path, 'utf8') : '';
    // A last line that was cut off was never counted.
    const whole = text.slice(0, text.lastIndexOf('\n') + 1);
    if (whole.length < text.length) truncateSync(this.#path, Buffer.byteLength(whole));
    this.#lines = whole.split('\n').filter(Boolean);
    this.#keepState();
  }

  get device(): string {
    return this.#state.device;
  }

  add(activities: readonly Activity[]): void {
    if (activities.length === 0) return;
    const lines = activities.map(writeLine);
    appendFileSync(this.#path, lines.map((line) => `${line}\n`).join(''), { mode: 0o600 });
    this.#lines.push(...lines);
  }

  /** What is to be sent next; null where nothing waits. */
  next(most: number): { first: number; activities: Activity[] } | null {
    const skip = this.#state.sent + 1 - this.#state.first;
    const lines = this.#lines.slice(skip, skip + most);
    if (lines.length === 0) return null;
    return { first: this.#state.sent + 1, activities: lines.map((line) => JSON.parse(line) as Activity) };
  }

  /** The server has everything up to a number. */
  sent(upTo: number): void {
    if (upTo <= this.#state.sent) return;
    this.#state = { ...this.#state, sent: upTo };
    this.#keepState();
    const last = this.#state.first + this.#lines.length - 1;
    if (upTo < last) return;
    // The state says where the next one begins before the lines go: after a mishap between, they are only sent once more.
    truncateSync(this.#path, 0);
    this.#lines = [];
    this.#state = { ...this.#state, first: upTo + 1 };
    this.#keepState();
  }

  /** Puts aside what the server will not have, and why; what follows it goes on. */
  refuse(upTo: number, why: string): void {
    const from = this.#state.sent + 1 - this.#state.first;
    const lines = this.#lines.slice(from, upTo + 1 - this.#state.first);
    appendFileSync(this.#refusedPath, lines.map((line) => `${JSON.stringify({ why })}\n${line}\n`).join(''));
    this.sent(upTo);
  }

  #keepState(): void {
    writeFileSync(`${this.#statePath}.new`, JSON.stringify(this.#state), { mode: 0o600 });
    renameSync(`${this.#statePath}.new`, this.#statePath);
  }
}
