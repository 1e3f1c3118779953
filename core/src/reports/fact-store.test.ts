import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { netOf, Pricer, readBook, toBill } from '../billing';
import { MemoryExecutor } from '../commands';
import { MemoryStore } from '../engine';
import { Fault } from '../faults/fault';
import { DAY, setUp, TestContext, work, type Studio } from '../testing';
import { figureAt, OpenReport, type ReportResult } from './answer';
import { plainDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';
import { runs } from '../testing/runs';

const definition: Definition = {
  ...plainDefinition,
  rows: ['client', 'project', 'day', 'standing', 'tag'],
  measures: ['recorded', 'billable', 'billed', 'worth', 'invoiced', 'paid', 'to bill', 'written down', 'owed', 'count'],
  when: { kind: 'all' },
};

function open(facts: FactStore, asked: Definition = definition): OpenReport {
  const report = new OpenReport(facts.words, facts.days, { definition: asked, runOn: DAY });
  for (const _ of report.run(facts.table));
  return report;
}

/** Everything a report says, in an order of its own, so that two can be compared whatever codes they use. */
const said = (answer: ReportResult): string[] => {
  const path: string[] = [];
  return answer.rows
    .map((row, index) => {
      path.length = Math.max(0, row.depth - 1);
      if (row.depth > 0) path.push(row.label);
      return `${path.join(' / ')}: ${answer.definition.measures.map((each) => figureAt(answer, each, index)).join(' ')}`;
    })
    .sort();
};

const step = fc.record({
  what: fc.constantFrom(
    'add',
    'edit',
    'move',
    'remove',
    'draft',
    'takeOff',
    'issue',
    'void',
    'credit',
    'pay',
    'writeOff',
    'down',
    'cost',
    'tag',
    'undo',
  ),
  pick: fc.nat(1000),
  size: fc.integer({ min: 1, max: 20_000 }),
});

type Step = typeof step extends fc.Arbitrary<infer T> ? T : never;

const sourcesOn = (store: MemoryStore, invoiceId: string): string[] =>
  store
    .rows('allocations')
    .filter((row) => row.invoiceId === invoiceId)
    .map((row) => row.entryId ?? row.costLineId ?? '');

async function take(executor: MemoryExecutor, store: MemoryStore, at: Studio, { what, pick, size }: Step) {
  const entries = store.rows('entries');
  const invoices = store.rows('invoices');
  const entry = entries[pick % entries.length];
  const drafts = invoices.filter((row) => !row.frozen);
  const issued = invoices.filter((row) => row.frozen && !row.voided && row.kind === 'invoice');
  const draft = drafts[pick % drafts.length];
  const invoice = issued[pick % issued.length];
  const costLine = store.rows('costLines')[pick % store.rows('costLines').length];
  switch (what) {
    case 'add':
      return executor.run('entry.add', {
        ...work(pick % 2 ? at.rig : at.gallery, size),
        day: `2026-11-${10 + (pick % 3)}`,
        note: `note ${pick % 5}`,
      });
    case 'edit':
      return entry && executor.run('entry.edit', { id: entry.id, seconds: size });
    case 'move':
      return entry && executor.run('entry.edit', { id: entry.id, day: `2026-11-${10 + (pick % 3)}` });
    case 'remove':
      return entry && executor.run('entry.remove', { ids: [entry.id] });
    case 'draft':
      return executor.run('invoice.draft', {
        clientId: entry?.projectId === at.gallery ? at.museum : at.playhouse,
        entryIds: entry ? [entry.id] : [],
        ...(costLine && entry?.projectId === at.rig && pick % 2 ? { costLineIds: [costLine.id] } : {}),
      });
    case 'takeOff':
      return (
        draft && executor.run('invoice.takeOff', { id: draft.id, sourceIds: sourcesOn(store, draft.id).slice(0, 1) })
      );
    case 'issue':
      return draft && executor.run('invoice.issue', { id: draft.id });
    case 'void':
      return invoice && executor.run('invoice.void', { id: invoice.id, reason: 'test' });
    case 'credit':
      return invoice && executor.run('invoice.credit', { id: invoice.id, reason: 'test', free: pick % 2 === 0 });
    case 'pay':
    case 'writeOff':
      return (
        invoice &&
        executor.run('payment.add', {
          invoiceId: invoice.id,
          day: DAY,
          amount: 1 + (size % 900),
          note: 'agreed',
          kind: what === 'pay' ? 'payment' : 'write-off',
        })
      );
    case 'down':
      return (
        entry &&
        executor.run('bill.adjust', {
          kind: 'written down',
          reason: 'Too long',
          entryIds: [entry.id],
          parts: { [entry.id]: 1 + (size % 60) },
        })
      );
    case 'cost':
      return executor.run('cost.add', {
        kind: 'bill',
        day: DAY,
        currency: 'GBP',
        supplier: 'Tinsel & Reed',
        lines: [{ text: 'Lamps', amount: size, projectId: at.rig, forClient: true }],
      });
    case 'tag':
      return entry && executor.run('entry.tag', { ids: [entry.id], add: [`t${size % 3}`], remove: ['t1'] });
    case 'undo':
      return executor.undo();
  }
}

describe('facts of a workspace', () => {
  it('follow any changes as if they had been read again', async () => {
    const reached = new Set<string>();
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 20, maxLength: 60 }), async (steps) => {
        const test = new TestContext();
        const store = new MemoryStore();
        const executor = new MemoryExecutor(store, test.context);
        const at = await setUp(executor, test);
        let facts = await FactStore.read(store, DAY);
        let report = open(facts);
        for (const each of steps) {
          test.wait(1);
          try {
            const row = await take(executor, store, at, each);
            if (!row) continue;
            reached.add(each.what);
            // Only taking back what the studio was set up with has a say in everything.
            const follows = FactStore.canFollow([row]);
            expect(follows || each.what === 'undo').toBe(true);
            if (follows) await facts.follow([row], [report]);
            else facts = await FactStore.read(store, DAY);
            if (!follows || report.isStale(facts.days)) report = open(facts);
          } catch (thrown) {
            if (!(thrown instanceof Fault)) throw thrown;
          }
        }
        const fresh = await FactStore.read(store, DAY);
        // Days are owed from the first that anything was recorded on; only reading finds that there is an earlier one.
        const rows = (answer: ReportResult) => said(answer).filter((line) => !line.startsWith('No client'));
        expect(rows(report.answer()).slice(1)).toEqual(rows(open(fresh).answer()).slice(1));
        expect(facts.table.length).toBeLessThanOrEqual(fresh.table.length + 10);
      }),
      { numRuns: runs(80) },
    );
    // A step that is refused every time tries nothing.
    expect(reached.size, [...reached].join()).toBeGreaterThanOrEqual(12);
  });
});

