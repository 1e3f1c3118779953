import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { BlobReader, configure, Uint8ArrayWriter, ZipReader, type FileEntry } from '@zip.js/zip.js';
import type { ZodType } from 'zod';
import { checkWorkspace } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import {
  Fault,
  isTableName,
  messageOf,
  migrateRow,
  newerVersion,
  readJson,
  SCHEMA_VERSION,
  journalSchema,
  schemas,
  readTables,
  type AllRows,
  type JournalRow,
  type Rows,
  type TableName,
} from '@half-penny/core/model';
import {
  JOURNAL,
  MANIFEST,
  manifestSchema,
  receiptFile,
  tableFile,
  WHOLE_FILE,
  WorkspaceFileError,
  type FileFault,
  type Manifest,
} from './manifest';
import type { StoredFile } from './write';

// Whoever reads large files does so in a worker of their own already.
configure({ useWebWorkers: false });

/** A workspace file that was read whole and found sound. */
export interface WorkspaceContent {
  manifest: Manifest;
  rows: AllRows;
  journal: JournalRow[];
  store: MemoryStore;
  /** Names of receipts whose bytes are not in the file. */
  missing: string[];
  /** The bytes of receipts, one after another; found to be what their hashes say. */
  files(): AsyncIterable<StoredFile>;
}

export interface ReadOptions {
  /** Called with the share read so far, 0 to 1. */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
  /** Receipts whose bytes are missing are named and are no fault. */
  withoutReceipts?: boolean;
}

const MOST_FAULTS = 200;

// Far beyond what years of work come to; what is beyond them is refused before it is unpacked.
const MOST_PARTS = 100_000;
/** Bytes of all of it, unpacked. */
const LARGEST = 8 * 2 ** 30;
/** Bytes of one receipt; none that is larger was ever taken in. */
const LARGEST_RECEIPT = 64 << 20;
const LARGEST_MANIFEST = 64 << 20;
/** Characters of one record. */
const LONGEST_LINE = 16 << 20;

/**
 * Reads and checks a whole workspace file: that it is one, complete, of a version we know; every record against its schema; every
 * reference and invariant; the chains of the journal.
 *
 * @throws WorkspaceFileError with file, line and path of each fault
 */
export async function readWorkspace(file: Blob, options: ReadOptions = {}): Promise<WorkspaceContent> {
  const entries = await openZip(file);
  const manifest = await readManifest(entries);
  const faults = new Faults();
  const total = Object.values(manifest.tables).reduce((sum, table) => sum + table.count, 0) || 1;
  let done = 0;
  const progress = (rows: number) => options.onProgress?.(Math.min(1, (done += rows) / total));

  const lines = new Map<string, number>();
  const read = (name: string) => readTable(entries, manifest, name, faults, lines, progress, options.signal);
  const rows = await readTables(async <T extends TableName>(table: T) => (await read(table)) as Rows[T][]);
  const journal = (await read(JOURNAL)) as JournalRow[];
  for (const name of Object.keys(manifest.tables)) {
    if (!isTableName(name) && name !== JOURNAL) faults.add(MANIFEST, null, `tables/${name}`, 'There is no such table.');
  }
  faults.throwIfAny();
  const store = new MemoryStore().load(rows, journal);
  for (const fault of await checkWorkspace(store)) {
    const key = fault.table === JOURNAL ? `${JOURNAL} ${fault.id} ${fault.path}` : `${fault.table} ${fault.id}`;
    faults.add(
      tableFile(fault.table),
      lines.get(key) ?? null,
      fault.table === JOURNAL ? '' : fault.path,
      fault.message,
    );
  }
  await checkFiles(entries, manifest, faults, options.signal);
  const missing = store.rows('receipts').filter((receipt) => !manifest.files[receipt.sha256]);
  const onlyReceipts = faults.count === 0;
  for (const { id, name } of options.withoutReceipts ? [] : missing) {
    const line = lines.get(`receipts ${id}`) ?? null;
    faults.add(tableFile('receipts'), line, 'sha256', `The file of the receipt “${name.slice(0, 60)}” is missing.`);
  }
  faults.throwIfAny(onlyReceipts);
  return {
    manifest,
    rows,
    journal,
    store,
    missing: missing.map((receipt) => receipt.name),
    files: () => filesOf(entries, manifest),
  };
}

