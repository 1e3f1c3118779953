import { makeDemoWithFiles } from '@half-penny/demo';
import {
  readWorkspace,
  WorkspaceFileError,
  writeWorkspace,
  type FileFault,
  type StoredFile,
  type WorkspaceSource,
} from '@half-penny/formats/workspace';
import { forgetPerson, withoutHistory, type Forgotten, type MemoryStore, type Whose } from '@half-penny/core/engine';
import {
  byTable,
  idSource,
  readTables,
  tableNames,
  type AllRows,
  type Id,
  type JournalRow,
  type Rows,
  type TableName,
} from '@half-penny/core/model';
import { engine } from '@half-penny/core/commands';
import { beginning, needShare, SharedWorkspace, type LogHead } from '@half-penny/core/shared-log';
import { expose } from 'comlink';
import Dexie, { type Table } from 'dexie';
import { DATABASE_PREFIX, FILLING, WorkspaceDatabase, type StoredBlob } from '../data/database';
import { DexieReader, DexieTransaction } from '../data/executor';
import { dropUnsettled, makeUnsettled } from '../data/unsettled';
import { fillDemoTrail } from './demo-trail';

// Writing, reading and making whole workspaces: too long for the page. Stopping is done by ending the worker.

const BATCH = 2000;
/** Rows that are written in one transaction. */
const PACK = 10_000;

/** Called with the share done, 0 to 1. */
type Progress = (share: number) => void;

export interface TakenIn {
  name: string;
  memberId: Id | null;
}

export type Reading =
  { ok: true; content: TakenIn } | { ok: false; faults: FileFault[]; count: number; onlyReceipts: boolean };

/** A workspace as a file, and the names of receipts whose bytes this browser does not have. */
export interface Exported {
  blob: Blob;
  missing: string[];
}

