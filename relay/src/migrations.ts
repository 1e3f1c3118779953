import type { Database } from './sql';

/** Each step brings the tables forward by one version; a step is never changed once it was released. */
const steps: readonly string[] = [
  `CREATE TABLE books (
     id uuid PRIMARY KEY,
     founded timestamptz NOT NULL DEFAULT now(),
     epoch int NOT NULL DEFAULT 1,
     -- The number of the last row, and its hash.
     head int NOT NULL DEFAULT 0,
     head_hash text NOT NULL DEFAULT '',
     -- Rows up to this one were dropped when an epoch began.
     base int NOT NULL DEFAULT 0,
     bytes bigint NOT NULL DEFAULT 0
   );
   CREATE TABLE writers (
     book uuid NOT NULL REFERENCES books ON DELETE CASCADE,
     number int NOT NULL,
     device uuid NOT NULL,
     key text NOT NULL,
     may boolean NOT NULL,
     signed_by text NOT NULL,
     signature text NOT NULL,
     PRIMARY KEY (book, number)
   );
   -- The last word on each key: what is asked at every request.
   CREATE TABLE may_write (
     book uuid NOT NULL REFERENCES books ON DELETE CASCADE,
     key text NOT NULL,
     PRIMARY KEY (book, key)
   );
   CREATE TABLE log_rows (
     book uuid NOT NULL,
     number int NOT NULL,
     epoch int NOT NULL,
     previous text NOT NULL,
     writer text NOT NULL,
     sealed bytea NOT NULL,
     PRIMARY KEY (book, number)
   );
   CREATE TABLE snapshots (
     id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
     book uuid NOT NULL REFERENCES books ON DELETE CASCADE,
     -- What it is the workspace after.
     epoch int NOT NULL,
     number int NOT NULL,
     hash text NOT NULL,
     writer text NOT NULL,
     pieces int NOT NULL,
     finished boolean NOT NULL DEFAULT false,
     begun timestamptz NOT NULL DEFAULT now()
   );
   CREATE INDEX ON snapshots (book);
   CREATE TABLE pieces (
     snapshot uuid NOT NULL REFERENCES snapshots ON DELETE CASCADE,
     piece int NOT NULL,
     bytes bytea NOT NULL,
     PRIMARY KEY (snapshot, piece)
   );
   CREATE TABLE blobs (
     book uuid NOT NULL REFERENCES books ON DELETE CASCADE,
     hash text NOT NULL,
     bytes bytea NOT NULL,
     PRIMARY KEY (book, hash)
   );
   CREATE TABLE letters (
     id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
     mailbox text NOT NULL,
     put timestamptz NOT NULL DEFAULT now(),
     bytes bytea NOT NULL
   );
   CREATE INDEX ON letters (mailbox, put);
   -- Forgotten when the database is killed; what they guard against needs a request that was caught minutes ago.
   CREATE UNLOGGED TABLE nonces (
     device text NOT NULL,
     nonce text NOT NULL,
     at timestamptz NOT NULL DEFAULT now(),
     PRIMARY KEY (device, nonce)
   );
   CREATE INDEX ON nonces (at);`,
];

/** Any number that nobody else on the same database would take for a lock of theirs. */
const LOCK = 7_240_117;

/**
 * Brings a database to the present version. Several processes may do so at once: one does, the others wait.
 *
 * @throws Error where the database is newer than this relay
 */
export async function migrate(database: Database): Promise<void> {
  await database.together(async ({ query }) => {
    await query('SELECT pg_advisory_xact_lock($1)', [LOCK]);
    await query('CREATE TABLE IF NOT EXISTS relay_version (version int NOT NULL)');
    const [row] = await query<{ version: number }>('SELECT version FROM relay_version');
    const at = row?.version ?? 0;
    if (at > steps.length)
      throw new Error(`The database is of version ${at}, this relay knows ${steps.length}. Run a newer relay.`);
    for (const step of steps.slice(at))
      for (const statement of step.split(/;\n/)) if (statement.trim()) await query(statement);
    if (at === 0) await query('INSERT INTO relay_version VALUES ($1)', [steps.length]);
    else if (at < steps.length) await query('UPDATE relay_version SET version = $1', [steps.length]);
  });
}
