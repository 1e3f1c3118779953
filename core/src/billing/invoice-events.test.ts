import { beforeEach, describe, expect, it } from 'vitest';
import type { Invoice } from '../model/records';
import { DAY, freshStudio, work } from '../testing/studio';
import { invoiceEvents } from './invoice-events';

let { store, at, run, added, test } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run, added, test } = await freshStudio()));

const eventsOf = (id: string) =>
  invoiceEvents({
    invoice: store.rows('invoices').find((row) => row.id === id)!,
    payments: store.rows('payments').filter((row) => row.invoiceId === id),
    credits: store.rows('invoices').filter((row: Invoice) => row.ofId === id),
  });

async function issued(): Promise<string> {
  const entry = await added('entry.add', work(at.rig, 3600));
  const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
  test.wait(5);
  await run('invoice.issue', { id });
  return id;
}

describe('what happened to an invoice', () => {
  it('stands in the order in which it was written down, with its own day and sum', async () => {
    const began = test.now;
    const id = await issued();
    const { payable } = store.rows('invoices')[0]!.frozen!;
    test.wait(60 * 24 * 3);
    await run('payment.add', { invoiceId: id, kind: 'payment', day: DAY, amount: 4000, note: 'By transfer' });
    test.wait(1);
    await run('invoice.credit', {
      id,
      reason: 'Cut short',
      free: true,
      lines: { [store.rows('invoices')[0]!.frozen!.lines[0]!.key]: 1000 },
    });
    test.wait(1);
    await run('payment.add', { invoiceId: id, kind: 'write-off', day: '2026-11-16', amount: 100, note: 'Small' });
    const events = eventsOf(id);
    expect(events.map((each) => [each.kind, each.day, each.note])).toEqual([
      ['drafted', null, ''],
      ['issued', DAY, ''],
      ['payment', DAY, 'By transfer'],
      ['credited', '2026-11-15', 'Cut short'],
      ['write-off', '2026-11-16', 'Small'],
    ]);
    expect(events.map((each) => each.amount)).toEqual([null, payable, 4000, -1200, 100]);
    const minutes = events.map((each) => Math.floor((each.at! - began) / 60_000));
    expect(minutes).toEqual([0, 5, 4325, 4326, 4327]);
  });

  it('ends with the void, and what was undone did not happen', async () => {
    const id = await issued();
    await run('payment.add', { invoiceId: id, kind: 'payment', day: DAY, amount: 4000, note: '' });
    await run('payment.remove', { id: store.rows('payments')[0]!.id });
    await run('invoice.void', { id, reason: 'Wrong client' });
    expect(eventsOf(id).map((each) => each.kind)).toEqual(['drafted', 'issued', 'void']);
  });
});
