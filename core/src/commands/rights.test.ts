import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import { rightNames, type Limit, type Right } from '../model/records';
import { usualSets } from '../rights';
import { fault } from '../testing/fault';
import { clientRow, DAY, freshStudio, rateLine, work, ZONE } from '../testing/studio';
import { catalogue, engine } from '.';

type Granted = Right | [Right, Partial<Limit>];

async function office() {
  const studio = await freshStudio();
  const { test, at, run, added } = studio;
  const principal = at.member;
  const as = (id: Id) => (test.memberId = id);
  const setOf = (name: string, granted: readonly Granted[]) => {
    as(principal);
    const grants = granted.map((each) =>
      typeof each === 'string'
        ? { right: each, only: null }
        : { right: each[0], only: { clientIds: [], projectIds: [], ...each[1] } },
    );
    return added('rightSet.add', { name, grants });
  };
  /** A new member with these rights, who works here from now on. */
  const hire = async (name: string, granted: readonly Granted[], more: object = {}) => {
    const rightSetId = await setOf(name, granted);
    const id = await added('member.add', {
      name,
      role: '',
      zone: ZONE,
      owed: [0, 0, 0, 0, 0, 0, 0],
      rightSetId,
      ...more,
    });
    as(id);
    return id;
  };
  const entryOf = async (memberId: Id, projectId: Id | null = at.rig) => {
    as(principal);
    return added('entry.add', work(projectId, 3600, { memberId }));
  };
  const refused = (what: Promise<unknown>) => expect(what).rejects.toThrow(fault('no-right'));
  return { ...studio, principal, as, setOf, hire, entryOf, refused, run, added };
}

let all: Awaited<ReturnType<typeof office>>;
beforeEach(async () => {
  all = await office();
});

