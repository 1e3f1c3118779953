import { beforeEach, describe, expect, it } from 'vitest';
import type { MemoryStore } from '../engine/memory';
import type { Id } from '../model/ids';
import { freshStudio, work } from '../testing/studio';

let { store, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run, added } = await freshStudio()));

/** Counts what is asked of a store, however much each asks for. */
function counted(of: MemoryStore): { asked: () => number } {
  let asked = 0;
  for (const name of ['get', 'many', 'by', 'all'] as const) {
    const plain = of[name].bind(of) as (...given: unknown[]) => unknown;
    Object.assign(of, { [name]: (...given: unknown[]) => (asked++, plain(...given)) });
  }
  return { asked: () => asked };
}

describe('writing entries', () => {
  it.each([
    ['entry.editAll', (ids: Id[]) => ({ ids, note: 'Focus' })],
    ['entry.tag', (ids: Id[]) => ({ ids, add: ['late'], remove: [] })],
    ['entry.duplicate', (ids: Id[]) => ({ ids })],
    ['entry.remove', (ids: Id[]) => ({ ids })],
    ['bill.internal', (entryIds: Id[]) => ({ entryIds })],
  ] as const)('asks the workspace as often for 40 as for 2: %s', async (name, input) => {
    const asked: number[] = [];
    for (const many of [2, 40]) {
      const ids: Id[] = [];
      for (let each = 0; each < many; each++) ids.push(await added('entry.add', work(at.rig, 3600)));
      const count = counted(store);
      const before = count.asked();
      await run(name, input(ids) as never);
      asked.push(count.asked() - before);
    }
    expect(asked[1]).toBe(asked[0]);
  });

  it('takes off a draft what is said not to be for the client', async () => {
    const id = await added('entry.add', work(at.rig, 3600));
    const draft = await added('invoice.draft', { clientId: at.playhouse, entryIds: [id] });
    expect(await store.by('allocations', 'invoiceId', [draft])).toHaveLength(1);
    await run('bill.internal', { entryIds: [id] });
    expect(await store.by('allocations', 'invoiceId', [draft])).toEqual([]);
    expect((await store.get('entries', id))!.billableSeconds).toBe(0);
  });

  it('refuses the same of what was issued, and says on which invoice it is', async () => {
    const id = await added('entry.add', work(at.rig, 3600));
    const draft = await added('invoice.draft', { clientId: at.playhouse, entryIds: [id] });
    await run('invoice.issue', { id: draft, day: '2026-11-12' });
    await expect(run('bill.internal', { entryIds: [id] })).rejects.toThrow(
      'This entry is on SL-0001 and stays as it was invoiced. Only its note and tags can change.',
    );
    await run('entry.tag', { ids: [id], add: ['late'], remove: [] });
    expect((await store.get('entries', id))!.tags).toEqual(['late']);
  });

  it('moves entries of several people, each by their own clock', async () => {
    const other = await added('member.add', {
      name: 'Asha Quill',
      role: 'designer',
      zone: 'America/New_York',
      owed: [0, 0, 0, 0, 0, 0, 0],
    });
    const nine = (zone: number) => ({
      start: Date.UTC(2026, 10, 12, 9 + zone),
      end: Date.UTC(2026, 10, 12, 10 + zone),
    });
    const mine = await added('entry.add', work(at.rig, 3600, { spans: [nine(0)] }));
    const theirs = await added('entry.add', { ...work(at.rig, 3600, { spans: [nine(5)] }), memberId: other });
    await run('entry.editAll', { ids: [mine, theirs], day: '2026-11-02' });
    // On 2 November both are on winter time: nine o'clock stays nine o'clock.
    expect((await store.get('entries', mine))!.spans[0]!.start).toBe(Date.UTC(2026, 10, 2, 9));
    expect((await store.get('entries', theirs))!.spans[0]!.start).toBe(Date.UTC(2026, 10, 2, 14));
  });
});
