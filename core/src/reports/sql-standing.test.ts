import fc from 'fast-check';
import initSqlJs, { type Database } from 'sql.js';
import { expect, it } from 'vitest';
import { Pricer, readBook } from '../billing';
import { standingOfBudget } from '../costing';
import { DAY } from '../testing';
import { answerOfColumns, answerOfSql, load, randomStudio, someWork } from '../testing/sql';
import { plainDefinition, type Definition } from './definition';
import type { Noticed } from './facts';
import { FactStore } from './fact-store';
import { readyMade } from './ready';
import { runs } from '../testing/runs';

// Reports on where things stand, and those of the trail, against SQLite (https://sqlite.org, as sql.js).

const OVER = (numerator: string, denominator: string) =>
  `((2 * (${numerator}) + ${denominator}) / (2 * ${denominator}))`;
const lines = (database: Database, query: string): string[] =>
  (database.exec(query)[0]?.values ?? []).map((row) => row.join(' | ')).sort();

it('budgets stand where SQL says: used, left, percent, pace, and the day they are used up', async () => {
  const { Database } = await initSqlJs();
  const database = new Database();
  const budgets = fc.array(
    fc.record({
      job: fc.constantFrom('rig', 'gallery') as fc.Arbitrary<'rig' | 'gallery'>,
      seconds: fc.integer({ min: 1, max: 200_000 }),
      money: fc.integer({ min: 1, max: 600_000 }),
    }),
    { minLength: 1, maxLength: 4 },
  );
  await fc.assert(
    fc.asyncProperty(someWork, budgets, async (entries, asked) => {
      const { store, run, at } = await randomStudio(entries);
      for (const { job, ...of } of asked) await run('budget.add', { projectId: at[job], ...of });
      load(database, store);
      database.run('drop table if exists budgets');
      database.run('create table budgets (id, projectId, seconds, money)');
      for (const { id, projectId, seconds, money } of store.rows('budgets'))
        database.run('insert into budgets values (?, ?, ?, ?)', [id, projectId, seconds, money]);
      const rate = `case when p.name = 'Winter season rig' then 8500 else 7800 end`;
      const worth = OVER(`(coalesce(e.billableSeconds, e.seconds) + 359) / 360 * 360 * ${rate}`, '3600');
      const days = (left: string, lately: string) =>
        `case when ${lately} > 0 and ${left} >= 0 then ${left} * 28 / ${lately} + 1 end`;
      const own = lines(
        database,
        `with used as (
           select b.id, b.seconds, b.money, coalesce(sum(e.seconds), 0) as hours, coalesce(sum(${worth}), 0) as worth,
             coalesce(sum(case when e.day between date('${DAY}', '-27 days') and '${DAY}' then e.seconds end), 0) as hoursLately,
             coalesce(sum(case when e.day between date('${DAY}', '-27 days') and '${DAY}' then ${worth} end), 0) as worthLately
           from budgets b left join entries e on e.projectId = b.projectId left join projects p on p.id = e.projectId group by b.id),
         measured as (
           select id, 'hours' as what, seconds as whole, hours as used, seconds - hours as remains, hoursLately as lately from used
           union all select id, 'money', money, worth, money - worth, worthLately from used)
         select id, what, used, remains, used * 100 / whole, lately, date('${DAY}', '+' || (${days('remains', 'lately')}) || ' days')
         from measured`,
      );
      const pricer = new Pricer(await readBook(store));
      const taken = [...store.rows('allocations'), ...store.rows('adjustments')];
      // The same bound on how far ahead is worth saying.
      const near = (row: string) =>
        row.replace(/ \| (\d{4}-\d\d-\d\d)$/, (_, day: string) => ` | ${day > '2029-11-14' ? '' : day}`);
      const computed = store.rows('budgets').flatMap((budget) => {
        const standing = standingOfBudget(pricer, budget, store.rows('entries'), taken, DAY);
        return (['hours', 'money'] as const).map((what) => {
          const { used, left, percent, pace, usedUpOn } = standing[what]!;
          return [budget.id, what, used, left, percent, Math.round(pace * 28), usedUpOn ?? ''].join(' | ');
        });
      });
      expect(computed.sort()).toEqual(own.map(near).sort());
    }),
    { numRuns: runs(25) },
  );
});

it('what was lost is what SQL says: by reason, and what rounding brought', async () => {
  const { Database } = await initSqlJs();
  const database = new Database();
  const question: Definition = {
    ...plainDefinition,
    rows: ['reason'],
    measures: ['written down', 'written down length', 'written off', 'gain', 'gain worth'],
    when: { kind: 'fixed', from: '2026-09-01', to: DAY },
  };
  let reasons = 0;
  await fc.assert(
    fc.asyncProperty(someWork, async (entries) => {
      const { store } = await randomStudio(entries);
      load(database, store);
      const facts = await FactStore.read(store, DAY);
      const own = answerOfColumns(facts, question);
      expect(own.leaves).toEqual(answerOfSql(database, question));
      expect(own.all).toEqual(own.sums);
      reasons += own.leaves.filter((line) => !line.startsWith('No reason')).length;
    }),
    { numRuns: runs(25) },
  );
  expect(reasons).toBeGreaterThan(0);
});

