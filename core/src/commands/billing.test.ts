import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  Charges,
  computeDraft,
  owedOn,
  postingsOf,
  Pricer,
  readBook,
  standingOf,
  reservedBySource,
  toBill,
  tryOnePrice,
} from '../billing';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Allocation, Entry, Invoice } from '../model/records';
import { brokenRules } from '../testing/en16931';
import { DAY, freshStudio, setUp, TestContext, work } from '../testing/studio';
import { checkWorkspace } from './check-workspace';
import { MemoryExecutor } from './executor';
import { MemoryStore } from '../engine/memory';
import { runs } from '../testing/runs';
import { fault } from '../testing/fault';

const rowsOf = (store: MemoryStore) => ({
  costs: store.rows('costs'),
  costLines: store.rows('costLines'),
  agreed: store.rows('agreed'),
  milestones: store.rows('milestones'),
});
const takingsOf = (store: MemoryStore) => [...store.rows('allocations'), ...store.rows('adjustments')];
const openOf = async (store: MemoryStore) =>
  toBill(new Pricer(await readBook(store)), store.rows('entries'), takingsOf(store), rowsOf(store));

/** The museum's gallery at cost plus, with a bill of two lines and an extra; materials with the practice's 35 %. */
async function gallery() {
  const fresh = await freshStudio();
  const { at, run, added, store } = fresh;
  await run('project.edit', { id: at.gallery, kind: 'cost-plus' });
  const lamps = await added('costCode.add', { code: '20', name: 'Lamps', costType: 'material' });
  await run('markup.add', { projectId: at.gallery, costType: 'material', from: '2026-01-01', percent: '35' });
  const bill = await added('cost.add', {
    kind: 'bill',
    day: DAY,
    currency: 'GBP',
    supplier: 'Brightwater Supplies',
    lines: [
      { text: 'Lamps', amount: 10_000, projectId: at.gallery, costCodeId: lamps },
      { text: 'Gel', quantity: '4', price: '12.5', projectId: at.gallery, costCodeId: lamps },
    ],
  });
  const [lampLine, gelLine] = store.rows('costLines').map((row) => row.id) as [Id, Id];
  const draft = async (input: object) => {
    const row = await run('invoice.draft', { clientId: at.museum, ...input });
    return row.changes.find((change) => change.table === 'invoices')!.id;
  };
  const invoice = (id: Id) => store.rows('invoices').find((row) => row.id === id)!;
  return { ...fresh, lamps, bill, lampLine, gelLine, draft, invoice };
}

