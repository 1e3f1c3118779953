import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import {
  canonical,
  SCHEMA_VERSION,
  tableNames,
  type JournalRow,
  type Rows,
  type TableName,
} from '@half-penny/core/model';
import { FORMAT, JOURNAL, MANIFEST, receiptFile, tableFile, type Manifest } from './manifest';
import { PIECE, SteadyZip } from './parts';

/** Where the rows come from, in batches, ordered by id (the journal by device and number). */
export interface WorkspaceSource {
  rows<T extends TableName>(table: T): AsyncIterable<readonly Rows[T][]> | Iterable<readonly Rows[T][]>;
  journal(): AsyncIterable<readonly JournalRow[]> | Iterable<readonly JournalRow[]>;
  /** The bytes of receipts, ordered by their hash; asked for once all rows are written. */
  files?(): AsyncIterable<StoredFile> | Iterable<StoredFile>;
  /** Holds together what is read of the rows, such as in one transaction. */
  during?(task: () => Promise<void>): Promise<void>;
}

/** The bytes of a receipt, by their SHA-256 in hex. */
export interface StoredFile {
  sha256: string;
  bytes: Uint8Array;
}

export interface WriteOptions {
  /** Called after each batch with the number of rows written so far. */
  onProgress?: (rows: number) => void;
  signal?: AbortSignal;
  /** The version of the records, for a workspace that is written as it was before it is brought forward; the present one where not given. */
  version?: number;
}

/**
 * Writes a workspace file as a stream: each piece goes to `sink` as soon as it is made. Between batches nothing is awaited but the
 * source itself, so a database transaction behind it stays open.
 *
 * @throws DOMException "AbortError" when the signal stops it; what reached the sink is then to be thrown away
 */
export async function writeWorkspace(
  source: WorkspaceSource,
  sink: (bytes: Uint8Array) => void,
  { onProgress, signal, version = SCHEMA_VERSION }: WriteOptions = {},
): Promise<Manifest> {
  const zip = new SteadyZip(sink);
  const encoder = new TextEncoder();
  const manifest: Manifest = { format: FORMAT, version, tables: {}, files: {} };
  let written = 0;

  const table = async (name: string, batches: AsyncIterable<readonly object[]> | Iterable<readonly object[]>) => {
    const file = zip.file(tableFile(name));
    const hash = sha256.create();
    let count = 0;
    let text = '';
    const push = (last: boolean) => {
      const bytes = encoder.encode(text);
      text = '';
      hash.update(bytes);
      file(bytes, last);
    };
    for await (const batch of batches) {
      signal?.throwIfAborted();
      for (const row of batch) {
        text += canonical(row) + '\n';
        count++;
        if (text.length > PIECE) push(false);
      }
      written += batch.length;
      onProgress?.(written);
    }
    push(true);
    manifest.tables[name] = { count, sha256: bytesToHex(hash.digest()) };
  };

  const rows = async () => {
    for (const name of tableNames) await table(name, source.rows(name));
    await table(JOURNAL, source.journal());
  };
  await (source.during ? source.during(rows) : rows());
  for await (const { sha256: hash, bytes } of source.files?.() ?? []) {
    signal?.throwIfAborted();
    zip.file(receiptFile(hash))(bytes, true);
    manifest.files[hash] = { bytes: bytes.length };
  }
  zip.file(MANIFEST)(encoder.encode(canonical(manifest) + '\n'), true);
  zip.end();
  return manifest;
}

/** A source over rows that are in memory already. */
export function sourceOf(
  rows: <T extends TableName>(table: T) => readonly Rows[T][],
  journal: readonly JournalRow[],
  files: () => AsyncIterable<StoredFile> | Iterable<StoredFile> = () => [],
): WorkspaceSource {
  const ordered = [...journal].sort((a, b) => (a.device < b.device ? -1 : a.device > b.device ? 1 : a.seq - b.seq));
  return { rows: (table) => inBatches(rows(table)), journal: () => inBatches(ordered), files };
}

function* inBatches<T>(rows: readonly T[], size = 2000): Generator<readonly T[]> {
  for (let from = 0; from < rows.length; from += size) yield rows.slice(from, from + size);
}
