import type { JournalRow, Id } from '@half-penny/core/model';
import type { Share, Waiting } from '@half-penny/core/shared-log';
import { Fault } from '@half-penny/core/model';
import { liveQuery } from 'dexie';
import type { WorkspaceDatabase } from '../database';
import { registry } from '../registry';

/** So long a person waits for the turn of what they did, in milliseconds; then it is told that it waits. */
const PATIENCE = 15_000;

/**
 * What became of something that is done only when its turn in the log comes.
 *
 * @returns its row once it is everybody's; one without a number where it waits on, because the relay is not to be had
 * @throws Fault where it did not fit when its turn came; it is let go of then, since whoever did it is told
 */
export async function turnOf(database: WorkspaceDatabase, op: Id): Promise<JournalRow> {
  const first = await database.share.toCollection().first();
  const waiting = first?.waiting.find((each) => each.op === op);
  if (!first || !waiting) throw new Fault('gone', 'This workspace is not shared any more.');
  const here = await registry.shared
    .where('id')
    .notEqual('')
    .filter(({ book }) => book === first.book)
    .first();
  if (here?.standing.kind === 'together') await settled(database, op);
  return database.transaction('rw', database.share, database.journal, async () => {
    const share = (await database.share.get(first.book))!;
    if (share.waiting.some((each) => each.op === op)) return waitingRow(share, waiting);
    const refused = share.refused.find((each) => each.op === op);
    if (refused) {
      await database.share.put({ ...share, refused: share.refused.filter((each) => each !== refused) });
      throw new Fault('invalid', refused.why);
    }
    const { command } = waiting.done as { command: string };
    const rows = await database.journal
      .where('[device+seq]')
      .between([share.device, 0], [share.device, Infinity])
      .reverse()
      .limit(50)
      .toArray();
    return rows.find((row) => row.command === command && row.title === waiting.title) ?? waitingRow(share, waiting);
  });
}

/** Until it waits no more, or for as long as somebody would wait. */
function settled(database: WorkspaceDatabase, op: Id): Promise<void> {
  return new Promise((resolve) => {
    const late = setTimeout(() => end(), PATIENCE);
    const watching = liveQuery(() => database.share.toCollection().first()).subscribe({
      next: (share) => {
        if (!share?.waiting.some((each) => each.op === op)) end();
      },
      error: () => end(),
    });
    const end = () => {
      clearTimeout(late);
      // It may be told before it is there to be ended.
      queueMicrotask(() => watching.unsubscribe());
      resolve();
    };
  });
}

const waitingRow = ({ device }: Share, { at, memberId, title, done }: Waiting): JournalRow => ({
  ...{ device, seq: 0, at, memberId, title, of: null, changes: [], previous: '', hash: '' },
  command: 'command' in done ? done.command : '',
  input: null,
});
