import { fileNamed, type Activity } from '@half-penny/core/capture';
import { readdirSync, readlinkSync } from 'node:fs';
import { sep } from 'node:path';
import type { Desk, FrontWindow } from './desk/desk';

/**
 * The file under watched folders that a window shows: one that its program holds open, or that its title names, with its ending or
 * without. Null where several fit as well: which of them it was nobody can tell.
 */
export function fileOf(window: FrontWindow, known: ReadonlySet<string>, folders: readonly string[]): string | null {
  const open = window.pid === null ? [] : openFiles(window.pid, folders);
  return fileNamed(window.title, open, known) ?? (open.length === 1 ? open[0]! : null);
}

function openFiles(pid: number, folders: readonly string[]): string[] {
  try {
    const links = readdirSync(`/proc/${pid}/fd`).map((fd) => readlinkSync(`/proc/${pid}/fd/${fd}`));
    return links.filter((link) => folders.some((folder) => link.startsWith(`${folder}${sep}`)));
  } catch {
    // Another person's program, or one that has just ended.
    return [];
  }
}

export interface ScreenOptions {
  record: (activities: Activity[]) => void;
  files: ReadonlySet<string>;
  folders: readonly string[];
  desk: Desk;
  now?: () => number;
}

const AWAY_AFTER = 60_000;
/** What goes on is told of every so often, so that little is lost when the machine fails. */
const AT_LEAST_EVERY = 60_000;

/** Follows the window in front, look by look. */
export class Screen {
  readonly #options: ScreenOptions;
  readonly #began: number;
  #current: { window: FrontWindow; file: string | null; from: number; hands: number } | null = null;
  #looked = 0;
  #awayFrom: number | null = null;
  #isFirst = true;

  constructor(options: ScreenOptions) {
    this.#options = options;
    this.#began = this.#now();
  }

  async look(): Promise<void> {
    const { desk } = this.#options;
    const window = await desk.front();
    const idle = desk.idle ? await desk.idle() : 0;
    // Systems answer slowly at times: what they say is of now.
    const now = this.#now();
    const step = this.#looked === 0 ? 0 : Math.max(0, now - this.#looked);
    this.#looked = now;
    if (this.#current && desk.idle && idle < step) this.#current.hands += step;
    this.#follow(window, now);
    this.#watchAway(idle, now);
  }

  /** Tells what is in front up to now, and time away that is not over. */
  end(): void {
    const now = this.#now();
    this.#tell(now);
    this.#current = null;
    this.#watchAway(0, now);
  }

  #now(): number {
    return (this.#options.now ?? Date.now)();
  }

  #follow(window: FrontWindow | null, now: number): void {
    const { files, folders } = this.#options;
    const file = window ? fileOf(window, files, folders) : null;
    const current = this.#current;
    const same =
      current &&
      window &&
      current.window.title === window.title &&
      current.window.program === window.program &&
      current.file === file;
    if (same && now - current.from < AT_LEAST_EVERY) return;
    this.#tell(now);
    if (!same && file && file !== current?.file)
      this.#options.record([{ kind: 'opened', from: now, to: now, program: window!.program, file }]);
    // What the first look finds was in front since the agent began to look.
    const from = this.#isFirst ? this.#began : now;
    this.#isFirst = false;
    this.#current = window ? { window, file, from, hands: 0 } : null;
  }

  #tell(now: number): void {
    const current = this.#current;
    if (!current || now <= current.from) return;
    const { title, program } = current.window;
    this.#options.record([
      {
        kind: 'window',
        from: current.from,
        to: now,
        ...(this.#options.desk.idle ? { hands: Math.min(current.hands, now - current.from) } : {}),
        program,
        title,
        ...(current.file ? { file: current.file } : {}),
      },
    ]);
  }

  #watchAway(idle: number, now: number): void {
    if (idle >= AWAY_AFTER) this.#awayFrom ??= now - idle;
    else if (this.#awayFrom !== null) {
      this.#options.record([{ kind: 'away', from: this.#awayFrom, to: Math.max(this.#awayFrom, now - idle) }]);
      this.#awayFrom = null;
    }
  }
}
