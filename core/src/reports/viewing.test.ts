import { beforeEach, describe, expect, it } from 'vitest';
import type { Right, RightSet } from '../model/records';
import { everything, Rights, usualSetRows } from '../rights';
import { DAY, freshStudio, work, ZONE } from '../testing';
import { figureAt, OpenReport } from './answer';
import { measures as baseMeasures } from './column-store/dimensions';
import { plainDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';
import { measureNames, measureOf } from './measures';
import { rightsForMeasure, viewedBy } from './viewing';

const ALL: Definition = {
  ...plainDefinition,
  rows: [],
  measures: ['recorded', 'worth', 'cost'],
  when: { kind: 'all' },
};

const rights = (...grants: (Right | RightSet['grants'][number])[]): Rights =>
  new Rights({
    id: 'set',
    name: 'Some',
    grants: grants.map((each) => (typeof each === 'string' ? { right: each, only: null } : each)),
  });

async function twoMembers() {
  const { store, test, run, added, at } = await freshStudio();
  const wren = await added('member.add', { name: 'Wren Okafor', role: '', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0] });
  await run('entry.add', work(at.rig, 3600));
  await run('entry.add', work(at.gallery, 1800));
  const part = await added('project.add', { name: 'Act two', clientId: at.playhouse, parentId: at.rig });
  test.memberId = wren;
  await run('entry.add', work(part, 600));
  const facts = await FactStore.read(store, DAY);
  const viewed = (who: Rights, definition = ALL) =>
    viewedBy(definition, { rights: who, memberId: wren, pricer: facts.words.pricer });
  const recorded = (who: Rights): number => {
    const report = new OpenReport(facts.words, facts.days, { definition: viewed(who).definition!, runOn: DAY });
    for (const _ of report.run(facts.table));
    return figureAt(report.answer(), 'recorded', 0) ?? 0;
  };
  return { at, viewed, recorded };
}

let all: Awaited<ReturnType<typeof twoMembers>>;
beforeEach(async () => {
  all = await twoMembers();
});

describe('a report', () => {
  it('is as it was asked for whoever may see everything', () => {
    expect(all.viewed(everything)).toEqual({ definition: ALL, without: [], ownOnly: false, onlyFor: [] });
  });

  it('is of one’s own work without the right to see that of others', () => {
    expect(all.recorded(everything)).toBe(6000);
    expect(all.recorded(rights('reports'))).toBe(6000);
    expect(all.recorded(rights('record own'))).toBe(600);
    expect(all.viewed(rights('record own')).ownOnly).toBe(true);
  });

  it('leaves out money that one may not see, and is nothing where nothing is left', () => {
    expect(all.viewed(rights('reports')).definition?.measures).toEqual(['recorded']);
    expect(all.viewed(rights('reports')).without).toEqual(['worth', 'cost']);
    expect(all.viewed(rights('reports', 'see rates')).definition?.measures).toEqual(['recorded', 'worth']);
    const margins: Definition = { ...ALL, measures: ['margin', 'margin percent', 'markup'], sortBy: 'margin' };
    expect(all.viewed(rights('reports', 'see rates'), margins).definition).toBeNull();
    expect(all.viewed(rights('reports', 'see rates', 'see cost'), margins).definition).toEqual(margins);
    expect(all.viewed(rights('reports'), { ...ALL, sortBy: 'worth' }).definition?.sortBy).toBeNull();
  });

  it('is of the clients and projects that the right is for, their parts included', () => {
    const { at, recorded, viewed } = all;
    const only = (limit: object) => ({
      right: 'reports' as const,
      only: { clientIds: [], projectIds: [], ...limit },
    });
    expect(recorded(rights(only({ projectIds: [at.gallery] })))).toBe(1800);
    expect(recorded(rights(only({ projectIds: [at.rig] })))).toBe(4200);
    expect(recorded(rights(only({ clientIds: [at.playhouse], projectIds: [at.gallery] })))).toBe(6000);
    expect(viewed(rights('reports', { ...only({ clientIds: [at.museum] }), right: 'see cost' })).onlyFor).toEqual([
      { clientIds: [at.museum], projectIds: [] },
    ]);
  });
});

describe('what a measure asks for', () => {
  it('is nothing of lengths and counts, and something of all money', () => {
    for (const name of measureNames) {
      const { kind } = measureOf(name);
      const isMoney = kind === 'money' || kind === 'money an hour' || ['margin percent', 'realisation'].includes(name);
      expect([name, rightsForMeasure(name).length > 0]).toEqual([name, isMoney]);
    }
    expect(baseMeasures.length).toBeGreaterThan(20);
  });

  it('is both of what tells one from the other', () => {
    expect(rightsForMeasure('cost')).toEqual(['see cost']);
    expect(rightsForMeasure('worth')).toEqual(['see rates']);
    expect(rightsForMeasure('margin')).toEqual(['see rates', 'see cost']);
    expect(rightsForMeasure('markup')).toEqual(['see rates', 'see cost']);
  });

  it('lets the usual sets see what they are for', () => {
    const sees = usualSetRows().map((row) => {
      const who = new Rights({ ...row, id: row.name });
      return [row.name, measureNames.filter((name) => rightsForMeasure(name).every((right) => who.has(right))).length];
    });
    expect(sees).toEqual([
      ['Principal', measureNames.length],
      ['Checker', measureNames.length - 6],
      ['Bookkeeper', measureNames.length],
      ['Member', measureNames.filter((name) => rightsForMeasure(name).length === 0).length],
      ['Finance reader', measureNames.length],
    ]);
  });
});
