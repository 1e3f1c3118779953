import { describe, expect, it } from 'vitest';
import { Pricer, readBook } from '../billing';
import type { CommandInput } from '../commands';
import type { QuoteLine } from '../model/records';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { isChanged, lastVersion, quoteStanding, quoteSums } from '.';

const DAY = '2026-11-12';

async function offer() {
  const made = await ledger();
  const { run, store, at, test, added } = made;
  const line = (price: string, more: Partial<QuoteLine> = {}): QuoteLine => ({
    key: test.newId(),
    text: `Line at ${price}`,
    quantity: '1',
    unitName: '',
    price,
    taxId: at.tax,
    basis: 'fixed',
    optional: false,
    costCodeId: null,
    ...more,
  });
  const quoteOf = (id: string) => store.rows('quotes').find((row) => row.id === id)!;
  const quote = async (lines: QuoteLine[], more: Partial<CommandInput<'quote.add'>> = {}) =>
    added('quote.add', { clientId: at.playhouse, title: 'Foyer chandelier', lines, ...more });
  const accept = (id: string, more: Partial<CommandInput<'quote.accept'>> = {}) =>
    run('quote.accept', { id, day: DAY, by: 'Robin Hale', ...more });
  const project = (id: string) => store.rows('projects').find((row) => row.id === quoteOf(id).projectId)!;
  return { ...made, line, quote, quoteOf, accept, project };
}

describe('a quote', () => {
  it('comes to its lines with tax, without those that may be left out', async () => {
    const { store, line, quote, quoteOf, run } = await offer();
    const id = await quote([
      line('100'),
      line('40', { quantity: '2.5', unitName: 'h' }),
      line('60', { optional: true }),
    ]);
    const { firm, options } = quoteSums(new Pricer(await readBook(store)), quoteOf(id), DAY);
    expect([firm.totals.net, firm.totals.tax, firm.payable]).toEqual([20_000, 4_000, 24_000]);
    expect(options.totals.net).toBe(6_000);
    await run('quote.give', { id });
    const { frozen } = lastVersion(quoteOf(id))!;
    expect(frozen).toMatchObject({
      number: 'Q-0001',
      payable: 24_000,
      quote: { version: 1, validUntil: '2026-12-12' },
    });
    expect(frozen.quote!.options.map((each) => each.amount)).toEqual([6_000]);
    expect(frozen.lines).toHaveLength(2);
  });

  it('is given again as its next version when it changes, and keeps its number', async () => {
    const { run, line, quote, quoteOf, accept } = await offer();
    const id = await quote([line('100')]);
    expect(quoteStanding(quoteOf(id), DAY)).toBe('draft');
    await run('quote.give', { id });
    expect([isChanged(quoteOf(id)), quoteStanding(quoteOf(id), DAY)]).toEqual([false, 'given']);
    await run('quote.edit', { id, lines: [line('90')] });
    expect(isChanged(quoteOf(id))).toBe(true);
    await run('quote.give', { id });
    expect(quoteOf(id).versions.map(({ frozen }) => [frozen.number, frozen.net])).toEqual([
      ['Q-0001', 10_000],
      ['Q-0001/2', 9_000],
    ]);
    const second = await quote([line('5')]);
    await run('quote.give', { id: second });
    expect(lastVersion(quoteOf(second))!.frozen.number).toBe('Q-0002');
    await expect(accept(id, { version: 1 })).rejects.toThrow(/Version 1 holds no more: Q-0001\/2/);
    await expect(run('quote.remove', { id })).rejects.toThrow(fault('issued'));
  });

  it('is out of date after its last day, and not accepted then', async () => {
    const { run, line, quote, quoteOf, accept } = await offer();
    const id = await quote([line('100')], { validUntil: '2026-11-20' });
    await expect(accept(id)).rejects.toThrow(fault('not-issued'));
    await run('quote.give', { id });
    expect(quoteStanding(quoteOf(id), '2026-11-20')).toBe('given');
    expect(quoteStanding(quoteOf(id), '2026-11-21')).toBe('out of date');
    await expect(accept(id, { day: '2026-11-21' })).rejects.toThrow(fault('outdated', 'day'));
    await expect(accept(id, { day: '2026-11-11' })).rejects.toThrow(fault('too-early', 'day'));
    await run('quote.edit', { id, validUntil: '2026-11-01' });
    await expect(run('quote.give', { id })).rejects.toThrow(fault('too-early', 'validUntil'));
  });

  it('needs something that is firm, and stays with its client', async () => {
    const { run, line, quote, at } = await offer();
    const id = await quote([line('100', { optional: true })]);
    await expect(run('quote.give', { id })).rejects.toThrow(fault('empty', 'lines'));
    await expect(run('quote.edit', { id, projectId: at.gallery })).rejects.toThrow(fault('other-client', 'projectId'));
  });

  it('can be declined, and answers only once', async () => {
    const { run, line, quote, quoteOf, accept } = await offer();
    const id = await quote([line('100')]);
    await expect(run('quote.decline', { id, day: DAY })).rejects.toThrow(fault('not-issued'));
    await run('quote.give', { id });
    await run('quote.decline', { id, day: DAY, by: 'Robin Hale', note: 'Too dear' });
    expect(quoteStanding(quoteOf(id), DAY)).toBe('declined');
    await expect(accept(id)).rejects.toThrow(fault('stays'));
    await expect(run('quote.edit', { id, title: 'Other' })).rejects.toThrow(fault('stays'));
  });
});