describe('costs to bill', () => {
  it('are marked up, leave the list when they are on a draft, and come back when it is discarded', async () => {
    const { store, draft, lampLine, gelLine, run } = await gallery();
    const amounts = async () => (await openOf(store)).flatMap((each) => each.charges.map((charge) => charge.amount));
    expect(await amounts()).toEqual([13_500, 6750]);
    const id = await draft({ costLineIds: [lampLine] });
    expect(await amounts()).toEqual([6750]);
    await expect(draft({ costLineIds: [lampLine] })).rejects.toThrow(fault('already-billed'));
    await run('invoice.discard', { id });
    expect(await amounts()).toEqual([13_500, 6750]);
    await draft({ costLineIds: [lampLine, gelLine], parts: { [lampLine]: 4000 } });
    expect(await amounts()).toEqual([8100]);
  });

  it('follow the cost on a draft, and stay as billed once issued', async () => {
    const { store, draft, lampLine, bill, run } = await gallery();
    const id = await draft({ costLineIds: [lampLine] });
    const lines = store.rows('costLines').map(({ costId: _, order: __, ...line }) => line);
    const dearer = lines.map((line) => (line.id === lampLine ? { ...line, amount: 12_000 } : line));
    await run('cost.edit', { id: bill, lines: dearer });
    expect(store.rows('allocations').map((row) => row.part)).toEqual([12_000]);
    await run('invoice.issue', { id });
    const cheaper = lines.map((line) => (line.id === lampLine ? { ...line, amount: 9000 } : line));
    await expect(run('cost.edit', { id: bill, lines: cheaper })).rejects.toThrow(fault('more-than-left'));
    await expect(run('cost.edit', { id: bill, lines: lines.filter((line) => line.id !== lampLine) })).rejects.toThrow(
      'is on SL-0001',
    );
    await expect(run('cost.remove', { ids: [bill] })).rejects.toThrow('is on SL-0001');
  });

  it('are written down, up, never billed or left for later, with a reason', async () => {
    const { store, run, lampLine, gelLine } = await gallery();
    const left = async () => (await openOf(store))[0]?.charges.map((charge) => charge.part);
    await expect(run('bill.adjust', { costLineIds: [lampLine], kind: 'never billed', reason: ' ' })).rejects.toThrow(
      fault('invalid'),
    );
    await run('bill.adjust', {
      costLineIds: [lampLine],
      kind: 'written down',
      parts: { [lampLine]: 2500 },
      reason: 'Broken',
    });
    expect(await left()).toEqual([7500, 5000]);
    await run('bill.adjust', {
      costLineIds: [gelLine],
      kind: 'written down',
      parts: { [gelLine]: -1000 },
      reason: 'Carriage',
    });
    expect(await left()).toEqual([7500, 6000]);
    await run('bill.adjust', { costLineIds: [gelLine], kind: 'never billed', reason: 'Goodwill' });
    expect(await left()).toEqual([7500]);
    await run('bill.restore', { ids: store.rows('adjustments').map((row) => row.id) });
    expect(await left()).toEqual([10_000, 5000]);
    await run('bill.adjust', { costLineIds: [gelLine], kind: 'later', reason: '', until: '2026-12-01' });
    expect(store.rows('adjustments')[0]).toMatchObject({ kind: 'later', part: 0, until: '2026-12-01' });
  });

  it('are only what the client pays for: internal lines, tax claimed back and covered headings are not', async () => {
    const { store, run, at, lamps, gelLine } = await gallery();
    await run('bill.internal', { costLineIds: [gelLine] });
    expect((await openOf(store))[0]!.charges).toHaveLength(1);
    await run('agreed.add', {
      projectId: at.gallery,
      kind: 'estimate',
      costCodeId: lamps,
      text: 'Lamps',
      amount: 20_000,
      billed: true,
    });
    // The estimate is billed in place of what was spent under its heading.
    expect((await openOf(store))[0]!.charges.map((charge) => [charge.kind, charge.amount])).toEqual([
      ['estimate', 20_000],
    ]);
  });
});

describe('amounts agreed', () => {
  it('are to bill once the client agreed, once the milestone is reached, and never past the price', async () => {
    const { store, run, added, at } = await gallery();
    const extra = await added('agreed.add', {
      projectId: at.gallery,
      kind: 'extra',
      text: 'Second plot',
      amount: 30_000,
    });
    const kinds = async () => (await openOf(store)).flatMap((each) => each.charges.map((charge) => charge.kind)).sort();
    expect(await kinds()).toEqual(['bill', 'bill']);
    await run('agreed.edit', { id: extra, agreedOn: DAY, agreedBy: 'Production manager' });
    expect(await kinds()).toEqual(['bill', 'bill', 'extra']);
    await run('project.edit', { id: at.rig, kind: 'fixed price', fixedPrice: 100_000 });
    const milestoneId = await added('milestone.add', { projectId: at.rig, name: 'Focus', day: DAY, reached: false });
    await run('agreed.add', { projectId: at.rig, kind: 'fixed', text: 'First half', amount: 50_000, milestoneId });
    expect(await kinds()).toEqual(['bill', 'bill', 'extra']);
    await run('milestone.edit', { id: milestoneId, reached: true });
    expect(await kinds()).toEqual(['bill', 'bill', 'extra', 'fixed']);
    await expect(
      run('agreed.add', { projectId: at.rig, kind: 'fixed', text: 'Too much', amount: 50_001 }),
    ).rejects.toThrow('more than its price of £1,000.00');
  });
});

