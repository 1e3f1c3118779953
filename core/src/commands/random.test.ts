import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Fault } from '../faults/fault';
import { setUp, TestContext, work } from '../testing/studio';
import { unsound } from '../testing/conserved';
import { MemoryExecutor } from './executor';
import { MemoryStore } from '../engine/memory';
import { runs } from '../testing/runs';

/** A step picks what it acts on by number, so that any sequence makes sense whatever is there. */
const step = fc.record({
  what: fc.constantFrom(
    'add',
    'edit',
    'part',
    'remove',
    'draft',
    'takeOff',
    'discard',
    'issue',
    'void',
    'pay',
    'undo',
    'redo',
    'start',
    'stop',
  ),
  pick: fc.nat(1000),
  size: fc.integer({ min: 1, max: 20_000 }),
});

it('keeps every second and penny in its place through any sequence of commands from two devices', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 40 }), async (steps) => {
      const test = new TestContext();
      const store = new MemoryStore();
      const executor = new MemoryExecutor(store, test.context);
      const at = await setUp(executor, test);
      const second = new TestContext(7);
      second.memberId = at.member;
      const other = new MemoryExecutor(store, second.context);
      for (const { what, pick, size } of steps) {
        test.wait(1);
        second.now = test.now;
        const runner = pick % 3 === 0 ? other : executor;
        const entries = store.rows('entries');
        const invoices = store.rows('invoices');
        const entry = entries[pick % entries.length];
        const invoice = invoices[pick % invoices.length];
        try {
          if (what === 'add') await runner.run('entry.add', work(pick % 2 ? at.rig : at.gallery, size));
          else if (what === 'start') await runner.run('timer.start', { projectId: at.rig, serviceId: null, note: '' });
          else if (what === 'stop') await runner.run('timer.stop', { id: store.rows('timers')[0]!.id });
          else if (what === 'undo') await runner.undo();
          else if (what === 'redo') await runner.redo();
          else if (what === 'edit' && entry) await runner.run('entry.edit', { id: entry.id, seconds: size });
          else if (what === 'part' && entry)
            await runner.run('entry.edit', { id: entry.id, billableSeconds: size % (entry.seconds + 1) });
          else if (what === 'remove' && entry) await runner.run('entry.remove', { ids: [entry.id] });
          else if (what === 'draft' && entry)
            await runner.run('invoice.draft', { clientId: pick % 2 ? at.playhouse : at.museum, entryIds: [entry.id] });
          else if (what === 'takeOff' && invoice && entry)
            await runner.run('invoice.takeOff', { id: invoice.id, sourceIds: [entry.id] });
          else if (what === 'discard' && invoice) await runner.run('invoice.discard', { id: invoice.id });
          else if (what === 'issue' && invoice) await runner.run('invoice.issue', { id: invoice.id });
          else if (what === 'void' && invoice) await runner.run('invoice.void', { id: invoice.id, reason: 'test' });
          else if (what === 'pay' && invoice)
            await runner.run('payment.add', { invoiceId: invoice.id, day: '2026-11-12', amount: size, note: '' });
        } catch (thrown) {
          // What cannot be done is refused in words; anything else is a mistake of ours.
          if (!(thrown instanceof Fault) && !(thrown instanceof TypeError && what === 'stop')) throw thrown;
        }
      }
      expect(await unsound(store)).toEqual([]);
    }),
    { numRuns: runs(60) },
  );
});
