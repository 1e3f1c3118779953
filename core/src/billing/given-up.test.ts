import { describe, expect, it } from 'vitest';
import { ledger } from '../testing/ledger';
import { DAY, work } from '../testing/studio';
import { givenUp } from '.';

const HOUR = 3600;
const year = { from: '2026-01-01', to: '2026-12-31' };

async function lossesOf({ store }: Awaited<ReturnType<typeof ledger>>, within = year) {
  return givenUp(store.rows('invoices'), store.rows('allocations'), within).map(({ what, seconds, amount }) => ({
    what,
    seconds,
    amount,
  }));
}

describe('what issued papers gave up', () => {
  it('is a discount, on a line and on the whole, with the hours it stands for', async () => {
    const made = await ledger();
    const { run, added, project, draftOf, issue, store } = made;
    const job = await project('85');
    const id = await draftOf({ entryIds: [await added('entry.add', work(job, 2 * HOUR))] });
    await run('invoice.edit', { id, allowance: { text: 'Discount', percent: '10', amount: null } });
    await issue(id);
    // 10 % of 170.00 is what 0.2 h cost.
    expect(await lossesOf(made)).toEqual([{ what: 'discount', seconds: 720, amount: 1700 }]);
    // Credited to bill again, nothing was given up.
    await run('invoice.credit', { id, reason: 'Again', free: true });
    expect(await lossesOf(made)).toEqual([]);
    expect(store.rows('invoices')).toHaveLength(2);
  });

  it('is what was credited for good: 1 h at 100, 40.00 of it, is 0.4 h', async () => {
    const made = await ledger();
    const { run, added, project, draftOf, issue, frozen } = made;
    const job = await project('100');
    const id = await draftOf({ entryIds: [await added('entry.add', work(job, HOUR))] });
    await issue(id);
    const [line] = frozen(id).lines;
    await run('invoice.credit', { id, reason: 'Too much', free: false, lines: { [line!.key]: 4000 } });
    await run('invoice.credit', { id, reason: 'Again', free: true });
    expect(await lossesOf(made)).toEqual([{ what: 'credited for good', seconds: 1440, amount: 4000 }]);
    expect(await lossesOf(made, { from: '2027-01-01', to: '2027-12-31' })).toEqual([]);
  });

  it('is before tax where the prices include it, and counts a line by hand', async () => {
    const made = await ledger();
    const { byHand, hand, issue, credit } = made;
    const id = await byHand([hand('120')], {
      inclusive: true,
      allowance: { text: 'Discount', percent: '10', amount: null },
    });
    await issue(id);
    expect(await lossesOf(made)).toEqual([{ what: 'discount', seconds: 0, amount: 1000 }]);
    await credit(id);
    expect(await lossesOf(made)).toContainEqual({ what: 'credited for good', seconds: 0, amount: 9000 });
  });

  it('leaves out what is void', async () => {
    const made = await ledger();
    const { byHand, hand, issue, run } = made;
    const id = await byHand([hand('100')], { allowance: { text: 'Discount', percent: null, amount: 500 } });
    await issue(id);
    expect(await lossesOf(made, { from: DAY, to: DAY })).toHaveLength(1);
    await run('invoice.void', { id, reason: 'Wrong' });
    expect(await lossesOf(made)).toEqual([]);
  });
});