describe('a draft', () => {
  it('takes new time as it is recorded, where it was told to', async () => {
    const { store, run, draft, at, lampLine } = await gallery();
    const id = await draft({ costLineIds: [lampLine] });
    await run('invoice.edit', { id, collects: true });
    await run('entry.add', work(at.gallery, 3600));
    await run('entry.add', work(at.rig, 3600));
    expect(
      store
        .rows('allocations')
        .filter((row) => row.entryId !== null)
        .map((row) => row.seconds),
    ).toEqual([3600]);
    await expect(
      run('invoice.edit', {
        id: await draft({
          costLineIds: store
            .rows('costLines')
            .map((row) => row.id)
            .slice(1),
        }),
        collects: true,
      }),
    ).rejects.toThrow(fault('already'));
  });

  it('has markups and prices of its own', async () => {
    const { store, run, draft, at, added, lampLine } = await gallery();
    const entry = await added('entry.add', work(at.gallery, 3600));
    const id = await draft({ costLineIds: [lampLine], entryIds: [entry] });
    await run('invoice.markUp', { id, sourceIds: [lampLine], markup: '10' });
    await run('invoice.deal', { id, entryIds: [entry], text: 'As agreed', amount: 4200 });
    await run('invoice.issue', { id });
    const { frozen } = store.rows('invoices')[0]!;
    expect(frozen!.lines.map((line) => [line.text, line.amount]).sort()).toEqual([
      ['As agreed', 4200],
      ['Lamps', 11_000],
    ]);
    expect(frozen!.lines.find((line) => line.text === 'Lamps')!.account).toBe('4900');
  });

  it('is begun with one price for the hours that are picked', async () => {
    const { store, run, draft, at, added, lampLine } = await gallery();
    const entryIds = [
      await added('entry.add', work(at.gallery, 3600)),
      await added('entry.add', work(at.gallery, 1800)),
    ];
    await expect(draft({ costLineIds: [lampLine], deal: { text: '', amount: 1 } })).rejects.toThrow(fault('invalid'));
    await expect(draft({ entryIds, deal: { text: '' } })).rejects.toThrow(fault('invalid'));
    const id = await draft({ costLineIds: [lampLine], entryIds, deal: { text: 'Plans', price: '64' } });
    await run('invoice.issue', { id });
    const { frozen } = store.rows('invoices').find((row) => row.id === id)!;
    expect(frozen!.lines.map((line) => [line.text, line.amount]).sort()).toEqual([
      ['Lamps', 13_500],
      ['Plans', 9600],
    ]);
    // An hour at the price agreed is printed as any other: 1:30 h × 64.00.
    expect(frozen!.lines.find((line) => line.text === 'Plans')).toMatchObject({
      seconds: 5400,
      unit: 'hour',
      price: '64',
    });
    // One press, one change: undone as a whole.
    expect(store.rows('allocations')).toHaveLength(3);
  });

  it('shows what one price makes of hours before it is set: for all of them, or an hour', async () => {
    const { store, draft, at, added } = await gallery();
    const entryIds = [
      await added('entry.add', work(at.gallery, 3600)),
      await added('entry.add', work(at.gallery, 1800)),
    ];
    const id = await draft({ entryIds });
    const pricer = new Pricer(await readBook(store));
    const input = {
      invoice: store.rows('invoices').find((row) => row.id === id)!,
      entries: store.rows('entries'),
      allocations: store.rows('allocations'),
      day: DAY,
    };
    const { net } = computeDraft(pricer, input).totals;
    expect(tryOnePrice(pricer, input, entryIds, { amount: 9999, price: null })).toEqual({ before: net, after: 9999 });
    expect(tryOnePrice(pricer, input, entryIds, { amount: null, price: '80' })).toEqual({ before: net, after: 12_000 });
    expect(tryOnePrice(pricer, input, entryIds.slice(1), { amount: null, price: '80' }).after).toBe(4000);
    expect(tryOnePrice(pricer, input, [], { amount: 1, price: null })).toEqual({ before: 0, after: 0 });
  });

  it('deducts deposits and retention; a deposit is deducted once', async () => {
    const { run, draft, added, at, lampLine, gelLine, invoice } = await gallery();
    const deposit = await added('deposit.add', { clientId: at.museum, day: DAY, amount: 5000, currency: 'GBP' });
    const id = await draft({ costLineIds: [lampLine] });
    await run('invoice.edit', { id, deposits: [{ depositId: deposit, amount: 5000 }], retention: '5' });
    await run('invoice.issue', { id });
    // 135.00 + 20 % = 162.00; less 50.00 paid ahead and 5 % of 135.00 held back = 105.25.
    expect(invoice(id).frozen).toMatchObject({ total: 16_200, payable: 10_525 });
    const second = await draft({ costLineIds: [gelLine] });
    await expect(run('invoice.edit', { id: second, deposits: [{ depositId: deposit, amount: 1 }] })).rejects.toThrow(
      fault('more-than-left'),
    );
    const owing = () => ({ invoice: invoice(id), payments: [], credits: [] });
    expect(owedOn(owing())).toBe(10_525);
    await run('invoice.release', { id, day: '2027-01-10' });
    expect(owedOn(owing())).toBe(11_200);
  });
});

