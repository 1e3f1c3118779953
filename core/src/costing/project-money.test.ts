import { expect, it } from 'vitest';
import { invoicedParts, Pricer, readBook } from '../billing';
import type { Id } from '../model/ids';
import { freshStudio, work } from '../testing/studio';
import { allowanceUsed, projectMoney } from './project-money';

const DAY = '2026-11-12';
const HOUR = 3600;

async function museum() {
  const fresh = await freshStudio();
  const { store, added, run, at } = fresh;
  const lamps = await added('costCode.add', { code: '20', name: 'Lamps', costType: 'material' });
  const design = await added('costCode.add', { code: '10', name: 'Design', costType: 'labour' });
  await run('service.edit', { id: at.design, costCodeId: design });
  await run('costRate.add', { from: '2026-01-01', price: '40', unit: 'hour', currency: 'GBP' });
  const money = async (projectId: Id) => {
    const allocations = store.rows('allocations');
    return projectMoney(new Pricer(await readBook(store)), projectId, {
      entries: store.rows('entries'),
      costs: store.rows('costs'),
      costLines: store.rows('costLines'),
      agreed: store.rows('agreed'),
      milestones: store.rows('milestones'),
      orders: store.rows('orders'),
      takings: [...allocations, ...store.rows('adjustments')],
      parts: invoicedParts(store.rows('invoices'), store.rows('payments'), allocations),
    });
  };
  return { ...fresh, lamps, design, money };
}

it('what was agreed, spent, worked and asked for stands under each heading, of the project with its parts', async () => {
  const { added, run, at, lamps, design, money } = await museum();
  const part = await added('project.add', { name: 'Cases', parentId: at.gallery });
  const hours = async (projectId: Id, length: number, more: object = {}) =>
    added('entry.add', work(projectId, length * HOUR, { day: DAY, note: 'Plan', ...more }));
  const first = await hours(at.gallery, 2, { serviceId: at.design });
  await hours(part, 1, { serviceId: at.design });
  await hours(part, 0.5);
  await hours(at.rig, 8);
  await run('agreed.add', {
    projectId: at.gallery,
    kind: 'estimate',
    text: 'Lamps',
    amount: 90_000,
    cost: 70_000,
    costCodeId: lamps,
  });
  await run('agreed.add', {
    projectId: at.gallery,
    kind: 'allowance',
    text: 'Shades',
    amount: 20_000,
    costCodeId: lamps,
  });
  await run('agreed.add', {
    projectId: part,
    kind: 'extra',
    text: 'One more',
    amount: 5000,
    costCodeId: lamps,
    agreedOn: DAY,
  });
  await run('agreed.add', {
    projectId: part,
    kind: 'extra',
    text: 'Only asked',
    amount: 700,
    costCodeId: lamps,
    agreedOn: null,
  });
  await run('agreed.add', {
    projectId: at.rig,
    kind: 'extra',
    text: 'Elsewhere',
    amount: 900,
    costCodeId: lamps,
    agreedOn: DAY,
  });
  const order = await added('order.add', {
    projectId: at.gallery,
    supplier: 'Brightwater',
    text: 'Lamps',
    day: DAY,
    currency: 'GBP',
    amount: 30_000,
    costCodeId: lamps,
  });
  await run('order.add', {
    projectId: at.rig,
    supplier: 'Brightwater',
    text: '',
    day: DAY,
    currency: 'GBP',
    amount: 100,
    costCodeId: lamps,
  });
  await run('cost.add', {
    kind: 'bill',
    day: DAY,
    currency: 'GBP',
    supplier: 'Brightwater',
    lines: [
      { text: 'First lamps', amount: 12_000, projectId: at.gallery, costCodeId: lamps, orderId: order },
      { text: '', amount: 100, projectId: part, costCodeId: lamps },
      { text: 'Elsewhere', amount: 50, projectId: at.rig, costCodeId: lamps },
    ],
  });
  const id = await added('invoice.draft', { clientId: at.museum, entryIds: [first] });
  await run('invoice.issue', { id });
  // 156.00 and its tax; half of it is paid.
  await run('payment.add', { invoiceId: id, kind: 'payment', day: DAY, amount: 9360, note: '' });

  const rows = await money(at.gallery);
  expect(rows.map((row) => row.costCodeId)).toEqual([design, lamps, null]);
  const [labour, material, rest] = rows as [(typeof rows)[0], (typeof rows)[0], (typeof rows)[0]];
  expect(labour.happened.worked.amount).toBe(3 * 4000);
  expect(labour.asked).toMatchObject({ invoiced: { amount: 15_600 }, paid: 7800, toBill: { amount: 7800 } });
  expect(labour.asked.invoiced.parts).toEqual([
    { kind: 'allocation', id: first, label: `${DAY} Plan`, amount: 15_600 },
  ]);
  expect(labour.forecastCost).toBe(12_000);
  expect(material.agreed.estimate.amount).toBe(90_000);
  expect(material.agreed.allowances.amount).toBe(20_000);
  expect(material.agreed.extras.parts.map((each) => each.label)).toEqual(['One more']);
  expect(material.happened.committed.parts.map(({ label, amount }) => [label, amount])).toEqual([
    ['Brightwater, Lamps', 18_000],
  ]);
  expect(material.happened.spent.parts.map(({ label, amount }) => [label, amount])).toEqual([
    ['First lamps', 12_000],
    ['Brightwater', 100],
  ]);
  // What was thought to be spent is more than what is ordered and spent.
  expect(material.forecastCost).toBe(70_000);
  expect(material.asked.toBill.parts.map((each) => [each.kind, each.label])).toContainEqual(['agreed', 'One more']);
  expect(rest.happened.worked.amount).toBe(2000);
  expect(rest.asked.toBill.amount).toBe(3900);
  expect((await money(part)).find((row) => row.costCodeId === lamps)!.happened.spent.amount).toBe(100);
});

