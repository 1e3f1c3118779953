import { beforeEach, describe, expect, it } from 'vitest';
import { projectsUnder, tallyWork } from '../costing';
import { attentionOf, computeDraft, Pricer, readBook, toBill } from '../billing';
import type { Id } from '../model/ids';
import type { Project } from '../model/records';
import { DAY, freshStudio, work } from '../testing/studio';
import { WorkTree } from '../rates/tree';
import type { CommandInput } from '.';
import { fault } from '../testing/fault';

let { store, executor, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, executor, at, run, added } = await freshStudio()));

const part = (name: string, parentId: Id, more: Partial<CommandInput<'project.add'>> = {}) =>
  added('project.add', { name, parentId, ...more });
const project = async (id: Id): Promise<Project> => (await store.get('projects', id))!;
const names = (parentId: Id | null): string[] =>
  new WorkTree(store.rows('projects'), []).partsOf(parentId).map((each) => each.name);
const open = async () => {
  const pricer = new Pricer(await readBook(store));
  return toBill(pricer, store.rows('entries'), store.rows('allocations'));
};

describe('projects in projects', () => {
  it('are within one another only so deep, also when what is under them moves along', async () => {
    let deepest = at.rig;
    for (let level = 2; level <= 32; level++) deepest = await part(`Level ${level}`, deepest);
    await expect(part('Level 33', deepest)).rejects.toThrow('would be a part of more than 31 others');
    const outer = await added('project.add', { name: 'Outer', clientId: at.playhouse });
    await expect(run('project.move', { id: at.rig, parentId: outer, before: null })).rejects.toThrow(
      'more than 31 others',
    );
  });

  it('are of the client and the colour of the one around them, and stand after their like', async () => {
    const house = await part('Front of house', at.rig);
    await part('Back of house', at.rig);
    expect(await project(house)).toMatchObject({ clientId: at.playhouse, kind: 'hourly', order: 0 });
    expect(names(at.rig)).toEqual(['Front of house', 'Back of house']);
    // Internal work as well, though it is nobody's.
    const archive = await added('project.add', { name: 'Archive' });
    expect((await project(archive)).order).toBe((await project(at.internal)).order + 1);
  });

  it('move before one another and back with undo', async () => {
    const first = await part('First', at.rig);
    await part('Second', at.rig);
    const third = await part('Third', at.rig);
    const { seq } = await run('project.move', { id: third, parentId: at.rig, before: first });
    expect(names(at.rig)).toEqual(['Third', 'First', 'Second']);
    await executor.undo(seq);
    expect(names(at.rig)).toEqual(['First', 'Second', 'Third']);
  });

  it('take their parts along to another client', async () => {
    const house = await part('Front of house', at.rig);
    const bars = await part('Advance bars', house);
    await run('project.move', { id: house, parentId: at.gallery, before: null });
    expect((await project(bars)).clientId).toBe(at.museum);
    expect((await project(house)).parentId).toBe(at.gallery);
  });

  it('stay with the client whose invoice they stand on', async () => {
    const house = await part('Front of house', at.rig);
    const entry = await added('entry.add', work(house, 3600));
    await run('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
    await expect(run('project.move', { id: house, parentId: at.gallery, before: null })).rejects.toThrow(
      '1 entry of Front of house stand on its client’s invoices; it stays with that client.',
    );
    expect((await project(house)).parentId).toBe(at.rig);
  });

  it('are never under themselves', async () => {
    const house = await part('Front of house', at.rig);
    await expect(run('project.move', { id: at.rig, parentId: at.rig, before: null })).rejects.toThrow(fault('circle'));
    await expect(run('project.move', { id: at.rig, parentId: house, before: null })).rejects.toThrow(fault('circle'));
  });

  it('follow their contract’s client', async () => {
    const contractId = await added('contract.add', { clientId: at.museum, name: 'Galleries 1 to 4' });
    await expect(run('project.edit', { id: at.rig, contractId })).rejects.toThrow(
      'Galleries 1 to 4 is a contract with another client.',
    );
    await run('project.edit', { id: at.gallery, contractId });
    await run('rate.add', { contractId, from: '2026-01-01', price: '91', currency: 'GBP' });
    await added('entry.add', work(at.gallery, 3600));
    expect((await open()).map((each) => [each.client.name, each.amount])).toEqual([['Fernhill Folk Museum', 9100]]);
  });
});

describe('the kind of a project', () => {
  it('keeps hours of a fixed price and internal ones out of what is to bill by the hour', async () => {
    const extras = await part('Extras', at.rig);
    const whole = await added('entry.add', work(at.rig, 3600));
    const extra = await added('entry.add', work(extras, 3600));
    await run('project.edit', { id: at.rig, kind: 'fixed price', fixedPrice: 900_000 });
    expect((await open()).flatMap((each) => each.items.map((item) => item.entry.id))).toEqual([extra]);
    await expect(run('invoice.draft', { clientId: at.playhouse, entryIds: [whole] })).rejects.toThrow(
      fault('not-hourly'),
    );
  });

  it('does not change under a draft, nor does an entry move off it unseen', async () => {
    const entry = await added('entry.add', work(at.rig, 3600));
    await run('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
    await expect(run('project.edit', { id: at.rig, kind: 'internal' })).rejects.toThrow(
      '1 entry is on a draft. Take them off or issue it first.',
    );
    const pitch = await added('project.add', { name: 'Pitch', clientId: at.playhouse, kind: 'internal' });
    await expect(run('entry.edit', { id: entry, projectId: pitch })).rejects.toThrow(fault('not-hourly'));
  });

  it('loses its fixed price with it', async () => {
    await run('project.edit', { id: at.rig, kind: 'fixed price', fixedPrice: 900_000 });
    await run('project.edit', { id: at.rig, kind: 'hourly' });
    expect((await project(at.rig)).fixedPrice).toBeNull();
    await expect(run('project.edit', { id: at.internal, kind: 'hourly' })).resolves.toBeDefined();
    expect((await project(at.internal)).kind).toBe('internal');
  });
});

it('stages stand in the order they are put in, with one undo', async () => {
  const ids = [];
  for (const name of ['Enquiry', 'In hand', 'Over']) ids.push(await added('stage.add', { name, order: ids.length }));
  const inOrder = () =>
    store
      .rows('stages')
      .toSorted((a, b) => a.order - b.order)
      .map((stage) => stage.name);
  const { seq } = await run('stage.order', { ids: ids.toReversed() });
  expect(inOrder()).toEqual(['Over', 'In hand', 'Enquiry']);
  await executor.undo(seq);
  expect(inOrder()).toEqual(['Enquiry', 'In hand', 'Over']);
});

describe('a job added on the spot', () => {
  const spot = { client: null, project: { id: '' }, task: '', service: '' };

  it('makes what is missing of client, project, task and service in one change', async () => {
    const row = await run('job.add', {
      client: { name: 'Maison Clairval' },
      project: { name: 'Salon windows', jobNumber: '2613', colour: 'ochre' },
      task: 'Dusk scene',
      service: 'Colour study',
    });
    expect(row.changes.map((change) => change.table)).toEqual(['clients', 'projects', 'tasks', 'services']);
    await executor.undo(row.seq);
    expect(store.rows('clients')).toHaveLength(2);
  });

  it('takes an estimate and a rate with it, which holds for work done before as well', async () => {
    const task = { ...spot, project: { id: at.rig }, task: 'Dusk scene' };
    const { changes } = await run('job.add', { ...task, estimate: 144_000, rate: '92.5' });
    expect(changes.map((change) => change.after)).toEqual([
      expect.objectContaining({ name: 'Dusk scene', estimate: 144_000 }),
      expect.objectContaining({
        taskId: changes[0]!.id,
        projectId: null,
        price: '92.5',
        currency: 'GBP',
        from: '2000-01-01',
      }),
    ]);
    const fresh = { ...spot, project: { name: 'Arcade', jobNumber: '', colour: 'ochre' as const } };
    const added = await run('job.add', { ...fresh, client: { name: 'Lantern Lane' }, rate: '70' });
    expect(added.changes.map((change) => change.table)).toEqual(['clients', 'projects', 'rateLines']);
    await expect(run('job.add', { ...fresh, client: null, rate: '70' })).rejects.toThrow(fault('internal'));
  });

  it('takes what is there, and refuses a second of the same name', async () => {
    const project = { id: at.rig };
    const { changes } = await run('job.add', { ...spot, project, task: 'Plot' });
    expect(changes.map((change) => change.after)).toEqual([
      expect.objectContaining({ projectId: at.rig, name: 'Plot' }),
    ]);
    await expect(run('job.add', { ...spot, project, task: ' plot ' })).rejects.toThrow(fault('name-taken'));
    await expect(run('job.add', { ...spot, project, service: 'Lighting design' })).rejects.toThrow(fault('name-taken'));
    await expect(run('job.add', { ...spot, project })).rejects.toThrow(fault('empty'));
  });
});

describe('tasks and kinds of work', () => {
  it('belong to their project and service', async () => {
    const plot = await added('task.add', { projectId: at.rig, name: 'Plot' });
    const drawing = await added('kindOfWork.add', { serviceId: at.design, name: 'Drawing' });
    const entry = await added(
      'entry.add',
      work(at.rig, 3600, { taskId: plot, serviceId: at.design, kindOfWorkId: drawing }),
    );
    await expect(run('entry.add', work(at.gallery, 60, { taskId: plot }))).rejects.toThrow(fault('other-project'));
    await expect(run('entry.add', work(at.rig, 60, { kindOfWorkId: drawing }))).rejects.toThrow(fault('other-service'));
    await run('entry.edit', { id: entry, projectId: at.gallery, serviceId: null });
    expect(await store.get('entries', entry)).toMatchObject({ taskId: null, kindOfWorkId: null });
    await expect(run('task.edit', { id: plot, projectId: at.gallery })).rejects.toThrow(fault('stays'));
  });

  it('have rates of their own', async () => {
    const plot = await added('task.add', { projectId: at.rig, name: 'Plot' });
    await run('rate.add', { taskId: plot, from: '2026-01-01', price: '120', currency: 'GBP' });
    await added('entry.add', work(at.rig, 3600, { taskId: plot }));
    await added('entry.add', work(at.rig, 3600));
    const [playhouse] = await open();
    expect(playhouse!.items.map((item) => item.amount).sort()).toEqual([12_000, 8500]);
  });
});

describe('bad input', () => {
  it('of two rates from the same date names the one that is there', async () => {
    await expect(
      run('rate.add', { clientId: at.playhouse, from: '2026-01-01', price: '90', currency: 'GBP' }),
    ).rejects.toThrow('There is a rate for the same work from 1 Jan 2026 already: 85. Change that one.');
    await run('markup.add', { projectId: at.rig, costType: 'material', from: '2026-01-01', percent: '15' });
    await expect(
      run('markup.add', { projectId: at.rig, costType: 'material', from: '2026-01-01', percent: '20' }),
    ).rejects.toThrow('There is a markup for the same work from 1 Jan 2026 already: 15 %. Change that one.');
  });

  it('of a markup below nothing is refused with the reason', async () => {
    for (const add of [
      () => run('markup.add', { costType: 'expense', from: '2026-01-01', percent: '-150' }),
      () => run('rate.add', { clientId: at.museum, from: '2026-01-01', markup: '-150' }),
    ]) {
      await expect(add()).rejects.toThrow('A markup of −150 % would make a price below nothing.');
    }
    await expect(run('rate.add', { from: '2026-02-01' })).rejects.toThrow(fault('invalid'));
  });

  it('of a client with work says what to do instead of deleting it', async () => {
    await added('entry.add', work(at.rig, 3600));
    await expect(run('client.remove', { id: at.playhouse })).rejects.toThrow(
      'This client is still used by 1 project, 1 rate. Archive it instead',
    );
    await expect(run('project.remove', { id: at.rig })).rejects.toThrow(
      'This project is still used by 1 entry. Finish it instead',
    );
    await run('client.archive', { ids: [at.playhouse, at.museum], archived: true });
    expect(store.rows('clients').every((client) => client.archived)).toBe(true);
  });

  it('never reaches an invoice that was issued: renaming and regrouping leave it as it was', async () => {
    const entry = await added('entry.add', work(at.rig, 3600));
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
    await run('invoice.issue', { id });
    const sent = structuredClone((await store.get('invoices', id))!.frozen);
    const around = await added('project.add', { name: 'Seasons', clientId: at.playhouse });
    await run('client.edit', { id: at.playhouse, name: 'Harbour Playhouse', address: 'Elsewhere' });
    await run('project.edit', { id: at.rig, name: 'Rig' });
    await run('project.move', { id: at.rig, parentId: around, before: null });
    await run('rate.add', { projectId: at.rig, from: '2026-01-01', price: '500', currency: 'GBP' });
    expect((await store.get('invoices', id))!.frozen).toEqual(sent);
  });
});

describe('the logo', () => {
  // One grey pixel.
  const data = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNoAAAAggCBd81ytgAAAABJRU5ErkJggg==';

  it('is of the invoices from then on; those that were issued keep what they had', async () => {
    const issued = async () => {
      const entry = await added('entry.add', work(at.rig, 3600));
      const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
      await run('invoice.issue', { id });
      return (await store.get('invoices', id))!.frozen!.studio.logoId;
    };
    expect(await issued()).toBeNull();
    await run('workspace.logo', { picture: { mediaType: 'image/png', data } });
    const first = await issued();
    expect((await store.get('pictures', first!))!.data).toBe(data);
    await run('workspace.logo', { picture: null });
    expect(await issued()).toBeNull();
    expect(store.rows('pictures').map((row) => row.id)).toEqual([first]);
  });

  it('is a picture and no other thing', async () => {
    await expect(run('workspace.logo', { picture: { mediaType: 'image/png', data: '<svg>' } })).rejects.toThrow();
  });
});

describe('lists taken in', () => {
  it('of exchange rates replace those of a day, all or none', async () => {
    const row = (from: string, rate: string) => ({
      from,
      base: 'EUR',
      currency: 'USD',
      rate,
      source: 'reference rates',
    });
    await run('exchange.take', { rows: [row('2026-11-02', '1.08'), row('2026-11-03', '1.09')] });
    await run('exchange.take', { rows: [row('2026-11-03', '1.1')] });
    expect(store.rows('exchangeRates').map((each) => each.rate)).toEqual(['1.08', '1.1']);
    await expect(run('exchange.take', { rows: [row('2026-11-03', '1.1')] })).rejects.toThrow(fault('already'));
    await expect(run('exchange.take', { rows: [row('2026-11-04', '1.1'), row('2026-11-04', '1.2')] })).rejects.toThrow(
      'gives USD on 2026-11-04 twice',
    );
    expect(store.rows('exchangeRates')).toHaveLength(2);
  });

  it('of contacts leave out who is there', async () => {
    const card = { name: 'Stage Door', role: '', email: 'door@quayside-playhouse.example', telephone: '', note: '' };
    await run('contact.take', { clientId: at.playhouse, contacts: [card, { ...card, name: 'Box Office' }] });
    await run('contact.take', { clientId: at.playhouse, contacts: [card, { ...card, name: 'House Manager' }] });
    expect(store.rows('contacts').map((each) => each.name)).toEqual(['Stage Door', 'Box Office', 'House Manager']);
  });
});

describe('contacts', () => {
  it('answer for projects of their own client, and no longer for what is gone or another’s', async () => {
    const maud = await added('contact.add', { clientId: at.playhouse, name: 'Maud Ferrier' });
    const contact = async () => (await store.get('contacts', maud))!.projectIds;
    await expect(run('contact.edit', { id: maud, projectIds: [at.gallery] })).rejects.toThrow(
      'Maud Ferrier can answer for projects of their own client only; Museum gallery 3 is another’s.',
    );
    const foyer = await added('project.add', { clientId: at.playhouse, name: 'Foyer refresh' });
    const bars = await added('project.add', { parentId: at.rig, name: 'Advance bars' });
    await run('contact.edit', { id: maud, projectIds: [at.rig, bars, foyer] });
    await run('project.remove', { id: foyer });
    expect(await contact()).toEqual([at.rig, bars]);
    await run('project.edit', { id: at.rig, clientId: at.museum });
    expect(await contact()).toEqual([]);
  });

  it('of a project, or of the nearest around it, are who its invoices are for, unless somebody else was written', async () => {
    const bars = await added('project.add', { parentId: at.rig, name: 'Advance bars' });
    const named = async (name: string, ...projectIds: string[]) =>
      added('contact.add', { clientId: at.playhouse, name, projectIds });
    await named('Maud Ferrier', at.rig);
    const entryId = await added('entry.add', work(bars, 3600));
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [entryId] });
    const attention = async () => {
      const invoice = (await store.get('invoices', id))!;
      const pricer = new Pricer(await readBook(store));
      const allocations = store.rows('allocations');
      const draft = computeDraft(pricer, { invoice, allocations, day: DAY, entries: store.rows('entries') });
      return attentionOf(pricer, invoice, draft.lines);
    };
    expect(await attention()).toBe('Maud Ferrier');
    await named('Stage door', bars);
    expect(await attention()).toBe('Stage door');
    await run('invoice.edit', { id, attention: '' });
    expect(await attention()).toBe('');
    await run('invoice.edit', { id, attention: 'Accounts' });
    await run('invoice.issue', { id });
    expect((await store.get('invoices', id))!.frozen!.attention).toBe('Accounts');
  });
});

