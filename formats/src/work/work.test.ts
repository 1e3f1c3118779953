import { Pricer, readBook } from '@half-penny/core/billing';
import { freshStudio } from '@half-penny/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { guessWorkMapping, mapWork, readTable, writeWork, type WorkBook } from '.';

let { store, executor, test, at } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, executor, test, at } = await freshStudio()));

const book = (of = store): WorkBook => ({
  clients: of.rows('clients'),
  projects: of.rows('projects'),
  tasks: of.rows('tasks'),
  services: of.rows('services'),
  stages: of.rows('stages'),
  currency: 'GBP',
  taxId: at.tax,
});
const read = async (text: string, of = book()) => {
  const table = await readTable(new Blob([text]));
  return mapWork(table, guessWorkMapping(table), of, test.newId);
};

describe('a list of clients and work', () => {
  it('is understood by its heads, any of client, project, task and service on a row', async () => {
    await executor.run('stage.add', { name: 'In hand' });
    const reading = await read(
      [
        'Customer;E-mail;Currency;Project;Job no;Type;Status;Task;Estimate;Service;Code',
        'Maison Clairval;atelier@maison-clairval.example;eur;Salon windows;2613;fixed price;In hand;;;;',
        'Maison Clairval;;;Salon windows › Dusk;;;;Scene timings;12,5;;',
        ';;;;;;;;;Colour study;COL',
        'Quayside Playhouse;;;Winter season rig;;;;;;;',
      ].join('\n'),
    );
    expect(reading.faults).toEqual([]);
    expect(reading.clients.map((row) => [row.name, row.email, row.currency, row.taxId])).toEqual([
      ['Maison Clairval', 'atelier@maison-clairval.example', 'EUR', at.tax],
    ]);
    const [salon, dusk] = reading.projects;
    expect(salon).toMatchObject({ name: 'Salon windows', jobNumber: '2613', kind: 'fixed price', parentId: null });
    expect(salon!.stageId).toBe(store.rows('stages')[0]!.id);
    expect(dusk).toMatchObject({ name: 'Dusk', parentId: salon!.id, kind: 'hourly' });
    expect(reading.tasks).toMatchObject([{ name: 'Scene timings', projectId: dusk!.id, estimate: 45_000 }]);
    expect(reading.services).toMatchObject([{ name: 'Colour study', code: 'COL' }]);
    // What is there already stays as it is.
    expect(reading.known).toBe(1);
  });

  it('comes in whole, with one undo', async () => {
    const {
      faults: _faults,
      known: _known,
      ...rows
    } = await read('Client,Project,Task\nMaison Clairval,Salon windows,Dusk\n');
    const { seq } = await executor.run('work.import', rows);
    expect(store.rows('tasks').map((row) => row.name)).toEqual(['Dusk']);
    await executor.undo(seq);
    expect([store.rows('clients').length, store.rows('tasks').length]).toEqual([2, 0]);
  });

  it('names each value that cannot be read by row and column', async () => {
    const reading = await read(
      'Client,Currency,Project,Kind,Stage,Task,Estimate\nClairval,pounds,Salon,monthly,Somewhere,,\n,,,,,Alone,3\nClairval,,Salon,,,Dusk,soon\n,,,,,,\n',
    );
    expect(reading.faults.map((each) => [each.row, each.column, each.message.slice(0, 34)])).toEqual([
      [2, 'B', '“POUNDS” is not a currency, such a'],
      [2, 'D', '“monthly” is no kind of project: h'],
      [2, 'E', 'There is no stage “Somewhere”. Nam'],
      [3, 'F', 'This row names no client, project '],
      [4, 'G', '“soon” is not a number of hours, s'],
    ]);
  });

  it('goes out and comes back into an empty workspace as it was', async () => {
    const house = (await executor.run('project.add', { name: 'Front of house', parentId: at.rig, jobNumber: '=2+2' }))
      .changes[0]!.id;
    await executor.run('task.add', { projectId: house, name: 'Plot, and "more"', estimate: 5400 });
    await executor.run('service.edit', { id: at.design, code: 'DES' });
    const text = writeWork(new Pricer(await readBook(store)));
    expect(text).toContain("'=2+2");
    const empty = { clients: [], projects: [], tasks: [], services: [], stages: [], currency: 'GBP', taxId: null };
    const reading = await read(text, empty);
    expect(reading.faults).toEqual([]);
    const names = (rows: readonly { name: string }[]) => rows.map((row) => row.name).sort();
    for (const table of ['clients', 'projects', 'tasks', 'services'] as const) {
      expect(names(reading[table])).toEqual(names(store.rows(table)));
    }
    const back = reading.projects.find((row) => row.name === 'Front of house')!;
    expect(back.jobNumber).toBe('=2+2');
    expect(reading.projects.find((row) => row.id === back.parentId)?.name).toBe('Winter season rig');
    expect(reading.tasks[0]!.estimate).toBe(5400);
    expect((await read(text)).known).toBe(text.split('\r\n').length - 2);
  });
});
