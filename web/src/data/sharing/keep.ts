import { liveQuery } from 'dexie';
import { registry } from '../registry';
import type { Session } from '../session';
import { editBook } from './book';
import { endedTimers, heardWords } from './heard-words';

/** So many timers that ended are told of; who was away for long wants no more. */
const MOST_ENDED = 5;

/**
 * Keeps this workspace and its log together for as long as the application is open, and says what came of it. What does that is read only
 * once the workspace is shared.
 *
 * @returns ends it
 */
export const keepShared = (session: Session, say: (text: string) => void): (() => void) =>
  keepWhile(
    async () => (await registry.shared.get(session.entry.id)) !== undefined,
    async () => {
      const { keepTogether } = await import('./together');
      return () =>
        keepTogether(session, (heard) => {
          heardWords(heard, session.memberId).forEach(say);
          const ended = endedTimers(heard, session.memberId);
          if (ended.length > 0)
            void editBook(session.entry.id, (row) => {
              row.ended = [...(row.ended ?? []), ...ended].slice(-MOST_ENDED);
            });
        });
    },
  );

/** Looks into mailboxes for as long as the application is open, once there are any; likewise. */
export const keepMailboxes = (session: Session, say: (text: string) => void): (() => void) =>
  keepWhile(
    async () => (await registry.mailboxes.count()) > 0,
    async () => {
      const { keepMailbox } = await import('../mailbox-rounds');
      return () => keepMailbox(session, say);
    },
  );

/** Does something for as long as it is wanted. @param read reads what does it @returns ends it for good */
function keepWhile(isWanted: () => Promise<boolean>, read: () => Promise<() => () => void>): () => void {
  let end: (() => void) | null = null;
  let wanted = false;
  const watching = liveQuery(isWanted).subscribe((is) => {
    wanted = is;
    if (!is) {
      end?.();
      end = null;
    } else
      void read().then((begin) => {
        if (wanted) end ??= begin();
      });
  });
  return () => {
    wanted = false;
    watching.unsubscribe();
    end?.();
  };
}
