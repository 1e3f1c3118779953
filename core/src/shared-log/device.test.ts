import { beforeEach, describe, expect, it } from 'vitest';
import { MemoryExecutor } from '../commands';
import { MemoryStore } from '../engine';
import { fault } from '../testing/fault';
import { MemoryDevice, MemoryRelay, rowsFrom } from '../testing/shared-log';
import { setUp, TestContext, work, type Studio } from '../testing/studio';
import { LogFault, type LogBody, type LogFaultKind } from './log';

let at: Studio;
let laptop: MemoryDevice;
let phone: MemoryDevice;
let relay: MemoryRelay;

beforeEach(async () => {
  const test = new TestContext();
  const first = new MemoryStore();
  at = await setUp(new MemoryExecutor(first, test.context), test);
  relay = new MemoryRelay();
  [laptop, phone] = [1, 2].map((number) => {
    const device = new MemoryDevice(number, test.now);
    device.memberId = at.member;
    device.begin(first);
    return device;
  }) as [MemoryDevice, MemoryDevice];
});

const wait = (minutes: number) => [laptop, phone].forEach((device) => (device.now += minutes * 60_000));
const standing = (device: MemoryDevice) => device.store.standing!;
const named = (kind: LogFaultKind) => expect.objectContaining({ kind }) as Error;

describe('two devices', () => {
  it('show what the other did once both have met the log', async () => {
    await laptop.run('entry.add', work(at.rig, 3600));
    await phone.run('entry.add', work(at.gallery, 1800));
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(laptop.store.rows('entries')).toHaveLength(1);
    await laptop.settle(relay);
    expect(laptop.store.rows('entries').map(({ seconds }) => seconds)).toEqual(expect.arrayContaining([3600, 1800]));
    expect(laptop.store.journal).toEqual(phone.store.journal);
  });

  it('keep what does not fit any more, with the reason, and do it again under the same ids', async () => {
    await laptop.run('entry.add', work(at.rig, 3600));
    await laptop.settle(relay);
    await phone.settle(relay);
    const [entry] = phone.store.rows('entries');
    await laptop.run('entry.remove', { ids: [entry!.id] });
    await laptop.settle(relay);
    const here = { ...phone.here(), position: { latitude: 50.1, longitude: -5.1, accuracy: 10 } };
    await phone.shared.run(phone.store, phone.newId(), 'entry.edit', { id: entry!.id, note: 'Cue 14 moved' }, here);
    await phone.settle(relay);
    expect(JSON.stringify([standing(phone), relay.rows])).not.toContain('latitude');
    const [refused] = standing(phone).refused;
    expect(refused).toMatchObject({ title: 'Entry changed', why: 'This entry is not there any more.' });
    expect(phone.store.rows('entries')).toEqual([]);
    await expect(phone.shared.doAgain(phone.store, refused!.op, phone.here())).rejects.toThrow(fault('gone'));
    expect(standing(phone).refused).toHaveLength(1);
    await laptop.undo();
    await laptop.settle(relay);
    await phone.settle(relay);
    await phone.shared.doAgain(phone.store, refused!.op, phone.here());
    expect(standing(phone).refused).toEqual([]);
    expect(phone.store.rows('entries')[0]!.note).toBe('Cue 14 moved');
  });

  it('go on with what depends on something that is planned again', async () => {
    await phone.run('entry.add', work(at.rig, 3600));
    const [entry] = phone.store.rows('entries');
    await phone.run('entry.edit', { id: entry!.id, seconds: 1200 });
    await laptop.run('client.edit', { id: at.playhouse, name: 'Quayside' });
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(phone.store.rows('entries')).toMatchObject([{ id: entry!.id, seconds: 1200 }]);
    expect(standing(phone).refused).toEqual([]);
  });

  it('take nothing back that somebody else has changed since', async () => {
    await laptop.run('client.edit', { id: at.playhouse, name: 'Quayside' });
    await laptop.settle(relay);
    await phone.settle(relay);
    await phone.run('client.edit', { id: at.playhouse, name: 'The Quayside' });
    await phone.settle(relay);
    await laptop.settle(relay);
    await expect(laptop.undo()).rejects.toThrow(fault('changed-since'));
    await expect(laptop.undo()).rejects.toThrow('Imogen Vale has changed it since (“Client changed”)');
    await phone.undo();
    await phone.settle(relay);
    await laptop.settle(relay);
    await laptop.undo();
    expect((await laptop.store.get('clients', at.playhouse))!.name).toBe('Quayside Playhouse');
  });

  it('drop what was refused and had been taken back, and bring it again where that was repeated', async () => {
    await laptop.run('entry.add', work(at.rig, 3600));
    await laptop.settle(relay);
    await phone.settle(relay);
    const [entry] = phone.store.rows('entries');
    await phone.run('entry.edit', { id: entry!.id, note: 'Plot sheet' });
    await phone.undo();
    await laptop.run('entry.remove', { ids: [entry!.id] });
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(standing(phone)).toMatchObject({ waiting: [], refused: [] });

    await laptop.undo();
    await laptop.settle(relay);
    await phone.settle(relay);
    await phone.run('entry.edit', { id: entry!.id, note: 'Plot sheet' });
    await phone.undo();
    await phone.redo();
    await laptop.run('entry.remove', { ids: [entry!.id] });
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(standing(phone).refused.map(({ title }) => title)).toEqual(['Entry changed']);
  });
});

