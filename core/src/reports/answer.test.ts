import { beforeAll, describe, expect, it } from 'vitest';
import { freshStudio, work, DAY } from '../testing';
import { figureAt, OpenReport, type ReportResult } from './answer';
import { FactTable } from './column-store/fact-table';
import { plainDefinition, readDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';
import { measureOf } from './measures';
import { sheetOf, showFigure } from './format';
import { fault } from '../testing/fault';

let facts: FactStore;
let studio: Awaited<ReturnType<typeof freshStudio>>;

const ask = (asked: Partial<Definition>, runOn = DAY): ReportResult => {
  const report = new OpenReport(facts.words, facts.days, {
    definition: { ...plainDefinition, when: { kind: 'all' }, ...asked },
    runOn,
  });
  for (const _ of report.run(facts.table));
  return report.answer();
};
const table = (answer: ReportResult, column?: number) =>
  answer.rows.map((row, index) => [
    row.label,
    ...answer.definition.measures.map((each) => figureAt(answer, each, index, column)),
  ]);

beforeAll(async () => {
  studio = await freshStudio();
  const { run, at } = studio;
  for (const [projectId, seconds, day, note] of [
    [at.rig, 3600, '2026-09-30', 'Hang plan'],
    [at.rig, 7200, '2026-10-01', '=SUM(A1:A9)'],
    [at.gallery, 1800, '2026-10-31', 'Case lighting'],
    [at.gallery, 5400, '2026-11-02', 'Case lighting'],
    [at.internal, 900, '2026-11-03', 'Post'],
    [null, 600, '2026-11-03', 'Loose'],
  ] as const) {
    await run('entry.add', {
      ...work(projectId, seconds),
      day,
      note,
      ...(projectId === null ? { unlisted: 'EN-14' } : {}),
    });
  }
  facts = await FactStore.read(studio.store, DAY);
});

describe('a report', () => {
  it('has a subtotal at every level and the whole at its head', () => {
    const answer = ask({ rows: ['client', 'month'], measures: ['recorded'] });
    expect(answer.rows.map((row, index) => [row.depth, row.label, figureAt(answer, 'recorded', index)])).toEqual([
      [0, 'All', 19_500],
      [1, 'Fernhill Folk Museum', 7200],
      [2, 'October 2026', 1800],
      [2, 'November 2026', 5400],
      [1, 'Quayside Playhouse', 10_800],
      [2, 'September 2026', 3600],
      [2, 'October 2026', 7200],
      [1, 'No client', 1500],
      [2, 'November 2026', 1500],
    ]);
  });

  it('takes only the days of its period, whole months for “last month”', () => {
    const when = { kind: 'moving', name: 'last month' } as const;
    const answer = ask({ rows: ['client'], measures: ['recorded'], when });
    expect(answer.range).toEqual({ from: '2026-10-01', to: '2026-10-31' });
    expect(table(answer)).toEqual([
      ['All', 9000],
      ['Fernhill Folk Museum', 1800],
      ['Quayside Playhouse', 7200],
    ]);
    expect(table(ask({ rows: ['client'], measures: ['recorded'], when }, '2026-12-01'))[0]).toEqual(['All', 6900]);
  });

  it('is split into a column for each period, with all of them last', () => {
    const answer = ask({ rows: ['client'], columns: 'month', measures: ['recorded'] });
    expect(answer.columns.map(({ label }) => label)).toEqual([
      'September 2026',
      'October 2026',
      'November 2026',
      'All',
    ]);
    expect(answer.columns.map((_, column) => figureAt(answer, 'recorded', 0, column))).toEqual([
      3600, 9000, 6900, 19_500,
    ]);
  });

  it('stands against the period before, and against the year before', () => {
    const answer = ask({
      rows: ['client'],
      measures: ['recorded'],
      when: { kind: 'moving', name: 'last month' },
      compare: 'before',
    });
    expect(answer.against).toEqual({ from: '2026-09-01', to: '2026-09-30' });
    const rows = answer.rows.map(({ label }, index) => [
      label,
      figureAt(answer, 'recorded', index),
      figureAt(answer, 'recorded', index, 0, 0, answer.before),
    ]);
    expect(rows).toEqual([
      ['All', 9000, 3600],
      ['Fernhill Folk Museum', 1800, 0],
      ['Quayside Playhouse', 7200, 3600],
    ]);
    const year = ask({
      rows: [],
      measures: ['recorded'],
      when: { kind: 'moving', name: 'last month' },
      compare: 'year before',
    });
    expect(year.against).toEqual({ from: '2025-10-01', to: '2025-10-31' });
  });

  it('puts the most first where that is wished for', () => {
    const answer = ask({ rows: ['client'], measures: ['recorded'], sortBy: 'recorded' });
    expect(answer.rows.map(({ label }) => label)).toEqual([
      'All',
      'Quayside Playhouse',
      'Fernhill Folk Museum',
      'No client',
    ]);
  });

  it('keeps to its filters, and to all but them', () => {
    const { playhouse } = studio.at;
    const only = [{ field: 'client' as const, keys: [playhouse], without: false }];
    expect(figureAt(ask({ rows: [], measures: ['recorded'], filters: only }), 'recorded', 0)).toBe(10_800);
    expect(
      figureAt(ask({ rows: [], measures: ['recorded'], filters: [{ ...only[0]!, without: true }] }), 'recorded', 0),
    ).toBe(8700);
  });

  it('says nothing of a filter on what nobody has any more, and everything of all but that', () => {
    const gone = { field: 'client' as const, keys: ['long gone'] };
    expect(ask({ filters: [{ ...gone, without: false }] }).rows).toHaveLength(1);
    expect(
      figureAt(ask({ rows: [], measures: ['recorded'], filters: [{ ...gone, without: true }] }), 'recorded', 0),
    ).toBe(19_500);
  });

  it('on nothing has one line of nothing', async () => {
    const empty = await freshStudio();
    const own = await FactStore.read(empty.store, DAY);
    const report = new OpenReport(own.words, own.days, { definition: plainDefinition, runOn: DAY });
    for (const _ of report.run(own.table));
    const answer = report.answer();
    expect(answer.rows).toEqual([{ depth: 0, key: '', label: 'All' }]);
    expect(figureAt(answer, 'recorded', 0)).toBe(0);
  });

  it('refuses a period that ends before it starts', () => {
    expect(() => ask({ when: { kind: 'fixed', from: '2026-11-02', to: '2026-11-01' } })).toThrow(
      fault('end-before-start'),
    );
  });

  it('takes eight levels, however many groups could be told apart', () => {
    const answer = ask({
      rows: ['note', 'entry', 'day', 'member', 'project', 'client', 'hour', 'week'],
      measures: ['count'],
    });
    expect(figureAt(answer, 'count', 0)).toBe(6);
    expect(answer.rows.filter((row) => row.depth === 8)).toHaveLength(6);
  });

  it('opens what is behind a figure', () => {
    const report = new OpenReport(facts.words, facts.days, {
      definition: {
        ...plainDefinition,
        rows: ['client', 'project'],
        columns: 'month',
        measures: ['recorded'],
        when: { kind: 'all' },
      },
      runOn: DAY,
    });
    for (const _ of report.run(facts.table));
    const { museum, gallery } = studio.at;
    const seconds = (column: string | null) =>
      report.behind(facts.table, [museum, gallery], column, 100).map((row) => facts.table.measure('recorded', row));
    expect(seconds(null).sort()).toEqual([1800, 5400]);
    expect(seconds('2026-11')).toEqual([5400]);
    expect(report.behind(facts.table, [], null, 2)).toHaveLength(2);
  });

  it('tells jobs in words apart from those that are set up', () => {
    const answer = ask({ rows: ['project'], measures: ['recorded'] });
    expect(table(answer).slice(1)).toEqual([
      ['“EN-14”', 600],
      ['Museum gallery 3', 7200],
      ['Studio', 900],
      ['Winter season rig', 10_800],
    ]);
  });

  it('answers with 100,000 groups', () => {
    const many = new FactTable();
    for (let i = 0; i < 100_000; i++) {
      many.add({ note: facts.words.code('note', `note ${i}`), recorded: 60, day: 20_000, currency: 1 });
    }
    const report = new OpenReport(facts.words, facts.days, {
      definition: { ...plainDefinition, rows: ['note'], measures: ['recorded'], when: { kind: 'all' } },
      runOn: DAY,
    });
    for (const _ of report.run(many));
    const answer = report.answer();
    expect(answer.rows).toHaveLength(100_001);
    expect(figureAt(answer, 'recorded', 0)).toBe(6_000_000);
  });
});

describe('measures by their definitions', () => {
  const figure = (name: Parameters<typeof measureOf>[0], sums: Record<string, number>) =>
    measureOf(name).of((base) => sums[base] ?? 0);

  // Practice, no one source: billable hours by hours available. 120 of 160 hours.
  it('utilisation: 120 billable of 160 owed hours are 75 %', () => {
    expect(figure('utilisation', { exact: 120 * 3600, owed: 160 * 3600 })).toBe(7500);
    expect(figure('utilisation', { exact: 3600, owed: 0 })).toBeNull();
  });

  // Practice, no one source: what was invoiced by what the time was worth at standard rates. £8,500 of £10,000.
  it('realisation: £8,500 invoiced of £10,000 worth are 85 %', () => {
    expect(figure('realisation', { invoicedTime: 850_000, worth: 1_000_000 })).toBe(8500);
  });

  // Practice, no one source: fees by all hours worked, billable or not. £6,000 over 100 hours.
  it('effective rate: £6,000 over 100 hours are £60.00 an hour', () => {
    expect(figure('effective rate', { fees: 600_000, recorded: 360_000 })).toBe(6000);
    expect(figure('effective rate', { fees: 100, recorded: 0 })).toBeNull();
  });

  it('margin is price less cost, and its share is of the price', () => {
    const sums = { fees: 90_000, onCharged: 10_000, labourCost: 50_000, otherCost: 5000 };
    expect([figure('margin', sums), figure('margin percent', sums)]).toEqual([45_000, 4500]);
  });
});

describe('what is printed', () => {
  it('has the lines and figures of the screen', () => {
    const sheet = sheetOf(
      ask({ rows: ['client', 'project'], measures: ['recorded', 'worth'] }),
      'October',
      'For the file',
      'h:mm',
    );
    expect(sheet.levels).toEqual(['Client', 'Project']);
    expect(sheet.lines[1]).toMatchObject({ depth: 2, path: ['Fernhill Folk Museum', 'Museum gallery 3'] });
    expect(sheet.lines[1]!.cells.map(({ text }) => text)).toEqual(['2:00', '£156.00']);
    expect(sheet.total.cells[0]!.text).toBe('5:25');
  });

  it('writes figures of every kind', () => {
    expect(showFigure(null, 'percent', 'GBP', 'h:mm')).toBe('–');
    expect(showFigure(3661, 'length', 'GBP', 'h:mm')).toBe('1:01:01');
    expect(showFigure(8578, 'percent', 'GBP', 'h:mm')).toBe('85.8 %');
    expect(showFigure(1234, 'count', 'GBP', 'h:mm')).toBe('1,234');
    expect(showFigure(8251, 'money an hour', 'GBP', 'h:mm')).toBe('£82.51/h');
  });
});

describe('a definition that is read', () => {
  it('leaves out what means nothing, and names it', () => {
    const { definition, left } = readDefinition({
      rows: ['client', 'moon phase'],
      measures: ['recorded', 'luck'],
      filters: [{ field: 'colour', keys: ['red'], without: false }],
      sortBy: 'luck',
    });
    expect(definition).toMatchObject({ rows: ['client'], measures: ['recorded'], filters: [], sortBy: null });
    expect(left).toEqual([
      'the group “moon phase”',
      'the measure “luck”',
      'the filter on “colour”',
      'the order by “luck”',
    ]);
  });

  it('is refused where nothing is left to measure, or where it is none', () => {
    expect(() => readDefinition({ measures: ['luck'] })).toThrow(fault('invalid'));
    expect(() => readDefinition([])).toThrow(fault('other-file'));
    expect(() => readDefinition(null)).toThrow(fault('other-file'));
    expect(() => readDefinition({ when: { kind: 'fixed', from: '2026-13-01', to: '2026-01-01' } })).toThrow();
  });
});

describe('money of several currencies', () => {
  it('is never put together, and a price an hour is of the hours in its own money', () => {
    const words = facts.words;
    const table = new FactTable();
    const [pounds, euros] = [words.code('currency', 'GBP'), words.code('currency', 'EUR')];
    words.code('currency', 'USD');
    table.add({ currency: pounds, recorded: 3600, fees: 8000, day: 20_000 });
    table.add({ currency: euros, recorded: 7200, fees: 18_000, day: 20_000 });
    const definition = {
      ...plainDefinition,
      rows: [],
      measures: ['recorded', 'price', 'effective rate'],
      when: { kind: 'all' },
    } as const;
    const report = new OpenReport(words, facts.days, { definition: definition as unknown as Definition, runOn: DAY });
    for (const _ of report.run(table));
    const answer = report.answer();
    expect(answer.currencies).toEqual(['GBP', 'EUR']);
    expect(figureAt(answer, 'recorded', 0)).toBe(10_800);
    expect([0, 1].map((currency) => figureAt(answer, 'price', 0, 0, currency))).toEqual([8000, 18_000]);
    expect([0, 1].map((currency) => figureAt(answer, 'effective rate', 0, 0, currency))).toEqual([8000, 9000]);
  });
});