it('reports of the trail are what SQL sums of what was noticed', async () => {
  const { Database } = await initSqlJs();
  const database = new Database();
  const word = (...words: string[]) => fc.constantFrom('', ...words);
  const length = fc.option(fc.integer({ min: 1, max: 9000 }), { nil: undefined });
  const noticed = fc.record({
    day: fc.integer({ min: 1, max: 12 }).map((day) => `2026-11-${String(day).padStart(2, '0')}`),
    hour: fc.option(fc.integer({ min: 0, max: 23 })),
    job: fc.constantFrom(null, 'rig', 'gallery', 'internal'),
    program: word('Plotting desk', 'Mail'),
    site: word('museum.example'),
    folder: word('/jobs/2604', '/jobs/2602/“rev”'),
    document: word('plot 4.drw', 'O’Hara’s.drw'),
    openedFor: word('drawing'),
    front: length,
    inView: length,
    hands: length,
    kept: fc.option(fc.integer({ min: 1, max: 9 }), { nil: undefined }),
  });
  const fields = {
    ...{ program: 'No program', site: 'No site', folder: 'No folder', document: 'No document' },
  } as const;
  const dims: Record<string, string> = {
    ...Object.fromEntries(
      Object.entries(fields).map(([field, none]) => [field, `coalesce(nullif(${field}, ''), '${none}')`]),
    ),
    weekday: `case strftime('%w', day) when '0' then 'Sunday' when '1' then 'Monday' when '2' then 'Tuesday' when '3' then 'Wednesday'
      when '4' then 'Thursday' when '5' then 'Friday' else 'Saturday' end`,
    hour: `case when hour is null then 'No time of day' else printf('%02d:00', hour) end`,
    week: `date(day, '-6 days', 'weekday 1')`,
    client: `coalesce((select c.name from projects p join clients c on c.id = p.clientId where p.id = projectId), 'No client')`,
    project: `coalesce((select name from projects p where p.id = projectId), 'No job yet')`,
  };
  const spent = (percent: string) =>
    `sum(case when projectId in (select id from projects where name <> 'Studio') then coalesce(front, 0) * ${percent} end)`;
  const percent = `case projectId when (select id from projects where name = 'Winter season rig') then 80 else 35 end`;
  const sums: Record<string, string> = {
    front: 'coalesce(sum(front), 0)',
    'in view': 'coalesce(sum(inView), 0)',
    'hands on': 'coalesce(sum(hands), 0)',
    kept: 'coalesce(sum(kept), 0)',
    'weighted share': `case when coalesce(${spent('1')}, 0) = 0 then null else ${OVER(`${spent(percent)} * 10000`, `(${spent('100')})`)} end`,
  };
  const ofTrail = readyMade.filter(({ key }) => ['documents', 'attention', 'hours', 'spent'].includes(key));
  expect(ofTrail).toHaveLength(4);
  await fc.assert(
    fc.asyncProperty(fc.array(noticed, { minLength: 1, maxLength: 40 }), async (rows) => {
      const { store, run, at } = await randomStudio([]);
      await run('workspace.edit', {
        weights: [
          { id: at.rig, name: 'Plotting', percent: 80, projectIds: [at.rig] },
          { id: at.gallery, name: 'The rest', percent: 35, projectIds: [at.gallery] },
        ],
      });
      load(database, store);
      database.run('drop table if exists noticed');
      const columns = [
        'day',
        'hour',
        'projectId',
        'program',
        'site',
        'folder',
        'document',
        'front',
        'inView',
        'hands',
        'kept',
      ] as const;
      database.run(`create table noticed (${columns.join(', ')})`);
      const trail = rows.map(
        ({ job, ...row }): Noticed =>
          ({ ...row, memberId: at.member, projectId: job === null ? null : at[job as 'rig'] }) as Noticed,
      );
      for (const row of trail)
        database.run(
          `insert into noticed values (${columns.map(() => '?').join(', ')})`,
          columns.map((column) => row[column] ?? null),
        );
      const facts = await FactStore.read(store, DAY);
      facts.putTrail(trail);
      for (const { definition } of ofTrail) {
        // Columns are one more level here: SQL knows no others.
        const levels = definition.columns === null ? definition.rows : [...definition.rows, definition.columns];
        const question: Definition = { ...definition, rows: levels, columns: null, when: { kind: 'all' } };
        const groups = levels.map((each) => dims[each]!);
        const measured = question.measures.map((each) => sums[each]!);
        const [result] = database.exec(
          `select ${[...groups, ...measured].join(', ')} from noticed group by ${groups.map((_, index) => index + 1).join(', ')}`,
        );
        const expected = (result?.values ?? [])
          .filter((row) => row.slice(groups.length).some((value) => value !== 0 && value !== null))
          .map((row) => row.join(' | '))
          .sort();
        expect(answerOfColumns(facts, question).leaves).toEqual(expected);
      }
      // A second look puts itself in the place of the first.
      facts.putTrail(trail.slice(0, 1));
      const front = { ...plainDefinition, rows: [], measures: ['front' as const], when: { kind: 'all' as const } };
      expect(answerOfColumns(facts, front).all).toEqual([trail[0]!.front ?? 0]);
    }),
    { numRuns: runs(40) },
  );
});
