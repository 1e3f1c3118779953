import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { BlobReader, configure, Uint8ArrayWriter, ZipReader, type FileEntry } from '@zip.js/zip.js';
import {
  canonical,
  isTableName,
  messageOf,
  migrateRow,
  newerVersion,
  readJson,
  SCHEMA_VERSION,
} from '@half-penny/core/model';
import { sealedContentSchema, type SealedContent } from '@half-penny/core/sealed-files';
import { receiptFile } from '../workspace/manifest';
import { zipParts } from '../workspace/parts';
import type { StoredFile } from '../workspace';
import { SealedFileFault } from './fault';

// What is in a sealed file is a zip: content.json, canonical, and the bytes of receipts by their hash.

configure({ useWebWorkers: false });

const FORMAT = 'half-penny sealed file';
const CONTENT = 'content.json';
const LARGEST_CONTENT = 256 << 20;
const LARGEST_RECEIPT = 64 << 20;
const LARGEST_FILE = 512 << 20;

/**
 * What a file says, whenever it is made: two that say the same need not both be sent. An answer says what was decided, not each figure on
 * the way to that. As SHA-256 in hex.
 */
export function gistOf(content: SealedContent): string {
  const said = content.kind === 'answer' ? [content.rows.timesheets, content.rows.closings] : content.rows;
  return bytesToHex(sha256(utf8ToBytes(canonical(said))));
}

/** Content as the bytes that are signed: the same bytes for the same content. */
export function packContent(content: SealedContent, files: readonly StoredFile[] = []): Uint8Array {
  const parts = new Map<string, string | Uint8Array>([
    [CONTENT, canonical({ format: FORMAT, version: SCHEMA_VERSION, ...content }) + '\n'],
  ]);
  for (const { sha256: hash, bytes } of [...files].sort((a, b) => (a.sha256 < b.sha256 ? -1 : 1)))
    parts.set(receiptFile(hash), bytes);
  const pieces: Uint8Array[] = [];
  zipParts(parts, (piece) => pieces.push(piece));
  const packed = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    packed.set(piece, at);
    at += piece.length;
  }
  return packed;
}

/** What was in a sealed file. */
export interface ReadContent {
  content: SealedContent;
  files: StoredFile[];
}

/**
 * Reads what was signed: every record against its schema, every receipt against its hash; of an older version it is brought forward.
 *
 * @throws SealedFileFault that says what is wrong where
 */
export async function readContent(packed: Uint8Array): Promise<ReadContent> {
  const entries = await entriesOf(packed);
  const entry = entries.get(CONTENT);
  if (!entry) throw unreadable(`it has no ${CONTENT}`);
  const raw = rawOf(await bytesOf(entry, LARGEST_CONTENT));
  const parsed = sealedContentSchema.safeParse(raw);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw unreadable(`${issue!.path.map(String).join('/')}: ${issue!.message}`);
  }
  const content = parsed.data;
  const files: StoredFile[] = [];
  const receipts = 'receipts' in content.rows ? content.rows.receipts : [];
  for (const { sha256: hash, name } of receipts) {
    const file = entries.get(receiptFile(hash));
    if (!file) continue;
    const bytes = await bytesOf(file, LARGEST_RECEIPT);
    if (bytesToHex(sha256(bytes)) !== hash) throw unreadable(`the receipt “${name.slice(0, 60)}” is not what it was`);
    if (!files.some((each) => each.sha256 === hash)) files.push({ sha256: hash, bytes });
  }
  return { content, files };
}

function rawOf(bytes: Uint8Array): unknown {
  let raw: unknown;
  try {
    raw = readJson(new TextDecoder('utf-8', { fatal: true }).decode(bytes), CONTENT);
  } catch (thrown) {
    throw unreadable(messageOf(thrown));
  }
  const { format, version, ...rest } = (raw ?? {}) as { format?: unknown; version?: unknown; rows?: unknown };
  if (format !== FORMAT || typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw unreadable('it does not say what it is');
  if (version > SCHEMA_VERSION) throw new SealedFileFault('newer', newerVersion(version, SCHEMA_VERSION));
  const rows = rest.rows;
  if (rows === null || typeof rows !== 'object') return rest;
  const forward = Object.entries(rows).map(([table, list]) => [
    table,
    isTableName(table) && Array.isArray(list)
      ? list.map((row: unknown) =>
          row !== null && typeof row === 'object' ? migrateRow(table, row as Record<string, unknown>, version) : row,
        )
      : (list as unknown),
  ]);
  return { ...rest, rows: Object.fromEntries(forward) as unknown };
}

async function entriesOf(packed: Uint8Array): Promise<Map<string, FileEntry>> {
  try {
    const found = new Map<string, FileEntry>();
    let bytes = 0;
    for await (const entry of new ZipReader(
      new BlobReader(new Blob([packed as Uint8Array<ArrayBuffer>])),
    ).getEntriesGenerator()) {
      if (entry.directory) continue;
      bytes += entry.uncompressedSize;
      if (bytes > LARGEST_FILE || found.size > 20_000)
        throw unreadable('it unpacks to far more than such a file holds');
      found.set(entry.filename, entry);
    }
    return found;
  } catch (thrown) {
    throw thrown instanceof SealedFileFault ? thrown : unreadable('it is broken');
  }
}

async function bytesOf(entry: FileEntry, most: number): Promise<Uint8Array> {
  if (entry.uncompressedSize > most) throw unreadable(`${entry.filename} is larger than ${most >> 20} MB`);
  try {
    return await entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
  } catch {
    throw unreadable(`${entry.filename} is broken`);
  }
}

const unreadable = (why: string): SealedFileFault =>
  new SealedFileFault('unreadable', `What is in this file cannot be read: ${why}. Nothing of it was taken.`);
