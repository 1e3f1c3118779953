import { beforeEach, describe, expect, it } from 'vitest';
import { freshStudio, work } from '../testing/studio';
import { readBook, readSources } from './book';
import { Pricer } from './pricer';
import { taskLines } from './task-lines';

let { store, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run, added } = await freshStudio()));

async function linesOf(id: string) {
  const pricer = new Pricer(await readBook(store));
  const invoice = (await store.get('invoices', id))!;
  const allocations = store.rows('allocations').filter((row) => row.invoiceId === id);
  const sources = await readSources(store, pricer, allocations);
  return { frozen: invoice.frozen!, lines: taskLines(pricer, { invoice, allocations, ...sources }, invoice.frozen!) };
}

describe('an invoice by task', () => {
  it('has a line an entry with its codes, and units × price + adjustment is its share', async () => {
    const labour = await added('costCode.add', { code: 'L110', name: 'Labour', costType: 'labour' });
    await run('service.edit', { id: at.design, code: 'A101', costCodeId: labour });
    const kind = await added('kindOfWork.add', { serviceId: at.design, name: 'Drawing', code: 'A103' });
    const entries = [
      await added('entry.add', work(at.rig, 1000, { serviceId: at.design, note: 'Plot' })),
      await added('entry.add', work(at.rig, 7200, { serviceId: at.design, kindOfWorkId: kind, note: 'Plan' })),
    ];
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: entries });
    await run('invoice.edit', {
      id,
      allowance: { text: 'Autumn', percent: null, amount: 1000 },
      byHand: [
        {
          key: entries[0]!,
          text: 'Stamps',
          quantity: '3',
          unitName: '',
          price: '0.85',
          taxId: null,
          account: '',
          projectId: null,
        },
      ],
    });
    await run('invoice.issue', { id });
    const { frozen, lines } = await linesOf(id);
    expect(lines.map((line) => [line.kind, line.text, line.taskCode, line.activityCode])).toEqual([
      ['fee', 'Plot', 'L110', 'A101'],
      ['fee', 'Plan', 'L110', 'A103'],
      ['fee', 'Stamps', '', ''],
      ['invoice adjustment', 'Autumn', '', ''],
    ]);
    // 1,000 s are billed as 18 min, up to six: 0.3 h.
    expect(lines.map((line) => line.units)).toEqual(['0.3', '2', '3', '1']);
    expect(lines.at(-1)).toMatchObject({ unitCost: 0, adjustment: -1000, amount: -1000 });
    for (const line of lines) {
      const product = Math.round(Number(line.units) * line.unitCost);
      expect(product + line.adjustment, line.text).toBe(line.amount);
    }
    expect(lines.reduce((sum, line) => sum + line.amount, 0)).toBe(frozen.net - 1000);
  });

  it('has its costs under the code of their heading', async () => {
    const lamps = await added('costCode.add', { code: 'E124', name: 'Lamps', costType: 'material' });
    await run('cost.add', {
      kind: 'bill',
      day: '2026-11-10',
      currency: 'GBP',
      lines: [{ text: 'Lamps', amount: 5000, projectId: at.rig, costCodeId: lamps }],
    });
    const id = await added('invoice.draft', {
      clientId: at.playhouse,
      costLineIds: store.rows('costLines').map((row) => row.id),
    });
    await run('invoice.issue', { id });
    const { lines } = await linesOf(id);
    expect(lines).toMatchObject([{ kind: 'expense', expenseCode: 'E124', units: '1', unitCost: 5000, amount: 5000 }]);
  });
});
