import fc from 'fast-check';
import type { Database } from 'sql.js';
import type { MemoryStore } from '../engine';
import { Fault } from '../faults/fault';
import { DAY, freshStudio, work } from './studio';
import { figureAt, OpenReport } from '../reports/answer';
import type { Definition } from '../reports/definition';
import type { FieldName } from '../reports/fields';
import type { FactStore } from '../reports/fact-store';
import type { MeasureName } from '../reports/measures';
import { addDays } from '../time/day';
import { rangeOf } from '../reports/when';

// Ready-made reports against SQLite (https://sqlite.org, as sql.js), which computes everything from the records by itself: rounding up to
// six minutes, a rate for each project, costs charged on at cost, what stands on invoices, what was paid of it, hours owed by weekday.

export const RATE = `case when p.name = 'Winter season rig' then 8500 when p.clientId is not null then 7800 end`;
export const BILLED = (seconds: string) => `((${seconds}) + 359) / 360 * 360`;
/** The billed length of some of an entry's billable seconds. */
const DOWN = (seconds: string, exact: string) =>
  `(case when ${exact} = 0 then ${seconds} else ${OVER(`${BILLED(exact)} * ${seconds}`, exact)} end)`;
/** Half away from zero, of what is not negative. */
export const OVER = (numerator: string, denominator: string) =>
  `((2 * (${numerator}) + (${denominator})) / (2 * (${denominator})))`;

export const FACTS = `
with recursive
spoken as (
  select e.*, p.name as projectName, p.clientId, c.name as clientName, m.name as memberName, m.role,
    coalesce(e.billableSeconds, e.seconds) as exact, ${RATE} as rate,
    coalesce((select sum(seconds) from allocations a where a.entryId = e.id), 0)
      + coalesce((select sum(seconds) from adjustments j where j.entryId = e.id), 0) as taken,
    coalesce((select sum(billed) from allocations a where a.entryId = e.id), 0) as fixed,
    coalesce((select sum(seconds) from adjustments j where j.entryId = e.id), 0) as down,
    coalesce((select sum(seconds) from allocations a where a.entryId = e.id and a.amount is null), 0) as drafted,
    coalesce((select sum(amount) from allocations a where a.entryId = e.id), 0) as invoiced
  from entries e left join projects p on p.id = e.projectId left join clients c on c.id = p.clientId join members m on m.id = e.memberId
),
entry as (select *, max(0, ${BILLED('exact')} - fixed - ${DOWN('down', 'exact')}) as rest from spoken),
days as (
  select min(day) as day from entries
  union all select date(day, '+1 day') from days where day < '${DAY}'
),
facts as (
  select 'time' as what, clientName, projectName, memberName, role, day, note, null as reason, 'Labour' as costType,
    case when exact = 0 then 'Not billable' when exact < seconds then 'Billable in part' else 'Billable' end as billable,
    1 as count, seconds as recorded, exact, ${BILLED('exact')} as billed,
    coalesce(${OVER(`${BILLED('exact')} * rate`, '3600')}, 0) as worth,
    ${OVER('seconds * 3100', '3600')} as labourCost, 0 as otherCost,
    case when clientId is null then 0 else ${OVER(`${BILLED('exact')} * rate`, '3600')} end as fees, 0 as onCharged,
    0 as marked, invoiced, invoiced as invoicedTime, 0 as owed, 0 as writtenDown, 0 as downLength,
    case when clientId is not null and exact > taken
      then ${OVER(`(rest - ${OVER('rest * drafted', 'exact - taken + drafted')}) * rate`, '3600')} else 0 end as toBill,
    coalesce(${OVER(`${BILLED('exact')} * rate`, '3600')} - ${OVER('exact * rate', '3600')}, 0) as gained
  from entry
  union all
  select o.kind, c.name, p.name, null, null, o.day, l.text, null, 'Subcontract', 'Billable', 1, 0, 0, 0, 0, 0, l.amount, 0, l.amount, 0,
    coalesce((select sum(amount) from allocations a where a.costLineId = l.id), 0), 0, 0, 0, 0,
    max(0, l.amount - coalesce((select sum(part) from allocations a where a.costLineId = l.id), 0)), 0
  from costLines l join costs o on o.id = l.costId join projects p on p.id = l.projectId join clients c on c.id = p.clientId
  union all
  select 'day', null, null, m.name, m.role, d.day, null, null, null, null, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0,
    case when strftime('%w', d.day) in ('0', '6') then 0 else 27000 end, 0, 0, 0, 0
  from days d, members m
  union all
  select 'adjustment', e.clientName, e.projectName, e.memberName, e.role, j.day, e.note, j.reason, 'Labour', null, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0,
    0, 0, 0, ${OVER(`${DOWN('j.seconds', 'e.exact')} * e.rate`, '3600')},
    ${DOWN('j.seconds', 'e.exact')}, 0, 0
  from adjustments j join entry e on e.id = j.entryId
)`;