describe('credit notes', () => {
  async function issued() {
    const made = await gallery();
    const entry = await made.added('entry.add', work(made.at.gallery, 7200));
    const id = await made.draft({ costLineIds: [made.lampLine, made.gelLine], entryIds: [entry] });
    await made.run('invoice.issue', { id });
    const notes = () => made.store.rows('invoices').filter((row) => row.ofId === id);
    return { ...made, id, notes };
  }

  it('take all of it back with its taxes, and free what stood on it if wanted', async () => {
    const { run, id, notes, store, invoice } = await issued();
    await run('invoice.credit', { id, reason: 'Wrong client', free: true });
    const [note] = notes() as [Invoice];
    expect(note.frozen).toMatchObject({ number: 'SL-0002', credits: { number: 'SL-0001', reason: 'Wrong client' } });
    expect(note.frozen!.payable).toBe(-invoice(id).frozen!.payable);
    expect(brokenRules(note.frozen!)).toEqual([]);
    expect([...reservedBySource(store.rows('allocations')).values()].every((sum) => sum === 0)).toBe(true);
    expect(standingOf({ invoice: invoice(id), payments: [], credits: notes() }, DAY)).toBe('credited');
    await expect(run('invoice.credit', { id, reason: 'Again', free: true })).rejects.toThrow(fault('nothing-left'));
  });

  it('take a part back, and refuse more than is left', async () => {
    const { run, id, notes, invoice, store } = await issued();
    const line = invoice(id).frozen!.lines.find((each) => each.text === 'Lamps')!;
    expect(line.amount).toBe(20_250);
    await run('invoice.credit', { id, reason: 'Returned', free: false, lines: { [line.key]: 20_000 } });
    expect(notes()[0]!.frozen).toMatchObject({ net: -20_000, total: -24_000 });
    // Not freed: the costs stay billed, though less money was asked for them.
    expect(
      store
        .rows('allocations')
        .filter((row) => row.invoiceId === notes()[0]!.id)
        .every((row) => row.part === 0),
    ).toBe(true);
    await expect(
      run('invoice.credit', { id, reason: 'Too much', free: false, lines: { [line.key]: 251 } }),
    ).rejects.toThrow('£2.50 is left to credit; £2.51 is more');
    await expect(run('invoice.void', { id, reason: 'x' })).rejects.toThrow(fault('credited'));
  });
});

describe('the journal', () => {
  it('balances for invoices, credit notes, voids, payments, deposits and retention', async () => {
    const { run, draft, added, at, lampLine, gelLine, store } = await gallery();
    const deposit = await added('deposit.add', { clientId: at.museum, day: DAY, amount: 5000, currency: 'GBP' });
    const id = await draft({ costLineIds: [lampLine] });
    const allowance = { text: 'Discount', percent: '3', amount: null };
    await run('invoice.edit', { id, deposits: [{ depositId: deposit, amount: 4000 }], retention: '5', allowance });
    await run('invoice.issue', { id });
    await run('invoice.release', { id, day: '2027-01-10' });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 2000, note: '' });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 100, note: 'Bank charge', kind: 'write-off' });
    await run('invoice.credit', { id, reason: 'Returned', free: false, lines: { [lampKey(store)]: 500 } });
    const second = await draft({ costLineIds: [gelLine] });
    await run('invoice.edit', { id: second, inclusive: true });
    await run('invoice.issue', { id: second });
    await run('invoice.void', { id: second, reason: 'Wrong date' });
    const postings = postingsOf(new Pricer(await readBook(store)), {
      invoices: store.rows('invoices'),
      payments: store.rows('payments'),
      deposits: store.rows('deposits'),
    });
    expect(postings).toHaveLength(8);
    for (const posting of postings) {
      expect(posting.lines.reduce((sum, line) => sum + line.debit - line.credit, 0)).toBe(0);
    }
  });

  const lampKey = (store: MemoryStore) => store.rows('invoices')[0]!.frozen!.lines[0]!.key;
});

