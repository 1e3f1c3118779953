import { PGlite } from '@electric-sql/pglite';
import pg from 'pg';

// All that the relay asks of a database. In a folder of its own it is PGlite, PostgreSQL within the process; else any PostgreSQL.

/** A row of an answer, by column. */
export type Row = Record<string, unknown>;

/** What statements may be given: bytes as they are, objects as JSON. */
export type Value = string | number | boolean | null | Uint8Array | object;

export interface Asking {
  /** One statement, with `$1` and so on for its values. @throws Error with PostgreSQL's `code` */
  query<T extends Row>(text: string, values?: readonly Value[]): Promise<T[]>;
}

export interface Database extends Asking {
  /** Several statements, all of them or none. */
  together<T>(work: (asking: Asking) => Promise<T>): Promise<T>;
  /** Calls back with what any process on this database tells on a channel, this one included. */
  listen(channel: string, heard: (told: string) => void): Promise<void>;
  close(): Promise<void>;
}

/** @param address of a PostgreSQL server; @param folder where PGlite keeps its files, or none to keep them in memory */
export const openDatabase = (at: { address: string } | { folder: string | undefined }): Promise<Database> =>
  'address' in at ? openPostgres(at.address) : openPglite(at.folder);

async function openPglite(folder: string | undefined): Promise<Database> {
  const db = await PGlite.create(folder ? { dataDir: folder } : {});
  const asking = (of: Pick<PGlite, 'query'>): Asking => ({
    query: async (text, values = []) => (await of.query(text, [...values])).rows as never,
  });
  return {
    ...asking(db),
    together: (work) => db.transaction((tx) => work(asking(tx as unknown as Pick<PGlite, 'query'>))),
    listen: async (channel, heard) => void (await db.listen(channel, heard)),
    close: () => db.close(),
  };
}

/** So long a connection that was lost is waited for before it is tried again, in milliseconds. */
const AGAIN = 500;
const CONNECTIONS = 10;

/** Statements by a name, so that the server plans each once a connection: there are few, and none is put together from input. */
const names = new Map<string, string>();
function nameOf(text: string): string {
  const known = names.get(text);
  if (known) return known;
  const name = `relay-${names.size + 1}`;
  names.set(text, name);
  return name;
}

async function openPostgres(connectionString: string): Promise<Database> {
  const pool = new pg.Pool({ connectionString, max: CONNECTIONS });
  // A connection that the server ended while nobody used it is simply gone.
  pool.on('error', () => undefined);
  const asking = (of: Pick<pg.Pool, 'query'>): Asking => ({
    query: async (text, values = []) =>
      (await of.query({ name: nameOf(text), text, values: [...values] })).rows as never,
  });
  const listeners = new Map<string, (told: string) => void>();
  let closed = false;
  let listening: pg.Client | null = null;
  const hear = async (): Promise<void> => {
    const client = new pg.Client({ connectionString });
    client.on('notification', ({ channel, payload = '' }) => listeners.get(channel)?.(payload));
    // Whatever was told meanwhile was not heard: everybody looks by themselves then.
    client.on('error', () => undefined);
    await client.connect();
    client.once('end', later);
    listening = client;
    for (const [channel, heard] of listeners) {
      await client.query(`LISTEN ${pg.escapeIdentifier(channel)}`);
      heard('');
    }
  };
  let tryingAgain: NodeJS.Timeout | null = null;
  // A line that is lost may say so more than once; two attempts at a time would become four, and so on.
  const later = (): void => {
    if (!closed) tryingAgain ??= setTimeout(() => void again(), AGAIN);
  };
  const again = async (): Promise<void> => {
    tryingAgain = null;
    await hear().catch(later);
  };
  await hear();
  return {
    ...asking(pool),
    async together(work) {
      const client = await pool.connect();
      try {
        await client.query('BEGIN');
        const done = await work(asking(client));
        await client.query('COMMIT');
        return done;
      } catch (thrown) {
        await client.query('ROLLBACK').catch(() => undefined);
        throw thrown;
      } finally {
        client.release();
      }
    },
    async listen(channel, heard) {
      listeners.set(channel, heard);
      await listening?.query(`LISTEN ${pg.escapeIdentifier(channel)}`);
    },
    async close() {
      closed = true;
      clearTimeout(tryingAgain ?? undefined);
      await Promise.allSettled([pool.end(), listening?.end()]);
    },
  };
}