describe('what the outside world sees', () => {
  const drafted = async (device: MemoryDevice, clientId: string, projectId: string) => {
    await device.run('entry.add', work(projectId, 3600));
    const entry = device.store.rows('entries').find((row) => row.projectId === projectId);
    await device.run('invoice.draft', { clientId, entryIds: [entry!.id] });
    return device.store.rows('invoices').find((row) => row.clientId === clientId)!.id;
  };

  it('waits for its turn, and has numbers without gaps whoever issues', async () => {
    const one = await drafted(laptop, at.playhouse, at.rig);
    const two = await drafted(phone, at.museum, at.gallery);
    expect(await phone.run('invoice.issue', { id: two })).toEqual({ row: null, waits: true });
    expect((await phone.store.get('invoices', two))!.seq).toBeNull();
    expect(standing(phone).waiting.at(-1)).toMatchObject({ title: 'Invoice issued', seq: null });
    await laptop.run('invoice.issue', { id: one });
    await laptop.settle(relay);
    await phone.settle(relay);
    await laptop.settle(relay);
    const numbers = async (device: MemoryDevice) =>
      (await device.store.many('invoices', [one, two])).map((row) => row!.seq);
    expect(await numbers(laptop)).toEqual([1, 2]);
    expect(await numbers(phone)).toEqual([1, 2]);
  });

  it('is refused at once where it does not fit here, and kept where it does not fit in its turn', async () => {
    const one = await drafted(laptop, at.playhouse, at.rig);
    await laptop.settle(relay);
    await phone.settle(relay);
    await expect(phone.run('invoice.void', { id: one, reason: 'Twice' })).rejects.toThrow();
    expect(standing(phone).waiting).toEqual([]);
    await phone.run('invoice.issue', { id: one });
    await laptop.run('invoice.discard', { id: one });
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(standing(phone).refused).toMatchObject([{ title: 'Invoice issued' }]);
    expect(relay.rows).toHaveLength(3);
  });

  it('is issued once where the answer was lost', async () => {
    const one = await drafted(laptop, at.playhouse, at.rig);
    await laptop.settle(relay);
    await laptop.run('invoice.issue', { id: one });
    const sent = await laptop.outgoing();
    relay.append(sent!.after, sent!.rows);
    await laptop.settle(relay);
    expect(relay.rows).toHaveLength(3);
    expect((await laptop.store.get('invoices', one))!.seq).toBe(1);
  });
});

