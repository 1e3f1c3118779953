import { proxy, wrap, type Remote } from 'comlink';
import type { Day } from '@half-penny/core/time';
import type { ReportsWork } from './reports.worker';

export type { Behind, Choice } from './reports.worker';

interface Opened {
  key: string;
  worker: Worker;
  api: Remote<ReportsWork>;
  ready: Promise<void>;
}

let opened: Opened | null = null;
const listening = new Set<() => void>();
const watching = new Set<(share: number) => void>();

/**
 * The worker that computes reports of a workspace: facts are read when it is first asked, and kept for as long as the page is open.
 * On another day, or for another workspace, they are read again.
 */
export function reportsWork(database: string, today: Day): Opened {
  const key = `${database} ${today}`;
  if (opened?.key === key) return opened;
  stopReports();
  const worker = new Worker(new URL('./reports.worker.ts', import.meta.url), { type: 'module' });
  const api = wrap<ReportsWork>(worker);
  const broken = new Promise<never>((_, reject) =>
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'Reports could not be started.'))),
  );
  const reading = api.open(
    database,
    today,
    proxy((share: number) => watching.forEach((watch) => watch(share))),
    proxy(() => listening.forEach((listen) => listen())),
  );
  const ready = Promise.race([reading, broken]);
  opened = { key, worker, api, ready };
  ready.catch(() => stopReports());
  return opened;
}

/** Ends what is being computed; the next question reads everything again. */
export function stopReports(): void {
  opened?.worker.terminate();
  opened = null;
}

/** Told when the workspace changed and the open report with it. */
export function onReportChange(listen: () => void): () => void {
  listening.add(listen);
  return () => void listening.delete(listen);
}

/** Told how far reading is. */
export function onReading(watch: (share: number) => void): () => void {
  watching.add(watch);
  return () => void watching.delete(watch);
}
