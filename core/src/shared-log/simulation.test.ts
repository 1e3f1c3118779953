import fc from 'fast-check';
import { expect, it } from 'vitest';
import { MemoryExecutor } from '../commands';
import { MemoryStore, recordsHash } from '../engine';
import { Fault } from '../faults/fault';
import { unsound } from '../testing/conserved';
import { runs } from '../testing/runs';
import { MemoryDevice, MemoryRelay } from '../testing/shared-log';
import { setUp, TestContext, work, type Studio } from '../testing/studio';
import type { Id } from '../model/ids';
import type { LogBody, LogHead, LogRow } from './log';

// Devices that work apart for as long as they like, and a network that loses, doubles and delays what they send. In the end all of them
// hold the same, byte for byte, and it is sound.

const doings = [
  ...['add', 'add', 'edit', 'part', 'remove', 'split', 'draft', 'takeOff', 'discard', 'issue', 'issue', 'void'],
  ...['pay', 'undo', 'redo', 'start', 'stop', 'client', 'cost', 'again', 'letGo'],
] as const;
const nets = ['fetch', 'send', 'lose the answer', 'lose', 'late', 'twice', 'deliver'] as const;

// They pick among few, so that they meet.
const doing = fc.record({
  device: fc.nat(7),
  what: fc.constantFrom(...doings),
  pick: fc.nat(7),
  size: fc.integer({ min: 1, max: 20_000 }),
});
const sending = fc.record({ device: fc.nat(7), net: fc.constantFrom(...nets), pick: fc.nat(1000) });
const step = fc.oneof({ weight: 3, arbitrary: doing }, { weight: 2, arbitrary: sending });
type Doing = typeof doing extends fc.Arbitrary<infer T> ? T : never;
type Sending = typeof sending extends fc.Arbitrary<infer T> ? T : never;

async function act(device: MemoryDevice, at: Studio, { what, pick, size }: Doing): Promise<unknown> {
  const { store } = device;
  const entries = store.rows('entries');
  const invoices = store.rows('invoices');
  const entry = entries[pick % entries.length];
  const invoice = invoices[pick % invoices.length];
  const refused = store.standing!.refused;
  const project = pick % 2 ? at.rig : at.gallery;
  switch (what) {
    case 'add':
      return device.run('entry.add', work(project, size));
    case 'edit':
      return entry && device.run('entry.edit', { id: entry.id, seconds: size });
    case 'part':
      return entry && device.run('entry.edit', { id: entry.id, billableSeconds: size % (entry.seconds + 1) });
    case 'remove':
      return entry && device.run('entry.remove', { ids: [entry.id] });
    case 'split':
      return entry && device.run('entry.split', { id: entry.id, seconds: size % (entry.seconds + 1) });
    case 'draft':
      return (
        entry && device.run('invoice.draft', { clientId: pick % 2 ? at.playhouse : at.museum, entryIds: [entry.id] })
      );
    case 'takeOff':
      return invoice && entry && device.run('invoice.takeOff', { id: invoice.id, sourceIds: [entry.id] });
    case 'discard':
      return invoice && device.run('invoice.discard', { id: invoice.id });
    case 'issue':
      return invoice && device.run('invoice.issue', { id: invoice.id });
    case 'void':
      return invoice && device.run('invoice.void', { id: invoice.id, reason: 'test' });
    case 'pay':
      return invoice && device.run('payment.add', { invoiceId: invoice.id, day: '2026-11-12', amount: size, note: '' });
    case 'undo':
      return device.undo();
    case 'redo':
      return device.redo();
    case 'start':
      return device.run('timer.start', { projectId: project, serviceId: null, note: '' });
    case 'stop': {
      const [timer] = store.rows('timers');
      return timer && device.run('timer.stop', { id: timer.id });
    }
    case 'client':
      return device.run('client.edit', { id: at.playhouse, name: `Quayside Playhouse ${size}` });
    case 'cost':
      return device.run('project.edit', { id: project, jobNumber: String(size) });
    case 'again': {
      const each = refused[pick % refused.length];
      return each && device.shared.doAgain(store, each.op, device.here());
    }
    case 'letGo': {
      const each = refused[pick % refused.length];
      return each && device.shared.letGo(store, each.op);
    }
  }
}

