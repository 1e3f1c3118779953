import { beforeAll, describe, expect, it } from 'vitest';
import { DAY, freshStudio, work } from '../testing';
import type { BudgetStanding } from '../costing/budget';
import type { AgedRow } from './ageing';
import { OpenReport } from './answer';
import { plainDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';
import { readyMade } from './ready';
import { agedPicture, budgetPicture, smallPicture, smallQuestion } from './small-picture';

let facts: FactStore;

beforeAll(async () => {
  const { run, store, at } = await freshStudio();
  for (const [projectId, hours, day] of [
    [at.rig, 1, '2026-11-02'],
    [at.gallery, 3, '2026-11-03'],
    [at.rig, 1, '2026-11-09'],
    [at.internal, 0.5, '2026-11-09'],
  ] as const) {
    await run('entry.add', { ...work(projectId, hours * 3600), day });
  }
  facts = await FactStore.read(store, DAY);
});

const draw = (definition: Partial<Definition>, measure?: Parameters<typeof smallQuestion>[1]) => {
  const question = smallQuestion({ ...plainDefinition, when: { kind: 'all' }, ...definition }, measure);
  const report = new OpenReport(facts.words, facts.days, { definition: question, runOn: DAY });
  for (const _ of report.run(facts.table));
  return smallPicture(report.answer());
};

describe('a small picture', () => {
  it('draws the outermost groups by the first measure, the largest first, with the whole', () => {
    expect(draw({ rows: ['client', 'project'], measures: ['recorded', 'worth'] })).toMatchObject({
      measure: 'recorded',
      kind: 'length',
      overTime: false,
      points: [
        { label: 'Fernhill Folk Museum', value: 10_800 },
        { label: 'Quayside Playhouse', value: 7200 },
        { label: 'No client', value: 1800 },
      ],
      whole: 19_800,
      others: false,
    });
  });

  it('draws time as it went by', () => {
    const picture = draw({ rows: ['week', 'client'], measures: ['recorded'], sortBy: null });
    expect(picture).toMatchObject({ overTime: true, points: [{ value: 14_400 }, { value: 5400 }] });
  });

  it('draws what it is sorted by, or another measure that it is told, with the filters of the report', () => {
    expect(draw({ rows: ['client'], measures: ['recorded', 'worth'], sortBy: 'worth' })?.measure).toBe('worth');
    expect(draw({ rows: ['client'], measures: ['recorded'], sortBy: 'worth' }, 'billable')?.measure).toBe('billable');
    const filters: Definition['filters'] = [{ field: 'what', keys: ['cost'], without: false }];
    expect(draw({ rows: ['client'], measures: ['recorded'], filters })).toBeNull();
  });

  it('of every report that comes with the product asks one level and one measure of the same days', () => {
    for (const { definition, picture } of readyMade) {
      const small = smallQuestion(definition, picture);
      expect(small.measures).toHaveLength(1);
      expect(small.rows).toEqual(definition.rows.slice(0, 1));
      expect(small.when).toEqual(definition.when);
    }
  });
});

const aged = (currency: string, all: number, ahead = 0): AgedRow => ({
  clientId: currency,
  name: currency,
  currency,
  ahead,
  bands: { '0 to 30': all - ahead, '31 to 60': 0, '61 to 90': 0, 'over 90': 0 },
  all,
  held: 0,
  heldUntil: null,
  oldest: 3,
});

it('amounts by age are drawn in the studio’s currency, else in another, and never put together', () => {
  const options = { ahead: true, measure: 'invoiced' } as const;
  expect(agedPicture([aged('EUR', 900), aged('GBP', 500, 200), aged('GBP', 100)], 'GBP', options)).toMatchObject({
    points: [{ label: 'Not due yet', value: 200 }, { label: '0 to 30 days', value: 400 }, {}, {}, {}],
    whole: 600,
    currency: 'GBP',
    others: true,
  });
  const abroad = agedPicture([aged('GBP', 0), aged('EUR', 900)], 'GBP', { ...options, ahead: false });
  expect(abroad).toMatchObject({ whole: 900, currency: 'EUR', others: false });
  expect(abroad?.points.map(({ value }) => value)).toEqual([900, 0, 0, 0]);
  expect(agedPicture([aged('GBP', 0)], 'GBP', options)).toBeNull();
});

it('budgets are drawn by the share that is used, the fullest first', () => {
  const standing = (id: string, hours: number | null, money: number | null) =>
    ({
      budget: { id },
      hours: hours === null ? null : { percent: hours },
      money: money === null ? null : { percent: money },
    }) as unknown as BudgetStanding;
  const picture = budgetPicture([standing('a', 40, 62), standing('b', 93, null)], ({ budget }) => budget.id);
  expect(picture?.points).toEqual([
    { label: 'b', value: 9300 },
    { label: 'a', value: 6200 },
  ]);
  expect(budgetPicture([], () => '')).toBeNull();
});
