import { beforeEach, describe, expect, it } from 'vitest';
import { readBook, Pricer, toBill } from '../billing';
import { type Executor } from '../commands';
import { checkChains, type Reader } from '../engine';
import type { JournalRow } from '../model/change';
import type { Allocation, Entry, Invoice, Timer } from '../model/records';
import { DAY, setUp, studio, TestContext, work, type Studio } from './studio';

/** A place a workspace lives in, as the contract sees it. */
export interface Place {
  executor: Executor;
  reader: Reader;
  journal(): Promise<JournalRow[]>;
}

/** What every executor must do alike. `make` gives an empty workspace each time. */
export function executorContract(name: string, make: (test: TestContext) => Promise<Place>): void {
  describe(`${name}: the executor’s contract`, () => {
    let test: TestContext;
    let place: Place;
    let at: Studio;
    beforeEach(async () => {
      test = new TestContext();
      place = await make(test);
      at = await setUp(place.executor, test);
    });
    const run: Executor['run'] = (...args) => place.executor.run(...args);
    const entries = () => place.reader.all('entries');
    const added = async (...args: Parameters<typeof work>) => (await run('entry.add', work(...args))).changes[0]!.id;

    it('writes rows and a journal row together, chained and hashed', async () => {
      await added(at.rig, 3600);
      const journal = await place.journal();
      expect(journal.at(-1)).toMatchObject({
        command: 'entry.add',
        title: 'Entry added',
        memberId: at.member,
        at: test.now,
      });
      expect(journal.map((row) => row.seq)).toEqual(journal.map((_, index) => index + 1));
      expect(checkChains(journal)).toEqual([]);
    });

    it('notices any change to the history', async () => {
      await added(at.rig, 3600);
      const journal = await place.journal();
      const altered = journal.map((row, index) => (index === 3 ? { ...row, at: row.at + 1 } : row));
      expect(checkChains(altered)).toEqual([
        { device: test.device, seq: 4, message: 'Change 4 was altered after it was made.' },
      ]);
      expect(checkChains(journal.filter((row) => row.seq !== 3))[0]?.message).toMatch(
        /Change 3 of the history is missing/,
      );
    });

    it('changes nothing when the input is refused, and names the field', async () => {
      const before = await place.journal();
      const refused = [
        [work(at.rig, 0), 'seconds'],
        [work(at.rig, -5), 'seconds'],
        [work(at.rig, 90.5), 'seconds'],
        [work(at.rig, 60, { day: '2026-02-30' }), 'day'],
        [work(at.rig, 60, { spans: [{ start: test.now, end: test.now - 60_000 }] }), 'spans/0/end'],
        [work(at.rig, 60, { billableSeconds: 61 }), 'billableSeconds'],
        [work(test.newId(), 60), 'projectId'],
        [work(at.rig, 60, { note: 'x'.repeat(200_001) }), 'note'],
      ] as const;
      for (const [input, path] of refused)
        await expect(run('entry.add', input)).rejects.toMatchObject({ name: 'Fault', path });
      expect(await entries()).toEqual([]);
      expect(await place.journal()).toEqual(before);
    });

    it('keeps any text as it is', async () => {
      const notes = ['<b onclick="x()">bold</b>', '👩🏽‍🎨 𝕬', 'שלום \u202e مرحبا', 'a'.repeat(100_000), '\u0000 \n\t"\\'];
      for (const note of notes) await added(at.rig, 60, { note });
      expect((await entries()).map((entry) => entry.note).sort()).toEqual([...notes].sort());
    });

    it('undoes and redoes, again and again', async () => {
      const id = await added(at.rig, 3600);
      await run('entry.edit', { id, note: 'Colour study' });
      await place.executor.undo();
      expect((await entries())[0]?.note).toBe('Plot sheet 4');
      await place.executor.undo();
      expect(await entries()).toEqual([]);
      await place.executor.redo();
      await place.executor.redo();
      expect((await entries())[0]?.note).toBe('Colour study');
      await expect(place.executor.redo()).rejects.toThrow('There is nothing to redo.');
      await place.executor.undo();
      await added(at.rig, 60);
      await expect(place.executor.redo()).rejects.toThrow('There is nothing to redo.');
      expect(checkChains(await place.journal())).toEqual([]);
    });

    it('undoes one named change, but not over a later one', async () => {
      const first = await run('entry.add', work(at.rig, 3600));
      await added(at.rig, 60);
      await place.executor.undo(first.seq);
      expect((await entries()).map((entry) => entry.seconds)).toEqual([60]);
      await expect(place.executor.undo(first.seq)).rejects.toThrow('undone already');
      const second = await run('entry.add', work(at.rig, 120));
      await run('entry.edit', { id: second.changes[0]!.id, note: 'since changed' });
      await expect(place.executor.undo(second.seq)).rejects.toThrow('has been changed since');
      expect((await entries()).map((entry) => entry.note)).toContain('since changed');
    });

    it('runs one timer for a member; starting one stops the other to the millisecond', async () => {
      const note = 'Cue list';
      await run('timer.start', { projectId: at.rig, serviceId: null, note });
      test.now += 12_345;
      await run('timer.start', { projectId: at.gallery, serviceId: null, note: 'Lux study' });
      const [timer] = (await place.reader.all('timers')) as [Timer];
      const [entry] = (await entries()) as [Entry];
      // What was short of a whole second is the new one's.
      expect(timer).toMatchObject({ projectId: at.gallery, startedAt: entry.spans[0]!.end });
      expect(entry).toMatchObject({ projectId: at.rig, note, seconds: 12, day: DAY });
      expect(entry.spans).toEqual([{ start: test.now - 12_345, end: test.now - 345 }]);
      // A clock that was set back swallows nothing: what runs stays until it is said when it began.
      test.now -= 3_600_000;
      await expect(run('timer.stop', { id: timer.id })).rejects.toThrow('it was set back meanwhile');
      await run('timer.discard', { id: timer.id });
      expect(await place.reader.all('timers')).toEqual([]);
      expect(await entries()).toHaveLength(1);
    });

    it('takes hours from the timer to a paid invoice, and never bills them twice', async () => {
      await run('timer.start', { projectId: at.rig, serviceId: at.design, note: 'Rig plan' });
      test.wait(61);
      await run('timer.stop', { id: ((await place.reader.all('timers')) as [Timer])[0].id });
      await added(at.rig, 3600, { serviceId: at.design });
      const ids = (await entries()).map((entry) => entry.id);
      const drafted = await run('invoice.draft', { clientId: at.playhouse, entryIds: ids });
      const id = drafted.changes.find((change) => change.table === 'invoices')!.id;
      await expect(run('invoice.draft', { clientId: at.playhouse, entryIds: ids })).rejects.toThrow(
        'on an invoice already',
      );
      await expect(run('invoice.draft', { clientId: at.museum, entryIds: [await added(at.rig, 60)] })).rejects.toThrow(
        'another client',
      );
      await run('invoice.issue', { id });
      const invoice = (await place.reader.get('invoices', id)) as Invoice;
      // 61 min is 1.1 h in six-minute steps: (1.1 + 1.0) × 85.00 = 178.50; with 20 % tax 214.20.
      expect(invoice.frozen).toMatchObject({
        number: 'SL-0001',
        net: 17_850,
        tax: 3_570,
        total: 21_420,
        dueDay: '2026-12-12',
      });
      const allocations = await place.reader.by('allocations', 'invoiceId', [id]);
      expect(allocations.reduce((sum, each) => sum + each.amount!, 0)).toBe(17_850);
      await expect(run('entry.edit', { id: ids[0]!, seconds: 60 })).rejects.toThrow('on SL-0001');
      await expect(run('entry.remove', { ids: [ids[0]!] })).rejects.toThrow('on SL-0001');
      await expect(
        run('payment.add', { invoiceId: id, day: DAY, amount: 100, note: '', currency: 'EUR' }),
      ).rejects.toThrow('is in GBP');
      await run('payment.add', { invoiceId: id, day: DAY, amount: 21_420, note: '' });
      await expect(run('invoice.void', { id, reason: 'wrong client' })).rejects.toThrow('has payments');
      await expect(place.executor.undo(drafted.seq)).rejects.toThrow();
    });

    it('numbers without gaps, keeps what was issued, and frees what a void invoice took', async () => {
      const issue = async () => {
        const entryIds = [await added(at.rig, 3600)];
        const row = await run('invoice.draft', { clientId: at.playhouse, entryIds });
        const id = row.changes.find((change) => change.table === 'invoices')!.id;
        return { id, issued: await run('invoice.issue', { id }), entryIds };
      };
      const first = await issue();
      await expect(place.executor.undo()).rejects.toThrow('Void it instead');
      await expect(run('invoice.discard', { id: first.id })).rejects.toThrow('stays as it was sent');
      await expect(run('invoice.edit', { id: first.id, note: 'x' })).rejects.toThrow('stays as it was sent');
      await run('client.edit', { id: at.playhouse, name: 'Renamed Playhouse' });
      await run('invoice.void', { id: first.id, reason: 'Wrong month' });
      const second = await issue();
      const numbers = (await place.reader.all('invoices')).map((invoice) => [
        invoice.frozen?.number,
        invoice.frozen?.client.name,
      ]);
      expect(numbers.sort()).toEqual([
        ['SL-0001', 'Quayside Playhouse'],
        ['SL-0002', 'Renamed Playhouse'],
      ]);
      const pricer = new Pricer(await readBook(place.reader));
      const open = toBill(pricer, await entries(), await place.reader.all('allocations'));
      expect(open.map((each) => [each.seconds, each.items[0]!.entry.id])).toEqual([[3600, first.entryIds[0]]]);
      await run('invoice.draft', { clientId: at.playhouse, entryIds: first.entryIds });
      expect(second.issued.changes.length).toBeGreaterThan(1);
    });

    it('follows an entry on a draft as it changes, and lets go of it', async () => {
      const entry = await added(at.rig, 3600);
      const row = await run('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
      const id = row.changes.find((change) => change.table === 'invoices')!.id;
      const reserved = async () =>
        ((await place.reader.by('allocations', 'invoiceId', [id])) as Allocation[]).map((each) => each.seconds);
      await run('entry.edit', { id: entry, seconds: 7200 });
      expect(await reserved()).toEqual([7200]);
      await run('entry.edit', { id: entry, billableSeconds: 1800 });
      expect(await reserved()).toEqual([1800]);
      await expect(run('entry.edit', { id: entry, projectId: at.gallery })).rejects.toThrow('another client');
      await run('entry.edit', { id: entry, billableSeconds: 0 });
      expect(await reserved()).toEqual([]);
      await place.executor.undo();
      expect(await reserved()).toEqual([1800]);
      await run('invoice.discard', { id });
      expect(await place.reader.all('allocations')).toEqual([]);
    });

    it('does not delete what is still used', async () => {
      await added(at.rig, 60);
      await expect(run('project.remove', { id: at.rig })).rejects.toThrow('still used by 1 entry');
      await expect(run('client.remove', { id: at.playhouse })).rejects.toThrow(/still used by/);
      await run('project.remove', { id: at.internal });
    });

    it('refuses two rates that would leave it to chance, and figures that make none', async () => {
      const rate = {
        clientId: null,
        projectId: null,
        memberId: null,
        role: null,
        serviceId: null,
        unit: 'hour',
        currency: 'GBP',
      } as const;
      await expect(run('rate.add', { ...rate, from: '2026-01-01', price: '90' })).rejects.toMatchObject({
        path: 'from',
      });
      await expect(run('rate.add', { ...rate, from: '2026-02-01', price: '-90' })).rejects.toMatchObject({
        path: 'price',
      });
      await expect(run('rate.add', { ...rate, from: '2026-02-01', price: '90.12345' })).rejects.toMatchObject({
        path: 'price',
      });
      await expect(
        run('rate.add', { ...rate, from: '2026-02-01', price: '90', currency: 'XYZ' }),
      ).rejects.toMatchObject({ path: 'currency' });
      await run('rate.add', { ...rate, from: '2026-02-01', price: '90.1234' });
    });

    it('sets a studio up once', async () => {
      await expect(run('workspace.create', studio)).rejects.toThrow('set up already');
    });

    it('takes changes made at once in turn', async () => {
      await Promise.all(Array.from({ length: 20 }, (_, index) => run('entry.add', work(at.rig, 60 + index))));
      expect(await entries()).toHaveLength(20);
      expect(checkChains(await place.journal())).toEqual([]);
    });
  });
}