describe('lines of the bookkeeping', () => {
  const line = (source: string, amount: number, more = {}) => ({
    source,
    day: DAY,
    supplier: 'Saltmere Hardware',
    text: 'Card payment, cable ties',
    amount,
    currency: 'GBP',
    withdrawn: false,
    ...more,
  });

  it('come in once, follow corrections until they are billed, and show them afterwards', async () => {
    const { run, store, draft, at, lamps } = await gallery();
    const ledger = () => store.rows('costs').filter((row) => row.kind === 'ledger');
    const lineOf = (source: string) => {
      const cost = store.rows('costs').find((row) => row.source === source)!;
      return store.rows('costLines').find((row) => row.costId === cost.id)!;
    };
    await run('ledger.take', {
      lines: [line('ledger:1', 1200), line('ledger:2', 900)],
      feed: { name: 'Bookkeeping', cursor: '2' },
    });
    await run('ledger.take', { lines: [line('ledger:1', 1200)], feed: { name: 'Bookkeeping', cursor: '2' } });
    expect(ledger()).toHaveLength(2);
    await run('ledger.take', { lines: [line('ledger:1', 1300), line('ledger:2', 900, { withdrawn: true })] });
    expect(ledger()).toHaveLength(1);
    expect(lineOf('ledger:1').amount).toBe(1300);
    await run('cost.place', { lineIds: [lineOf('ledger:1').id], projectId: at.gallery, costCodeId: lamps });
    await run('invoice.issue', { id: await draft({ costLineIds: [lineOf('ledger:1').id] }) });
    await run('ledger.take', { lines: [line('ledger:1', 1250)] });
    expect(lineOf('ledger:1').amount).toBe(1300);
    expect(ledger()[0]!.since).toMatchObject({ amount: 1250, withdrawn: false });
    // Like ones go where the first went, by likeness.
    await run('ledger.take', { lines: [line('ledger:3', 450)] });
    expect(lineOf('ledger:3')).toMatchObject({ projectId: at.gallery, costCodeId: lamps });
    await run('matchRule.add', { words: 'hardware cable', projectId: at.rig, costCodeId: lamps });
    await run('ledger.take', { lines: [line('ledger:4', 450)] });
    expect(lineOf('ledger:4')).toMatchObject({ projectId: at.rig });
  });
});

const step = fc.record({
  what: fc.constantFrom(
    'spend',
    'enter',
    'agree',
    'draft',
    'off',
    'issue',
    'credit',
    'void',
    'adjust',
    'restore',
    'edit',
    'part',
    'undo',
    'redo',
  ),
  pick: fc.nat(1000),
  size: fc.integer({ min: 1, max: 20_000 }),
});

it('loses and doubles nothing of any source through any sequence of commands from two devices, credits and parts included', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 8, maxLength: 40 }), async (steps) => {
      const test = new TestContext();
      const store = new MemoryStore();
      const executor = new MemoryExecutor(store, test.context);
      const at = await setUp(executor, test);
      const second = new TestContext(7);
      second.memberId = at.member;
      const other = new MemoryExecutor(store, second.context);
      for (const each of steps) {
        test.wait(1);
        second.now = test.now;
        try {
          await take(each, each.pick % 3 === 0 ? other : executor, store, at);
        } catch (thrown) {
          if (!(thrown instanceof Fault)) throw thrown;
        }
      }
      expect(await checkWorkspace(store)).toEqual([]);
      await checkKept(store);
    }),
    { numRuns: runs(60) },
  );
});