it('an order is committed until it is used up or closed, and never less than nothing', async () => {
  const { added, run, at, lamps, money } = await museum();
  const order = await added('order.add', {
    projectId: at.gallery,
    supplier: 'Brightwater',
    text: '',
    day: DAY,
    currency: 'GBP',
    amount: 1000,
    costCodeId: lamps,
  });
  const committed = async () => (await money(at.gallery)).map((row) => row.happened.committed.amount);
  expect(await committed()).toEqual([1000]);
  const lines = [{ text: 'Lamps', amount: 1500, projectId: at.gallery, costCodeId: lamps, orderId: order }];
  const cost = await added('cost.add', { kind: 'bill', day: DAY, currency: 'GBP', lines });
  expect(await committed()).toEqual([0]);
  expect((await money(at.gallery))[0]!.forecastCost).toBe(1500);
  await run('cost.remove', { ids: [cost] });
  await run('order.edit', { id: order, closed: true });
  expect(await committed()).toEqual([]);
});

it('an allowance is used by the lines that draw on it', () => {
  const line = (id: string, agreedId: string | null) => ({ id, agreedId });
  const rows = { costs: [], costLines: [line('a', 'shades'), line('b', null), line('c', 'shades')] } as never;
  expect(allowanceUsed(rows, 'shades', (id) => (id === 'a' ? 100 : 20))).toBe(120);
});

it('what things cost is before tax, in the client’s currency, with that of lines on no project left out', async () => {
  const { added, run, at, lamps, money } = await museum();
  await run('exchange.add', { from: '2026-11-01', base: 'EUR', currency: 'GBP', rate: '0.8', source: 'by hand' });
  const order = await added('order.add', {
    projectId: at.gallery,
    supplier: 'Brightwater',
    text: '',
    day: DAY,
    currency: 'EUR',
    amount: 10_000,
    costCodeId: lamps,
  });
  await run('cost.add', {
    kind: 'bill',
    day: DAY,
    currency: 'EUR',
    supplier: 'Brightwater',
    taxId: at.tax,
    taxIncluded: true,
    lines: [
      { text: 'Shades', amount: 6000, projectId: at.gallery, costCodeId: lamps, orderId: order },
      { text: 'Nobody’s', amount: 900, projectId: null, costCodeId: lamps },
      { text: 'More shades', amount: 1200, projectId: at.gallery, costCodeId: lamps },
    ],
  });
  const [heading] = await money(at.gallery);
  // 60.00 with a sixth of tax in it is 50.00, which is 40.00 at home; 12.00 is 8.00.
  expect(heading!.happened.spent.parts.map(({ label, amount }) => [label, amount])).toEqual([
    ['Shades', 4000],
    ['More shades', 800],
  ]);
  // Of 100.00 ordered 50.00 came, the line without the order is none of it.
  expect(heading!.happened.committed.parts).toEqual([{ kind: 'order', id: order, label: 'Brightwater', amount: 4000 }]);
  expect(heading!.forecastCost).toBe(8800);
});