/** The published table: each command with "yes" or "no" for each of the usual sets. */
function published(): Map<string, string[]> {
  const text = readFileSync(new URL('../../../docs/rights.md', import.meta.url), 'utf8');
  const rows = [...text.matchAll(/^\| `([^`]+)` +\|[^|]*\|(.+)\|$/gm)];
  return new Map(rows.map(([, name, cells]) => [name!, cells!.split('|').map((cell) => cell.trim())]));
}

describe('every command and every usual set', () => {
  it('are in the published table, and no command without a need', () => {
    expect([...published().keys()].toSorted()).toEqual(Object.keys(catalogue).toSorted());
  });

  it.each(usualSets.map(({ name }, index) => [name, index] as const))('%s: as published', async (name, index) => {
    const { run, store, hire, test } = all;
    await run('rightSet.usual', {});
    const set = store.rows('rightSets').find((row) => row.name === name)!;
    const id = await hire('Wren Okafor', []);
    all.as(all.principal);
    await run('member.edit', { id, rightSetId: set.id });
    all.as(id);
    for (const [command, cells] of published()) {
      const outcome = await engine.perform(store, command, { nothing: 'of use' }, test.context()).then(
        () => 'done',
        (thrown: { code: string }) => thrown.code,
      );
      expect([command, outcome === 'no-right' ? 'no' : 'yes']).toEqual([command, cells[index]]);
    }
  });
});

describe('somebody', () => {
  it('without a set may do everything, as a studio of one does', async () => {
    const { run, added, setOf, principal, store } = all;
    await setOf('Nothing', []);
    expect(store.rows('members').find(({ id }) => id === principal)!.rightSetId).toBeUndefined();
    await run('workspace.edit', { termsDays: 14 });
    await added('client.edit', { id: all.at.playhouse, name: 'Quayside Theatre' });
  });

  it('is told who may not do what, and where that is set', async () => {
    const { run, hire, at } = all;
    await hire('Wren Okafor', ['record own']);
    await expect(run('client.edit', { id: at.playhouse, name: 'Other' })).rejects.toThrow(
      'Wren Okafor may not change clients, projects and tasks: that is how the rights “Wren Okafor” are set under Setup → People. Nothing was changed.',
    );
  });

  it('always keeps the right to set up', async () => {
    const { run, setOf, principal, store } = all;
    const none = await setOf('Nothing', ['record own']);
    await expect(run('member.edit', { id: principal, rightSetId: none })).rejects.toThrow(
      fault('last-setup', 'rightSetId'),
    );
    const some = await setOf('Something', ['setup']);
    await run('member.edit', { id: principal, rightSetId: some });
    await expect(run('rightSet.edit', { id: some, grants: [] })).rejects.toThrow(fault('last-setup', 'rightSetId'));
    await expect(run('rightSet.remove', { id: some })).rejects.toThrow();
    expect(store.rows('rightSets')).toHaveLength(2);
  });
});

describe('rows of one’s own and of others', () => {
  it('one records for oneself alone, unless one may for others', async () => {
    const { hire, run, at, added, principal, entryOf, as, refused } = all;
    const wren = await hire('Wren Okafor', ['record own']);
    const id = await added('entry.add', work(at.rig, 3600, { memberId: wren }));
    await run('entry.edit', { id, note: 'Focus' });
    await refused(run('entry.add', work(at.rig, 3600, { memberId: principal })));
    await refused(run('entry.edit', { id, memberId: principal }));
    const other = await entryOf(principal);
    as(wren);
    await refused(run('entry.remove', { ids: [id, other] }));
    await refused(run('plan.add', plan(principal, at.rig)));
    await run('plan.add', plan(wren, at.rig));
    const ilka = await hire('Ilka Brandt', ['record others']);
    await run('entry.edit', { id: other, note: 'Rehang' });
    await refused(run('entry.add', work(at.rig, 60, { memberId: ilka })));
  });

  it('a checker changes what is theirs to check, and nobody else’s', async () => {
    const { hire, run, entryOf, principal, as, refused } = all;
    const checker = await hire('Ilka Brandt', ['record own', 'approve']);
    const wren = await hire('Wren Okafor', ['record own'], { checkerId: checker });
    const [checked, other] = [await entryOf(wren), await entryOf(principal)];
    as(checker);
    await run('entry.edit', { id: checked, seconds: 1800 });
    await refused(run('entry.edit', { id: other, seconds: 1800 }));
  });

  it('an expense is its member’s, a bill the studio’s', async () => {
    const { hire, run, refused, at } = all;
    const cost = (kind: 'expense' | 'bill', memberId: Id | null) =>
      run('cost.add', {
        kind,
        day: DAY,
        supplier: 'Dockside Hire',
        memberId,
        currency: 'GBP',
        lines: [{ projectId: at.rig, amount: 4000 }],
      });
    const wren = await hire('Wren Okafor', ['record own']);
    await cost('expense', wren);
    await refused(cost('bill', null));
    await hire('Ilka Brandt', ['costs']);
    await cost('bill', null);
    await cost('expense', wren);
  });

  it('members set their own form and pins, and nothing else of themselves', async () => {
    const { hire, run, at, principal, refused } = all;
    const wren = await hire('Wren Okafor', ['record own']);
    await run('member.edit', { id: wren, pinned: [at.rig], awayAfter: 600 });
    await refused(run('member.edit', { id: wren, rightSetId: null }));
    await refused(run('member.edit', { id: wren, owed: [60, 0, 0, 0, 0, 0, 0] }));
    await refused(run('member.edit', { id: principal, pinned: [at.rig] }));
  });

  it('a holiday is the studio’s, a day off one’s own', async () => {
    const { hire, run, refused, principal } = all;
    const off = (memberId: Id | null) =>
      run('absence.add', { memberId, name: 'Away', from: '2026-11-16', to: '2026-11-16', seconds: null });
    const wren = await hire('Wren Okafor', ['record own']);
    await off(wren);
    await refused(off(null));
    await refused(off(principal));
  });

  it('the billable part and an entry’s own rate are set by those who may', async () => {
    const { hire, run, added, at, refused, store, as, principal } = all;
    const wren = await hire('Wren Okafor', ['record own']);
    const id = await added('entry.add', work(at.rig, 3600, { memberId: wren }));
    await refused(run('entry.edit', { id, billableSeconds: 1800 }));
    await refused(run('entry.edit', { id, rate: { price: '1', unit: 'hour' } }));
    as(principal);
    await run('entry.edit', { id, billableSeconds: 1800 });
    as(wren);
    // What was set stays, and is no longer than the entry.
    await run('entry.edit', { id, seconds: 900 });
    expect(store.rows('entries')[0]).toMatchObject({ seconds: 900, billableSeconds: 900 });
    await refused(run('entry.edit', { id, billableSeconds: null }));
    await hire('Ilka Brandt', ['record others', 'billable part']);
    await run('entry.edit', { id, billableSeconds: 60 });
  });
});

describe('a right for named clients and projects', () => {
  it('covers a project’s parts and no other work', async () => {
    const { hire, run, added, at, refused, principal, as } = all;
    as(principal);
    const part = await added('project.add', { name: 'Act two', clientId: at.playhouse, parentId: at.rig });
    const wren = await hire('Wren Okafor', [['record own', { projectIds: [at.rig] }]]);
    const entry = (projectId: Id | null) => run('entry.add', work(projectId, 60, { memberId: wren }));
    await entry(part);
    await entry(at.rig);
    // Filed later by somebody who may.
    await entry(null);
    await refused(entry(at.gallery));
    await expect(entry(at.internal)).rejects.toThrow(/only for Winter season rig/);
  });

  it('holds where a row came from and where it goes', async () => {
    const { hire, run, added, at, refused, test } = all;
    await hire('Wren Okafor', [['work', { clientIds: [at.playhouse] }]]);
    const id = await added('task.add', { projectId: at.rig, name: 'Cable' });
    await run('task.edit', { id, name: 'Cables' });
    await refused(added('task.add', { projectId: at.gallery, name: 'Cable' }));
    await refused(run('project.move', { id: at.rig, parentId: at.gallery, before: null }));
    await refused(added('client.add', clientRow(test.newId(), 'New')));
  });

  it('needs all work for what belongs to none', async () => {
    const { hire, run, added, at, refused } = all;
    await hire('Wren Okafor', [['rates', { clientIds: [at.playhouse] }]]);
    const { id: _, ...line } = rateLine('');
    await added('rate.add', { ...line, projectId: at.rig, from: '2026-12-01' });
    await refused(run('rate.add', { ...line, from: '2026-12-01' }));
    await refused(run('exchange.add', { from: '2026-12-01', base: 'EUR', currency: 'GBP', rate: '0.85' }));
  });

  it('of billing is asked of an invoice by its client, and of what is on it by its project', async () => {
    const { hire, run, added, at, entryOf, principal, refused } = all;
    const [ours, theirs] = [await entryOf(principal, at.rig), await entryOf(principal, at.gallery)];
    await hire('Ilka Brandt', [['billing', { clientIds: [at.playhouse] }]]);
    const id = await added('invoice.draft', { clientId: at.playhouse, entryIds: [ours] });
    await run('invoice.edit', { id, note: 'For the season' });
    await refused(run('invoice.draft', { clientId: at.museum, entryIds: [theirs] }));
    await refused(run('workspace.edit', { termsDays: 3 }));
  });

  it('may not be for parts of the studio where it is about all of it', async () => {
    await expect(all.setOf('Closer', [['close', { projectIds: [all.at.rig] }]])).rejects.toThrow(
      fault('invalid', 'grants/0/only'),
    );
    await expect(all.setOf('Twice', ['work', 'work'])).rejects.toThrow(fault('invalid'));
    await expect(all.setOf('None', [['work', {}]])).rejects.toThrow(fault('invalid'));
  });
});

describe('undo', () => {
  it('asks for what the change itself asked for', async () => {
    const { hire, run, executor, at, as, principal, refused, store } = all;
    const wren = await hire('Wren Okafor', ['record own']);
    as(principal);
    await run('client.edit', { id: at.playhouse, name: 'Quayside Theatre' });
    as(wren);
    await refused(executor.undo());
    expect(store.rows('clients').find(({ id }) => id === at.playhouse)!.name).toBe('Quayside Theatre');
    as(principal);
    await executor.undo();
    as(wren);
    await refused(executor.redo());
  });
});

it('the usual sets name rights that there are, and are added once', async () => {
  const { run, store } = all;
  await run('rightSet.usual', {});
  expect(store.rows('rightSets').map(({ name }) => name)).toEqual(usualSets.map(({ name }) => name));
  expect(store.rows('rightSets')[0]!.grants).toHaveLength(rightNames.length);
  await expect(run('rightSet.usual', {})).rejects.toThrow(fault('already'));
});

const plan = (memberId: Id, projectId: Id) => ({
  memberId,
  projectId,
  days: ['2026-11-13'],
  seconds: 3600,
  note: 'Plot',
  serviceId: null,
});
