import { checkWorkspace, type Executor } from '@half-penny/core/commands';
import { MemoryStore, type Reader } from '@half-penny/core/engine';
import { Fault, readTables, type JournalRow, type Rows, type TableName } from '@half-penny/core/model';
import { DAY, setUp, TestContext, work, type Studio } from '@half-penny/core/testing';
import type { Chance } from './chance';

/** A workspace that commands run on, wherever it lives. */
export interface Place {
  executor: Executor;
  reader: Reader;
  journal(): Promise<JournalRow[]>;
  close(): Promise<void> | void;
}

/** What came of a stretch of random commands. */
export interface Ran {
  /** Written to the history. */
  done: number;
  /** Refused in words. */
  refused: number;
  /** Anything that should not be: raw faults, what the invariants say, changes that are in the history twice or not at all. */
  wrong: string[];
}

export const kinds = [
  ...['enter', 'enter', 'enter', 'edit', 'part', 'remove', 'split', 'start', 'stop', 'undo', 'undo', 'redo', 'spend'],
  ...['respend', 'agree', 'draft', 'draft', 'off', 'discard', 'issue', 'void', 'credit', 'pay', 'adjust', 'restore'],
  ...['project', 'move', 'task', 'rate', 'rename', 'round'],
] as const;
export type Kind = (typeof kinds)[number];

/** One random command; null where nothing is there that it could be about. */
export async function step(
  kind: Kind,
  { executor, reader }: Pick<Place, 'executor' | 'reader'>,
  at: Studio,
  chance: Chance,
): Promise<JournalRow | null> {
  const one = async <T extends TableName>(table: T): Promise<Rows[T] | undefined> => {
    const rows = await reader.all(table);
    return rows.length > 0 ? chance.one(rows) : undefined;
  };
  const size = 1 + chance.below(20_000);
  const projectId = chance.one([at.rig, at.gallery]);
  const clientId = chance.one([at.playhouse, at.museum]);
  const run: Executor['run'] = (...args) => executor.run(...args);
  const sources = async () => {
    const [entry, line, extra] = [await one('entries'), await one('costLines'), await one('agreed')];
    return {
      ...(entry && !chance.oneIn(4) ? { entryIds: [entry.id] } : {}),
      ...(line && chance.oneIn(2) ? { costLineIds: [line.id] } : {}),
      ...(extra && chance.oneIn(4) ? { agreedIds: [extra.id] } : {}),
    };
  };
  const entry = await one('entries');
  const invoice = await one('invoices');
  switch (kind) {
    case 'enter':
      return run('entry.add', work(projectId, size, { day: chance.one([DAY, '2026-11-11', '2026-10-02']) }));
    case 'edit':
      return entry ? run('entry.edit', { id: entry.id, seconds: size, note: `N ${size}` }) : null;
    case 'part':
      return entry ? run('entry.edit', { id: entry.id, billableSeconds: size % (entry.seconds + 1) }) : null;
    case 'remove':
      return entry ? run('entry.remove', { ids: [entry.id] }) : null;
    case 'split':
      return entry ? run('entry.split', { id: entry.id, after: size }) : null;
    case 'start':
      return run('timer.start', { projectId, serviceId: null, note: `T ${size}` });
    case 'stop': {
      const timer = await one('timers');
      return timer ? run('timer.stop', { id: timer.id }) : null;
    }
    case 'undo':
      return executor.undo();
    case 'redo':
      return executor.redo();
    case 'spend':
      return run('cost.add', {
        kind: 'bill',
        day: DAY,
        currency: 'GBP',
        lines: [{ amount: chance.oneIn(7) ? -size : size, projectId }],
      });
    case 'respend': {
      const line = await one('costLines');
      if (!line) return null;
      const { costId, order: _order, ...fields } = line;
      return run('cost.edit', { id: costId, lines: [{ ...fields, amount: size }] });
    }
    case 'agree':
      return run('agreed.add', { projectId, kind: 'extra', text: 'Extra', amount: size, agreedOn: DAY });
    case 'draft':
      return run('invoice.draft', { clientId, ...(await sources()) });
    case 'off':
      return invoice && entry ? run('invoice.takeOff', { id: invoice.id, sourceIds: [entry.id] }) : null;
    case 'discard':
      return invoice ? run('invoice.discard', { id: invoice.id }) : null;
    case 'issue':
      return invoice ? run('invoice.issue', { id: invoice.id }) : null;
    case 'void':
      return invoice ? run('invoice.void', { id: invoice.id, reason: 'A trial' }) : null;
    case 'credit':
      return invoice ? run('invoice.credit', { id: invoice.id, reason: 'A trial', free: chance.oneIn(2) }) : null;
    case 'pay':
      return invoice ? run('payment.add', { invoiceId: invoice.id, day: DAY, amount: size, note: '' }) : null;
    case 'adjust':
      return run('bill.adjust', { ...(await sources()), kind: 'never billed', reason: 'A trial' });
    case 'restore': {
      const adjustment = await one('adjustments');
      return adjustment ? run('bill.restore', { ids: [adjustment.id] }) : null;
    }
    case 'project':
      return run('project.add', { name: `P ${size}`, parentId: chance.oneIn(2) ? projectId : null });
    case 'move': {
      const [moved, under] = [await one('projects'), await one('projects')];
      return run('project.move', { id: moved!.id, parentId: chance.oneIn(3) ? null : under!.id, before: null });
    }
    case 'task':
      return run('task.add', { projectId, name: `K ${size}` });
    case 'rate':
      return run('rate.add', { projectId, from: chance.one(['2026-01-01', DAY]), price: `${size}`, currency: 'GBP' });
    case 'rename': {
      const client = await one('clients');
      return run('client.edit', { id: client!.id, name: `C ${size}` });
    }
    case 'round':
      return run('workspace.edit', {
        rounding: { increment: chance.one([1, 360, 900]), direction: 'up', minimum: 0, per: 'entry' },
      });
  }
}