/** What is on its way to the relay, and may come there late, twice or never. */
interface Sent {
  after: LogHead;
  rows: LogRow[];
}

async function transmit(device: MemoryDevice, relay: MemoryRelay, late: Sent[], { net, pick }: Sending): Promise<void> {
  if (net === 'fetch') {
    const rows = relay.after(device.store.standing!.head.number, 1 + (pick % 20));
    if (rows.length > 0) await device.hear(rows);
    return;
  }
  if (net === 'deliver') {
    const [sent] = late.splice(pick % (late.length || 1), 1);
    if (sent) relay.append(sent.after, sent.rows);
    return;
  }
  const sent = await device.outgoing();
  if (!sent || net === 'lose') return;
  if (net === 'late') return void late.push(sent);
  if (net === 'twice') late.push(sent);
  const answer = relay.append(sent.after, sent.rows);
  // The device dies, or the line, before it hears what became of it.
  if (net === 'lose the answer') return;
  await device.hear(answer.taken ? sent.rows : answer.rows);
}

async function walk(count: number, steps: readonly (Doing | Sending)[]) {
  const test = new TestContext();
  const first = new MemoryStore();
  const executor = new MemoryExecutor(first, test.context);
  const at = await setUp(executor, test);
  // Something is there that they can be in each other's way about.
  for (const project of [at.rig, at.gallery, at.rig, at.gallery, at.rig, at.gallery])
    await executor.run('entry.add', work(project, 3600));
  const relay = new MemoryRelay();
  const devices = Array.from({ length: count }, (_, index) => {
    // Each clock is wrong by up to some minutes.
    const device = new MemoryDevice(index + 1, test.now + ((index * 97) % 13) * 20_000);
    device.memberId = at.member;
    device.begin(first);
    return device;
  });
  const late: Sent[] = [];
  const added: Id[] = [];
  for (const each of steps) {
    const device = devices[each.device % count]!;
    for (const one of devices) one.now += 60_000;
    if ('net' in each) {
      await transmit(device, relay, late, each);
      continue;
    }
    try {
      await act(device, at, each);
      if (each.what === 'add') added.push(device.store.standing!.waiting.at(-1)!.op);
    } catch (thrown) {
      if (!(thrown instanceof Fault)) throw thrown;
    }
  }
  for (const sent of late) relay.append(sent.after, sent.rows);
  // Whoever is last may be the first to hear of the others, so everybody twice.
  for (const device of [...devices, ...devices]) await device.settle(relay);
  return { devices, relay, added };
}

it('ends with every device holding the same, sound and complete, whatever was lost, doubled or late', async () => {
  const seen = { refused: 0, rows: 0 };
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 2, max: 8 }),
      fc.array(step, { minLength: 20, maxLength: 120, size: 'max' }),
      async (count, steps) => {
        const { devices, relay, added } = await walk(count, steps);
        const ops = relay.rows.map(({ sealed }) => (JSON.parse(sealed) as LogBody).op);
        expect(new Set(ops).size).toBe(ops.length);
        // Nothing stands in the way of time that is recorded: wherever it was, it is there.
        expect(ops).toEqual(expect.arrayContaining(added));
        seen.rows += ops.length;
        seen.refused += devices.reduce((sum, { everRefused }) => sum + everRefused, 0);
        const [one] = devices;
        const hashOf = ({ store }: MemoryDevice) => recordsHash((table) => store.rows(table));
        for (const device of devices) {
          expect(device.store.standing!.waiting).toEqual([]);
          expect(device.store.standing!.head).toEqual(one!.store.standing!.head);
          expect(hashOf(device)).toBe(hashOf(one!));
          expect(device.store.journal).toEqual(one!.store.journal);
        }
        const { store } = one!;
        expect(await unsound(store)).toEqual([]);
        expect(store.rows('timers').length).toBeLessThanOrEqual(1);
      },
    ),
    { numRuns: runs(30) },
  );
  // It would say nothing if nobody had been in anybody's way.
  expect(seen.rows).toBeGreaterThan(100);
  expect(seen.refused).toBeGreaterThan(0);
});
