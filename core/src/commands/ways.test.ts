import { beforeEach, describe, expect, it } from 'vitest';
import type { Id } from '../model/ids';
import type { RecordingWay } from '../model/records';
import { fault } from '../testing/fault';
import { DAY, freshStudio, work, ZONE } from '../testing/studio';
import { instantAt } from '../time/day';

async function withWren() {
  const studio = await freshStudio();
  const { test, added, run, at, store } = studio;
  const wren = await added('member.add', { name: 'Wren Okafor', role: '', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0] });
  const as = (id: Id) => (test.memberId = id);
  /** Wren records in these ways alone, and is at work. */
  const only = async (...ways: RecordingWay[]) => {
    as(at.member);
    await run('member.edit', { id: wren, ways });
    as(wren);
  };
  const span = { start: instantAt(DAY, 480, ZONE), end: instantAt(DAY, 540, ZONE) };
  const onJob = { projectId: at.rig, taskId: null, unlisted: '', serviceId: null, note: 'Focus' };
  const record: Record<RecordingWay, () => Promise<unknown>> = {
    timer: () => run('timer.start', { projectId: at.rig, serviceId: null, note: '' }),
    'by hand': () => run('entry.add', work(at.rig, 600, { memberId: wren })),
    trail: () =>
      run('stretch.post', {
        memberId: wren,
        takeOut: false,
        entries: [{ ...onJob, stretchIds: [test.newId()], spans: [span], billableSeconds: null }],
      }),
    plan: async () => {
      const { changes } = await run('plan.add', {
        memberId: wren,
        projectId: at.rig,
        serviceId: null,
        days: [DAY],
        seconds: 600,
        note: '',
      });
      return run('plan.take', { ids: changes.map(({ id }) => id) });
    },
  };
  return { ...studio, wren, as, only, record, store };
}

let all: Awaited<ReturnType<typeof withWren>>;
beforeEach(async () => {
  all = await withWren();
});

describe('ways to record', () => {
  it('are all there where the studio named none', async () => {
    const { as, wren, record, store } = all;
    as(wren);
    for (const way of Object.values(record)) await way();
    expect(store.rows('entries')).toHaveLength(3);
    expect(store.rows('timers')).toHaveLength(1);
  });

  it.each(['timer', 'by hand', 'trail', 'plan'] as const)(
    'only %s, where it is the one that was named',
    async (way) => {
      const { only, record, store } = all;
      await only(way);
      for (const other of Object.keys(record) as RecordingWay[])
        if (other !== way) await expect(record[other]()).rejects.toThrow(fault('no-right'));
      expect([...store.rows('entries'), ...store.rows('timers')]).toEqual([]);
      await record[way]();
      expect([...store.rows('entries'), ...store.rows('timers')]).toHaveLength(1);
    },
  );

  it('are of the member’s own recording: somebody else writes down for them, and what is there is changed', async () => {
    const { only, as, at, run, added, wren } = all;
    await only('timer');
    as(at.member);
    const id = await added('entry.add', work(at.rig, 600, { memberId: wren }));
    as(wren);
    await run('entry.edit', { id, note: 'Rehang' });
    await expect(run('entry.duplicate', { ids: [id], day: DAY } as never)).rejects.toThrow();
  });

  it('name at least one', async () => {
    await expect(all.only()).rejects.toThrow(fault('invalid', 'ways'));
  });
});

describe('kinds of work', () => {
  it('are those that the studio has a member record', async () => {
    const { as, at, run, added, wren } = all;
    as(at.member);
    const kind = (name: string) => added('kindOfWork.add', { serviceId: at.design, name });
    const [plot, site] = [await kind('Plot'), await kind('Site')];
    await run('member.edit', { id: wren, kindsOfWork: [plot] });
    as(wren);
    const entry = (kindOfWorkId: Id | null) =>
      added('entry.add', work(at.rig, 600, { memberId: wren, serviceId: at.design, kindOfWorkId }));
    const id = await entry(plot);
    await entry(null);
    await expect(entry(site)).rejects.toThrow(fault('no-right', 'kindOfWorkId'));
    // Set by somebody else, it stays.
    as(at.member);
    await run('entry.edit', { id, kindOfWorkId: site });
    as(wren);
    await run('entry.edit', { id, note: 'On site' });
  });
});

describe('what the studio sets', () => {
  it('is not changed by the member, whose own order and pins stay theirs', async () => {
    const { as, at, run, added, wren } = all;
    as(at.member);
    const rightSetId = await added('rightSet.add', { name: 'Member', grants: [{ right: 'record own', only: null }] });
    await run('member.edit', { id: wren, rightSetId });
    as(wren);
    await run('member.edit', { id: wren, form: ['length', 'note'] });
    as(at.member);
    await run('member.edit', { id: wren, locked: true });
    as(wren);
    for (const fields of [
      { form: ['length' as const] },
      { asked: [] as [], hiddenServices: [at.design] },
      { locked: false },
    ])
      await expect(run('member.edit', { id: wren, ...fields })).rejects.toThrow(fault('no-right'));
    await run('member.edit', { id: wren, pinned: [at.rig], jobOrder: 'client first' });
  });
});
