import { blobNameOf, isRefused, openBlob, sealBlob, type RelayClient } from '@half-penny/formats/sealed-log';
import type { SharedBook, WorkspaceDatabase } from '../database';
import { registry } from '../registry';
import { clientOf } from './client';
import { keyNow } from './epochs';

// Receipts travel beside the log, each sealed: when they are looked at, or all in advance.

/** Brings receipts that only this device has to where others find them, and those that others have here, where that is wished. */
export async function carryReceipts(
  client: RelayClient,
  database: WorkspaceDatabase,
  book: SharedBook,
  signal: AbortSignal,
): Promise<void> {
  const known = new Set((await database.rows('receipts').toArray()).map((row) => row.sha256));
  const here = new Set(await database.files.toCollection().primaryKeys());
  const carried = new Set(await database.carried.toCollection().primaryKeys());
  for (const sha256 of known) {
    if (signal.aborted) return;
    if (!here.has(sha256)) {
      if (book.receipts === 'all') await fetchReceipt(client, database, book, sha256);
    } else if (!carried.has(sha256)) await putReceipt(client, database, book, sha256);
  }
}

async function putReceipt(client: RelayClient, database: WorkspaceDatabase, book: SharedBook, sha256: string) {
  const file = await database.files.get(sha256);
  if (!file) return;
  const { key } = keyNow(book);
  const bytes = new Uint8Array(await file.blob.arrayBuffer());
  await client.putBlob(book.book, blobNameOf(sha256, key), sealBlob(bytes, sha256, key));
  await database.carried.put({ sha256 });
}

/** Fetches one that others have. @returns whether it is here now */
async function fetchReceipt(
  client: RelayClient,
  database: WorkspaceDatabase,
  book: SharedBook,
  sha256: string,
): Promise<boolean> {
  const receipt = await database.rows('receipts').where('sha256').equals(sha256).first();
  for (const [, key] of book.epochs.toSorted((a, b) => b[0] - a[0])) {
    try {
      const bytes = openBlob(await client.blob(book.book, blobNameOf(sha256, key)), sha256, key);
      await database.files.put({ sha256, blob: new Blob([bytes], receipt && { type: receipt.mediaType }) });
      await database.carried.put({ sha256 });
      return true;
    } catch (thrown) {
      if (!isRefused(thrown, 'not there')) throw thrown;
    }
  }
  return false;
}

/** Fetches a receipt that is looked at, where the workspace is shared and another device has it. */
export async function receiptFromElsewhere(id: string, database: WorkspaceDatabase, sha256: string): Promise<void> {
  const book = await registry.shared.get(id);
  if (book) await fetchReceipt(clientOf(book), database, book, sha256).catch(() => false);
}
