import { sha256Hex } from '@half-penny/core/commands';
import {
  FORMAT,
  JOURNAL,
  MANIFEST,
  receiptFile,
  tableFile,
  unzip,
  WorkspaceFileError,
  zipParts,
  type FileFault,
} from '@half-penny/formats/workspace';
import { SCHEMA_VERSION, tableNames } from '@half-penny/core/model';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { FileError, fileError, openBlob, writeSafely } from './files';
import { parse } from './usage';

/** Writes the parts of a workspace file into a folder that is empty or not there yet. */
export async function unpack(args: readonly string[], print: (line: string) => void): Promise<void> {
  const [file, folder] = parse(args, { positional: 2 }).positional as [string, string];
  if (existsSync(folder) && readdirSync(folder).length > 0)
    throw new FileError(`${folder}: it is not empty; nothing was written.`);
  const parts = await unzip(await openBlob(file));
  for (const [name, text] of parts) {
    const path = join(folder, name);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  }
  print(`${parts.size} files written to ${folder}`);
}

/** Makes a workspace file of such a folder; counts and hashes are computed again. What it holds is for "check" to say. */
export async function pack(args: readonly string[], print: (line: string) => void): Promise<void> {
  const [folder, file] = parse(args, { positional: 2 }).positional as [string, string];
  const version = readVersion(folder);
  const parts = new Map<string, string | Uint8Array>();
  const tables: Record<string, { count: number; sha256: string }> = {};
  const missing: FileFault[] = [];
  for (const table of [...tableNames, JOURNAL]) {
    const name = tableFile(table);
    const path = join(folder, name);
    if (!existsSync(path)) {
      missing.push({ file: name, line: null, path: '', message: 'This file is missing.' });
      continue;
    }
    const text = readFileSync(path, 'utf8');
    parts.set(name, text);
    tables[table] = { count: text === '' ? 0 : text.replace(/\n$/, '').split('\n').length, sha256: sha256Hex(text) };
  }
  if (missing.length > 0) throw new WorkspaceFileError(missing);
  const files: Record<string, { bytes: number }> = {};
  const receipts = join(folder, 'files');
  for (const name of existsSync(receipts) ? readdirSync(receipts).sort() : []) {
    const bytes = readFileSync(join(receipts, name));
    parts.set(receiptFile(name), bytes);
    files[name] = { bytes: bytes.length };
  }
  parts.set(MANIFEST, `${JSON.stringify({ files, format: FORMAT, tables, version })}\n`);
  await writeSafely(file, async (sink) => zipParts(parts, sink));
  print(`${parts.size} files packed into ${file}`);
}

function readVersion(folder: string): number {
  const path = join(folder, MANIFEST);
  if (!existsSync(folder)) throw fileError(folder, { code: 'ENOENT' });
  if (!existsSync(path)) return SCHEMA_VERSION;
  try {
    return (JSON.parse(readFileSync(path, 'utf8')) as { version: number }).version;
  } catch {
    throw new WorkspaceFileError([
      { file: MANIFEST, line: null, path: '', message: 'The manifest cannot be read as JSON.' },
    ]);
  }
}
