import { baseRow, sha256Hex } from '@half-penny/core/engine';
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
import {
  canonical,
  idSource,
  SCHEMA_VERSION,
  tableNames,
  type JournalRow,
  type TableName,
} from '@half-penny/core/model';
import { randomInt } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { FileError, fileError, openBlob, writeSafely } from './files';
import { parse, UsageError } from './usage';

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
  const { positional, options } = parse(args, { positional: 2, options: ['base'] });
  const [folder, file] = positional as [string, string];
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
  const reason = options.get('base');
  if (reason !== undefined) {
    const text = `${canonical(baseOf(parts, reason, version))}\n`;
    parts.set(tableFile(JOURNAL), text);
    tables[JOURNAL] = { count: 1, sha256: sha256Hex(text) };
  }
  const files: Record<string, { bytes: number }> = {};
  const receipts = join(folder, 'files');
  for (const name of existsSync(receipts) ? readdirSync(receipts).sort() : []) {
    const bytes = readFileSync(join(receipts, name));
    parts.set(receiptFile(name), bytes);
    files[name] = { bytes: bytes.length };
  }
  parts.set(MANIFEST, `${canonical({ files, format: FORMAT, tables, version })}\n`);
  await writeSafely(file, async (sink) => zipParts(parts, sink));
  print(`${parts.size} files packed into ${file}`);
}

/** A base row in place of the history there was: the records are as somebody made them by hand, and say so. */
function baseOf(parts: ReadonlyMap<string, string | Uint8Array>, reason: string, version: number): JournalRow {
  if (!reason.trim()) throw new UsageError('Say after --base why the history begins again.');
  if (version !== SCHEMA_VERSION)
    throw new FileError(`These records are of version ${version}; open and export them first. Nothing was written.`);
  const rows = (table: TableName): object[] => {
    const lines = (parts.get(tableFile(table)) as string).split('\n').filter(Boolean);
    return lines.map((line, index) => {
      try {
        return JSON.parse(line) as object;
      } catch {
        const fault = {
          file: tableFile(table),
          line: index + 1,
          path: '',
          message: 'This line cannot be read as JSON.',
        };
        throw new WorkspaceFileError([fault]);
      }
    });
  };
  const at = Date.now();
  const device = idSource(
    () => at,
    (bytes) => bytes.map(() => randomInt(256)),
  )();
  return baseRow(rows, { device, at, reason: reason.trim().slice(0, 200) });
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