export const dims: Partial<Record<FieldName, string>> = {
  client: `coalesce(clientName, 'No client')`,
  project: `coalesce(projectName, 'No job yet')`,
  'whole project': `coalesce(projectName, 'No job yet')`,
  member: `coalesce(memberName, 'Nobody')`,
  role: `coalesce(role, 'No role')`,
  day: `day`,
  month: `strftime('%Y-%m', day)`,
  week: `date(day, '-6 days', 'weekday 1')`,
  note: `coalesce(nullif(note, ''), 'No note')`,
  reason: `coalesce(reason, 'No reason')`,
  'cost type': `coalesce(costType, 'No cost type')`,
  'cost code': `'No cost code'`,
  task: `'No task'`,
  service: `'No service'`,
};

/** A share in hundredths of a percent; nothing of nothing. */
export const PERCENT = (part: string, whole: string) =>
  `case when ${whole} = 0 then null else case when (${part}) < 0 then -${OVER(`-(${part}) * 10000`, whole)} else ${OVER(`(${part}) * 10000`, whole)} end end`;

export const sql: Partial<Record<MeasureName, string>> = {
  recorded: 'sum(recorded)',
  billable: 'sum(exact)',
  'not billable': 'sum(recorded) - sum(exact)',
  billed: 'sum(billed)',
  gain: 'sum(case when clientName is null then 0 else billed - exact end)',
  worth: 'sum(worth)',
  'labour cost': 'sum(labourCost)',
  'other cost': 'sum(otherCost)',
  cost: 'sum(labourCost) + sum(otherCost)',
  markup: 'sum(marked)',
  price: 'sum(fees) + sum(onCharged)',
  margin: 'sum(fees) + sum(onCharged) - sum(labourCost) - sum(otherCost)',
  'margin percent': PERCENT(
    'sum(fees) + sum(onCharged) - sum(labourCost) - sum(otherCost)',
    '(sum(fees) + sum(onCharged))',
  ),
  invoiced: 'sum(invoiced)',
  'to bill': 'sum(toBill)',
  owed: 'sum(owed)',
  'written down': 'sum(writtenDown)',
  'written down length': 'sum(downLength)',
  // What nobody gave up.
  'written off': '0',
  'gain worth': 'sum(gained)',
  utilisation: PERCENT('sum(exact)', 'sum(owed)'),
  realisation: PERCENT('sum(invoicedTime)', 'sum(worth)'),
  'effective rate': `case when sum(recorded) = 0 then null else ${OVER('sum(fees) * 3600', 'sum(recorded)')} end`,
  count: 'sum(count)',
  estimate: '0',
  rate: `case when sum(billed) = 0 then null else ${OVER('sum(worth) * 3600', 'sum(billed)')} end`,
};

export function load(database: Database, store: MemoryStore): void {
  const tables = {
    entries: ['id', 'memberId', 'day', 'projectId', 'note', 'seconds', 'billableSeconds'],
    projects: ['id', 'name', 'clientId'],
    clients: ['id', 'name'],
    members: ['id', 'name', 'role'],
    allocations: ['id', 'entryId', 'costLineId', 'seconds', 'billed', 'part', 'amount'],
    adjustments: ['id', 'entryId', 'day', 'seconds', 'reason'],
    costs: ['id', 'kind', 'day'],
    costLines: ['id', 'costId', 'projectId', 'text', 'amount'],
  } as const;
  for (const [table, columns] of Object.entries(tables) as [keyof typeof tables, readonly string[]][]) {
    database.run(`drop table if exists ${table}`);
    database.run(`create table ${table} (${columns.join(', ')})`);
    for (const row of store.rows(table)) {
      const values = columns.map(
        (column) => ((row as Record<string, unknown>)[column] as string | number | null) ?? null,
      );
      database.run(`insert into ${table} values (${columns.map(() => '?').join(', ')})`, values);
    }
  }
}

