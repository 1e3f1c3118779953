import { beforeAll, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import { DAY, freshStudio, work } from '../testing';
import { choicesOf, figureAt, OpenReport } from './answer';
import { plainDefinition, type Definition } from './definition';
import { FactKeeper } from './keeper';

let studio: Awaited<ReturnType<typeof freshStudio>>;
let keeper: FactKeeper;
let entryId: Id;

const open = (asked: Partial<Definition>): OpenReport => {
  const definition: Definition = { ...plainDefinition, measures: ['recorded'], when: { kind: 'all' }, ...asked };
  const report = new OpenReport(keeper.words, keeper.days, { definition, runOn: DAY });
  for (const _ of report.run(keeper.table));
  return report;
};
const said = (report: OpenReport) => {
  const answer = report.answer();
  return answer.rows.map(({ label }, index) => [label, figureAt(answer, answer.definition.measures[0]!, index)]);
};

beforeAll(async () => {
  studio = await freshStudio();
  const { run, added, at } = studio;
  await run('project.edit', { id: at.rig, tags: ['stage'] });
  const part = await added('project.add', { name: 'Studio theatre', parentId: at.rig, clientId: at.playhouse });
  entryId = await added('entry.add', work(at.rig, 3600, { tags: ['urgent', 'extra'] }));
  await run('entry.add', work(part, 1800, { tags: ['Stage'] }));
  await run('entry.add', work(at.gallery, 600, { tags: ['urgent'] }));
  await run('entry.add', work(at.internal, 60));
  await run('cost.add', {
    kind: 'bill',
    day: DAY,
    currency: 'GBP',
    supplier: 'Tinsel & Reed',
    tags: ['hire'],
    lines: [{ text: 'Lamps', amount: 9000, projectId: at.rig, forClient: true }],
  });
  keeper = await FactKeeper.read(studio.store, DAY);
});

describe('reports by tag', () => {
  it('have a group for each set of tags, those of the projects around included, that come to the whole', () => {
    expect(said(open({ rows: ['tag'] }))).toEqual([
      ['All', 6060],
      ['extra, stage, urgent', 3600],
      ['stage', 1800],
      ['urgent', 600],
      ['No tag', 60],
    ]);
    expect(said(open({ rows: ['tag'], measures: ['other cost'] }))).toEqual([
      ['All', 9000],
      ['hire, stage', 9000],
    ]);
  });

  it('are narrowed by single tags', () => {
    const only = (keys: string[], without = false) =>
      said(open({ rows: [], filters: [{ field: 'tag', keys, without }] }))[0]![1];
    expect(only(['urgent'])).toBe(4200);
    expect(only(['urgent'], true)).toBe(1860);
    expect(only(['extra', 'stage'])).toBe(5400);
    expect(only([''])).toBe(60);
    expect(only(['gone'])).toBe(0);
    expect(choicesOf(keeper.words, 'tag', keeper.days).map(({ label }) => label)).toEqual([
      'extra',
      'hire',
      'stage',
      'urgent',
      'No tag',
    ]);
  });

  it('follow when a tag is given, taken off and brought back', async () => {
    const { run, executor } = studio;
    let report = open({ rows: ['tag'] });
    const follow = async (row: Awaited<ReturnType<typeof run>>) => {
      expect(FactKeeper.canFollow([row])).toBe(true);
      await keeper.follow([row], [report]);
      if (report.isStale(keeper.days)) report = open({ rows: ['tag'] });
    };
    await follow(await run('entry.tag', { ids: [entryId], add: ['paid late'], remove: ['URGENT'] }));
    expect(said(report)[1]).toEqual(['extra, paid late, stage', 3600]);
    await follow(await executor.undo());
    expect(said(report)[1]).toEqual(['extra, stage, urgent', 3600]);
    await follow(await run('entry.tag', { ids: [entryId], add: [], remove: ['urgent', 'extra'] }));
    // Together with the other that has no more than its project's.
    expect(said(report)[1]).toEqual(['stage', 5400]);
    expect(await studio.store.get('entries', entryId)).not.toHaveProperty('tags');
  });
});

describe('reports by stage', () => {
  it('go by the task’s own, then by that of the project and those around it', async () => {
    const { run, added, at, store } = await freshStudio();
    const [onSite, over] = [
      await added('stage.add', { name: 'On site', order: 1 }),
      await added('stage.add', { name: 'Over', order: 2 }),
    ];
    await run('project.edit', { id: at.rig, stageId: onSite });
    const part = await added('project.add', { name: 'Studio theatre', parentId: at.rig, clientId: at.playhouse });
    const taskId = await added('task.add', { projectId: part, name: 'Focus', stageId: over });
    await run('entry.add', work(part, 3600, { taskId }));
    await run('entry.add', work(part, 1800));
    await run('entry.add', work(at.gallery, 60));
    keeper = await FactKeeper.read(store, DAY);
    expect(said(open({ rows: ['stage'] }))).toEqual([
      ['All', 5460],
      ['On site', 1800],
      ['Over', 3600],
      ['No stage', 60],
    ]);
  });
});
