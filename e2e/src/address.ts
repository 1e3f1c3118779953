import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Where the tests' own server answers; another port is another store. */
export const PORT = Number(process.env.E2E_PORT ?? 4377);
export const ADDRESS = `http://127.0.0.1:${PORT}`;

/** The folder that the tests' own server keeps its things in. */
export const serverFolder = (): string => join(process.env.E2E_DATA!, String(PORT));

/** The letters by which a server knows its page. */
export const secretOf = (folder: string): string => readFileSync(join(folder, 'page-secret'), 'utf8').trim();
