import { deviceSchema } from '@half-penny/core/capture';
import {
  appendFileSync,
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { writeSafely } from './files';

/** What of a device's activity was given out: up to which number it came, and up to which the browser has it. */
const stateSchema = z.strictObject({
  /** Numbers up to this one stand in the spool, or did. */
  last: z.int().min(0),
  /** The browser has these. */
  collected: z.int().min(0),
});
type State = z.infer<typeof stateSchema>;

/** A line of the spool, as far as the server has to know it. */
const lineSchema = z.looseObject({
  first: z.int().min(1),
  /** When it came; lines of earlier versions do not say. */
  at: z.int().min(0).optional(),
  activities: z.array(z.unknown()).min(1),
});

/** Where a batch stands in its file. */
interface Place {
  first: number;
  count: number;
  /** When it came, in milliseconds since 1970; null where nobody noted it. */
  at: number | null;
  offset: number;
  length: number;
}

interface Device extends State {
  places: Place[];
  bytes: number;
}

/** Activities of a device, from a number on. What is sealed is a text; nobody looks into either here. */
export interface Waiting {
  device: string;
  first: number;
  activities: (object | string)[];
}

/** The spool cannot take a batch now; the agent keeps it and tries again later. */
export class SpoolFull extends Error {
  readonly statusCode = 507;
}

/** All batches of all devices together: months of work of several people, and no disk full. */
const MOST_BYTES = 512 << 20;
/** What nobody has collected for so long, nobody may ever: no more is put on top of it. */
const MOST_DAYS = 92;
const DAY = 86_400_000;
const NEWLINE = 10;

export interface SpoolOptions {
  mostBytes?: number;
  mostDays?: number;
  now?: () => number;
  warn?: (message: string) => void;
}

/**
 * Activity that no browser has collected yet, on disk: a file of batches for each device, each written to the disk before it is
 * answered. Numbers tell what came already, so that a batch that is sent again after a mishap is taken once. What cannot be read is put
 * aside under another name and told to `warn`; it never keeps the rest from being served.
 */
export class Spool {
  readonly #folder: string;
  readonly #mostBytes: number;
  readonly #mostDays: number;
  readonly #now: () => number;
  readonly #warn: (message: string) => void;
  readonly #devices = new Map<string, Device>();

  constructor(
    folder: string,
    { mostBytes = MOST_BYTES, mostDays = MOST_DAYS, now = Date.now, warn = console.warn }: SpoolOptions = {},
  ) {
    this.#folder = folder;
    this.#mostBytes = mostBytes;
    this.#mostDays = mostDays;
    this.#now = now;
    this.#warn = warn;
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    for (const name of readdirSync(folder)) {
      const device = /^(.+)\.(?:jsonl|state)$/.exec(name)?.[1];
      if (device === undefined || !deviceSchema.safeParse(device).success || this.#devices.has(device)) continue;
      this.#devices.set(device, this.#recovered(device));
    }
  }

  /**
   * Takes a batch in; what of it came before is passed over.
   *
   * @returns up to which number the device's activity is here
   * @throws SpoolFull when there is no room; what was there stays as it was
   */
  take(batch: Waiting): number {
    const device = this.#deviceOf(batch.device);
    const fresh = batch.activities.slice(Math.max(0, device.last + 1 - batch.first));
    if (fresh.length === 0) return device.last;
    const first = batch.first + batch.activities.length - fresh.length;
    const at = this.#now();
    const line = Buffer.from(`${JSON.stringify({ device: batch.device, first, at, activities: fresh })}\n`);
    const held = [...this.#devices.values()].reduce((sum, each) => sum + each.bytes, 0);
    if (held + line.length > this.#mostBytes) {
      throw new SpoolFull(
        `${Math.round(held / 1e6)} MB of activity wait to be collected, and no more is taken. Open Half Penny in the browser; it collects them.`,
      );
    }
    const oldest = this.#oldest();
    if (at - oldest > this.#mostDays * DAY) {
      throw new SpoolFull(
        `Activity has waited since ${new Date(oldest).toISOString().slice(0, 10)} to be collected, and no more is taken. Open Half Penny in the browser; it collects it.`,
      );
    }
    const path = this.#path(batch.device);
    try {
      const file = openSync(path, 'a', 0o600);
      try {
        appendFileSync(file, line);
        fsyncSync(file);
      } finally {
        closeSync(file);
      }
    } catch (thrown) {
      // Back to the last whole line: half a line would swallow the next one.
      if (existsSync(path)) truncateSync(path, device.bytes);
      throw new SpoolFull(`The activity could not be written (${(thrown as { code?: string }).code ?? 'unknown'}).`);
    }
    device.places.push({ first, count: fresh.length, at, offset: device.bytes, length: line.length });
    device.bytes += line.length;
    device.last = first + fresh.length - 1;
    return device.last;
  }

  /** What waits, in the order of its numbers: at most so many activities of one device at a time. */
  waiting(most = 2000): Waiting | null {
    for (const [device, known] of this.#devices) {
      const wanted: Waiting = { device, first: 0, activities: [] };
      for (const place of known.places) {
        const skip = Math.max(0, known.collected + 1 - place.first);
        if (skip >= place.count) continue;
        // Numbers follow each other: after a gap, which a line that was put aside leaves, the next page begins.
        if (wanted.activities.length > 0 && place.first !== wanted.first + wanted.activities.length) break;
        if (wanted.activities.length === 0) wanted.first = place.first + skip;
        wanted.activities.push(...this.#batchAt(device, place).slice(skip));
        if (wanted.activities.length >= most) break;
      }
      if (wanted.activities.length > 0) return { ...wanted, activities: wanted.activities.slice(0, most) };
    }
    return null;
  }

  /** The browser has kept a device's activity up to a number. */
  collected(name: string, upTo: number): void {
    const device = this.#devices.get(name);
    if (!device || upTo <= device.collected) return;
    device.collected = Math.min(upTo, device.last);
    writeSafely(this.#path(name, 'state'), JSON.stringify({ last: device.last, collected: device.collected }));
    // Nothing is kept that a browser has.
    if (device.collected < device.last) return;
    if (existsSync(this.#path(name))) truncateSync(this.#path(name));
    Object.assign(device, { places: [], bytes: 0 });
  }

  /** Throws away what waits. Numbers go on from where they were, so that nothing of it is taken again. */
  wipe(): void {
    for (const [name, device] of this.#devices) {
      this.collected(name, device.last);
      rmSync(this.#path(name, 'damaged'), { force: true });
    }
  }

  /** When what waits longest came; Infinity where nothing waits. */
  #oldest(): number {
    let oldest = Infinity;
    for (const { places, collected } of this.#devices.values()) {
      const waits = places.find(({ first, count, at }) => at !== null && first + count - 1 > collected);
      if (waits) oldest = Math.min(oldest, waits.at!);
    }
    return oldest;
  }

  #deviceOf(name: string): Device {
    let device = this.#devices.get(name);
    if (!device) this.#devices.set(name, (device = { last: 0, collected: 0, places: [], bytes: 0 }));
    return device;
  }

  /** After a restart: what the spool holds, less a last line that was cut off before it was answered, and lines that cannot be read. */
  #recovered(name: string): Device {
    const device: Device = { ...this.#readState(name), places: [], bytes: 0 };
    const path = this.#path(name);
    if (!existsSync(path)) return device;
    const bytes = readFileSync(path);
    const sound: Buffer[] = [];
    const damaged: Buffer[] = [];
    for (let from = 0, end = bytes.indexOf(NEWLINE); end >= 0; from = end + 1, end = bytes.indexOf(NEWLINE, from)) {
      const line = bytes.subarray(from, end + 1);
      const found = placeOf(line, device.bytes);
      if (!found) {
        damaged.push(line);
        continue;
      }
      sound.push(line);
      device.places.push(found);
      device.bytes += line.length;
      device.last = Math.max(device.last, found.first + found.count - 1);
    }
    if (damaged.length > 0) {
      appendFileSync(this.#path(name, 'damaged'), Buffer.concat(damaged), { mode: 0o600 });
      this.#warn(`${damaged.length} damaged lines of ${name} were put aside in ${name}.damaged; the others are kept.`);
    }
    if (device.bytes < bytes.length) writeSafely(path, Buffer.concat(sound));
    return device;
  }

  #readState(name: string): State {
    const path = this.#path(name, 'state');
    if (!existsSync(path)) return { last: 0, collected: 0 };
    try {
      return stateSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
    } catch {
      // Without it everything is given out again; the browser knows each by its number.
      renameSync(path, this.#path(name, 'state.damaged'));
      this.#warn(`The state of ${name} cannot be read and was put aside; what waits is given out again.`);
      return { last: 0, collected: 0 };
    }
  }

  #batchAt(name: string, { offset, length }: Place): Waiting['activities'] {
    const line = Buffer.alloc(length);
    const file = openSync(this.#path(name), 'r');
    try {
      readSync(file, line, 0, length, offset);
    } finally {
      closeSync(file);
    }
    return (JSON.parse(line.toString('utf8')) as Waiting).activities;
  }

  #path(name: string, kind: 'jsonl' | 'state' | 'damaged' | 'state.damaged' = 'jsonl'): string {
    return join(this.#folder, `${deviceSchema.parse(name)}.${kind}`);
  }
}

/** Where a line stands, if it is a batch. */
function placeOf(line: Buffer, offset: number): Place | null {
  try {
    const { first, at = null, activities } = lineSchema.parse(JSON.parse(line.toString('utf8')));
    return { first, count: activities.length, at, offset, length: line.length };
  } catch {
    return null;
  }
}

/** Another server works on the folder. */
export class FolderInUse extends Error {}

/**
 * A folder that one server at a time works on.
 *
 * @returns a function that gives it free again
 * @throws FolderInUse
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const path = join(folder, 'in-use');
  const holder = existsSync(path) ? Number(readFileSync(path, 'utf8')) : NaN;
  if (Number.isInteger(holder) && holder !== process.pid && isAlive(holder)) {
    throw new FolderInUse(
      `Another Half Penny server (process ${holder}) works on ${folder}. End it first, or start with another PORT.`,
    );
  }
  writeFileSync(path, `${process.pid}\n`, { mode: 0o600 });
  return () => {
    if (existsSync(path) && Number(readFileSync(path, 'utf8')) === process.pid) rmSync(path);
  };
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
  } catch (thrown) {
    return (thrown as { code?: string }).code === 'EPERM';
  }
  // After a power cut another program may have the number: where the system tells what runs, it is asked.
  const told = `/proc/${pid}/cmdline`;
  return !existsSync(told) || /node|tsx/.test(readFileSync(told, 'latin1'));
}
