import type { Draft } from '@half-penny/core/billing';
import type { Entry, Id } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { wrap, type Remote } from 'comlink';
import type { DraftWork, SentDraft } from './draft.worker';

let working: Remote<DraftWork> | null = null;

/** Computes a draft off the page; the worker stays for as long as the page is open, as one changes a draft many times. */
export function draftInWorker(database: string, invoiceId: Id, day: Day): Promise<SentDraft> {
  working ??= wrap<DraftWork>(new Worker(new URL('./draft.worker.ts', import.meta.url), { type: 'module' }));
  return working.compute(database, invoiceId, day);
}

/**
 * A draft that came from the worker with the page's own entries in it.
 *
 * @returns null where one of them is not here (any more): the workspace changed in between, and another draft follows
 */
export function withEntries(sent: SentDraft, entries: readonly Entry[]): Draft | null {
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  const unpriced = sent.unpriced.map((id) => byId.get(id));
  if (!unpriced.every((entry) => entry !== undefined)) return null;
  const lines: Draft['lines'] = [];
  for (const { sources, ...line } of sent.lines) {
    const own: Draft['lines'][number]['sources'] = [];
    for (const { entry: id, ...source } of sources) {
      const entry = byId.get(id);
      if (!entry) return null;
      own.push({ ...source, entry });
    }
    lines.push({ ...line, sources: own });
  }
  return { ...sent, lines, unpriced };
}
