import { Pricer, readBook } from '@half-penny/core/billing';
import { freshStudio } from '@half-penny/core/testing';
import { expect, it } from 'vitest';
import { stateLines, type SetupState } from './state-lines';

async function lines(
  more: Partial<SetupState> = {},
  change: (studio: Awaited<ReturnType<typeof freshStudio>>) => Promise<unknown> = async () => {},
) {
  const studio = await freshStudio();
  await change(studio);
  const pricer = new Pricer(await readBook(studio.store));
  return stateLines({
    pricer,
    today: '2026-11-12',
    memberId: null,
    nextSeq: 148,
    theme: 'Dark',
    keys: 80,
    lists: 0,
    devices: null,
    unsaved: undefined,
    ...more,
  });
}

it('invoicing says the next number, the terms, the paper and how many taxes there are', async () => {
  const { invoicing } = await lines({}, ({ run }) =>
    run('workspace.edit', { numberPrefix: 'SL-', numberDigits: 4, termsDays: 1, paper: 'Letter' }),
  );
  expect(invoicing).toMatch(/^SL-0148 next, 1 day, Letter, \d+ tax(es)?$/);
  // No number is better than a wrong one, as long as the invoices are not read.
  expect((await lines({ nextSeq: null })).invoicing).toMatch(/^\d+ days, A4/);
});

it('people say who works in this browser', async () => {
  expect((await lines()).people).toMatch(/nobody works here yet$/);
  const studio = await freshStudio();
  const member = studio.store.rows('members')[0]!;
  const { people } = stateLines({
    pricer: new Pricer(await readBook(studio.store)),
    today: '2026-11-12',
    memberId: member.id,
    nextSeq: 1,
    theme: 'Light',
    keys: 1,
    lists: 2,
    devices: 3,
    unsaved: null,
  });
  expect(people).toContain(`${member.name} works here`);
});

it('rounding, breaks and receipts say the rule that holds', async () => {
  const plain = await lines();
  expect(plain.bookkeeping).toContain('no receipt is asked for');
  expect(plain.recording).toContain('no break by rule');
  const set = await lines({}, ({ run }) =>
    run('workspace.edit', {
      receiptOver: 7500,
      cutOff: 5,
      breakRule: { after: 21_600, take: 1800, projectId: null },
      rounding: { increment: 900, direction: 'up', minimum: 0, per: 'entry' },
    }),
  );
  expect(set.bookkeeping).toContain('receipts from £75.00 on');
  expect(set.recording).toBe('weeks end on Friday, breaks by rule');
  expect(set.rounding).toBe('up to the next 15 min, entry by entry');
});

it('your data says what no copy holds', async () => {
  expect((await lines({ unsaved: null })).data).toBe('in this browser only');
  expect((await lines({ unsaved: 0 })).data).toBe('all of it is in a file or backup');
  expect((await lines({ unsaved: 1 })).data).toBe('1 change since the last copy');
  expect((await lines({ unsaved: 12 })).data).toBe('12 changes since the last copy');
  expect((await lines()).data).toBe('');
});