const work = {
  /** Writes the workspace of a database as a file, with its history or with one that begins now. */
  async exportWorkspace(
    databaseName: string,
    withHistory: boolean,
    onProgress: Progress,
    withReceipts = true,
  ): Promise<Exported> {
    const database = new WorkspaceDatabase(databaseName);
    try {
      const pieces: Uint8Array<ArrayBuffer>[] = [];
      const total = await countAll(database);
      const source = withHistory ? sourceOf(database) : withoutItsHistory(database);
      await writeWorkspace(
        withReceipts ? source : { ...source, files: () => [] },
        (bytes) => pieces.push(bytes as Uint8Array<ArrayBuffer>),
        {
          onProgress: (rows) => onProgress(rows / total),
        },
      );
      return { blob: new Blob(pieces, { type: 'application/zip' }), missing: await missingIn(database) };
    } finally {
      database.close();
    }
  },

  /** Writes a workspace of an older version as it is, before anything brings it forward. */
  async exportAsItIs(databaseName: string): Promise<Blob> {
    // Opened without saying what ought to be in it, a database stays as it is.
    const database = await new Dexie(databaseName).open();
    try {
      const pieces: Uint8Array<ArrayBuffer>[] = [];
      const version = Math.floor(database.verno);
      await writeWorkspace(sourceOf(database), (bytes) => pieces.push(bytes as Uint8Array<ArrayBuffer>), { version });
      return new Blob(pieces, { type: 'application/zip' });
    } finally {
      database.close();
    }
  },

  /** Checks a whole file first; only when it is sound is it written, into a new database. */
  async importWorkspace(
    file: Blob,
    databaseName: string,
    withoutReceipts: boolean,
    onProgress: Progress,
  ): Promise<Reading> {
    try {
      const content = await readWorkspace(file, {
        onProgress: (share) => onProgress(share / 2),
        withoutReceipts,
      });
      const progress = (share: number) => onProgress(0.5 + share / 2);
      return { ok: true, content: await fill(databaseName, content.store, content.files(), progress) };
    } catch (thrown) {
      if (thrown instanceof WorkspaceFileError) {
        const { faults, count, onlyReceipts } = thrown;
        return { ok: false, faults: [...faults], count, onlyReceipts };
      }
      throw thrown;
    }
  },

  /** Deletes a person's data for good, in one transaction: whole or not at all. */
  async forget(databaseName: string, whose: Whose): Promise<Omit<Forgotten, 'rows' | 'journal'>> {
    const database = new WorkspaceDatabase(databaseName);
    try {
      return await database.transaction('rw', database.tables, async () => {
        const before = await allOf(database);
        const salt = crypto.randomUUID();
        const { rows, journal, ...told } = forgetPerson(before, whose, { ...beginNow(), salt });
        for (const table of tableNames) {
          const kept = new Map(before[table].map((row) => [row.id, row] as const));
          const changed = rows[table].filter((row) => kept.get(row.id) !== row);
          for (const row of rows[table]) kept.delete(row.id);
          await database.table(table).bulkPut(changed);
          await database.table(table).bulkDelete([...kept.keys()]);
        }
        await database.journal.clear();
        await database.journal.bulkAdd(journal);
        await dropUnsettled(database);
        return told;
      });
    } finally {
      database.close();
    }
  },

  /** The same in a file, which holds no receipts: a file without the person. */
  async forgetInFile(file: Blob, whose: Whose): Promise<Omit<Forgotten, 'rows' | 'journal'> & { file: Blob }> {
    const { store } = await readWorkspace(file, { withoutReceipts: true });
    const before = byTable((table) => store.rows(table));
    const { rows, journal, ...told } = forgetPerson(before, whose, { ...beginNow(), salt: crypto.randomUUID() });
    const pieces: Uint8Array<ArrayBuffer>[] = [];
    await writeWorkspace({ rows: (table) => [rows[table]], journal: () => [journal] }, (bytes) =>
      pieces.push(bytes as Uint8Array<ArrayBuffer>),
    );
    return { ...told, file: new Blob(pieces) };
  },

  /**
   * Puts a workspace that everybody has into the place of the one in a database, in one transaction: what waited there is planned again
   * on it.
   */
  async replace(file: Blob, databaseName: string, head: LogHead, memberId: Id | null): Promise<void> {
    const { store } = await readWorkspace(file, { withoutReceipts: true });
    const database = new WorkspaceDatabase(databaseName);
    try {
      await database.transaction('rw', database.tables, async (dexie) => {
        const tx = new DexieTransaction(dexie);
        const before = await needShare(tx);
        const hashes = new Map<Id, string>();
        for (const { op, seq } of before.waiting) {
          const row = seq === null ? undefined : await tx.journalRow(before.device, seq);
          if (row) hashes.set(op, row.hash);
        }
        await dropUnsettled(database);
        for (const table of tableNames) {
          await database.table(table).clear();
          await database.table(table).bulkAdd(store.rows(table));
        }
        await database.journal.clear();
        await database.journal.bulkAdd(store.journal);
        await database.share.put(beginning(before.book, before.device, head));
        await new SharedWorkspace(engine).goOn(tx, before, hashes, { now: Date.now(), memberId });
      });
      await makeUnsettled(database, new DexieReader(database));
    } finally {
      database.close();
    }
  },

  /** Makes the demo studio in a new database. */
  async makeDemo(databaseName: string, now: number, onProgress: Progress): Promise<TakenIn> {
    const { store, files } = await makeDemoWithFiles({ now });
    const stored = [...files].map(([sha256, bytes]) => ({ sha256, bytes }));
    // Two databases: each is written while the other one waits for the disk.
    const [taken] = await Promise.all([
      fill(databaseName, store, stored, onProgress),
      fillDemoTrail(store, databaseName.slice(DATABASE_PREFIX.length), now),
    ]);
    return taken;
  },
};
export type WorkspaceWork = typeof work;

async function fill(
  databaseName: string,
  store: MemoryStore,
  files: AsyncIterable<StoredFile> | Iterable<StoredFile>,
  onProgress: Progress,
): Promise<TakenIn> {
  await Dexie.delete(databaseName);
  const database = new WorkspaceDatabase(databaseName, undefined, FILLING);
  try {
    const total = tableNames.reduce((sum, table) => sum + store.rows(table).length, store.journal.length) || 1;
    let done = 0;
    for (const pack of inPacks(store)) {
      // One transaction for many rows of several tables: beginning and ending one takes longer than hundreds of rows.
      await database.transaction('rw', database.tables, async () => {
        for (const [table, rows] of pack) await database.table(table).bulkAdd(rows);
      });
      onProgress((done += pack.reduce((sum, [, rows]) => sum + rows.length, 0)) / total);
    }
    const typeOf = new Map(store.rows('receipts').map((row) => [row.sha256, row.mediaType]));
    for await (const { sha256, bytes } of files) {
      const type = typeOf.get(sha256) ?? 'application/octet-stream';
      await database.files.put({ sha256, blob: new Blob([bytes as Uint8Array<ArrayBuffer>], { type }) });
    }
    await makeUnsettled(database, store);
  } finally {
    database.close();
  }
  await makeDurable(databaseName);
  const studio = store.rows('workspace')[0]!;
  // In a member's own workspace nobody else is at work.
  return { name: studio.name, memberId: studio.ofMember ?? store.rows('members')[0]?.id ?? null };
}

