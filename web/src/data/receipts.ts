import type { ReceiptFile } from '../workers/pdf.worker';
import type { WorkspaceDatabase } from './database';
import { invoiceView } from '@half-penny/documents';
import { useRead } from './read';
import { isFull } from './in-words';
import { Fault, type Id, type Receipt, type FrozenInvoice } from '@half-penny/core/model';
import { useCallback, useEffect, useState } from 'react';
import { prepareReceipt } from '../workers/tasks';
import { useChanges, useSession } from './session';

/** Receipts by their ids, in that order; those that are not there any more are left out. */
export function useReceipts(ids: readonly Id[]): Receipt[] | undefined {
  const { reader } = useSession();
  const key = ids.join();
  return useRead(
    async () => (await reader.many('receipts', key ? key.split(',') : [])).filter((row) => row !== undefined),
    [reader, key],
  );
}

/** The bytes of a receipt; those that only another device of a shared workspace has are fetched. */
export function useReceiptBlob(receipt: Receipt | undefined): Blob | null | undefined {
  const { database, entry } = useSession();
  const sha256 = receipt?.sha256 ?? '';
  const blob = useRead(
    async () => (sha256 ? ((await database.files.get(sha256))?.blob ?? null) : null),
    [database, sha256],
  );
  const isMissing = blob === null && sha256 !== '';
  useEffect(() => {
    if (!isMissing) return;
    void import('./sharing/receipts').then(({ receiptFromElsewhere }) =>
      receiptFromElsewhere(entry.id, database, sha256),
    );
  }, [isMissing, entry.id, database, sha256]);
  return blob;
}

export interface KeepingReceipts {
  /** Keeps files whole in this browser, photos made smaller, and puts them on costs; returns the ids of those that were kept. */
  keep(files: readonly File[], costIds: readonly Id[], photo?: boolean): Promise<Id[]>;
  /** How many are still being looked into. */
  waiting: number;
  /** What could not be kept, and why. */
  faults: readonly string[];
  forget(): void;
}

/** Takes in receipts: each is looked into, its bytes are kept by their hash, and only then is its row written. */
export function useKeepReceipts(): KeepingReceipts {
  const { database } = useSession();
  const { run } = useChanges();
  const [waiting, setWaiting] = useState(0);
  const [faults, setFaults] = useState<string[]>([]);
  const keep = useCallback(
    async (files: readonly File[], costIds: readonly Id[], photo = false) => {
      setFaults([]);
      setWaiting(files.length);
      const kept: Receipt['sha256'][] = [];
      const rows: Extract<Awaited<ReturnType<typeof prepareReceipt>['result']>, { ok: true }>['receipt'][] = [];
      for (const file of files) {
        const prepared = await prepareReceipt(file, photo).result.catch((thrown: unknown) => ({
          ok: false as const,
          message: String(thrown),
        }));
        setWaiting((left) => left - 1);
        if (!prepared.ok) {
          setFaults((now) => [...now, prepared.message]);
          continue;
        }
        const { receipt, smaller } = prepared;
        await putBlob(database, receipt.sha256, smaller ?? new Blob([file], { type: receipt.mediaType }));
        kept.push(receipt.sha256);
        rows.push(receipt);
      }
      setWaiting(0);
      if (rows.length === 0) return [];
      await run('receipt.add', { receipts: rows, costIds: [...costIds] });
      const found = await database.rows('receipts').where('sha256').anyOf(kept).toArray();
      return found.map((row) => row.id);
    },
    [database, run],
  );
  return { keep, waiting, faults, forget: () => setFaults([]) };
}

async function putBlob(database: ReturnType<typeof useSession>['database'], sha256: string, blob: Blob): Promise<void> {
  try {
    await database.files.put({ sha256, blob });
  } catch (thrown) {
    if (isFull(thrown)) {
      throw new Fault(
        'no-room',
        'The browser has no room left for this receipt. It was not kept; free some space and try again.',
      );
    }
    throw thrown;
  }
}

/** The receipts that follow an invoice, with the line each belongs to. */
export async function receiptsOf(database: WorkspaceDatabase, frozen: FrozenInvoice): Promise<ReceiptFile[]> {
  const files: ReceiptFile[] = [];
  for (const { receiptId, line } of invoiceView(frozen).receipts) {
    const receipt = await database.rows('receipts').get(receiptId);
    const stored = receipt && (await database.files.get(receipt.sha256));
    if (stored) files.push({ name: receipt.name, mediaType: receipt.mediaType, line, blob: stored.blob });
  }
  return files;
}