describe('an accepted quote', () => {
  it('becomes a project at a fixed price with its amounts, budget and contract; undone, none of it is there', async () => {
    const { run, store, line, quote, quoteOf, accept, project, executor } = await offer();
    const lines = [line('1000'), line('250', { optional: true })];
    const id = await quote(lines, { note: 'Half is due when the work begins.' });
    await run('quote.give', { id });
    const before = { projects: store.rows('projects').length, contracts: store.rows('contracts').length };
    const { seq } = await accept(id, { keys: lines.map((each) => each.key) });
    expect(quoteStanding(quoteOf(id), DAY)).toBe('accepted');
    expect(project(id)).toMatchObject({ kind: 'fixed price', fixedPrice: 125_000, name: 'Foyer chandelier' });
    expect(store.rows('agreed').map(({ kind, amount, agreedBy }) => [kind, amount, agreedBy])).toEqual([
      ['fixed', 100_000, 'Robin Hale'],
      ['fixed', 25_000, 'Robin Hale'],
    ]);
    expect(store.rows('budgets').at(-1)).toMatchObject({ projectId: project(id).id, money: 125_000 });
    expect(store.rows('contracts').at(-1)).toMatchObject({
      name: 'Q-0001 Foyer chandelier',
      terms: expect.stringContaining('Half'),
    });
    await executor.undo(seq);
    expect([store.rows('projects').length, store.rows('contracts').length]).toEqual([
      before.projects,
      before.contracts,
    ]);
    expect(quoteOf(id).answer).toBeNull();
  });

  it('in part, as the client chose', async () => {
    const { run, store, line, quote, quoteOf, accept, test } = await offer();
    const lines = [line('1000'), line('300')];
    const id = await quote(lines);
    await run('quote.give', { id });
    await expect(accept(id, { keys: [test.newId()] })).rejects.toThrow(fault('unknown', 'keys'));
    await accept(id, { keys: [lines[1]!.key] });
    expect(quoteStanding(quoteOf(id), DAY)).toBe('accepted in part');
    expect(store.rows('agreed').map((row) => row.amount)).toEqual([30_000]);
  });

  it('on work by the hour, estimates with their hours, and sums that are billed as they are', async () => {
    const { run, store, line, quote, accept, at } = await offer();
    const id = await quote([line('85', { quantity: '12.5', unitName: 'h', basis: 'estimate' }), line('400')], {
      projectId: at.rig,
    });
    await run('quote.give', { id });
    await accept(id);
    expect(store.rows('agreed').map(({ kind, amount }) => [kind, amount])).toEqual([
      ['estimate', 106_250],
      ['extra', 40_000],
    ]);
    expect(store.rows('budgets').at(-1)).toMatchObject({ money: 146_250, seconds: 45_000 });
    const rig = store.rows('projects').find((row) => row.id === at.rig)!;
    expect([rig.kind, rig.fixedPrice]).toEqual(['hourly', null]);
  });

  it('on top of another is an extra, and raises the budget, not the price', async () => {
    const { run, store, line, quote, accept, project } = await offer();
    const first = await quote([line('1000')]);
    await run('quote.give', { id: first });
    await accept(first);
    const id = await quote([line('200')], { projectId: project(first).id, title: 'A second chandelier' });
    await run('quote.give', { id });
    await accept(id);
    expect(project(id)).toMatchObject({ id: project(first).id, fixedPrice: 100_000 });
    expect(store.rows('agreed').map(({ kind }) => kind)).toEqual(['fixed', 'extra']);
    expect(store.rows('budgets').at(-1)!.money).toBe(120_000);
  });
});
