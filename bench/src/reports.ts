import { Pricer, readBook } from '@half-penny/core/billing';
import {
  FactTable,
  figureAt,
  OpenReport,
  plainDefinition,
  Dictionaries,
  type Definition,
  type Fact,
} from '@half-penny/core/reports';
import type * as Duck from '@duckdb/duckdb-wasm/blocking';
import { makeDemo } from '@half-penny/demo';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import initSqlJs from 'sql.js';
import { compare, count, median, note, report } from './measure';

const FACTS = count(1_000_000, 20_000);
const DAYS = 730;
const FIRST = 20_000;
const columns = [
  'client',
  'service',
  'member',
  'day',
  'standing',
  'recorded',
  'exact',
  'billed',
  'worth',
  'labourCost',
  'toBill',
] as const;
type Columns = Record<(typeof columns)[number], Int32Array | Float64Array>;

const question: Definition = {
  ...plainDefinition,
  rows: ['client', 'service', 'member'],
  measures: ['recorded', 'billable', 'billed', 'worth', 'labour cost', 'to bill'],
  filters: [{ field: 'standing', keys: ['to bill', 'invoiced', 'paid'], without: false }],
  when: { kind: 'all' },
};

const SQL = `select client, service, member, sum(recorded), sum(exact), sum(billed), sum(worth), sum(labourCost), sum(toBill)
  from facts where standing in (1, 3, 4) group by client, service, member`;

/**
 * The same question asked of our columns, of SQLite and DuckDB (as WebAssembly, in memory), and one bare pass over the columns it reads;
 * what a table of ten times as many facts takes; and what one changed entry takes of an open report.
 */
export async function benchReports(): Promise<void> {
  const store = await makeDemo({ now: Date.parse('2026-11-12T15:00:00Z') });
  const pricer = new Pricer(await readBook(store));
  const data = makeColumns(FACTS);
  const words = wordsFor(pricer);
  const start = performance.now();
  const table = tableOf(data, FACTS);
  const built = performance.now() - start;
  note(`Columns of ${FACTS} facts: ${Math.round(built)} ms to put together`);
  let sum = 0;
  const own = await median(7, () => (sum = ask(words, table)));
  const bare = await median(7, () => barePass(table));
  const lite = await sqlite(data);
  const duck = await duckdb(data);
  for (const [name, peer] of Object.entries({ lite, duck })) {
    if (peer.worth !== sum) throw new Error(`${name} answers ${peer.worth}, the columns ${sum}`);
  }
  report('Three levels, six measures, a filter', own, 'SQLite (sql.js)', lite.ms, 1 / 15);
  report('The same', own, 'DuckDB-wasm', duck.ms, 1);
  report('The same', own, 'one bare pass', bare, 5);
  await benchChange(words, table, built + own);
  benchMore(words);
}

function ask(words: Dictionaries, table: FactTable): number {
  const open = new OpenReport(
    words,
    { from: '2024-10-04', to: '2026-10-03' },
    { definition: question, runOn: '2026-11-12' },
  );
  for (const _ of open.run(table));
  return figureAt(open.answer(), 'worth', 0)!;
}

/** Adds up every column that the question reads, each by itself. */
function barePass(table: FactTable): number {
  let sum = 0;
  for (const chunk of table.chunks) {
    for (const base of ['client', 'service', 'member', 'standing', 'currency'] as const) {
      const codes = chunk.codes[base];
      if (codes) for (let i = 0; i < chunk.length; i++) sum += codes[i]!;
    }
    for (const measure of ['recorded', 'exact', 'billed', 'worth', 'labourCost', 'toBill'] as const) {
      const values = chunk.measures[measure];
      if (values instanceof Int32Array) for (let i = 0; i < chunk.length; i++) sum += values[i]!;
      else if (values) for (let i = 0; i < chunk.length; i++) sum += values[i]!;
    }
  }
  return sum;
}

async function benchChange(words: Dictionaries, table: FactTable, full: number): Promise<void> {
  const open = new OpenReport(
    words,
    { from: '2024-10-04', to: '2026-10-03' },
    { definition: question, runOn: '2026-11-12' },
  );
  for (const _ of open.run(table));
  const source = Math.floor(FACTS / 13);
  const change = await median(7, () => {
    open.follow(table, table.rowsOf(source), -1);
    table.remove(source);
    table.add({ ...factAt(makeColumns(1), 0), source });
    open.follow(table, table.rowsOf(source), 1);
    open.answer();
  });
  report('One changed entry in an open report', change, 'columns and report made again', full, 1 / 20);
}

/** Ten times as many facts: linear time, within 2 GB. */
function benchMore(words: Dictionaries): void {
  const data = makeColumns(FACTS);
  const took: number[] = [];
  for (const times of [1, 10]) {
    const table = new FactTable();
    for (let i = 0; i < times; i++) fill(table, data, FACTS, false);
    const runs = Array.from({ length: 5 }, () => {
      const start = performance.now();
      ask(words, table);
      return performance.now() - start;
    }).sort((a, b) => a - b);
    took.push(runs[2]!);
  }
  report('Ten times as many facts, a tenth of', took[1]! / 10, 'the facts once', took[0]!, 1.2);
  const peak = process.resourceUsage().maxRSS / 1024;
  compare({
    what: 'Peak memory with them',
    own: `${Math.round(peak)} MB`,
    peer: 'limit',
    other: '2048 MB',
    ratio: peak / 2048,
    aim: 1,
  });
}

