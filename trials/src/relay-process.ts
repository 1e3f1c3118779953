import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const HOME = fileURLToPath(new URL('../..', import.meta.url));
const TSX = new URL('../../node_modules/tsx/dist/loader.mjs', import.meta.url).href;
/** Long, for a machine that runs several browsers beside it; who is alive does not wait. */
const PATIENCE = 180_000;

/** A relay as a process of its own, which can be killed. */
export class RelayProcess {
  readonly address: string;
  readonly #env: Record<string, string>;
  #process: ChildProcess | null = null;

  constructor(port: number, env: Record<string, string>) {
    this.address = `http://127.0.0.1:${port}`;
    this.#env = { RELAY_PORT: String(port), RELAY_REQUESTS_A_MINUTE: '1000000', ...env };
  }

  /** @throws Error with what it said where it does not come to life */
  async start(): Promise<void> {
    const child = spawn(process.execPath, ['--import', TSX, `${HOME}/relay/src/main.ts`], {
      cwd: HOME,
      env: { ...process.env, ...this.#env },
      stdio: ['ignore', 'ignore', 'pipe'],
      // Its own group, so that what it starts goes with it.
      detached: true,
    });
    this.#process = child;
    let said = '';
    child.stderr!.on('data', (text: Buffer) => (said += text.toString()));
    const ended = () => child.exitCode !== null || child.signalCode !== null;
    const until = Date.now() + PATIENCE;
    while (Date.now() < until && !ended()) {
      // One that listens and does not answer is asked again.
      const answer = await fetch(`${this.address}/health`, { signal: AbortSignal.timeout(5_000) }).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    const how = ended()
      ? `it ended with ${child.signalCode ?? child.exitCode}`
      : `it did not answer within ${PATIENCE / 1000} s`;
    throw new Error(`The relay did not start, ${how}: ${said}`);
  }

  /** @param signal SIGKILL as when the power goes, SIGTERM to end it gracefully */
  async end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
    const child = this.#process;
    this.#process = null;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    process.kill(-child.pid!, signal);
    await gone;
  }
}
