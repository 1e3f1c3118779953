import { MOST_UNDER_WAY, type Spool } from './spool';

const SOONEST = 500;
const LATEST = 60_000;

export interface SenderOptions {
  server: string;
  key: () => string | null;
  say: (text: string) => void;
}

/** Sends what the spool holds, batch by batch; while nobody listens it tries again, less and less often. */
export class Sender {
  readonly #spool: Spool;
  readonly #options: SenderOptions;
  #wait = SOONEST;
  #said = '';
  #stopped = false;
  #busy: Promise<boolean> | null = null;

  constructor(spool: Spool, options: SenderOptions) {
    this.#spool = spool;
    this.#options = options;
  }

  /** Sends until nothing waits. @returns whether all of it is at the server */
  flush(): Promise<boolean> {
    this.#busy ??= this.#sendAll().finally(() => (this.#busy = null));
    return this.#busy;
  }

  /** Goes on sending until it is stopped. */
  async run(): Promise<void> {
    while (!this.#stopped) {
      const whole = await this.flush();
      this.#wait = whole ? SOONEST : Math.min(LATEST, this.#wait * 2);
      await new Promise((resolve) => setTimeout(resolve, this.#wait));
    }
  }

  stop(): void {
    this.#stopped = true;
  }

  async #sendAll(): Promise<boolean> {
    await this.#spool.settled();
    if (this.#spool.isUnpaired)
      this.#fail('Half Penny has not been opened in a browser here yet. Until it is, what is noticed stays in memory.');
    for (let batch; (batch = this.#spool.next(MOST_UNDER_WAY));) {
      const key = this.#options.key();
      if (key === null) return this.#fail('There is no pairing key yet: start Half Penny, or give it with --key.');
      const { first, count, ...content } = batch;
      const last = first + count - 1;
      let response: Response;
      try {
        response = await fetch(new URL('/activity', this.#options.server), {
          method: 'POST',
          headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
          body: JSON.stringify({ device: this.#spool.device, first, ...content }),
        });
      } catch {
        return this.#fail(
          `Nobody answers at ${this.#options.server}; what is noticed is kept here until somebody does.`,
        );
      }
      if (response.status === 401)
        return this.#fail('The pairing key is wrong. Sift → Sources in Half Penny shows the right one.');
      if (response.status === 400) {
        const { message, path } = (await response.json()) as { message: string; path?: string };
        this.#options.say(
          `The server refused a batch: ${message}${path ? ` (${path})` : ''}. It was put aside; the rest goes on.`,
        );
        this.#spool.refuse(last, `${path ?? ''} ${message}`);
        continue;
      }
      if (response.status === 507) {
        const { message } = (await response.json()) as { message: string };
        return this.#fail(`${message} Until then what is noticed is kept here.`);
      }
      if (!response.ok) return this.#fail(`The server has a fault (${response.status}); it is tried again.`);
      const { upTo } = (await response.json()) as { upTo: number };
      // It may have had some of it from before a mishap.
      this.#spool.sent(Math.min(upTo, last));
      this.#said = '';
    }
    return !this.#spool.waits;
  }

  /** Says what is wrong once, not at every try. */
  #fail(text: string): false {
    if (this.#said !== text) this.#options.say(text);
    this.#said = text;
    return false;
  }
}
