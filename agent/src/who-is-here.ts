import type { Activity } from '@half-penny/core/capture';
import type { AskWho } from './desk/who';

/** Whoever comes back after so long may be somebody else, in milliseconds. */
const LONG_AWAY = 10 * 60_000;
/** So many activities wait for an answer at most; the oldest go first. */
const MOST_WAITING = 5000;

interface WhoIsHereOptions {
  ask: AskWho;
  record: (activities: readonly Activity[]) => void;
  say: (text: string) => void;
}

/**
 * At a computer that several use, lets through only what is noticed while its person is there: they are asked at the beginning and
 * whenever somebody comes back after a long time. What is noticed before the answer waits in memory; where somebody else is there, or
 * nobody can be asked, it is thrown away.
 */
export class WhoIsHere {
  readonly #options: WhoIsHereOptions;
  #here: 'me' | 'somebody else' | 'asked' = 'asked';
  #waiting: Activity[] = [];

  constructor(options: WhoIsHereOptions) {
    this.#options = options;
    void this.#ask();
  }

  readonly record = (activities: readonly Activity[]): void => {
    for (const activity of activities) {
      // Away for long: who was there before was, and who is there now is asked.
      if (activity.kind === 'away' && activity.to - activity.from >= LONG_AWAY) {
        if (this.#here === 'me') this.#options.record([activity]);
        if (this.#here !== 'asked') void this.#ask();
      } else if (this.#here === 'me') this.#options.record([activity]);
      else if (this.#here === 'asked') this.#waiting.push(activity);
    }
    if (this.#waiting.length > MOST_WAITING) this.#waiting = this.#waiting.slice(-MOST_WAITING);
  };

  async #ask(): Promise<void> {
    this.#here = 'asked';
    try {
      const isMe = await this.#options.ask();
      this.#here = isMe ? 'me' : 'somebody else';
      if (isMe) this.#options.record(this.#waiting);
      else this.#options.say('Somebody else is here: nothing is recorded.');
    } catch (thrown) {
      this.#here = 'somebody else';
      this.#options.say(`${(thrown as Error).message} Nothing is recorded.`);
    }
    this.#waiting = [];
  }
}
