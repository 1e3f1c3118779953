import { beforeAll, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import { DAY, freshStudio, work } from '../testing';
import { choicesOf, figureAt, OpenReport } from './answer';
import { plainDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';

let studio: Awaited<ReturnType<typeof freshStudio>>;
let facts: FactStore;
let entryId: Id;

const open = (asked: Partial<Definition>): OpenReport => {
  const definition: Definition = { ...plainDefinition, measures: ['recorded'], when: { kind: 'all' }, ...asked };
  const report = new OpenReport(facts.words, facts.days, { definition, runOn: DAY });
  for (const _ of report.run(facts.table));
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
  facts = await FactStore.read(studio.store, DAY);
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
    expect(choicesOf(facts.words, 'tag', facts.days).map(({ label }) => label)).toEqual([
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
      expect(FactStore.canFollow([row])).toBe(true);
      await facts.follow([row], [report]);
      if (report.isStale(facts.days)) report = open({ rows: ['tag'] });
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

describe('reports by single entry', () => {
  it('name each by its day and what it says, in the order of their days', async () => {
    const { run, at, store } = await freshStudio();
    await run('entry.add', { ...work(at.rig, 600), day: '2026-11-11', note: 'Plot sheet 5\nand 6' });
    await run('entry.add', { ...work(at.rig, 3600), day: '2026-11-09', note: '' });
    await run('entry.add', { ...work(at.rig, 1800), day: '2026-11-10', note: 'Plot sheet 4' });
    await run('cost.add', {
      kind: 'bill',
      day: '2026-11-08',
      currency: 'GBP',
      supplier: 'Tinsel & Reed',
      lines: [{ text: '', amount: 9000, projectId: at.rig, forClient: true }],
    });
    facts = await FactStore.read(store, DAY);
    const report = open({ rows: ['project', 'entry'], measures: ['recorded', 'other cost'] });
    expect(said(report).map(([label]) => label)).toEqual([
      'All',
      'Winter season rig',
      '8 Nov 2026 · Tinsel & Reed',
      '9 Nov 2026 · Time, Imogen Vale',
      '10 Nov 2026 · Plot sheet 4',
      '11 Nov 2026 · Plot sheet 5',
    ]);
    // What stands behind a line is asked for by what it is, not by what it is called.
    const { rows } = report.answer();
    expect(report.behind(facts.table, [rows[1]!.key, rows[4]!.key], null, 9)).toHaveLength(1);
    const noticed = {
      day: DAY,
      hour: 9,
      memberId: at.member,
      projectId: null,
      program: 'Plotting desk',
      site: '',
      folder: '',
    };
    facts.putTrail([{ ...noticed, document: '', openedFor: '', front: 60 }]);
    expect(said(open({ rows: ['entry'], measures: ['front'] }))).toEqual([
      ['All', 60],
      ['Noticed activity', 60],
    ]);
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
    facts = await FactStore.read(store, DAY);
    expect(said(open({ rows: ['stage'] }))).toEqual([
      ['All', 5460],
      ['On site', 1800],
      ['Over', 3600],
      ['No stage', 60],
    ]);
  });
});
