import { describe, expect, it } from 'vitest';
import { Fault } from '../faults/fault';
import { addExact, lessExact, product, sumExact } from '../money';
import { ExchangeRates } from '../rates';
import { ledger } from '../testing/ledger';
import { DAY, work } from '../testing/studio';
import { LONGEST, periodOf, readLength } from '../time';
import { computeDraft, paidOnNet, Pricer, readBook, readSources, standingOf, toBill } from '.';
import { fault } from '../testing/fault';

// Worked examples at the very boundary, on either side of it.

const HOUR = 3600;

describe('at the boundary', () => {
  it('what is due today is not overdue, and is tomorrow', async () => {
    const { byHand, hand, issue, owing, run } = await ledger();
    const id = await byHand([hand('10')]);
    const { dueDay } = await issue(id);
    expect(dueDay).toBe('2026-12-12');
    expect(standingOf(owing(id), '2026-12-12')).toBe('issued');
    expect(standingOf(owing(id), '2026-12-13')).toBe('overdue');
    await run('payment.add', { invoiceId: id, day: DAY, amount: 1199, note: '' });
    expect(standingOf(owing(id), '2026-12-12')).toBe('part paid');
    await run('payment.add', { invoiceId: id, day: DAY, amount: 1, note: '' });
    expect(standingOf(owing(id), '2026-12-13')).toBe('paid');
    await run('payment.add', { invoiceId: id, day: DAY, amount: 1, note: '' });
    expect(standingOf(owing(id), '2026-12-13')).toBe('overpaid');
  });

  it('the first day of an own period is in it, the day before is in the one before or in none', () => {
    const rule = {
      kind: 'own' as const,
      starts: [
        { from: '2026-03-02', name: 'Rehearsals' },
        { from: '2026-04-06', name: '' },
      ],
    };
    expect(periodOf(rule, '2026-03-01')).toBeNull();
    expect(periodOf(rule, '2026-03-02')).toMatchObject({ from: '2026-03-02', to: '2026-04-05' });
    expect(periodOf(rule, '2026-04-05')).toMatchObject({ from: '2026-03-02' });
    expect(periodOf(rule, '2026-04-06')).toMatchObject({ from: '2026-04-06', to: '2027-04-06' });
  });

  it('of two rates of one day the straight one holds, of two days the later', () => {
    const row = (base: string, currency: string, rate: string, from: string) => ({
      id: `${base}${from}`,
      from,
      base,
      currency,
      rate,
      source: '',
    });
    const straight = row('GBP', 'EUR', '1.2', '2026-05-01');
    const turned = row('EUR', 'GBP', '0.5', '2026-05-01');
    const convert = (rows: ReturnType<typeof row>[]) =>
      new ExchangeRates(rows).convert(100, 'GBP', 'EUR', '2026-05-01', 'half away from zero');
    expect(convert([straight, turned])).toBe(120);
    expect(convert([turned, straight])).toBe(120);
    expect(convert([{ ...straight, from: '2026-04-30' }, turned])).toBe(200);
    expect(convert([straight, { ...turned, from: '2026-05-02' }])).toBe(120);
    expect(convert([{ ...turned, from: '2026-05-02' }])).toBeNull();
  });

  it('a length of exactly a week can be recorded, and a second more cannot', async () => {
    const { run, at } = await ledger();
    expect(LONGEST).toBe(7 * 24 * HOUR);
    expect(readLength('168 h')).toMatchObject({ seconds: LONGEST });
    expect(() => readLength('168:00:01')).toThrow(Fault);
    await run('entry.add', work(at.rig, LONGEST));
    await expect(run('entry.add', work(at.rig, LONGEST + 1))).rejects.toThrow(fault('invalid'));
    await expect(run('entry.add', work(at.rig, 0))).rejects.toThrow(fault('invalid'));
  });

  it('a billable part shrinks with its entry, and only then', async () => {
    const { run, added, at, store } = await ledger();
    const id = await added('entry.add', work(at.rig, 2 * HOUR, { billableSeconds: HOUR }));
    const billable = () => store.rows('entries')[0]!.billableSeconds;
    await run('entry.edit', { id, seconds: HOUR + 1 });
    expect(billable()).toBe(HOUR);
    await run('entry.edit', { id, seconds: HOUR - 1 });
    expect(billable()).toBe(HOUR - 1);
    await run('entry.edit', { id, seconds: 3 * HOUR });
    expect(billable()).toBe(HOUR - 1);
    await expect(run('entry.edit', { id, billableSeconds: 3 * HOUR + 1 })).rejects.toThrow(Fault);
  });

  it('what has nothing left is not to bill', async () => {
    const { run, added, at, draftOf, issue, store } = await ledger();
    const entry = await added('entry.add', work(at.rig, HOUR));
    await issue(await draftOf({ entryIds: [entry], parts: { [entry]: HOUR - 1 } }));
    const open = async () => {
      const takings = [...store.rows('allocations'), ...store.rows('adjustments')];
      return toBill(new Pricer(await readBook(store)), store.rows('entries'), takings).length;
    };
    expect(await open()).toBe(1);
    await issue(await draftOf({ entryIds: [entry] }));
    expect(await open()).toBe(0);
    await expect(run('invoice.draft', { clientId: at.playhouse, entryIds: [entry] })).rejects.toThrow(
      fault('already-billed'),
    );
  });

  it('the terms of a contract hold where all stands under it, and no others', async () => {
    const { run, added, at, draftOf, issue } = await ledger();
    const contract = (name: string, termsDays: number | null) =>
      added('contract.add', { clientId: at.playhouse, name, termsDays });
    const [ten, twenty] = [await contract('Ten', 10), await contract('Twenty', 20)];
    const project = async (name: string, contractId: string | null) => {
      const id = await added('project.add', { name, clientId: at.playhouse, ...(contractId && { contractId }) });
      return id;
    };
    const [a, b, c] = [await project('A', ten), await project('B', twenty), await project('C', null)];
    const due = async (...projects: string[]) => {
      const entryIds: string[] = [];
      for (const id of projects) entryIds.push(await added('entry.add', work(id, HOUR)));
      return (await issue(await draftOf({ entryIds }))).dueDay;
    };
    expect(await due(a)).toBe('2026-11-22');
    expect(await due(b, b)).toBe('2026-12-02');
    expect(await due(a, b)).toBe('2026-12-12');
    expect(await due(a, c)).toBe('2026-12-12');
    await run('client.edit', { id: at.playhouse, termsDays: 7 });
    expect(await due(a, b)).toBe('2026-11-19');
  });

  it('what is written off is at most what is not paid, and both at most what was earned', async () => {
    const { byHand, hand, issue, owing, run } = await ledger();
    const id = await byHand([hand('100')]);
    const frozen = await issue(id);
    const parts = () => paidOnNet(frozen, owing(id).payments);
    await run('payment.add', { invoiceId: id, day: DAY, amount: 6000, note: '' });
    expect(parts()).toEqual({ paid: 5000, writtenOff: 0 });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 6000, note: 'Gone', kind: 'write-off' });
    expect(parts()).toEqual({ paid: 5000, writtenOff: 5000 });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 1200, note: 'Gone too', kind: 'write-off' });
    expect(parts()).toEqual({ paid: 5000, writtenOff: 5000 });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 9000, note: '' });
    expect(parts()).toEqual({ paid: 10_000, writtenOff: 0 });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 15_000, note: '', kind: 'refund' });
    expect(parts()).toEqual({ paid: 0, writtenOff: 6000 });
  });

  it('a line of time costs what its billed length costs, entry by entry', async () => {
    const { run, added, at, draftOf, invoice, store } = await ledger();
    await run('costRate.add', { from: '2026-01-01', price: '33.33', unit: 'hour', currency: 'GBP' });
    await run('client.edit', { id: at.playhouse, openBook: true });
    // 0:10 each, billed as 0:12: 33.33 × 0.2 is 6.666.
    const entryIds = [await added('entry.add', work(at.rig, 600)), await added('entry.add', work(at.rig, 600))];
    const id = await draftOf({ entryIds });
    const pricer = new Pricer(await readBook(store));
    const allocations = store.rows('allocations');
    const sources = await readSources(store, pricer, allocations);
    const draft = computeDraft(pricer, { invoice: invoice(id), allocations, day: DAY, ...sources });
    expect(draft.lines.map((line) => [line.billed, line.cost])).toEqual([[1440, 1334]]);
  });
});

describe('sums and products of whole numbers', () => {
  it('are exact, or refused', () => {
    const most = Number.MAX_SAFE_INTEGER;
    expect(addExact(most, -1)).toBe(most - 1);
    expect(() => addExact(most, 1)).toThrow(fault('too-large'));
    expect(lessExact(5, 7)).toBe(-2);
    expect(() => lessExact(-most, 1)).toThrow(fault('too-large'));
    expect(sumExact([])).toBe(0);
    expect(() => sumExact([most, 1])).toThrow(fault('too-large'));
    expect(product(3, 4, 5, 6)).toBe(360);
    expect(product(2 ** 27, 2 ** 27)).toBe(2n ** 54n);
    expect(product(2 ** 27, 2 ** 25)).toBe(2 ** 52);
    // A factor of 0 makes a quick product that looks whole; a factor that is none must not slip through with it.
    expect(product(2 ** 30, 2 ** 30, 0)).toBe(0n);
    expect(product(2 ** 53, 1)).toBe(2n ** 53n);
  });
});