describe('one timer a member', () => {
  const start = (device: MemoryDevice, projectId: string) =>
    device.run('timer.start', { projectId, serviceId: null, note: '' });

  it.each(['the earlier', 'the later'])('ends at the later start where %s comes to the log first', async (first) => {
    await start(phone, at.rig);
    wait(30);
    await start(laptop, at.gallery);
    const order = first === 'the earlier' ? [phone, laptop] : [laptop, phone];
    for (const device of [...order, ...order]) await device.settle(relay);
    for (const { store } of order) {
      expect(store.rows('timers')).toMatchObject([{ projectId: at.gallery }]);
      expect(store.rows('entries')).toMatchObject([{ projectId: at.rig, seconds: 1800 }]);
    }
  });

  it('has nothing to stop where the later start ended it', async () => {
    await start(phone, at.rig);
    const [timer] = phone.store.rows('timers');
    wait(30);
    await start(laptop, at.gallery);
    await laptop.settle(relay);
    wait(10);
    await phone.run('timer.stop', { id: timer!.id });
    await phone.settle(relay);
    expect(standing(phone).refused).toEqual([]);
    expect(phone.store.rows('entries')).toMatchObject([{ projectId: at.rig, seconds: 1800 }]);
    expect(phone.store.rows('timers')).toMatchObject([{ projectId: at.gallery }]);
  });
});

describe('a relay that lies', () => {
  beforeEach(async () => {
    for (const seconds of [600, 1200, 1800, 2400]) {
      await laptop.run('entry.add', work(at.rig, seconds));
      await laptop.settle(relay);
    }
  });

  const bytes = () => JSON.stringify([phone.store.rows('entries'), phone.store.journal, standing(phone)]);

  it.each<[string, (rows: MemoryRelay['rows']) => MemoryRelay['rows'], LogFaultKind]>([
    ['leaves a row out', (rows) => rows.toSpliced(1, 1), 'not in order'],
    ['changes the order', ([a, b, c, d]) => [a!, c!, b!, d!], 'not in order'],
    ['sends a row again', ([a, b, c, d]) => [a!, b!, b!, c!, d!], 'not in order'],
    [
      'numbers its rows so that one is left out',
      ([a, , c, d]) => [a!, { ...c!, number: 2 }, { ...d!, number: 3 }],
      'not after the one before',
    ],
    ['sends a row of another book', ([a, b]) => [a!, { ...b!, book: at.rig }], 'another book'],
  ])('and %s is named, and nothing is applied', async (_what, lie, kind) => {
    const before = bytes();
    await expect(phone.hear(lie(relay.rows))).rejects.toThrow(named(kind));
    expect(bytes()).toBe(before);
  });

  it('and forks is named by whoever hears of both', async () => {
    const forked = new MemoryRelay();
    forked.rows = relay.rows.slice(0, 2);
    await phone.settle(forked);
    await phone.run('entry.add', work(at.gallery, 60));
    await phone.settle(forked);
    await expect(phone.hear(relay.rows.slice(3))).rejects.toThrow(named('not after the one before'));
    await expect(laptop.hear(forked.rows.slice(2))).rejects.toThrow(LogFault);
  });

  it('and was set back is named', async () => {
    await phone.settle(relay);
    relay.rows = relay.rows.slice(0, 2);
    await expect(phone.settle(relay)).rejects.toThrow(named('lost'));
  });
});

