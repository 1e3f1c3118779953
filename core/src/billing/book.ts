import type { Reader } from '../commands/store';
import { Fault } from '../model/fault';
import { bookTables, type PriceBook } from './pricer';

/** The small tables that prices depend on. */
export async function readBook(reader: Reader): Promise<PriceBook> {
  const [workspace] = await reader.all('workspace');
  if (!workspace) throw new Fault('This workspace has not been set up yet.');
  const rest = bookTables.filter((table) => table !== 'workspace');
  const rows = await Promise.all(rest.map((table) => reader.all(table)));
  return {
    workspace,
    ...Object.fromEntries(rest.map((table, index) => [table, rows[index]!])),
  } as unknown as PriceBook;
}