describe('a task that stands by itself', () => {
  it('goes with every project of its kind, and with none of the other', async () => {
    const calls = await added('task.add', { projectId: null, free: 'any client', name: 'Telephone' });
    const books = await added('task.add', { projectId: null, free: 'internal', name: 'Bookkeeping' });
    expect((await store.get('tasks', books))!.order).toBe(1);
    const on = (projectId: Id | null, taskId: Id) => added('entry.add', work(projectId, 3600, { taskId }));
    await on(at.rig, calls);
    await on(at.gallery, calls);
    await on(at.internal, books);
    await expect(on(at.internal, calls)).rejects.toThrow(fault('other-project'));
    await expect(on(at.rig, books)).rejects.toThrow(fault('other-project'));
    // Without a project there is nothing that it could go with.
    expect((await store.get('entries', await on(null, books)))!.taskId).toBeNull();
    await expect(run('task.edit', { id: calls, free: 'internal' })).rejects.toThrow(fault('in-use'));
    await expect(run('task.edit', { id: calls, projectId: at.rig })).rejects.toThrow();
    await expect(run('task.remove', { id: calls })).rejects.toThrow('This task is still used by 2 entries.');
  });

  it('is tallied on each project by itself, and its budget counts all of them', async () => {
    const calls = await added('task.add', { projectId: null, free: 'any client', name: 'Telephone' });
    for (const [projectId, hours] of [
      [at.rig, 1],
      [at.rig, 2],
      [at.gallery, 4],
    ] as const)
      await added('entry.add', work(projectId, hours * 3600, { taskId: calls }));
    const pricer = new Pricer(await readBook(store));
    const tallied = tallyWork(pricer, store.rows('entries'), []);
    expect(tallied.onTask(at.rig, calls)?.seconds).toBe(3 * 3600);
    expect(tallied.onTask(at.gallery, calls)?.seconds).toBe(4 * 3600);
    expect(tallied.byTask.get(calls)?.seconds).toBe(7 * 3600);
    const budget = { projectId: null, taskId: calls, contractId: null };
    expect(projectsUnder(pricer, budget).sort()).toEqual([at.rig, at.gallery].sort());
  });

  it('is priced and rounded by the project that it went with', async () => {
    const calls = await added('task.add', { projectId: null, free: 'any client', name: 'Telephone' });
    const foyer = await added('project.add', { name: 'Foyer', clientId: at.playhouse });
    const [rig, other, elsewhere] = [
      await added('entry.add', work(at.rig, 3600, { taskId: calls })),
      await added('entry.add', work(foyer, 3600, { taskId: calls })),
      await added('entry.add', work(at.gallery, 3600, { taskId: calls })),
    ];
    await run('rate.add', { projectId: foyer, from: '2026-01-01', price: '95', currency: 'GBP' });
    const worth = async () => {
      const items = (await open()).flatMap((client) => client.items);
      return [rig, other, elsewhere].map((id) => items.find((item) => item.entry.id === id)!.amount);
    };
    expect(await worth()).toEqual([8500, 9500, 7800]);
    // What is agreed for the task itself goes before the project's.
    await run('rate.add', { taskId: calls, from: '2026-01-01', price: '60', currency: 'GBP' });
    expect(await worth()).toEqual([6000, 6000, 6000]);
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [rig, other] });
    await run('rate.add', { taskId: calls, from: '2026-11-01', price: '70', currency: 'GBP' });
    await run('invoice.issue', { id });
    expect((await store.get('invoices', id))!.frozen!.net).toBe(14_000);
    // A quarter hour by day and job is rounded by itself on each project.
    const rounding = { increment: 3600, direction: 'up', minimum: 0, per: 'day and job' } as const;
    await run('workspace.edit', { rounding });
    const early = { day: '2026-10-02', taskId: calls };
    const quarters = [
      await added('entry.add', work(at.rig, 900, early)),
      await added('entry.add', work(foyer, 900, early)),
      await added('entry.add', work(at.rig, 900, early)),
    ];
    const items = (await open()).flatMap((client) => client.items);
    expect(quarters.map((quarter) => items.find((item) => item.entry.id === quarter)!.billed)).toEqual([
      1800, 3600, 1800,
    ]);
  });

  it('is of one project, or stands by itself for one kind of work, and never both', async () => {
    const add = (fields: object) => run('task.add', { name: 'Plot', ...fields } as CommandInput<'task.add'>);
    await expect(add({ projectId: null })).rejects.toThrow(fault('invalid'));
    await expect(add({ projectId: at.rig, free: 'internal' })).rejects.toThrow(fault('invalid'));
  });
});
