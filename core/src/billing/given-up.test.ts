import { describe, expect, it } from 'vitest';
import { ledger } from '../testing/ledger';
import { DAY, work } from '../testing/studio';
import { givenUp, sumGivenUp } from '.';

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

  it('counts a paper by its own day, the first and the last of the period among them', async () => {
    const made = await ledger();
    const { byHand, hand, issue } = made;
    await issue(await byHand([hand('100')], { allowance: { text: 'Discount', percent: null, amount: 500 } }));
    const within = async (from: string, to: string) => (await lossesOf(made, { from, to })).length;
    expect([await within('2026-11-01', DAY), await within(DAY, '2026-11-30')]).toEqual([1, 1]);
    expect([await within('2026-11-01', '2026-11-11'), await within('2026-11-13', '2026-11-30')]).toEqual([0, 0]);
  });

  it('takes each line by itself: what comes back of one leaves the discount of the other', async () => {
    const made = await ledger();
    const { run, added, project, draftOf, issue, credit } = made;
    const job = await project('100');
    const [one, two] = [await added('entry.add', work(job, HOUR)), await added('entry.add', work(job, 3 * HOUR))];
    const id = await draftOf({ entryIds: [one, two], condense: 'item' });
    await run('invoice.edit', { id, discounts: { [one]: '10', [two]: '20' } });
    await issue(id);
    // 10 % of 100 and 20 % of 300, at 100 an hour.
    expect(await lossesOf(made)).toEqual([{ what: 'discount', seconds: 252 * 10, amount: 7000 }]);
    await credit(id, { [one]: 9000 }, true);
    expect(await lossesOf(made)).toEqual([{ what: 'discount', seconds: 216 * 10, amount: 6000 }]);
    // Half of the other line for good: its discount stays given up beside it.
    await credit(id, { [two]: 12000 });
    expect(await lossesOf(made)).toEqual([
      { what: 'discount', seconds: 2160, amount: 6000 },
      { what: 'credited for good', seconds: 1.5 * HOUR, amount: 12000 },
    ]);
  });

  it('counts no discount where none was given, whatever came back', async () => {
    const made = await ledger();
    const { added, project, draftOf, issue, credit } = made;
    const entry = await added('entry.add', work(await project('100'), HOUR));
    const id = await draftOf({ entryIds: [entry], condense: 'item' });
    await issue(id);
    await credit(id, { [entry]: 4000 }, true);
    expect(await lossesOf(made)).toEqual([]);
  });

  it('takes the tax out by the rate of the line, where the prices include it', async () => {
    const made = await ledger();
    const { low, byHand, hand, issue } = made;
    await issue(
      await byHand([hand('120'), hand('105', { taxId: low }), hand('50', { taxId: null })], {
        inclusive: true,
        allowance: { text: 'Discount', percent: '10', amount: null },
      }),
    );
    // 10 % of 100, 100 and 50 before tax.
    expect(await lossesOf(made)).toEqual([{ what: 'discount', seconds: 0, amount: 2500 }]);
  });

  it('sums by currency, and hours over all of them', () => {
    const row = (currency: string, seconds: number, amount: number) =>
      ({ what: 'discount', invoice: {}, currency, seconds, amount }) as never;
    expect(sumGivenUp([row('GBP', 60, 100), row('EUR', 30, 5), row('GBP', 10, 11)])).toEqual({
      seconds: 100,
      amounts: [
        { currency: 'GBP', amount: 111 },
        { currency: 'EUR', amount: 5 },
      ],
    });
    expect(sumGivenUp([])).toEqual({ seconds: 0, amounts: [] });
  });
});