/** The bytes of receipts are what their hash says. */
async function checkFiles(
  entries: Map<string, FileEntry>,
  manifest: Manifest,
  faults: Faults,
  signal: AbortSignal | undefined,
): Promise<void> {
  for (const [hash, { bytes }] of Object.entries(manifest.files)) {
    signal?.throwIfAborted();
    const name = receiptFile(hash);
    const entry = entries.get(name);
    if (!entry) {
      faults.add(name, null, '', 'This file is missing.');
      continue;
    }
    try {
      const found = await bytesOf(entry);
      if (found.length !== bytes || bytesToHex(sha256(found)) !== hash) {
        faults.add(name, null, '', 'The content does not match its hash: it was altered after it was written.');
      }
    } catch (thrown) {
      faults.add(name, null, '', thrown instanceof Fault ? thrown.message : BROKEN);
    }
  }
}

async function* filesOf(entries: Map<string, FileEntry>, manifest: Manifest): AsyncGenerator<StoredFile> {
  for (const hash of Object.keys(manifest.files).sort()) {
    yield { sha256: hash, bytes: await bytesOf(entries.get(receiptFile(hash))!) };
  }
}

/** @throws Fault when it is larger than it may be, before it is unpacked */
async function bytesOf(entry: FileEntry, most = LARGEST_RECEIPT): Promise<Uint8Array> {
  if (entry.uncompressedSize > most)
    throw new Fault('too-large', `This part is larger than ${Math.round(most / 1e6)} MB. Nothing of it was unpacked.`);
  return entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
}

/** The parts of a workspace file as they are, unchecked, for whoever wants to look inside. */
export async function unzip(file: Blob): Promise<Map<string, Uint8Array>> {
  const entries = await openZip(file);
  await readManifest(entries);
  const parts = new Map<string, Uint8Array>();
  for (const [name, entry] of entries) {
    // A name that leads out of the folder it is unpacked into is no part of a workspace.
    if (!/^(manifest\.json|tables\/\w+\.jsonl|files\/[0-9a-f]{64})$/.test(name))
      throw whole(name, 'This file does not belong in a workspace file.');
    try {
      parts.set(name, await bytesOf(entry, name.startsWith('files/') ? LARGEST_RECEIPT : LARGEST));
    } catch (thrown) {
      throw whole(name, thrown instanceof Fault ? thrown.message : BROKEN);
    }
  }
  return parts;
}

const NOT_OURS = 'This is not a workspace file of Half Penny.';
const BROKEN = 'This file is broken or cut off: it could not be read to its end. Copy or export it again.';

async function openZip(file: Blob): Promise<Map<string, FileEntry>> {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  if (head[0] !== 0x50 || head[1] !== 0x4b || head[2] !== 3 || head[3] !== 4) throw whole('', NOT_OURS);
  try {
    const entries: FileEntry[] = [];
    let bytes = 0;
    for await (const entry of new ZipReader(new BlobReader(file)).getEntriesGenerator()) {
      if (entry.directory) continue;
      bytes += entry.uncompressedSize;
      if (entries.length >= MOST_PARTS || bytes > LARGEST)
        throw new Fault(
          'too-large',
          'This file unpacks to far more than a workspace holds: it was not written by Half Penny. Nothing of it was unpacked.',
        );
      entries.push(entry);
    }
    return new Map(entries.map((entry) => [entry.filename, entry]));
  } catch (thrown) {
    throw whole('', thrown instanceof Fault ? thrown.message : BROKEN);
  }
}

async function readManifest(entries: Map<string, FileEntry>): Promise<Manifest> {
  const entry = entries.get(MANIFEST);
  if (!entry) throw whole(MANIFEST, NOT_OURS);
  let raw: unknown;
  try {
    raw = readJson(await textOf(entry), 'The manifest');
  } catch (thrown) {
    throw whole(MANIFEST, thrown instanceof Fault ? thrown.message : BROKEN);
  }
  const { format, version } = (raw ?? {}) as { format?: unknown; version?: unknown };
  if (format !== 'half-penny workspace') throw whole(MANIFEST, NOT_OURS, 'format');
  if (typeof version === 'number' && version > SCHEMA_VERSION) {
    throw whole(MANIFEST, newerVersion(version, SCHEMA_VERSION), 'version');
  }
  const parsed = manifestSchema.safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw whole(MANIFEST, issue.message, issue.path.join('/'));
  }
  return parsed.data;
}

