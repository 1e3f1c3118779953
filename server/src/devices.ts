import { heardSchema, welcomeSchema, type Heard, type Hello, type Welcome } from '@half-penny/core/capture';
import { existsSync, mkdirSync, readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { writeSafely } from './files';

const MOST_DEVICES = 100;
/** When a device was heard is written so often and not oftener. */
const WRITE_EVERY = 60_000;

/** Which devices were heard, and what the browser said they may record; in a folder, for its owner alone. */
export class Devices {
  readonly #folder: string;
  readonly #now: () => number;
  readonly #heard: Map<string, Heard>;
  #welcome: Welcome | null;
  #written = -Infinity;

  constructor(folder: string, now: () => number = Date.now) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.#folder = folder;
    this.#now = now;
    this.#heard = new Map(this.#read('devices', z.array(heardSchema), []).map((each) => [each.device, each]));
    this.#welcome = this.#read('recording', welcomeSchema.nullable(), null);
  }

  /** What devices may record, and for whom; null while no browser has said so. */
  get welcome(): Welcome | null {
    return this.#welcome;
  }

  setWelcome(welcome: Welcome): void {
    this.#welcome = welcome;
    writeSafely(this.#path('recording'), JSON.stringify(welcome));
  }

  hear(hello: Hello): void {
    const before = this.#heard.get(hello.device);
    const now = this.#now();
    // The one that was heard longest ago makes room.
    if (!before && this.#heard.size >= MOST_DEVICES) this.#heard.delete(this.list().at(-1)!.device);
    this.#heard.set(hello.device, { ...hello, heard: now });
    const news = !before || JSON.stringify({ ...hello, heard: before.heard }) !== JSON.stringify(before);
    if (news || now - this.#written >= WRITE_EVERY) this.#keep();
  }

  /** Devices, the last heard first. */
  list(): Heard[] {
    return [...this.#heard.values()].sort((a, b) => b.heard - a.heard);
  }

  forget(device: string): void {
    if (this.#heard.delete(device)) this.#keep();
  }

  #keep(): void {
    this.#written = this.#now();
    writeSafely(this.#path('devices'), JSON.stringify(this.list()));
  }

  #read<T>(name: 'devices' | 'recording', schema: z.ZodType<T>, otherwise: T): T {
    const path = this.#path(name);
    if (!existsSync(path)) return otherwise;
    try {
      return schema.parse(JSON.parse(readFileSync(path, 'utf8')));
    } catch {
      // The browser says again what may be recorded, and devices that they are there.
      renameSync(path, `${path}.damaged`);
      console.warn(`${name}.json cannot be read and was put aside; it is made again.`);
      return otherwise;
    }
  }

  #path(name: 'devices' | 'recording'): string {
    return join(this.#folder, `${name}.json`);
  }
}
