import type { Activity, Welcome } from '@half-penny/core/capture';
import type { FollowerState } from './follower';

/** How the extension is paired, what it was told, and what waits; on the disk nothing of what was noticed but sealed. */
export interface Shelf {
  server: string;
  key: string;
  device: string;
  welcome: Welcome | null;
  /** Paused by its own button. */
  paused: boolean;
  /** Sites that are not recorded: until when, in milliseconds since 1970, or never. */
  sites: Record<string, number | 'never'>;
  /** Sealed lines that wait, the number of the first, and up to which the server has them. */
  lines: string[];
  first: number;
  /** What went wrong last in sending, in words; empty while all is well. */
  trouble: string;
}

/** What is in the memory alone, and gone with the browser. */
export interface Memory extends FollowerState {
  /** Noticed, and not sealed as nobody has said for whom. */
  unsealed: Activity[];
}

/** As it is before it is paired. */
export const emptyShelf = (device: string): Shelf => ({
  server: 'http://127.0.0.1:4350',
  key: '',
  device,
  welcome: null,
  paused: false,
  sites: {},
  lines: [],
  first: 1,
  trouble: '',
});

/** A name that no other device has: six random bytes. */
function newDevice(): string {
  const bytes = [...crypto.getRandomValues(new Uint8Array(6))];
  return `pages-${bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')}`;
}

export async function readShelf(): Promise<Shelf> {
  const { shelf } = (await chrome.storage.local.get('shelf')) as { shelf?: Shelf };
  if (shelf) return shelf;
  const made = emptyShelf(newDevice());
  await writeShelf(made);
  return made;
}

export const writeShelf = (shelf: Shelf): Promise<void> => chrome.storage.local.set({ shelf });

export async function readMemory(): Promise<Memory> {
  const { memory } = (await chrome.storage.session.get('memory')) as { memory?: Memory };
  return memory ?? { following: null, awayFrom: null, unsealed: [] };
}

export const writeMemory = (memory: Memory): Promise<void> => chrome.storage.session.set({ memory });

/** What the popup and the options page ask of the background. */
export type Order =
  | { order: 'look' }
  | { order: 'pause'; paused: boolean }
  | { order: 'site'; site: string; until: number | 'never' | null }
  | { order: 'pair'; server: string; key: string };

export const give = (order: Order): Promise<Shelf> => chrome.runtime.sendMessage(order) as Promise<Shelf>;