/** All rows of a workspace with its history, in packs that fit one transaction. */
function* inPacks(store: MemoryStore): Generator<(readonly [string, readonly unknown[]])[]> {
  let pack: (readonly [string, readonly unknown[]])[] = [];
  let room = PACK;
  for (const [table, rows] of [
    ...tableNames.map((name) => [name, store.rows(name)] as const),
    ['journal', store.journal] as const,
  ]) {
    for (let from = 0; from < rows.length;) {
      const piece = rows.slice(from, from + room);
      pack.push([table, piece]);
      from += piece.length;
      room -= piece.length;
      if (room > 0) continue;
      yield pack;
      [pack, room] = [[], PACK];
    }
  }
  if (pack.length > 0) yield pack;
}

/** Everything that was written to a database before is on the disk, too, once something is written to it durably. */
async function makeDurable(databaseName: string): Promise<void> {
  const database = new WorkspaceDatabase(databaseName);
  try {
    const [workspace] = await database.rows('workspace').toArray();
    await database.rows('workspace').put(workspace!);
  } finally {
    database.close();
  }
}

const receiptsOf = (database: Dexie): Promise<Rows['receipts'][]> =>
  database.tables.some(({ name }) => name === 'receipts') ? database.table('receipts').toArray() : Promise.resolve([]);

/** Names of receipts whose bytes are not here, as after a browser lost them. */
async function missingIn(database: WorkspaceDatabase): Promise<string[]> {
  const receipts = await receiptsOf(database);
  const here = new Set(await database.files.toCollection().primaryKeys());
  return receipts.filter((receipt) => !here.has(receipt.sha256)).map((receipt) => receipt.name);
}

/** Every row of every table, ordered by id. */
const allOf = (database: WorkspaceDatabase): Promise<AllRows> => readTables((table) => database.rows(table).toArray());

const newId = idSource(
  () => Date.now(),
  (bytes) => crypto.getRandomValues(bytes as Uint8Array<ArrayBuffer>),
);
/** A history that begins now is a chain of its own. */
const beginNow = () => ({ device: newId(), at: Date.now() });

const withoutItsHistory = (database: WorkspaceDatabase): WorkspaceSource => ({
  ...sourceOf(database),
  async *journal() {
    yield [withoutHistory(await allOf(database), beginNow())];
  },
});

async function countAll(database: WorkspaceDatabase): Promise<number> {
  let rows = await database.journal.count();
  for (const table of tableNames) rows += await database.rows(table).count();
  return rows || 1;
}

function sourceOf(database: Dexie): WorkspaceSource {
  const there = new Set(database.tables.map(({ name }) => name));
  return {
    async *rows<T extends TableName>(table: T) {
      let last: string | null = null;
      // An older workspace does not have every table.
      while (there.has(table)) {
        const from =
          last === null ? database.table(table).toCollection() : database.table(table).where('id').above(last);
        const batch = (await from.limit(BATCH).toArray()) as Rows[T][];
        if (batch.length === 0) return;
        last = batch.at(-1)!.id;
        yield batch;
      }
    },
    // One transaction over all rows: another tab's change is either wholly in the file or not at all.
    during: (task) => database.transaction('r', database.tables, task),
    async *files() {
      const wanted = new Set((await receiptsOf(database)).map((row) => row.sha256));
      for (const sha256 of [...wanted].sort()) {
        const stored = (await database.table('files').get(sha256)) as StoredBlob | undefined;
        if (stored) yield { sha256, bytes: new Uint8Array(await stored.blob.arrayBuffer()) };
      }
    },
    async *journal() {
      const journal: Table<JournalRow, [Id, number]> = database.table('journal');
      let last: [Id, number] | null = null;
      for (;;) {
        const from = last === null ? journal.toCollection() : journal.where('[device+seq]').above(last);
        const batch: JournalRow[] = await from.limit(BATCH).toArray();
        if (batch.length === 0) return;
        last = [batch.at(-1)!.device, batch.at(-1)!.seq];
        yield batch;
      }
    },
  };
}

expose(work);