async function take(
  { what, pick, size }: { what: string; pick: number; size: number },
  runner: MemoryExecutor,
  store: MemoryStore,
  at: { rig: Id; gallery: Id; playhouse: Id; museum: Id },
): Promise<void> {
  const one = <T>(rows: readonly T[]): T | undefined => rows[pick % Math.max(1, rows.length)];
  const projectId = pick % 2 ? at.rig : at.gallery;
  const clientId = pick % 2 ? at.playhouse : at.museum;
  const entry = one(store.rows('entries'));
  const line = one(store.rows('costLines'));
  const extra = one(store.rows('agreed'));
  const invoice = one(store.rows('invoices'));
  const sources = {
    ...(entry && pick % 5 < 3 ? { entryIds: [entry.id] } : {}),
    ...(line && pick % 5 > 1 ? { costLineIds: [line.id] } : {}),
    ...(extra && pick % 5 === 4 ? { agreedIds: [extra.id] } : {}),
  };
  const someId = entry?.id ?? line?.id;
  if (what === 'undo') await runner.undo();
  else if (what === 'redo') await runner.redo();
  else if (what === 'enter') await runner.run('entry.add', work(projectId, size));
  else if (what === 'spend') {
    const refund = pick % 7 === 0 ? -size : size;
    await runner.run('cost.add', { kind: 'bill', day: DAY, currency: 'GBP', lines: [{ amount: refund, projectId }] });
  } else if (what === 'agree')
    await runner.run('agreed.add', { projectId, kind: 'extra', text: 'Extra', amount: size, agreedOn: DAY });
  else if (what === 'draft') {
    const parts = someId && pick % 4 === 0 ? { parts: { [someId]: size } } : {};
    await runner.run('invoice.draft', { clientId, ...sources, ...parts });
  } else if (what === 'adjust') {
    const kind = pick % 2 ? 'never billed' : 'written down';
    const parts = someId ? { parts: { [someId]: pick % 4 === 0 ? -size : size } } : {};
    await runner.run('bill.adjust', { ...sources, kind, reason: 'test', ...(kind === 'written down' ? parts : {}) });
  } else if (what === 'restore' && store.rows('adjustments').length > 0) {
    await runner.run('bill.restore', { ids: [one(store.rows('adjustments'))!.id] });
  } else if (what === 'edit' && line) {
    const { costId, order: _, ...fields } = line;
    await runner.run('cost.edit', { id: costId, lines: [{ ...fields, amount: size }] });
  } else if (!invoice) return;
  else if (what === 'off' && someId) await runner.run('invoice.takeOff', { id: invoice.id, sourceIds: [someId] });
  else if (what === 'part' && someId)
    await runner.run('invoice.part', { id: invoice.id, sourceId: someId, part: size });
  else if (what === 'issue') await runner.run('invoice.issue', { id: invoice.id });
  else if (what === 'void') await runner.run('invoice.void', { id: invoice.id, reason: 'test' });
  else if (what === 'credit') {
    const sent = invoice.frozen?.lines[pick % invoice.frozen.lines.length];
    const lines = sent && pick % 2 ? { lines: { [sent.key]: Math.min(sent.amount, size) } } : {};
    await runner.run('invoice.credit', { id: invoice.id, reason: 'test', free: pick % 3 > 0, ...lines });
  }
}

/** Allocated + written down + never billed + to bill = billable, for every source; issued lines are shared out whole. */
async function checkKept(store: MemoryStore): Promise<void> {
  const pricer = new Pricer(await readBook(store));
  const rows = rowsOf(store);
  const charges = new Charges(pricer, rows);
  const taken = reservedBySource(takingsOf(store));
  const open = new Map<Id, number>();
  for (const client of await openOf(store)) {
    for (const item of client.items) open.set(item.entry.id, item.seconds);
    for (const charge of client.charges) open.set(charge.id, charge.part);
  }
  const billable = new Map<Id, number>([
    ...store.rows('entries').map((row): [Id, number] => [row.id, (row as Entry).billableSeconds ?? row.seconds]),
    ...rows.costLines.map((row): [Id, number] => [row.id, charges.billableOfLine(row) ?? 0]),
    ...rows.agreed.map((row): [Id, number] => [row.id, row.amount]),
  ]);
  for (const [id, most] of billable) expect((taken.get(id) ?? 0) + (open.get(id) ?? 0)).toBe(most);
  for (const invoice of store.rows('invoices')) {
    if (!invoice.frozen) continue;
    expect(brokenRules(invoice.frozen)).toEqual([]);
    const own = store.rows('allocations').filter((row: Allocation) => row.invoiceId === invoice.id);
    const shared = own.reduce((sum, row) => sum + (row.amount ?? 0), 0);
    expect(shared).toBe(invoice.voided ? 0 : invoice.frozen.net);
  }
  const posted = { ...rows, invoices: store.rows('invoices'), payments: store.rows('payments') };
  for (const posting of postingsOf(new Pricer(await readBook(store)), posted)) {
    expect(posting.lines.reduce((sum, line) => sum + line.debit - line.credit, 0)).toBe(0);
  }
}
