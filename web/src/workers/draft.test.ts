import { computeDraft, newAllocation, newDraft, Pricer } from '@half-penny/core/billing';
import { bookOf, clientRow, projectRow, rateLine } from '@half-penny/core/testing';
import { blankEntry } from '@half-penny/core/entries';
import { expect, it } from 'vitest';
import { withEntries } from './draft';
import type { SentDraft } from './draft.worker';

const client = clientRow('quayside', 'Quayside Playhouse');
const pricer = new Pricer(
  bookOf({
    clients: [client],
    projects: [projectRow('rig', 'Winter season rig', 'quayside')],
    rateLines: [rateLine('rate')],
  }),
);
const entries = ['a', 'b', 'c'].map((id) =>
  blankEntry({ id, memberId: 'm', day: '2026-11-12', projectId: 'rig', seconds: 3600 }),
);
const draft = computeDraft(pricer, {
  invoice: { ...newDraft(client, { id: 'draft', createdAt: 0 }), condense: 'item' },
  entries,
  allocations: entries.map((entry) =>
    newAllocation({ id: `on ${entry.id}`, invoiceId: 'draft', entryId: entry.id, seconds: 3600 }),
  ),
  day: '2026-11-30',
});
const sent: SentDraft = structuredClone({
  ...draft,
  lines: draft.lines.map((line) => ({
    ...line,
    sources: line.sources.map((source) => ({ ...source, entry: source.entry.id })),
  })),
  unpriced: draft.unpriced.map((entry) => entry.id),
});

it('a draft that was computed elsewhere is the same one, of the page’s own entries', () => {
  const back = withEntries(sent, entries)!;
  expect(back).toEqual(draft);
  const sources = back.lines.flatMap((line) => line.sources);
  expect(sources).toHaveLength(3);
  for (const { entry } of sources) expect(entries.find((each) => each === entry)).toBe(entry);
});

it('is none where an entry of it has gone meanwhile', () => {
  expect(withEntries(sent, entries.slice(1))).toBeNull();
});
