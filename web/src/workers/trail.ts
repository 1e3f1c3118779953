import type { SealingKey } from '@half-penny/formats/sealed';
import { proxy } from 'comlink';
import type { TrailWork } from './trail.worker';
import { inWorker } from './tasks';

const trailWorker = () => new Worker(new URL('./trail.worker.ts', import.meta.url), { type: 'module' });

/** Seals the trail of this browser. */
export const sealTrail = (sealing: SealingKey, onProgress: (rows: number) => void) =>
  inWorker<TrailWork, Blob>(trailWorker(), (api) => api.seal(sealing, proxy(onProgress)));

/** Puts what a sealed trail holds beside what is here. */
export const bringTrailBack = (file: Blob, passphrase: string) =>
  inWorker<TrailWork, number>(trailWorker(), (api) => api.bringBack(file, passphrase));
