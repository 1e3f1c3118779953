import { describe, expect, it } from 'vitest';
import { freshStudio, work } from '../testing/studio';
import { comparePolicies, explainPriced, Pricer, readBook, toBill, worthOf } from '.';

const HOUR = 3600;

async function estimated() {
  const made = await freshStudio();
  const { at, added, run, store } = made;
  const design = await added('costCode.add', { code: '20', name: 'Design', costType: 'labour' });
  const hire = await added('costCode.add', { code: '30', name: 'Hire', costType: 'material' });
  const drawing = await added('service.add', { name: 'Drawing', costCodeId: design });
  const part = await added('project.add', { name: 'Front of house', parentId: at.rig });
  const estimate = (costCodeId: string | null, fields = {}) =>
    added('agreed.add', {
      projectId: at.rig,
      kind: 'estimate',
      text: 'As estimated',
      amount: 120_000,
      costCodeId,
      billed: true,
      ...fields,
    });
  const rows = () => ({
    costs: store.rows('costs'),
    costLines: store.rows('costLines'),
    agreed: store.rows('agreed'),
    milestones: store.rows('milestones'),
  });
  const pricer = async () => new Pricer(await readBook(store));
  const open = async () => {
    const takings = [...store.rows('allocations'), ...store.rows('adjustments')];
    const all = toBill(await pricer(), store.rows('entries'), takings, rows());
    return all.map(({ client, items, charges, amount }) => ({
      client: client.name,
      hours: items.reduce((sum, item) => sum + item.seconds, 0) / HOUR,
      charges: charges.map((charge) => charge.kind),
      amount,
    }));
  };
  const hired = (projectId: string) =>
    run('cost.add', {
      kind: 'bill',
      day: '2026-11-10',
      supplier: 'Lantern Hire',
      currency: 'GBP',
      lines: [{ projectId, costCodeId: hire, text: 'Dimmers', amount: 20_000 }],
    });
  return { ...made, design, hire, drawing, part, estimate, open, pricer, hired };
}

describe('an estimate that is billed itself', () => {
  it('replaces hours and costs under its heading, of its project and the parts of that', async () => {
    const { at, added, estimate, open, design, hire, drawing, part, hired } = await estimated();
    await added('entry.add', work(at.rig, 2 * HOUR, { serviceId: drawing }));
    await added('entry.add', work(part, 3 * HOUR, { serviceId: drawing }));
    await added('entry.add', work(part, HOUR));
    await hired(part);
    // 6 h at 85.00, and the bill at cost.
    expect(await open()).toEqual([{ client: 'Quayside Playhouse', hours: 6, charges: ['bill'], amount: 71_000 }]);
    await estimate(design);
    // The hour under no heading stays.
    expect(await open()).toEqual([
      { client: 'Quayside Playhouse', hours: 1, charges: ['estimate', 'bill'], amount: 120_000 + 8500 + 20_000 },
    ]);
    await estimate(hire, { projectId: part, amount: 30_000 });
    expect(await open()).toEqual([
      { client: 'Quayside Playhouse', hours: 1, charges: ['estimate', 'estimate'], amount: 150_000 + 8500 },
    ]);
  });

  it('covers nothing of the projects around its own, and nothing while it is only an estimate', async () => {
    const { at, added, estimate, open, design, drawing, part } = await estimated();
    await added('entry.add', work(at.rig, HOUR, { serviceId: drawing }));
    await estimate(design, { billed: false });
    expect((await open())[0]).toMatchObject({ hours: 1, amount: 8500 });
    await estimate(design, { projectId: part });
    expect((await open())[0]).toMatchObject({ hours: 1, amount: 8500 + 120_000 });
  });

  it('keeps what it covers off invoices and drafts', async () => {
    const { at, added, run, store, estimate, design, hire, drawing, part, hired } = await estimated();
    const entryIds = [await added('entry.add', work(part, HOUR, { serviceId: drawing }))];
    await hired(part);
    await estimate(design);
    await estimate(hire);
    const costLineIds = store.rows('costLines').map((row) => row.id);
    await expect(run('invoice.draft', { clientId: at.playhouse, entryIds })).rejects.toThrow(
      'The estimate for Winter season rig, Design is billed in place of this.',
    );
    await expect(run('invoice.draft', { clientId: at.playhouse, costLineIds })).rejects.toThrow(
      'Hire is billed in place',
    );
    // A draft that takes new time leaves it out too.
    const open = await added('entry.add', work(at.rig, HOUR));
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [open] });
    await run('invoice.edit', { id, collects: true });
    await added('entry.add', work(at.rig, HOUR, { serviceId: drawing }));
    await added('entry.add', work(at.rig, HOUR));
    expect(store.rows('allocations')).toHaveLength(2);
  });

  it('is named on the slip of what it covers', async () => {
    const { added, estimate, design, drawing, part, pricer, store } = await estimated();
    await added('entry.add', work(part, HOUR, { serviceId: drawing }));
    await estimate(design);
    const [priced] = worthOf(await pricer(), store.rows('entries'));
    const step = explainPriced(await pricer(), priced!).steps.find((each) => each.label === 'By estimate');
    expect(step?.remark).toContain('“As estimated” of Winter season rig, “Design” is billed in place of the hours');
  });
});

it('rounding gains nothing where nobody pays by the hour', async () => {
  const { at, added, run, estimate, design, drawing, pricer, store } = await estimated();
  const tenMinutes = { seconds: 600 };
  await added('entry.add', { ...work(at.rig, 600), ...tenMinutes });
  await added('entry.add', { ...work(at.rig, 600, { serviceId: drawing }), ...tenMinutes });
  await added('entry.add', { ...work(at.gallery, 600), ...tenMinutes });
  await run('project.edit', { id: at.gallery, kind: 'fixed price', fixedPrice: 500_000 });
  await estimate(design);
  const quarter = { increment: 900, direction: 'up', minimum: 0, per: 'entry' } as const;
  const [outcome] = comparePolicies(await pricer(), store.rows('entries'), [quarter]);
  // One entry of 10 minutes becomes 15: 5 minutes at 85.00 an hour, 21.25 less 14.17.
  expect(outcome).toMatchObject({ seconds: 900, moreSeconds: 300 });
  expect([...outcome!.more]).toEqual([['GBP', 2125 - 1417]]);
});
