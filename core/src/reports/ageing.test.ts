import { describe, expect, it } from 'vitest';
import { Pricer, readBook, toBill, type InvoiceBalance } from '../billing';
import { addDays } from '../time/day';
import { DAY, freshStudio, work } from '../testing';
import { bandOf, owedByAge, paymentHabits, toBillByAge } from './ageing';

describe('ages', () => {
  it.each([
    [0, '0 to 30'],
    [30, '0 to 30'],
    [31, '31 to 60'],
    [60, '31 to 60'],
    [61, '61 to 90'],
    [90, '61 to 90'],
    [91, 'over 90'],
  ] as const)('of %i days are %s', (days, band) => {
    expect(bandOf(days)).toBe(band);
  });

  it('of what is to bill go by the day of the work', async () => {
    const { store, run, at } = await freshStudio();
    for (const days of [30, 31, 90, 91]) await run('entry.add', { ...work(at.rig, 3600), day: addDays(DAY, -days) });
    const [row] = toBillByAge(toBill(new Pricer(await readBook(store)), store.rows('entries'), []), DAY);
    expect(row).toMatchObject({ all: 34_000, oldest: 91, ahead: 0 });
    expect(row!.bands).toEqual({ '0 to 30': 8500, '31 to 60': 8500, '61 to 90': 8500, 'over 90': 8500 });
  });
});

async function owings(): Promise<{ list: InvoiceBalance[]; today: string }> {
  const { store, run, at } = await freshStudio();
  const issue = async (day: string) => {
    await run('entry.add', { ...work(at.rig, 3600), day });
    const id = (
      await run('invoice.draft', { clientId: at.playhouse, entryIds: [store.rows('entries').at(-1)!.id] })
    ).changes.find(({ table }) => table === 'invoices')!.id;
    await run('invoice.issue', { id, day });
    return id;
  };
  // Due thirty days after: 61, 60 and −1 days ago.
  await issue(addDays(DAY, -91));
  await issue(addDays(DAY, -90));
  const last = await issue(addDays(DAY, -29));
  const paid = await issue(addDays(DAY, -40));
  await run('payment.add', { invoiceId: paid, day: addDays(DAY, -5), amount: 10_200, note: '' });
  await run('payment.add', { invoiceId: last, day: DAY, amount: 200, note: '' });
  const list = store.rows('invoices').map((invoice) => ({
    invoice,
    payments: store.rows('payments').filter((row) => row.invoiceId === invoice.id),
    credits: [],
  }));
  return { list, today: DAY };
}

describe('what is held back', () => {
  it('stands beside what is owed, with the first day it falls due, until it is released', async () => {
    const { store, run, at } = await freshStudio();
    const issue = async (retentionDue: string) => {
      const { changes } = await run('entry.add', work(at.rig, 3600));
      const drafted = await run('invoice.draft', { clientId: at.playhouse, entryIds: [changes[0]!.id] });
      const id = drafted.changes.find(({ table }) => table === 'invoices')!.id;
      await run('invoice.edit', { id, retention: '5', retentionDue });
      await run('invoice.issue', { id });
      return id;
    };
    const rows = () =>
      owedByAge(
        store.rows('invoices').map((invoice) => ({ invoice, payments: [], credits: [] })),
        DAY,
      );
    await issue('2027-03-01');
    const second = await issue('2027-02-01');
    // 5 % of 85.00 twice; 102.00 less that is to pay of each.
    expect(rows()).toMatchObject([{ held: 850, heldUntil: '2027-02-01', all: 19_550 }]);
    await run('invoice.release', { id: second, day: DAY });
    expect(rows()).toMatchObject([{ held: 425, heldUntil: '2027-03-01', all: 19_975 }]);
  });
});

describe('what is owed', () => {
  it('is aged from the day it was due', async () => {
    const { list, today } = await owings();
    const [row] = owedByAge(list, today);
    // £85.00 and 20 % VAT each.
    expect(row!.bands).toEqual({ '0 to 30': 0, '31 to 60': 10_200, '61 to 90': 10_200, 'over 90': 0 });
    expect(row).toMatchObject({ ahead: 10_000, all: 30_400, oldest: 61 });
  });

  it('tells how long a client takes to settle an invoice', async () => {
    const { list } = await owings();
    expect(paymentHabits(list)).toMatchObject([
      { name: 'Quayside Playhouse', invoices: 1, daysToPay: 35, daysLate: 5 },
    ]);
  });
});