export function answerOfSql(database: Database, { rows, measures, filters, when }: Definition): string[] {
  const range = rangeOf(when, DAY, { periods: { kind: 'monthly', startsOn: 1 }, cutOff: 7 });
  const where = [
    range ? `day between '${range.from}' and '${range.to}'` : '1',
    ...filters.map(
      ({ field, keys }) =>
        `${{ what: 'what', billable: 'lower(billable)' }[field as string]} in (${keys.map((key) => `'${key}'`).join(', ')})`,
    ),
  ];
  const groups = rows.map((each) => dims[each]!);
  const select = [...groups, ...measures.map((each) => sql[each]!)].join(', ');
  const by = groups.length > 0 ? `group by ${groups.map((_, index) => index + 1).join(', ')}` : '';
  const [result] = database.exec(`${FACTS} select ${select} from facts where ${where.join(' and ')} ${by}`);
  return (result?.values ?? [])
    .filter((row) => row.slice(groups.length).some((value) => value !== 0 && value !== null))
    .map((row) => row.join(' | '))
    .sort();
}

/** Innermost groups as SQL has them: keys for days, names for all else. */
export function answerOfColumns(
  facts: FactStore,
  definition: Definition,
): { leaves: string[]; all: (number | null)[]; sums: (number | null)[] } {
  const report = new OpenReport(facts.words, facts.days, { definition, runOn: DAY });
  for (const _ of report.run(facts.table));
  const answer = report.answer();
  const path: string[] = [];
  const leaves: string[] = [];
  const figures = (row: number) => definition.measures.map((measure) => figureAt(answer, measure, row));
  answer.rows.forEach((row, index) => {
    path.length = Math.max(0, row.depth - 1);
    const field = definition.rows[row.depth - 1];
    if (field) path.push(['day', 'week', 'month'].includes(field) ? row.key : row.label);
    if (row.depth === definition.rows.length) leaves.push([...path, ...figures(index)].join(' | '));
  });
  const added = definition.measures.map((measure) =>
    answer.rows.reduce(
      (sum, row, index) => sum + (row.depth === definition.rows.length ? (figureAt(answer, measure, index) ?? 0) : 0),
      0,
    ),
  );
  return { leaves: leaves.sort(), all: figures(0), sums: added };
}

/** Work of which some is billed, paid for, or written down. */
const entry = fc.record({
  job: fc.constantFrom('rig', 'gallery', 'internal') as fc.Arbitrary<'rig' | 'gallery' | 'internal'>,
  seconds: fc.integer({ min: 1, max: 30_000 }),
  part: fc.option(fc.integer({ min: 0, max: 30_000 })),
  day: fc.integer({ min: 1, max: 12 }).map((day) => `2026-11-${String(day).padStart(2, '0')}`),
  note: fc.constantFrom('', 'Plot sheet 4', 'Case lighting', 'O’Hara’s “rig”'),
  fate: fc.constantFrom('left', 'left', 'drafted', 'issued', 'down'),
  size: fc.integer({ min: 1, max: 20_000 }),
});
export const someWork = fc.array(entry, { minLength: 1, maxLength: 25 });
type SomeWork = typeof someWork extends fc.Arbitrary<infer T> ? T : never;

/** A studio in which that work was done. */
export async function randomStudio(entries: SomeWork) {
  const studio = await freshStudio();
  const { store, run, at } = studio;
  await run('costRate.add', {
    memberId: at.member,
    role: null,
    price: '31',
    unit: 'hour',
    currency: 'GBP',
    from: '2026-01-01',
  } as never);
  for (const { job, seconds, part, day, note, fate, size } of entries) {
    const billableSeconds = part === null ? null : Math.min(part, seconds);
    const id = (await run('entry.add', { ...work(at[job], seconds), day, note, billableSeconds })).changes[0]!.id;
    if (job === 'internal' || billableSeconds === 0) continue;
    try {
      if (fate === 'down') {
        await run('bill.adjust', {
          kind: 'written down',
          reason: note || 'Too long',
          entryIds: [id],
          parts: { [id]: Math.min(size, billableSeconds ?? seconds) },
        });
      } else if (fate !== 'left') {
        await run('cost.add', {
          kind: 'bill',
          day,
          currency: 'GBP',
          supplier: 'Tinsel',
          lines: [{ text: 'Lamps', amount: size, projectId: at[job], forClient: true }],
        });
        const draft = await run('invoice.draft', {
          clientId: job === 'rig' ? at.playhouse : at.museum,
          entryIds: [id],
          costLineIds: size % 2 ? [store.rows('costLines').at(-1)!.id] : [],
        });
        const invoice = draft.changes.find(({ table }) => table === 'invoices')!.id;
        if (fate === 'issued') {
          await run('invoice.issue', { id: invoice, day });
          const amount =
            size % 3 === 0
              ? store.rows('invoices').find((row) => row.id === invoice)!.frozen!.payable
              : 1 + (size % 400);
          await run('payment.add', { invoiceId: invoice, day: addDays(day, size % 90), amount, note: '' });
        }
      }
    } catch (thrown) {
      if (!(thrown instanceof Fault)) throw thrown;
    }
  }
  return studio;
}
