import fc from 'fast-check';
import initSqlJs, { type Database } from 'sql.js';
import { expect, it } from 'vitest';
import { Pricer, readBook, toBill } from '../billing';
import type { MemoryStore } from '../engine';
import { DAY } from '../testing';
import { owedByAge, paymentHabits, toBillByAge, type AgedRow } from './ageing';
import { FactStore } from './fact-store';
import { readyMade } from './ready';
import { answerOfColumns, answerOfSql, dims, FACTS, load, randomStudio, someWork, sql } from '../testing/sql';
import { runs } from '../testing/runs';

const BAND = (age: string) =>
  `case when ${age} <= 30 then '0 to 30' when ${age} <= 60 then '31 to 60' when ${age} <= 90 then '61 to 90' else 'over 90' end`;

/** What is to bill and what is owed, by client and age, as SQL has it. */
function agesOfSql(
  database: Database,
  store: MemoryStore,
  today: string,
): { toBill: string[]; owed: string[]; habits: string[] } {
  database.run('drop table if exists sent');
  database.run('create table sent (id, name, day, due, payable, paid, last)');
  for (const { id, frozen, voided, kind } of store.rows('invoices')) {
    if (!frozen || voided || kind !== 'invoice') continue;
    const paid = store.rows('payments').filter((row) => row.invoiceId === id);
    const sum = paid.reduce((all, row) => all + row.amount, 0);
    const last = paid.reduce((day, row) => (row.day > day ? row.day : day), '');
    const { client, day, dueDay, payable } = frozen;
    database.run('insert into sent values (?, ?, ?, ?, ?, ?, ?)', [id, client.name, day, dueDay, payable, sum, last]);
  }
  const lines = (query: string) => (database.exec(query)[0]?.values ?? []).map((row) => row.join(' | ')).sort();
  // Halves away from nothing.
  const mean = (days: string) =>
    `case when sum(${days}) < 0 then -((2 * -sum(${days}) + count(*)) / (2 * count(*))) else (2 * sum(${days}) + count(*)) / (2 * count(*)) end`;
  const between = (from: string) => `cast(julianday(last) - julianday(${from}) as integer)`;
  const since = (day: string) => `cast(julianday('${today}') - julianday(${day}) as integer)`;
  return {
    toBill: lines(
      `${FACTS} select clientName, ${BAND(since('day'))}, sum(toBill) from facts where toBill <> 0 group by 1, 2`,
    ),
    owed: lines(
      `select name, case when ${since('due')} <= 0 then 'ahead' else ${BAND(since('due'))} end, sum(payable - paid)
       from sent where payable <> paid group by 1, 2`,
    ),
    habits: lines(
      `select name, count(*), ${mean(between('day'))}, ${mean(between('due'))} from sent where payable <= paid and last <> '' group by 1`,
    ),
  };
}

const agedLines = (rows: readonly AgedRow[]): string[] =>
  rows
    .flatMap((row) =>
      [['ahead', row.ahead] as const, ...Object.entries(row.bands)].map(([band, sum]) => ({ row, band, sum })),
    )
    .filter(({ sum }) => sum !== 0)
    .map(({ row, band, sum }) => `${row.name} | ${band} | ${sum}`)
    .sort();

const shared = [
  'recorded',
  'billable',
  'not billable',
  'billed',
  'worth',
  'labour cost',
  'other cost',
  'cost',
  'price',
  'margin',
  'invoiced',
  'to bill',
  'owed',
  'written down',
];

it('ready-made reports are what SQL computes from the same records, to the minor unit', async () => {
  const { Database } = await initSqlJs();
  const database = new Database();
  let asked = 0;
  let settled = 0;
  await fc.assert(
    fc.asyncProperty(someWork, async (entries) => {
      const { store } = await randomStudio(entries);
      load(database, store);
      const facts = await FactStore.read(store, DAY);
      const pricer = new Pricer(await readBook(store));
      const rows = { costs: store.rows('costs'), costLines: store.rows('costLines'), agreed: [], milestones: [] };
      const takings = [...store.rows('allocations'), ...store.rows('adjustments')];
      const owings = store.rows('invoices').map((invoice) => ({
        invoice,
        payments: store.rows('payments').filter((row) => row.invoiceId === invoice.id),
        credits: [],
      }));
      // Days on which some of it is just in one band of age, and some just in the next.
      for (const today of [DAY, '2026-12-06', '2027-01-05', '2027-02-04']) {
        const ages = agesOfSql(database, store, today);
        expect(agedLines(toBillByAge(toBill(pricer, store.rows('entries'), takings, rows), today))).toEqual(
          ages.toBill,
        );
        expect(agedLines(owedByAge(owings, today))).toEqual(ages.owed);
        const habits = paymentHabits(owings).map((row) =>
          [row.name, row.invoices, row.daysToPay, row.daysLate].join(' | '),
        );
        expect(habits.sort()).toEqual(ages.habits);
        settled += habits.length;
      }
      for (const { definition } of readyMade) {
        if (!definition.measures.every((each) => sql[each]) || !definition.rows.every((each) => dims[each])) continue;
        asked++;
        for (const when of [definition.when, { kind: 'moving', name: 'this month' }, { kind: 'all' }] as const) {
          const question = { ...definition, when };
          const own = answerOfColumns(facts, question);
          expect(own.leaves).toEqual(answerOfSql(database, question));
          // The whole is the sum of what is printed above it.
          definition.measures.forEach((measure, index) => {
            if (shared.includes(measure)) expect(own.all[index]).toBe(own.sums[index]);
          });
        }
      }
    }),
    { numRuns: runs(25) },
  );
  expect(asked).toBeGreaterThanOrEqual(runs(25) * 8);
  expect(settled).toBeGreaterThan(0);
});
