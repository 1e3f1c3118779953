import { bookTables, computeDraft, Pricer, readBook, type Draft, type DraftLine } from '@half-penny/core/billing';
import { Fault, type Id } from '@half-penny/core/model';
import { writeNumbersAs } from '@half-penny/core/money';
import { writeClockAs, type Day } from '@half-penny/core/time';
import { expose } from 'comlink';
import { WorkspaceDatabase } from '../data/database';
import { DexieReader } from '../data/executor';
import { readInvoice } from '../data/invoice-records';

// A long draft is computed here, off the page, from the worker's own view of the workspace.

/** A draft as it travels to the page, which has the entries itself: they are named by their ids. */
export type SentDraft = Omit<Draft, 'lines' | 'unpriced'> & { lines: SentLine[]; unpriced: Id[] };
type SentLine = Omit<DraftLine, 'sources'> & {
  sources: (Omit<DraftLine['sources'][number], 'entry'> & { entry: Id })[];
};

const databases = new Map<string, WorkspaceDatabase>();
function databaseOf(name: string): WorkspaceDatabase {
  let database = databases.get(name);
  if (!database) databases.set(name, (database = new WorkspaceDatabase(name)));
  return database;
}

const work = {
  /** @throws Fault where there is no such invoice any more */
  async compute(name: string, invoiceId: Id, day: Day): Promise<SentDraft> {
    const database = databaseOf(name);
    const reader = new DexieReader(database);
    const book = await database.transaction('r', [...bookTables], () => readBook(reader));
    // Lines say lengths and days.
    writeNumbersAs(book.workspace.numberStyle);
    writeClockAs(book.workspace.clockStyle);
    const pricer = new Pricer(book);
    const records = await readInvoice(reader, pricer, invoiceId);
    if (!records) throw new Fault('gone', 'This draft is no longer there.', 'invoice');
    const { lines, unpriced, ...draft } = computeDraft(pricer, { ...records, day });
    return {
      ...draft,
      lines: lines.map((line) => ({
        ...line,
        sources: line.sources.map((source) => ({ ...source, entry: source.entry.id })),
      })),
      unpriced: unpriced.map((entry) => entry.id),
    };
  },
};
export type DraftWork = typeof work;

expose(work);
