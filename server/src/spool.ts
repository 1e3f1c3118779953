import type { Batch } from '@half-penny/core/capture';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  openSync,
  closeSync,
  fsyncSync,
  readdirSync,
  readFileSync,
  renameSync,
  truncateSync,
  writeFileSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';

/** What of a device's activity was given out: up to which number it came, and up to which the browser has it. */
interface State {
  /** Numbers up to this one stand in the spool, or did. */
  last: number;
  /** The browser has these. */
  collected: number;
}

export interface Waiting {
  device: string;
  first: number;
  activities: Batch['activities'];
}

/**
 * Activity that no browser has collected yet, on disk: a file of batches for each device, each written to the disk before it is
 * answered. Numbers tell what came already, so that a batch that is sent again after a mishap is taken once.
 */
export class Spool {
  readonly #folder: string;
  readonly #states = new Map<string, State>();

  constructor(folder: string) {
    this.#folder = folder;
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    for (const name of readdirSync(folder)) {
      if (name.endsWith('.jsonl')) this.#recover(name.slice(0, -'.jsonl'.length));
    }
    for (const name of readdirSync(folder)) {
      const device = name.endsWith('.state') ? name.slice(0, -'.state'.length) : null;
      if (device !== null && !this.#states.has(device)) this.#states.set(device, this.#readState(device));
    }
  }

  /**
   * Takes a batch in; what of it came before is passed over.
   *
   * @returns up to which number the device's activity is here
   */
  take(batch: Batch): number {
    const state = this.#stateOf(batch.device);
    const fresh = batch.activities.slice(Math.max(0, state.last + 1 - batch.first));
    if (fresh.length === 0) return state.last;
    const first = batch.first + batch.activities.length - fresh.length;
    const line = `${JSON.stringify({ device: batch.device, first, activities: fresh })}\n`;
    const file = openSync(this.#path(batch.device), 'a', 0o600);
    try {
      appendFileSync(file, line);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    state.last = first + fresh.length - 1;
    return state.last;
  }

  /** What waits, in the order of its numbers: at most so many activities of one device at a time. */
  waiting(most = 2000): Waiting | null {
    for (const [device, state] of this.#states) {
      if (state.last <= state.collected) continue;
      const wanted: Waiting = { device, first: state.collected + 1, activities: [] };
      for (const batch of this.#read(device)) {
        const skip = Math.max(0, state.collected + 1 - batch.first);
        if (skip >= batch.activities.length) continue;
        if (wanted.activities.length === 0) wanted.first = batch.first + skip;
        wanted.activities.push(...batch.activities.slice(skip));
        if (wanted.activities.length >= most) break;
      }
      if (wanted.activities.length > 0) return { ...wanted, activities: wanted.activities.slice(0, most) };
    }
    return null;
  }

  /** The browser has kept a device's activity up to a number. */
  collected(device: string, upTo: number): void {
    const state = this.#stateOf(device);
    if (upTo <= state.collected) return;
    state.collected = Math.min(upTo, state.last);
    const path = join(this.#folder, `${device}.state`);
    writeFileSync(`${path}.new`, JSON.stringify(state), { mode: 0o600 });
    renameSync(`${path}.new`, path);
    // Nothing is kept that a browser has.
    if (state.collected === state.last && existsSync(this.#path(device))) truncateSync(this.#path(device));
  }

  #stateOf(device: string): State {
    let state = this.#states.get(device);
    if (!state) this.#states.set(device, (state = { last: 0, collected: 0 }));
    return state;
  }

  /** After a restart: what the spool holds, less a last line that was cut off before it was answered. */
  #recover(device: string): void {
    const state = this.#readState(device);
    const path = this.#path(device);
    const text = readFileSync(path, 'utf8');
    const whole = text.slice(0, text.lastIndexOf('\n') + 1);
    if (whole.length < text.length) truncateSync(path, Buffer.byteLength(whole));
    for (const batch of this.#read(device))
      state.last = Math.max(state.last, batch.first + batch.activities.length - 1);
    this.#states.set(device, state);
  }

  #readState(device: string): State {
    const path = join(this.#folder, `${device}.state`);
    if (!existsSync(path)) return { last: 0, collected: 0 };
    try {
      return JSON.parse(readFileSync(path, 'utf8')) as State;
    } catch {
      return { last: 0, collected: 0 };
    }
  }

  #read(device: string): Batch[] {
    const path = this.#path(device);
    if (!existsSync(path) || statSync(path).size === 0) return [];
    return readFileSync(path, 'utf8')
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Batch);
  }

  #path(device: string): string {
    return join(this.#folder, `${device}.jsonl`);
  }
}
