import Dexie from 'dexie';
import { WorkspaceDatabase, type WorkspaceEntry } from './database';
import { inWords, type InWords } from './in-words';

/** Why a workspace cannot be shown. */
export class CannotOpen extends Error implements InWords {
  override name = 'CannotOpen';
  readonly text: string;
  readonly detail: string | null;

  constructor({ text, detail }: InWords) {
    super(text);
    this.text = text;
    this.detail = detail;
  }
}

const GONE =
  'This browser no longer has what the workspace held. It may have been cleared by the browser itself, with its history, or by another program.';

const NEWER =
  'This workspace was written by a newer Half Penny than this one. Load the page again, or bring this one up to date; nothing was changed.';

/** Whether the database of a workspace is there and has one in it. */
export async function isThere({ database: name }: Pick<WorkspaceEntry, 'database'>): Promise<boolean> {
  if (!(await Dexie.exists(name))) return false;
  const database = new WorkspaceDatabase(name);
  try {
    return (await database.rows('workspace').count()) > 0;
  } finally {
    database.close();
  }
}

/**
 * Opens the database of a workspace; one that is not there is not made again, and one of an older version is kept as it is before it is
 * brought forward.
 *
 * @param onGone called when it is taken away while it is open: deleted, cleared, or closed by the browser
 * @throws CannotOpen
 */
export async function openDatabase(
  entry: Pick<WorkspaceEntry, 'database' | 'id' | 'name'>,
  onGone: (why: CannotOpen) => void,
): Promise<WorkspaceDatabase> {
  const { database: name } = entry;
  let database: WorkspaceDatabase | null = null;
  try {
    if (!(await Dexie.exists(name))) throw new CannotOpen({ text: GONE, detail: null });
    database = new WorkspaceDatabase(name);
    // Dexie counts in tenths of what the browser counts in.
    const known = Math.round(database.verno * 10);
    const version = (await indexedDB.databases()).find((each) => each.name === name)?.version ?? known;
    // Whole versions are those of the records; what is worked out of them is no reason for a copy.
    if (Math.floor(version / 10) < Math.floor(known / 10))
      await (await import('./snapshots')).keepSnapshot(entry, `before version ${Math.floor(known / 10)}`);
    await database.open();
    // One of a newer version opens all the same, with records that cannot be understood here.
    if (database.backendDB().version > known) throw new CannotOpen({ text: NEWER, detail: null });
    if ((await database.rows('workspace').count()) === 0) throw new CannotOpen({ text: GONE, detail: null });
  } catch (thrown) {
    database?.close();
    throw thrown instanceof CannotOpen ? thrown : new CannotOpen(inWords(thrown));
  }
  const open = database;
  let over = false;
  const end = (text: string) => {
    if (over) return;
    over = true;
    // Afterwards, lest it is opened by itself again: what is gone would be made again, empty.
    queueMicrotask(() => open.close());
    onGone(new CannotOpen({ text, detail: null }));
  };
  open.on('versionchange', ({ newVersion }) =>
    end(
      newVersion === null
        ? 'This workspace was deleted in another tab, or cleared by the browser.'
        : 'A newer Half Penny was opened in another tab. Load the page again to get it here.',
    ),
  );
  open.on('close', () =>
    end(
      'The browser took away what it keeps for this page while it was open. What this tab had not yet shown as saved may not be.',
    ),
  );
  return open;
}
