import { useSyncExternalStore } from 'react';
import { KEPT, LETTERS } from './secret';

/** Whether the local server takes this page for the person's own: not asked yet, yes, no, or it does not answer. */
export type Standing = 'unasked' | 'known' | 'stranger' | 'away';

let standing: Standing = 'unasked';
const watching = new Set<() => void>();

function stand(now: Standing): void {
  if (now === standing) return;
  standing = now;
  for (const told of watching) told();
}

const watch = (told: () => void) => {
  watching.add(told);
  return () => void watching.delete(told);
};

/** How this page stands with the local server, as it was last seen. */
export const useStanding = (): Standing => useSyncExternalStore(watch, () => standing);

/** The server is not to be had: why, and what to do. The application works on without it. */
export class NotConnected extends Error {
  override name = 'NotConnected';
  readonly standing: 'stranger' | 'away';

  constructor(why: 'stranger' | 'away') {
    super(
      why === 'stranger'
        ? 'This page is not connected with the local server. Open the address it printed when it started, or type its eight letters.'
        : 'The local server does not answer; start it with npm start.',
    );
    this.standing = why;
    stand(why);
  }
}

/**
 * Asks the local server for something that is this person's alone.
 *
 * @throws NotConnected where the server does not answer or does not know this page; Error with what it said when it refused
 */
export async function askServer(path: string, init: RequestInit = {}): Promise<Response> {
  const secret = localStorage.getItem(KEPT);
  if (secret === null) throw new NotConnected('stranger');
  const headers = new Headers(init.headers);
  headers.set('x-half-penny', secret);
  const response = await fetch(path, { ...init, headers }).catch((thrown: unknown) => {
    if (init.signal?.aborted) throw thrown;
    throw new NotConnected('away');
  });
  if (response.status === 401) throw new NotConnected('stranger');
  stand('known');
  if (response.ok) return response;
  const told = (await response.json().catch(() => null)) as { message?: string; outcome?: string } | null;
  const message = told?.message ?? `The local server answered with ${response.status}.`;
  throw Object.assign(new Error(message), told?.outcome === undefined ? {} : { outcome: told.outcome });
}

/**
 * Connects with the letters that the server printed.
 *
 * @throws Error that says what is wrong with them; what was known before stays
 */
export async function connect(letters: string): Promise<void> {
  const given = letters.trim().replace(/^.*#/, '').toLowerCase();
  if (!LETTERS.test(given))
    throw new Error('The server prints eight letters after the # of its address, like abcdefgh.');
  const before = localStorage.getItem(KEPT);
  localStorage.setItem(KEPT, given);
  try {
    await askServer('/backups');
  } catch (thrown) {
    if (before === null) localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, before);
    if (thrown instanceof NotConnected && thrown.standing === 'stranger')
      throw new Error('These are not the letters of this server. They stand at the end of the address it printed.', {
        cause: thrown,
      });
    throw thrown;
  }
}
