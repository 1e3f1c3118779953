import { byWhen, computeDraft, newAllocation, newDraft, Pricer, readBook } from '@half-penny/core/billing';
import { makeDemo } from '@half-penny/demo';
import type { Entry } from '@half-penny/core/model';
import { count, median, report } from './measure';

const COUNT = count(5000, 200);
const RUNS = count(200, 2);

/** A draft from 5,000 entries of one client against a bare loop that multiplies and adds the same numbers. */
export async function benchDraft(): Promise<void> {
  const store = await makeDemo({ now: Date.parse('2026-11-12T15:00:00Z') });
  const pricer = new Pricer(await readBook(store));
  const client = pricer.book.clients.find((each) => each.name === 'Quayside Playhouse')!;
  const own = store.rows('entries').filter((entry) => pricer.clientOf(entry.projectId)?.id === client.id);
  // In the order the application reads them in: that of their allocations, made as they were picked.
  const entries = Array.from({ length: COUNT }, (_, index): Entry => ({
    ...own[index % own.length]!,
    id: `entry ${index}`,
  })).sort(byWhen);
  const allocations = entries.map((entry) =>
    newAllocation({ id: entry.id, invoiceId: 'draft', entryId: entry.id, seconds: entry.seconds }),
  );
  const seconds = entries.map((entry) => entry.seconds);
  const prices = entries.map((entry) => pricer.priceOf(entry)!.scaled);
  let sink = 0;
  const bare = await median(RUNS, () => {
    let sum = 0;
    for (let i = 0; i < COUNT; i++) sum += seconds[i]! * prices[i]!;
    sink += sum;
  });
  for (const condense of ['service', 'item'] as const) {
    const draft = newDraft(client, { id: 'draft', createdAt: 0, condense });
    const time = await median(RUNS, () => {
      sink += computeDraft(pricer, { invoice: draft, entries, allocations, day: '2026-11-30' }).totals.total;
    });
    report(`Draft of ${COUNT} entries, a line a ${condense}`, time, 'bare loop', bare, 10);
  }
  if (!Number.isFinite(sink)) throw new Error('The sums went astray.');
}