async function readTable(
  entries: Map<string, FileEntry>,
  manifest: Manifest,
  name: string,
  faults: Faults,
  lines: Map<string, number>,
  progress: (rows: number) => void,
  signal: AbortSignal | undefined,
): Promise<object[]> {
  const file = tableFile(name);
  const entry = entries.get(file);
  const stated = manifest.tables[name];
  if (!entry && !stated) return [];
  if (!entry || !stated) {
    faults.add(file, null, '', entry ? 'The manifest does not mention this file.' : 'This file is missing.');
    return [];
  }
  const schema: ZodType = name === JOURNAL ? journalSchema : schemas[name as TableName];
  const rows: object[] = [];
  let number = 0;
  const take = (line: string) => {
    number++;
    const row = readRow(line, name as TableName, manifest.version, schema, file, number, faults);
    if (!row) return;
    const key =
      name === JOURNAL ? `${JOURNAL} ${(row as JournalRow).device} ${(row as JournalRow).seq}` : `${name} ${row.id}`;
    const earlier = lines.get(key);
    if (earlier !== undefined) faults.add(file, number, 'id', `The same record stands on line ${earlier} already.`);
    lines.set(key, number);
    rows.push(row);
  };
  const hash = sha256.create();
  try {
    await eachLine(entry, hash, take, progress, signal);
  } catch (thrown) {
    signal?.throwIfAborted();
    faults.add(file, number + 1, '', thrown instanceof Fault ? thrown.message : BROKEN);
    return rows;
  }
  if (number !== stated.count) {
    faults.add(file, null, '', `The manifest says ${stated.count} records; there are ${number}.`);
  } else if (bytesToHex(hash.digest()) !== stated.sha256) {
    faults.add(
      file,
      null,
      '',
      'The content does not match the hash in the manifest: it was altered after it was written.',
    );
  }
  return rows;
}

function readRow(
  line: string,
  table: TableName,
  version: number,
  schema: ZodType,
  file: string,
  number: number,
  faults: Faults,
): { id?: string } | null {
  let raw: unknown;
  try {
    raw = readJson(line, 'This line');
  } catch (thrown) {
    faults.add(file, number, '', messageOf(thrown));
    return null;
  }
  if (raw === null || typeof raw !== 'object' || Array.isArray(raw)) {
    faults.add(file, number, '', 'A record is a JSON object.');
    return null;
  }
  const parsed = schema.safeParse(migrateRow(table, raw as Record<string, unknown>, version));
  if (parsed.success) return parsed.data as { id?: string };
  for (const issue of parsed.error.issues) faults.add(file, number, issue.path.map(String).join('/'), issue.message);
  return null;
}

type Hash = ReturnType<typeof sha256.create>;

/** Calls `take` with each line of a file in the zip, a piece at a time. */
async function eachLine(
  entry: FileEntry,
  hash: Hash,
  take: (line: string) => void,
  progress: (rows: number) => void,
  signal: AbortSignal | undefined,
): Promise<void> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let rest = '';
  const writable = new WritableStream<Uint8Array>({
    write(bytes) {
      hash.update(bytes);
      const lines = decoder.decode(bytes, { stream: true }).split('\n');
      lines[0] = rest + lines[0]!;
      rest = lines.pop()!;
      if (rest.length > LONGEST_LINE)
        throw new Fault(
          'too-large',
          `This line is longer than ${LONGEST_LINE >> 20} million characters; no record is.`,
        );
      for (const line of lines) take(line);
      progress(lines.length);
    },
    close() {
      rest += decoder.decode();
      if (rest !== '') take(rest);
    },
  });
  await entry.getData(writable, { checkSignature: true, ...(signal ? { signal } : {}) });
}

async function textOf(entry: FileEntry): Promise<string> {
  const decoder = new TextDecoder();
  let text = '';
  const writable = new WritableStream<Uint8Array>({
    write(bytes) {
      text += decoder.decode(bytes, { stream: true });
      if (text.length > LARGEST_MANIFEST)
        throw new Fault('too-large', 'The manifest is far longer than one that Half Penny writes.');
    },
  });
  await entry.getData(writable, { checkSignature: true });
  return text;
}

const whole = (file: string, message: string, path = ''): WorkspaceFileError =>
  new WorkspaceFileError([{ file: file || WHOLE_FILE, line: null, path, message }]);

class Faults {
  readonly #kept: FileFault[] = [];
  #count = 0;

  add(file: string, line: number | null, path: string, message: string): void {
    this.#count++;
    if (this.#kept.length < MOST_FAULTS) this.#kept.push({ file, line, path, message });
  }

  get count(): number {
    return this.#count;
  }

  throwIfAny(onlyReceipts = false): void {
    if (this.#count > 0) throw new WorkspaceFileError(this.#kept, this.#count, onlyReceipts);
  }
}
