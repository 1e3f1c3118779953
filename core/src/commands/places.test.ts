import { beforeEach, describe, expect, it } from 'vitest';
import type { CommandContext } from '../engine/command';
import type { Id } from '../model/ids';
import type { Place, PlaceRule } from '../model/records';
import { fault } from '../testing/fault';
import { TestContext, setUp, work } from '../testing/studio';
import { MemoryStore } from '../engine';
import { MemoryExecutor, type CommandInput, type CommandName } from '.';

const DOCK = { latitude: 50.3689, longitude: -4.1393, radius: 200 };
const AT_THE_DOCK = { latitude: 50.369, longitude: -4.1392, accuracy: 10 };
const AT_HOME = { latitude: 50.4, longitude: -4.1393, accuracy: 10 };

async function somewhere() {
  const store = new MemoryStore();
  const test = new TestContext();
  let position: CommandContext['position'];
  const executor = new MemoryExecutor(store, () => ({
    ...test.context(),
    ...(position !== undefined && { position }),
  }));
  const at = await setUp(executor, test);
  const run = <N extends CommandName>(name: N, input: CommandInput<N>) => executor.run(name, input);
  const added = async <N extends CommandName>(name: N, input: CommandInput<N>): Promise<Id> =>
    (await run(name, input)).changes[0]!.id;
  const place = (name: string): Place => ({ id: test.newId(), name, ...DOCK });
  const rule = (placeRule: PlaceRule) => run('member.edit', { id: at.member, placeRule });
  const be = (where: CommandContext['position']) => (position = where);
  return { store, test, at, run, added, place, rule, be };
}

let all: Awaited<ReturnType<typeof somewhere>>;
beforeEach(async () => {
  all = await somewhere();
  await all.run('project.edit', { id: all.at.rig, places: [all.place('the dock')] });
});

const recorded = () => all.store.rows('entries').at(-1)?.recordedFrom;

describe('where time is recorded from', () => {
  it('is nobody’s business where no rule or no place says so', async () => {
    const { added, at, rule } = all;
    await added('entry.add', work(at.rig, 600));
    await rule('bound');
    await added('entry.add', work(at.gallery, 600));
    expect(all.store.rows('entries').map(({ recordedFrom }) => recordedFrom)).toEqual([undefined, undefined]);
  });

  it('is asked for before anything is recorded, and then refused with the distance or kept as inside', async () => {
    const { added, at, rule, be, store } = all;
    await rule('bound');
    await expect(added('entry.add', work(at.rig, 600))).rejects.toEqual(fault('position-needed'));
    be(AT_HOME);
    await expect(added('entry.add', work(at.rig, 600))).rejects.toMatchObject({
      code: 'too-far',
      message: expect.stringMatching(
        /^You are 3\.2 km from the dock, and Winter season rig is recorded only from the dock/,
      ) as string,
    });
    expect(store.rows('entries')).toEqual([]);
    be(AT_THE_DOCK);
    await added('entry.add', work(at.rig, 600));
    expect(recorded()).toEqual({ inside: true, metres: 0 });
    // What is kept says nothing of the position itself.
    expect(JSON.stringify(store.journal)).not.toMatch(/50\.369\b|-4\.1392/);
  });

  it('is noted as outside of who is only warned, and unknown where it cannot be told', async () => {
    const { added, at, rule, be } = all;
    await rule('warned');
    be(AT_HOME);
    await added('entry.add', work(at.rig, 600));
    expect(all.store.journal.at(-1)?.title).toBe('Entry added, from elsewhere');
    expect(recorded()).toEqual({ inside: false, metres: 3250 });
    be(null);
    await added('entry.add', work(at.rig, 600));
    expect(recorded()).toBeUndefined();
    await rule('bound');
    await expect(added('entry.add', work(at.rig, 600))).rejects.toEqual(fault('too-far'));
  });

  it('is that of the start of a timer, wherever it is stopped', async () => {
    const { added, run, at, rule, be, test } = all;
    await rule('bound');
    be(AT_THE_DOCK);
    const id = await added('timer.start', { projectId: at.rig, serviceId: null, note: '' });
    test.wait(30);
    be(AT_HOME);
    await run('timer.stop', { id });
    expect(recorded()).toEqual({ inside: true, metres: 0 });
    await expect(added('timer.start', { projectId: at.rig, serviceId: null, note: '' })).rejects.toEqual(
      fault('too-far'),
    );
  });

  it('holds for parts of a project, and by the studio’s places for all other jobs', async () => {
    const { added, run, at, rule, be, place } = all;
    const part = await added('project.add', {
      ...{ name: 'Act one', clientId: at.playhouse, parentId: at.rig },
      ...{ jobNumber: '', colour: 'moss', finished: false },
    });
    await rule('bound');
    be(AT_HOME);
    await expect(added('entry.add', work(part, 600))).rejects.toEqual(fault('too-far'));
    await added('entry.add', work(at.gallery, 600));
    await run('workspace.edit', { places: [{ ...place('the studio'), latitude: 10 }] });
    await expect(added('entry.add', work(at.gallery, 600))).rejects.toEqual(fault('too-far'));
    await expect(added('entry.add', work(null, 600, { unlisted: 'Foyer' } as never))).rejects.toEqual(fault('too-far'));
  });

  it('stays with an entry that is changed or cut, and is not asked for again', async () => {
    const { added, run, at, rule, be, store } = all;
    await rule('bound');
    be(AT_THE_DOCK);
    const id = await added('entry.add', work(at.rig, 600));
    be(AT_HOME);
    await run('entry.edit', { id, note: 'Focus' });
    await run('entry.split', { id, after: 300 });
    expect(store.rows('entries').map(({ recordedFrom }) => recordedFrom?.inside)).toEqual([true, true]);
  });

  it('is not asked of who records for somebody else', async () => {
    const { added, rule, at, test } = all;
    await rule('bound');
    const other = await added('member.add', {
      name: 'Ilka',
      role: '',
      zone: 'Europe/London',
      owed: [0, 0, 0, 0, 0, 0, 0],
    });
    test.memberId = other;
    await added('entry.add', work(at.rig, 600, { memberId: at.member }));
    expect(all.store.rows('entries')).toHaveLength(1);
  });

  it('refuses a place that is none', async () => {
    const { run, at, place } = all;
    const wrong = (fields: Partial<Place>) =>
      run('project.edit', { id: at.rig, places: [{ ...place('x'), ...fields }] });
    await expect(wrong({ latitude: 91 })).rejects.toMatchObject({ path: 'places/0/latitude' });
    await expect(wrong({ longitude: -181 })).rejects.toMatchObject({ path: 'places/0/longitude' });
    await expect(wrong({ radius: 5 })).rejects.toMatchObject({ path: 'places/0/radius' });
    await expect(wrong({ name: ' ' })).rejects.toMatchObject({ path: 'places/0/name' });
  });
});
