import { existsSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { moveAll } from './move';
import { openDatabase } from './sql';

// npm run relay:move: from the folder of PGlite into an empty PostgreSQL. The relay has to be stopped meanwhile.

const folder = process.env.RELAY_DATA ?? join(homedir(), '.half-penny-relay');
const address = process.env.RELAY_DATABASE_URL;
try {
  if (!address) throw new Error('RELAY_DATABASE_URL says where to move to.');
  if (!existsSync(folder)) throw new Error(`There is nothing in ${folder}. RELAY_DATA says where it is.`);
  const [from, to] = [await openDatabase({ folder }), await openDatabase({ address })];
  console.log(`${await moveAll(from, to)} rows were moved. ${folder} stays as it is.`);
  await Promise.all([from.close(), to.close()]);
} catch (thrown) {
  console.error((thrown as Error).message);
  process.exit(1);
}
