import { beforeAll, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import type { JournalRow } from '../model/change';
import { tableNames, type Rows, type TableName } from '../model/tables';
import { ledger } from '../testing/ledger';
import { DAY, freshStudio, TestContext, work } from '../testing/studio';
import { sealed } from '../engine/journal';
import { checkWorkspace, MemoryExecutor } from '.';
import { baseRow, headOf, lastOfEach, MemoryStore, showHead } from '../engine';

// A workspace that was lived in, and everything that somebody might do to its tables beside its history.

const HOUR = 3600;
type Tables = { [T in TableName]: Rows[T][] };

let kept: { tables: Tables; journal: JournalRow[] };
let project: Id;

beforeAll(async () => {
  const { store, test, run, at, added, draftOf, issue, credit, executor } = await ledger();
  project = at.rig;
  const entry = await added('entry.add', work(at.rig, HOUR));
  await run('entry.edit', { id: entry, note: 'Focus' });
  const id = await draftOf({ entryIds: [entry] });
  await run('workspace.edit', { paymentDetails: 'IBAN GB42 SALT 0000 0012 3456 78' });
  await issue(id);
  await run('payment.add', { invoiceId: id, day: DAY, amount: 5000, note: '' });
  await credit(id, { [store.rows('invoices')[0]!.frozen!.lines[0]!.key]: 1000 });
  await added('entry.add', work(at.gallery, 2 * HOUR));
  await executor.undo();
  await executor.redo();
  // Another device, whose clock is an hour behind.
  const other = new TestContext(7);
  other.now = test.now - HOUR * 1000;
  other.memberId = test.memberId;
  const second = new MemoryExecutor(store, other.context);
  await second.run('entry.add', work(at.rig, 1800));
  await run('entry.edit', { id: entry, note: 'Focus and plot' }).catch(() => undefined);
  await second.run('client.edit', { id: at.playhouse, email: 'box@quayside-playhouse.example' });
  await run('client.edit', { id: at.playhouse, email: 'office@quayside-playhouse.example' });
  const tables = Object.fromEntries(tableNames.map((name) => [name, store.rows(name)])) as unknown as Tables;
  kept = { tables, journal: store.journal };
});

// Rows and the images of them in the history are the same objects in memory; as in a file, each is its own here.
const copy = () => ({ tables: structuredClone(kept.tables), journal: structuredClone(kept.journal) });
const faultsOf = ({ tables, journal }: { tables: Partial<Tables>; journal: JournalRow[] }) =>
  checkWorkspace(new MemoryStore().load(tables, journal));

/** The history with its hashes made again, as somebody would who knows how. */
function resealed(journal: readonly JournalRow[]): JournalRow[] {
  const last = new Map<Id, JournalRow>();
  return journal.map((row) => {
    const before = last.get(row.device);
    const { hash: _hash, ...content } = row;
    const again = sealed({ ...content, seq: (before?.seq ?? 0) + 1, previous: before?.hash ?? '' });
    last.set(row.device, again);
    return again;
  });
}

describe('the history, replayed against the records', () => {
  it('makes them what they are, undo and redo and a second device with a slow clock included', async () => {
    expect(await faultsOf(copy())).toEqual([]);
    expect(new Set(kept.journal.map((row) => row.device)).size).toBe(2);
  });

  const altered: [string, TableName, string, (tables: Tables) => void][] = [
    ['a second of an entry', 'entries', 'seconds', ({ entries }) => void (entries[2]!.seconds += 1)],
    ['a rate', 'rateLines', 'price', ({ rateLines }) => void (rateLines[0]!.price = '1')],
    ['a payment', 'payments', 'amount', ({ payments }) => void (payments[0]!.amount -= 1)],
    [
      'an issued line',
      'invoices',
      'frozen/lines/0/text',
      ({ invoices }) => void (invoices[0]!.frozen!.lines[0]!.text = 'Other'),
    ],
    ['an issued total', 'invoices', 'frozen/total', ({ invoices }) => void (invoices[0]!.frozen!.total += 1)],
    ['an issued number', 'invoices', 'frozen/number', ({ invoices }) => void (invoices[0]!.frozen!.number = 'SL-0009')],
    [
      'the bank details of an issued invoice',
      'invoices',
      'frozen/studio/paymentDetails',
      ({ invoices }) => void (invoices[0]!.frozen!.studio.paymentDetails = 'IBAN GB00 ELSE'),
    ],
    [
      'a bank detail of the studio',
      'workspace',
      'paymentDetails',
      ({ workspace }) => void (workspace[0]!.paymentDetails = 'Else'),
    ],
  ];
  it.each(altered)('finds %s that was changed in the tables alone', async (_what, table, path, alter) => {
    const made = copy();
    alter(made.tables);
    const faults = await faultsOf(made);
    expect(faults.map((fault) => [fault.table, fault.path])).toContainEqual([table, path]);
    const messages = faults.filter((fault) => fault.path === path).map((fault) => fault.message);
    expect(messages.join(' ')).toMatch(/not what change \d+ of the history made/);
  });

  it('finds a record that was dropped, added, or put back', async () => {
    const dropped = copy();
    const [gone] = dropped.tables.allocations.splice(0, 1);
    expect(await faultsOf(dropped)).toContainEqual(
      expect.objectContaining({
        table: 'allocations',
        id: gone!.id,
        message: expect.stringContaining('is missing') as string,
      }),
    );
    const added = copy();
    const id = '01900000-0000-7000-8000-00000000abcd';
    added.tables.entries.push({ ...added.tables.entries[2]!, id });
    expect(await faultsOf(added)).toContainEqual(
      expect.objectContaining({
        table: 'entries',
        id,
        message: expect.stringContaining('No change of the history') as string,
      }),
    );
  });

  it('finds that it was cut at its end, at its beginning, or emptied, hashes made again or not', async () => {
    for (const journal of [
      kept.journal.slice(0, -1),
      resealed(kept.journal.slice(0, -1)),
      resealed(kept.journal.slice(3)),
    ]) {
      expect((await faultsOf({ ...copy(), journal })).length).toBeGreaterThan(0);
    }
    expect(await faultsOf({ ...copy(), journal: [] })).toEqual([
      expect.objectContaining({ table: 'journal', message: expect.stringContaining('The history is empty') as string }),
    ]);
  });

  it('begins with a base row where somebody says so, and goes on from there', async () => {
    const { tables } = copy();
    const device = '01900000-0000-7000-8000-00000000beef';
    const base = baseRow((table) => tables[table], { device, at: 1, reason: 'Kept without its history' });
    expect(await faultsOf({ tables, journal: [base] })).toEqual([]);
    const store = new MemoryStore().load(tables, [base]);
    const test = new TestContext(9);
    const executor = new MemoryExecutor(store, test.context);
    await executor.run('project.edit', { id: project, name: 'Winter season, again' });
    expect(await checkWorkspace(store)).toEqual([]);
    expect((await executor.standing()).undo?.title).not.toContain('begins here');
    const after = Object.fromEntries(
      tableNames.map((name) => [name, structuredClone(store.rows(name))]),
    ) as unknown as Tables;
    after.entries[0]!.note = 'Altered';
    expect(await faultsOf({ tables: after, journal: store.journal })).toEqual([
      expect.objectContaining({ table: 'journal', message: 'The records are not those that the history began with.' }),
    ]);
  });

  it('finds the order of two devices where a record was taken away and put back as it was', async () => {
    const { store, run, executor, at, test } = await ledger();
    const other = new TestContext(9);
    other.now = test.now;
    other.memberId = test.memberId = at.member;
    const start = { projectId: at.rig, serviceId: null, note: '' };
    await new MemoryExecutor(store, other.context).run('timer.start', start);
    // Started at the same moment, it takes the place of the other; undone, it gives that back as it was.
    await run('timer.start', start);
    await executor.undo();
    expect(await checkWorkspace(store)).toEqual([]);
  });

  it('finds the order of two devices one of whose clocks was set back, with much that was done and undone', async () => {
    const { store, at, test, executor } = await freshStudio();
    for (let each = 0; each < 400; each++) {
      test.wait(1);
      await executor.run('entry.add', work(at.rig, 600 + each));
    }
    const late = new TestContext(9);
    late.memberId = at.member;
    // A week before everything that it changes.
    late.now = test.now - 7 * 86_400_000;
    const other = new MemoryExecutor(store, late.context);
    for (const { id } of store.rows('entries').slice(0, 350)) {
      late.wait(1);
      await other.run('entry.edit', { id, note: 'Changed' });
      await other.undo();
    }
    expect(await checkWorkspace(store)).toEqual([]);
  });

  it('has a head that tells it from every other', () => {
    const head = showHead(headOf(lastOfEach(kept.journal)));
    expect(head).toMatch(new RegExp(`^${kept.journal.length}-[0-9a-f]{10}$`));
    expect(showHead(headOf(lastOfEach(kept.journal.slice(0, -1))))).not.toBe(head);
  });
});

describe('an issued paper, compared with itself', () => {
  const withFrozen = async (alter: (frozen: NonNullable<Rows['invoices']['frozen']>) => void) => {
    const made = copy();
    alter(made.tables.invoices[0]!.frozen!);
    // Whoever alters the history too is found by what does not add up.
    const journal = resealed(
      made.journal.map((row) => ({
        ...row,
        changes: row.changes.map((change) => {
          const after = structuredClone(change.after) as Rows['invoices'] | null;
          if (change.table === 'invoices' && change.id === made.tables.invoices[0]!.id && after?.frozen)
            alter(after.frozen);
          return { ...change, after };
        }),
      })) as JournalRow[],
    );
    return (await faultsOf({ tables: made.tables, journal })).map(({ path, message }) => `${path}: ${message}`);
  };

  it.each([
    ['frozen/net', 'for its lines', (frozen) => void (frozen.net += 1)],
    ['frozen/tax', 'of tax', (frozen) => void (frozen.tax += 1)],
    ['frozen/total', 'in total', (frozen) => void (frozen.total += 1)],
    ['frozen/payable', 'to pay', (frozen) => void (frozen.payable -= 1)],
    ['frozen/number', 'of the invoices', (frozen) => void (frozen.number = 'SL-0007')],
    ['frozen/lines/0/amount', 'on “', (frozen) => void (frozen.lines[0]!.amount += 1)],
    ['frozen/taxes/0/amount', 'is not 20 % of', (frozen) => void (frozen.taxes[0]!.amount += 1)],
  ] as [string, string, (frozen: NonNullable<Rows['invoices']['frozen']>) => void][])(
    'is found where %s was altered, history and all',
    async (path, words, alter) => {
      const faults = await withFrozen(alter);
      expect(faults.some((fault) => fault.startsWith(path) && fault.includes(words))).toBe(true);
    },
  );
});