/** All of a place as a store in memory, to be checked there. */
async function inMemory({ reader, journal }: Place): Promise<MemoryStore> {
  return new MemoryStore().load(await readTables((table) => reader.all(table)), await journal());
}

/** Runs so many random commands in fresh studios of a few hundred each, and checks each studio as a whole at its end. */
export async function runCommands(
  make: (test: TestContext) => Promise<Place>,
  count: number,
  chance: Chance,
  told: (ran: Ran) => void = () => undefined,
): Promise<Ran> {
  const ran: Ran = { done: 0, refused: 0, wrong: [] };
  while (ran.done + ran.refused < count) {
    const test = new TestContext(1 + chance.below(200));
    const place = await make(test);
    const at = await setUp(place.executor, test);
    const rows = new Set<string>((await place.journal()).map((row) => row.hash));
    for (let each = 0; each < 300 && ran.done + ran.refused < count; each++) {
      test.wait(chance.below(90));
      const kind = chance.one(kinds);
      try {
        const row = await step(kind, place, at, chance);
        if (!row) continue;
        ran.done++;
        // What changes nothing leaves no row.
        if (row.changes.length === 0) continue;
        if (rows.has(row.hash)) ran.wrong.push(`${kind}: a row of history came twice`);
        rows.add(row.hash);
      } catch (thrown) {
        if (thrown instanceof Fault) ran.refused++;
        else ran.wrong.push(`${kind}: ${String(thrown)}\n${(thrown as Error).stack ?? ''}`);
      }
    }
    const journal = await place.journal();
    const lost = [...rows].filter((hash) => !journal.some((row) => row.hash === hash)).length;
    if (lost > 0 || journal.length !== rows.size)
      ran.wrong.push(`${lost} rows of history are lost, ${journal.length - rows.size} more than were acknowledged`);
    for (const fault of await checkWorkspace(await inMemory(place)))
      ran.wrong.push(`${fault.table} ${fault.path}: ${fault.message}`);
    await place.close();
    told(ran);
  }
  return ran;
}