describe('a device that writes what it may not', () => {
  const forged = async (change: (body: LogBody) => LogBody) => {
    await laptop.run('entry.add', work(at.rig, 600));
    const out = await laptop.shared.outgoing(laptop.store, laptop.here());
    return rowsFrom(out!.after, out!.bodies.map(change), laptop.device);
  };

  it('is refused where its history was altered', async () => {
    const rows = await forged((body) => ({ ...body, row: { ...body.row, at: body.row.at + 1 } }));
    await expect(phone.hear(rows)).rejects.toThrow(named('does not fit'));
  });

  it('is refused where it had another workspace before it', async () => {
    await phone.run('client.edit', { id: at.playhouse, name: 'Quayside' });
    await laptop.run('client.edit', { id: at.playhouse, name: 'The Quayside' });
    await phone.settle(relay);
    const out = await laptop.shared.outgoing(laptop.store, laptop.here());
    await expect(phone.hear(rowsFrom(standing(phone).head, out!.bodies, laptop.device))).rejects.toThrow(
      named('does not fit'),
    );
  });

  it('is waited for where it has a newer version', async () => {
    const rows = await forged((body) => ({ ...body, version: body.version + 1 }));
    await expect(phone.hear(rows)).rejects.toThrow(named('from a newer version'));
  });
});

describe('a device that slept while the workspace was begun afresh', () => {
  /** The phone's workspace is put in the place of what the laptop has, as it stands at the head of the log. */
  const beginAfresh = async () => {
    const before = standing(laptop);
    const hashes = new Map<string, string>();
    for (const { op, seq } of before.waiting)
      if (seq !== null) hashes.set(op, (await laptop.store.journalRow(laptop.device, seq))!.hash);
    const { device, now, memberId } = laptop;
    laptop = new MemoryDevice(1, now, device);
    laptop.memberId = memberId;
    laptop.begin(phone.store, relay.head);
    return laptop.shared.goOn(laptop.store, before, hashes, laptop.here());
  };

  it('does on it what waited there, each at its own time', async () => {
    await phone.run('entry.add', work(at.rig, 3600));
    await phone.settle(relay);
    await laptop.run('timer.start', { projectId: at.gallery, serviceId: null, note: 'Lux study' });
    const startedAt = laptop.store.rows('timers')[0]!.startedAt;
    wait(90);
    await beginAfresh();
    expect(laptop.store.rows('entries')).toHaveLength(1);
    expect(laptop.store.rows('timers')).toMatchObject([{ startedAt, note: 'Lux study' }]);
    await laptop.settle(relay);
    await phone.settle(relay);
    expect(phone.store.rows('timers')).toEqual(laptop.store.rows('timers'));
  });

  it('knows what the log had taken before the answer was lost', async () => {
    await laptop.run('entry.add', work(at.rig, 3600));
    const out = (await laptop.outgoing())!;
    relay.append(out.after, out.rows);
    await phone.settle(relay);
    await laptop.run('entry.edit', { id: laptop.store.rows('entries')[0]!.id, note: 'And noted' });
    const heard = await beginAfresh();
    expect(heard.confirmed).toHaveLength(1);
    expect(laptop.store.rows('entries')).toMatchObject([{ note: 'And noted' }]);
    await laptop.settle(relay);
    expect(relay.rows).toHaveLength(2);
  });

  it('keeps what does not fit it, and what did not fit before', async () => {
    await phone.run('entry.add', work(at.rig, 3600));
    await phone.settle(relay);
    await laptop.settle(relay);
    const [entry] = laptop.store.rows('entries');
    await laptop.run('entry.edit', { id: entry!.id, note: 'Too late' });
    await phone.run('entry.remove', { ids: [entry!.id] });
    await phone.settle(relay);
    await beginAfresh();
    expect(standing(laptop).refused).toMatchObject([{ title: 'Entry changed' }]);
    await beginAfresh();
    expect(standing(laptop).refused).toHaveLength(1);
  });
});

describe('what waits for its turn', () => {
  it('waits once, however often it is asked for', async () => {
    const command = ['period.close', { from: '2026-10-01', to: '2026-10-31', memberId: null, anyway: true }] as const;
    await laptop.run(...command);
    await expect(laptop.run(...command)).rejects.toThrow(fault('in-use'));
    expect(standing(laptop).waiting).toHaveLength(1);
  });
});
