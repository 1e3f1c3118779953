import { describe, expect, it } from 'vitest';
import { freshStudio, work, DAY } from '../testing';
import { netOf, invoicedParts } from './paid';

async function invoiced(
  seconds: readonly number[],
  payments: readonly [kind: 'payment' | 'write-off', amount: number][],
) {
  const { store, run, at } = await freshStudio();
  for (const each of seconds) await run('entry.add', work(at.rig, each));
  const entryIds = store.rows('entries').map((row) => row.id);
  const id = (await run('invoice.draft', { clientId: at.playhouse, entryIds })).changes.find(
    ({ table }) => table === 'invoices',
  )!.id;
  await run('invoice.issue', { id });
  for (const [kind, amount] of payments)
    await run('payment.add', { invoiceId: id, day: DAY, amount, note: 'agreed', kind });
  const parts = invoicedParts(store.rows('invoices'), store.rows('payments'), store.rows('allocations'));
  const net = netOf(store.rows('invoices')[0]!.frozen!);
  const sum = (of: 'paid' | 'writtenOff') => [...parts.values()].reduce((total, part) => total + part[of], 0);
  return { parts, net, paid: sum('paid'), writtenOff: sum('writtenOff') };
}

describe('what was paid, before tax', () => {
  it('is all of what was asked once the whole came in', async () => {
    // £85.00 and £170.00 with 20 % on top.
    expect(await invoiced([3600, 7200], [['payment', 30_600]])).toMatchObject({
      net: 25_500,
      paid: 25_500,
      writtenOff: 0,
    });
  });

  it('is a share of net and tax alike, and the parts add up', async () => {
    const { parts, paid } = await invoiced([3600, 3600, 3600], [['payment', 10_000]]);
    // 25,500 × 10,000 ÷ 30,600, half up; over three alike by largest remainder.
    expect(paid).toBe(8333);
    expect([...parts.values()].map((part) => part.paid)).toEqual([2778, 2778, 2777]);
  });

  it('is never more than was asked for, and what is given up is the rest', async () => {
    expect((await invoiced([3600], [['payment', 50_000]])).paid).toBe(8500);
    const given = await invoiced(
      [3600],
      [
        ['payment', 5100],
        ['write-off', 5100],
      ],
    );
    expect([given.paid, given.writtenOff]).toEqual([4250, 4250]);
  });

  it('is nothing before anything came', async () => {
    expect(await invoiced([3600], [])).toMatchObject({ net: 8500, paid: 0, writtenOff: 0 });
  });
});
