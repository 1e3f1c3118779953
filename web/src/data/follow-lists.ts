import type { Session } from './session';

/** Before lists are read for the first time, and between two readings, in milliseconds. */
const SOON = 5_000;
const OFTEN = 60_000;

/**
 * Follows lists that a service tells, and sends hours where they go as they are made, for as long as the application is open: one tab does
 * it for all. What reads them comes only where there is a list.
 */
export function followLists(session: Session): () => void {
  const ended = new AbortController();
  void navigator.locks
    .request(`half-penny-outside ${session.entry.id}`, { signal: ended.signal }, () => follow(session, ended.signal))
    .catch(() => undefined);
  return () => ended.abort();
}

async function follow(session: Session, signal: AbortSignal): Promise<void> {
  for (let wait = SOON; !signal.aborted; wait = OFTEN) {
    await new Promise((resolve) => setTimeout(resolve, wait));
    try {
      const lists = (await session.reader.all('outsideLists')).filter(({ via }) => via === 'service');
      if (lists.length === 0 || signal.aborted) continue;
      const { followOnce } = await import('./outside');
      await followOnce(session, lists, signal);
    } catch {
      // It is told where lists are read by hand, and tried again.
    }
  }
}
