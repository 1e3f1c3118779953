import type { Forgotten, Whose } from '@half-penny/core/engine';
import type { FrozenInvoice, Id, Picture } from '@half-penny/core/model';
import type { LogHead } from '@half-penny/core/shared-log';
import { proxy, wrap, type Remote } from 'comlink';
import type { PageWork } from './client-page.worker';
import type { PdfWork, ReceiptFile } from './pdf.worker';
import type { PreparedReceipt, ReadAttempt, ReceiptWork } from './receipt.worker';
import type { Exported, Reading, TakenIn, WorkspaceWork } from './workspace.worker';

/** Long work in a worker of its own: a promise of its result and a way to stop it. */
export interface CancellableTask<T> {
  result: Promise<T>;
  stop(): void;
}

/** The work was stopped by the person. */
export class AbortError extends Error {
  override name = 'Stopped';
}

/** Starts a worker for one piece of work and ends it afterwards, or at once when stopped. */
export function inWorker<Api, T>(worker: Worker, task: (api: Remote<Api>) => Promise<unknown>): CancellableTask<T> {
  let stop!: () => void;
  const result = new Promise<T>((resolve, reject) => {
    stop = () => {
      worker.terminate();
      reject(new AbortError('Stopped.'));
    };
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The work could not be started.')));
    task(wrap<Api>(worker)).then((value) => resolve(value as T), reject);
  }).finally(() => worker.terminate());
  return { result, stop };
}

const workspaceWorker = () => new Worker(new URL('./workspace.worker.ts', import.meta.url), { type: 'module' });

type Progress = (share: number) => void;

export const exportWorkspace = (
  database: string,
  withHistory: boolean,
  onProgress: Progress,
  withReceipts: boolean = true,
) =>
  inWorker<WorkspaceWork, Exported>(workspaceWorker(), (api) =>
    api.exportWorkspace(database, withHistory, proxy(onProgress), withReceipts),
  );

/** Puts the workspace of a file into the place of a shared one that is older; what waited there is done on it. */
export const replaceWorkspace = (file: Blob, database: string, head: LogHead, memberId: Id | null) =>
  inWorker<WorkspaceWork, undefined>(workspaceWorker(), (api) => api.replace(file, database, head, memberId));

/** A workspace of an older version as a file, as it is. */
export const exportAsItIs = (database: string) =>
  inWorker<WorkspaceWork, Blob>(workspaceWorker(), (api) => api.exportAsItIs(database));

/** Deletes a person's data out of a workspace for good. */
export const forgetInWorkspace = (database: string, whose: Whose) =>
  inWorker<WorkspaceWork, Omit<Forgotten, 'rows' | 'journal'>>(workspaceWorker(), (api) => api.forget(database, whose));

/** The same in a workspace file. */
export const forgetInFile = (file: Blob, whose: Whose) =>
  inWorker<WorkspaceWork, Omit<Forgotten, 'rows' | 'journal'> & { file: Blob }>(workspaceWorker(), (api) =>
    api.forgetInFile(file, whose),
  );

export const importWorkspace = (file: Blob, database: string, withoutReceipts: boolean, onProgress: Progress) =>
  inWorker<WorkspaceWork, Reading>(workspaceWorker(), (api) =>
    api.importWorkspace(file, database, withoutReceipts, proxy(onProgress)),
  );

export const buildDemo = (database: string, now: number, onProgress: Progress) =>
  inWorker<WorkspaceWork, TakenIn>(workspaceWorker(), (api) => api.makeDemo(database, now, proxy(onProgress)));

/** Makes an invoice's PDF. */
export const makeInvoicePdf = (
  invoice: FrozenInvoice,
  logo: Picture | undefined,
  receipts: readonly ReceiptFile[] = [],
  marks: { copy?: boolean; voided?: boolean } = {},
) =>
  inWorker<PdfWork, Blob>(new Worker(new URL('./pdf.worker.tsx', import.meta.url), { type: 'module' }), (api) =>
    api.invoice(invoice, logo, receipts, marks),
  );

/** Makes an electronic invoice. */
export const makeEInvoice = (...of: Parameters<PdfWork['eInvoice']>) =>
  inWorker<PdfWork, Blob>(new Worker(new URL('./pdf.worker.tsx', import.meta.url), { type: 'module' }), (api) =>
    api.eInvoice(...of),
  );

/** Makes a statement of account's PDF. */
export const makeAccountPdf = (...of: Parameters<PdfWork['account']>) =>
  inWorker<PdfWork, Blob>(new Worker(new URL('./pdf.worker.tsx', import.meta.url), { type: 'module' }), (api) =>
    api.account(...of),
  );

/** Makes a page for a client, as one HTML file. */
export const makeClientPage = (...of: Parameters<PageWork['make']>) =>
  inWorker<PageWork, string>(
    new Worker(new URL('./client-page.worker.ts', import.meta.url), { type: 'module' }),
    (api) => api.make(...of),
  );

/** Makes a report's PDF, alone or behind an invoice. */
export const makeReportPdf = (...of: Parameters<PdfWork['report']>) =>
  inWorker<PdfWork, Blob>(new Worker(new URL('./pdf.worker.tsx', import.meta.url), { type: 'module' }), (api) =>
    api.report(...of),
  );

/** Looks into a file that is to be a receipt: what it is, its hash, and a small picture of it. A photo is made smaller first. */
export const prepareReceipt = (file: File, photo: boolean) =>
  inWorker<ReceiptWork, PreparedReceipt>(
    new Worker(new URL('./receipt.worker.ts', import.meta.url), { type: 'module' }),
    (api) => api.prepare(file, photo),
  );

/** Reads a supplier's electronic invoice. */
export const readSupplierInvoice = (file: File) =>
  inWorker<ReceiptWork, ReadAttempt>(
    new Worker(new URL('./receipt.worker.ts', import.meta.url), { type: 'module' }),
    (api) => api.eInvoice(file),
  );
