import { wrap, type Remote } from 'comlink';
import type { CaptureWork } from './capture.worker';

let working: Remote<CaptureWork> | null = null;

/** The worker that makes stretches of activity; one for as long as the page is open, started when it is first asked. */
export function captureWork(): Remote<CaptureWork> {
  working ??= wrap<CaptureWork>(new Worker(new URL('./capture.worker.ts', import.meta.url), { type: 'module' }));
  return working;
}

export type { BehindRow, LookBackQuery, Looked, Minute, RuleEffect, SiftDay } from './capture.worker';
export type { PlacedDocument, UnclearTitle } from './trail-documents';