it('what is not billed by its hours is not to bill, what stands on a draft is not invoiced, and what costs nothing is no part', async () => {
  const { added, run, at, money } = await museum();
  const hours = (projectId: Id | null, note: string, more: object = {}) =>
    added('entry.add', work(projectId, HOUR, { day: DAY, note, ...more }));
  const drafted = await hours(at.gallery, '');
  const free = await hours(at.gallery, 'Free', { billableSeconds: 0 });
  await hours(null, 'Nowhere');
  const agreed = await added('agreed.add', {
    projectId: at.gallery,
    kind: 'estimate',
    text: 'Cases',
    amount: 5000,
    cost: 3000,
    agreedOn: DAY,
  });
  await run('agreed.add', { projectId: at.gallery, kind: 'estimate', text: 'Doors', amount: 100, cost: 6000 });
  const id = await added('invoice.draft', { clientId: at.museum, entryIds: [drafted] });
  const [before] = await money(at.gallery);
  expect(before!.asked).toMatchObject({ invoiced: { amount: 0, parts: [] }, paid: 0 });
  expect(before!.asked.toBill.parts.filter(({ kind }) => kind === 'entry')).toEqual([]);
  expect(before!.happened.worked.parts.map((each) => each.label)).toEqual(['12 Nov 2026', '12 Nov 2026 Free']);
  expect(before!.agreed.estimate.parts.map((each) => each.id)).toContain(agreed);
  // 30.00 and 60.00 were thought of, two hours cost 80.00.
  expect(before!.forecastCost).toBe(9000);
  await run('invoice.issue', { id });
  const [after] = await money(at.gallery);
  expect(after!.asked.invoiced.parts).toEqual([{ kind: 'allocation', id: drafted, label: DAY, amount: 7800 }]);
  // An hour that is given up is on no invoice and asks for nothing.
  await run('entry.edit', { id: free, billableSeconds: HOUR });
  const open = async () => (await money(at.gallery))[0]!.asked.toBill.parts.map((each) => each.id);
  expect(await open()).toContain(free);
  await run('bill.adjust', { entryIds: [free], kind: 'never billed', reason: 'Goodwill' });
  expect(await open()).not.toContain(free);
  const [given] = await money(at.gallery);
  expect(given!.asked.invoiced.amount).toBe(7800);
  expect((await money(at.rig)).flatMap((each) => each.asked.invoiced.parts)).toEqual([]);
});

it('hours of a fixed price cost and are not to bill; costs that a client pays are, with the supplier where they have no text', async () => {
  const { added, run, at, lamps, money } = await museum();
  await run('project.edit', { id: at.gallery, kind: 'fixed price' });
  await added('entry.add', work(at.gallery, HOUR, { day: DAY, note: 'Plan' }));
  await run('cost.add', {
    kind: 'bill',
    day: DAY,
    currency: 'GBP',
    supplier: 'Brightwater',
    lines: [
      { text: '', amount: 1000, projectId: at.gallery, costCodeId: lamps },
      { text: 'Gel', amount: 200, projectId: at.gallery, costCodeId: lamps },
      { text: 'Elsewhere', amount: 300, projectId: at.rig, costCodeId: lamps },
    ],
  });
  const rows = await money(at.gallery);
  expect(rows.find(({ costCodeId }) => costCodeId === null)).toMatchObject({
    happened: { worked: { amount: 4000 } },
    asked: { toBill: { amount: 0, parts: [] } },
  });
  expect(
    rows.find(({ costCodeId }) => costCodeId === lamps)!.asked.toBill.parts.map((each) => [each.kind, each.label]),
  ).toEqual([
    ['cost', 'Brightwater'],
    ['cost', 'Gel'],
  ]);
});

it('a price for a whole is agreed before it is divided, and once', async () => {
  const { added, run, at, money } = await museum();
  const whole = await added('project.add', {
    name: 'Whole',
    clientId: at.museum,
    kind: 'fixed price',
    fixedPrice: 100_000,
  });
  const agreed = async () => (await money(whole)).map(({ agreed: { estimate } }) => estimate);
  expect(await agreed()).toEqual([
    { amount: 100_000, parts: [{ kind: 'agreed', id: whole, label: 'Whole, not divided yet', amount: 100_000 }] },
  ]);
  await run('agreed.add', { projectId: whole, kind: 'fixed', text: 'First half', amount: 60_000 });
  expect(await agreed()).toMatchObject([{ amount: 100_000, parts: [{ amount: 60_000 }, { amount: 40_000 }] }]);
  await run('agreed.add', { projectId: whole, kind: 'fixed', text: 'The rest', amount: 40_000 });
  expect(await agreed()).toMatchObject([{ amount: 100_000, parts: [{ amount: 60_000 }, { amount: 40_000 }] }]);
  expect((await agreed())[0]!.parts[1]!.label).toBe('The rest');
});