function makeColumns(many: number): Columns {
  let seed = 7;
  const random = (below: number) => {
    seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
    return Math.floor((seed / 0x80000000) * below);
  };
  const whole = () => new Int32Array(many);
  const data: Columns = {
    client: whole(),
    service: whole(),
    member: whole(),
    day: whole(),
    standing: whole(),
    recorded: whole(),
    exact: whole(),
    billed: whole(),
    worth: new Float64Array(many),
    labourCost: new Float64Array(many),
    toBill: new Float64Array(many),
  };
  for (let i = 0; i < many; i++) {
    data.client[i] = 1 + random(40);
    data.service[i] = 1 + random(12);
    data.member[i] = 1 + random(25);
    data.day[i] = FIRST + random(DAYS);
    data.standing[i] = 1 + random(6);
    const seconds = 300 + random(28_000);
    data.recorded[i] = seconds;
    data.exact[i] = random(4) === 0 ? 0 : seconds;
    data.billed[i] = Math.ceil(data.exact[i]! / 900) * 900;
    data.worth[i] = Math.round((data.billed[i]! * (4000 + random(9000))) / 3600);
    data.labourCost[i] = Math.round((seconds * 3100) / 3600);
    data.toBill[i] = data.standing[i] === 1 ? data.worth[i]! : 0;
  }
  return data;
}

const factAt = (data: Columns, i: number): Fact => ({
  what: 1,
  client: data.client[i]!,
  service: data.service[i]!,
  member: data.member[i]!,
  day: data.day[i]!,
  standing: data.standing[i]!,
  currency: 1,
  count: 1,
  recorded: data.recorded[i]!,
  exact: data.exact[i]!,
  billed: data.billed[i]!,
  worth: data.worth[i]!,
  labourCost: data.labourCost[i]!,
  toBill: data.toBill[i]!,
});

function fill(table: FactTable, data: Columns, many: number, sourced: boolean): void {
  for (let i = 0; i < many; i++) table.add(sourced ? { ...factAt(data, i), source: i + 1 } : factAt(data, i));
}

function tableOf(data: Columns, many: number): FactTable {
  const table = new FactTable();
  fill(table, data, many, true);
  return table;
}

function wordsFor(pricer: Pricer): Dictionaries {
  const words = new Dictionaries(pricer);
  for (const base of ['client', 'service', 'member'] as const) {
    for (let i = 1; i <= 40; i++) words.code(base, `${base} ${i}`);
  }
  words.code('currency', 'GBP');
  return words;
}

async function sqlite(data: Columns): Promise<{ ms: number; worth: number }> {
  const { Database } = await initSqlJs();
  const database = new Database();
  database.run(`create table facts (${columns.map((name) => `${name} integer`).join(', ')})`);
  database.run('begin');
  const insert = database.prepare(`insert into facts values (${columns.map(() => '?').join(', ')})`);
  for (let i = 0; i < FACTS; i++) insert.run(columns.map((name) => data[name][i]!));
  insert.free();
  database.run('commit');
  let worth = 0;
  const ms = await median(3, () => {
    const [result] = database.exec(SQL);
    worth = result!.values.reduce((sum, row) => sum + Number(row[6]), 0);
  });
  database.close();
  return { ms, worth };
}

async function duckdb(data: Columns): Promise<{ ms: number; worth: number }> {
  const require = createRequire(import.meta.url);
  const duckdb = require('@duckdb/duckdb-wasm/blocking') as typeof Duck;
  const folder = dirname(require.resolve('@duckdb/duckdb-wasm/dist/duckdb-mvp.wasm'));
  const bundle = (name: string) => ({
    mainModule: join(folder, `duckdb-${name}.wasm`),
    mainWorker: join(folder, `duckdb-node-${name}.worker.cjs`),
  });
  const database = await duckdb.createDuckDB(
    { mvp: bundle('mvp'), eh: bundle('eh') },
    new duckdb.VoidLogger(),
    duckdb.NODE_RUNTIME,
  );
  await database.instantiate(() => undefined);
  const connection = database.connect();
  // As bytes of CSV, which it reads fastest of what needs no other library.
  const lines: string[] = [columns.join(',')];
  for (let i = 0; i < FACTS; i++) lines.push(columns.map((name) => data[name][i]).join(','));
  database.registerFileText('facts.csv', lines.join('\n'));
  connection.query(
    `create table facts as select ${columns.map((name) => `${name}::bigint as ${name}`).join(', ')} from read_csv_auto('facts.csv')`,
  );
  let worth = 0;
  const ms = await median(7, () => {
    worth = 0;
    for (const row of connection.query(SQL).toArray()) worth += Number(row.toJSON()['sum(worth)']);
  });
  connection.close();
  return { ms, worth };
}
