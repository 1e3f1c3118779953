import { migrate } from './migrations';
import type { Database, Row, Value } from './sql';

/** Tables in the order in which they can be filled, each with what its rows are sorted by. */
const TABLES = [
  ['books', 'id'],
  ['writers', 'book, number'],
  ['may_write', 'book, key'],
  ['log_rows', 'book, number'],
  ['snapshots', 'id'],
  ['pieces', 'snapshot, piece'],
  ['blobs', 'book, hash'],
  ['letters', 'id'],
] as const;
const AT_ONCE = 100;

/**
 * Copies everything that a relay keeps into another database, all of it or nothing.
 *
 * @returns how many rows there were
 * @throws Error where something is kept there already
 */
export async function moveAll(from: Database, to: Database): Promise<number> {
  await migrate(from);
  await migrate(to);
  return to.together(async ({ query }) => {
    const [there] = await query('SELECT 1 AS one FROM books UNION ALL SELECT 1 FROM letters LIMIT 1');
    if (there) throw new Error('Something is kept there already. Move into an empty database.');
    let count = 0;
    for (const [table, order] of TABLES) {
      for (let at = 0; ; at += AT_ONCE) {
        const rows = await from.query<Row>(`SELECT * FROM ${table} ORDER BY ${order} LIMIT $1 OFFSET $2`, [
          AT_ONCE,
          at,
        ]);
        for (const row of rows) {
          const columns = Object.keys(row);
          const places = columns.map((_, index) => `$${index + 1}`);
          await query(
            `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${places.join(', ')})`,
            Object.values(row) as Value[],
          );
        }
        count += rows.length;
        if (rows.length < AT_ONCE) break;
      }
    }
    return count;
  });
}