describe('figures of a workspace', () => {
  let store: MemoryStore;
  let facts: FactStore;
  let at: Studio;
  let test: TestContext;
  let executor: MemoryExecutor;
  const whole = (measure: Definition['measures'][number], rest: Partial<Definition> = {}) =>
    figureAt(
      open(facts, { ...plainDefinition, rows: [], measures: [measure], when: { kind: 'all' }, ...rest }).answer(),
      measure,
      0,
    );

  beforeAll(async () => {
    test = new TestContext();
    store = new MemoryStore();
    executor = new MemoryExecutor(store, test.context);
    at = await setUp(executor, test);
    for (const [seconds, day] of [
      [3601, '2026-11-10'],
      [7200, '2026-11-11'],
      [1800, '2026-11-12'],
    ] as const) {
      await executor.run('entry.add', { ...work(at.rig, seconds), day });
    }
    await executor.run('entry.add', { ...work(at.gallery, 5000), day: '2026-11-12', billableSeconds: 2500 });
    const draft = await executor.run('invoice.draft', {
      clientId: at.playhouse,
      entryIds: [store.rows('entries')[0]!.id],
    });
    const id = draft.changes.find(({ table }) => table === 'invoices')!.id;
    await executor.run('invoice.issue', { id });
    await executor.run('payment.add', { invoiceId: id, day: DAY, amount: 5000, note: '' });
    facts = await FactStore.read(store, DAY);
  });

  it('are what billing says is to bill', async () => {
    const pricer = new Pricer(await readBook(store));
    const list = toBill(pricer, store.rows('entries'), store.rows('allocations'));
    expect(whole('to bill')).toBe(list.reduce((sum, each) => sum + each.amount, 0));
    expect(whole('to bill')).toBeGreaterThan(0);
  });

  it('are what invoices ask for before tax, and of that the part that was paid', () => {
    const [invoice] = store.rows('invoices');
    const net = netOf(invoice!.frozen!);
    expect(whole('invoiced')).toBe(net);
    // £50.00 came in of what is asked with 20 % on top.
    expect(whole('paid')).toBe(Math.round((net * 5000) / invoice!.frozen!.total));
  });

  it('tell recorded, billable, billed and rounding apart', () => {
    expect(whole('recorded')).toBe(3601 + 7200 + 1800 + 5000);
    expect(whole('billable')).toBe(3601 + 7200 + 1800 + 2500);
    expect(whole('not billable')).toBe(2500);
    // Rounded up to six minutes each: 3601 → 3960, 2500 → 2520.
    expect(whole('gain')).toBe(359 + 20);
  });

  it('owe 7 h 30 on each of three working days', () => {
    expect(whole('owed')).toBe(3 * 27_000);
    // Billable hours of those owed: 15,101 s of 81,000 s.
    expect(whole('utilisation')).toBe(1864);
  });

  it('count entries, whatever they are grouped by', () => {
    const answer = open(facts, {
      ...plainDefinition,
      rows: ['client'],
      measures: ['count'],
      when: { kind: 'all' },
    }).answer();
    expect(answer.rows.map((row, index) => [row.label, figureAt(answer, 'count', index)])).toEqual([
      ['All', 4],
      ['Fernhill Folk Museum', 1],
      ['Quayside Playhouse', 3],
    ]);
  });

  it('are read again where rates change, as they have a say in everything', async () => {
    const row = await executor.run('rate.edit', { id: store.rows('rateLines')[0]!.id, price: '79' });
    expect(FactStore.canFollow([row])).toBe(false);
  });
});
