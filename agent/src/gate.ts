import {
  captureDefaults,
  Recording,
  recordingOf,
  welcomeSchema,
  type Activity,
  type Welcome,
} from '@half-penny/core/capture';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Spool } from './spool';

/** What holds until the browser has said something: everything but what never is. */
const UNSAID = new Recording(recordingOf(captureDefaults, 0, []));

/**
 * Lets through what the person wishes to be recorded, before anything is written. What the browser said last is kept, so that it holds
 * after a restart with nobody there to ask.
 */
export class Gate {
  readonly #spool: Spool;
  readonly #path: string;
  readonly #isMadeUp: boolean;
  #recording = UNSAID;
  #welcome: Welcome | null = null;

  /** @param isMadeUp what is recorded is nobody's: it comes whenever it was */
  constructor(spool: Spool, folder: string, isMadeUp = false) {
    this.#spool = spool;
    this.#isMadeUp = isMadeUp;
    this.#path = join(folder, 'recording.json');
    if (!existsSync(this.#path)) return;
    try {
      this.#use(welcomeSchema.parse(JSON.parse(readFileSync(this.#path, 'utf8'))));
    } catch {
      // It is asked for again; until then what is noticed stays in memory.
    }
  }

  get paused(): boolean {
    return this.#welcome?.recording.paused ?? false;
  }

  /** Records what may be of what was noticed. */
  readonly record = (activities: readonly Activity[]): void => {
    const kept = activities.flatMap((each) => this.#allowed(each) ?? []);
    if (kept.length > 0) this.#spool.add(kept);
  };

  /** What the browser wishes now. */
  hear(welcome: Welcome): void {
    const before = this.#welcome;
    if (before && JSON.stringify(before) === JSON.stringify(welcome)) return;
    // What waits was noticed before, and is sealed: none of it is told apart.
    if (welcome.recording.wipedAt > (before?.recording.wipedAt ?? 0)) this.#spool.wipe();
    this.#use(welcome);
    writeFileSync(`${this.#path}.new`, JSON.stringify(welcome), { mode: 0o600 });
    renameSync(`${this.#path}.new`, this.#path);
  }

  #allowed(activity: Activity): Activity | null {
    if (!this.#isMadeUp) return this.#recording.of(activity);
    return this.paused ? null : this.#recording.whateverTime(activity);
  }

  #use(welcome: Welcome): void {
    this.#welcome = welcome;
    this.#recording = new Recording(welcome.recording);
    this.#spool.sift((each) => this.#allowed(each));
    this.#spool.sealFor(welcome.publicKey);
  }
}
