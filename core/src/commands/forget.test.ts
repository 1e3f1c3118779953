import { beforeEach, describe, expect, it } from 'vitest';
import { buyerDefaults } from '../model/defaults';
import { canonical } from '../model/canonical';
import { byTable, type AllRows } from '../model/tables';
import { freshStudio, TestContext, work } from '../testing/studio';
import { checkWorkspace } from './check-workspace';
import { forgetPerson, withoutHistory, type Whose } from '../engine/forget';
import { MemoryExecutor } from './executor';
import { MemoryStore } from '../engine/memory';
import { fault } from '../testing/fault';

let { store, at, run, added } = {} as Awaited<ReturnType<typeof freshStudio>>;
beforeEach(async () => ({ store, at, run, added } = await freshStudio()));

const DEVICE = '01900000-0000-7000-8000-00000000beef';
const begin = { device: DEVICE, at: Date.parse('2026-11-12T12:00:00Z'), salt: 'a salt' };
const all = (): AllRows => byTable((table) => store.rows(table));
const forget = (whose: Whose) => forgetPerson(all(), whose, begin);
const nameOf = async (id: string) => (await store.get('clients', id))!.name;
/** Everything that is kept, but for issued papers. */
const kept = (rows: AllRows, journal: readonly object[]) =>
  canonical({ ...rows, invoices: rows.invoices.map(({ frozen: _frozen, ...row }) => row), journal });

describe('deleting a person for good', () => {
  it('takes a client’s name, addresses, contacts and mentions out of every record and out of the history', async () => {
    const name = await nameOf(at.playhouse);
    await run('client.edit', { id: at.playhouse, email: 'box@playhouse.test', address: '1 Quay Street' });
    // Field by field, as it is typed; each joins what is there.
    await run('client.edit', { id: at.playhouse, asBuyer: { reference: 'LEITWEG-7', city: 'Saltmere' } });
    await run('client.edit', { id: at.playhouse, asBuyer: { electronicAddress: '9930:DE123456789' } });
    expect((await store.get('clients', at.playhouse))!.asBuyer).toEqual({
      ...buyerDefaults,
      reference: 'LEITWEG-7',
      city: 'Saltmere',
      electronicAddress: '9930:DE123456789',
    });
    await added('contact.add', { clientId: at.playhouse, name: 'Ada Marsh', email: 'ada@playhouse.test' });
    const note = `Call with ada marsh of ${name.toUpperCase()}, box@playhouse.test`;
    const entry = await added('entry.add', work(at.rig, 3600, { note }));
    const forgotten = forget({ table: 'clients', id: at.playhouse });
    const text = kept(forgotten.rows, forgotten.journal).toLowerCase();
    for (const word of [
      name,
      'Ada Marsh',
      'box@playhouse.test',
      'Quay Street',
      'ada@playhouse.test',
      'LEITWEG-7',
      'DE123456789',
    ])
      expect(text).not.toContain(word.toLowerCase());
    expect(forgotten.rows.contacts).toEqual([]);
    const client = forgotten.rows.clients.find(({ id }) => id === at.playhouse)!;
    expect(client.name).toMatch(/^Deleted [0-9a-f]{8}$/);
    // The same hash stands wherever the name stood.
    expect(forgotten.rows.entries.find(({ id }) => id === entry)!.note).toContain(` of ${client.name}, ${client.name}`);
    expect(await checkWorkspace(new MemoryStore().load(forgotten.rows as never, forgotten.journal))).toEqual([]);
  });

  it('takes what a list from elsewhere told of a client, and whose its tasks were', async () => {
    const listId = await added('outside.follow', { name: 'Addresses', kind: 'clients', via: 'file' });
    const told = { source: '7', name: 'Harbour Trust', address: 'The Customs Shed', taxNumber: '', gone: false };
    const client = { ...told, email: 'works@harbour.example' };
    await run('outside.take', { listId, tasks: [], clients: [client] });
    const { id } = store.rows('clients').find((row) => row.name === 'Harbour Trust')!;
    const tasks = await added('outside.follow', { name: 'Board', kind: 'tasks', via: 'file' });
    const task = { source: '1', number: '', title: 'Quay', state: '', estimate: null, closed: false, address: '' };
    const project = { source: 'p', name: 'For Harbour Trust' };
    await run('outside.take', { listId: tasks, tasks: [{ ...task, assignee: 'Imogen Vale', project }], clients: [] });
    const gone = forget({ table: 'clients', id });
    expect(kept(gone.rows, gone.journal)).not.toMatch(/Harbour Trust|Customs|works@/i);
    const member = forget({ table: 'members', id: at.member });
    expect(kept(member.rows, member.journal)).not.toMatch(/Imogen/);
  });

  it('takes a member’s account along, and what they were paid stays', async () => {
    const number = 'GB82 WEST 1234 5698 7654 32';
    const { name } = (await store.get('members', at.member))!;
    await run('payee.add', { name, memberId: at.member, number });
    await run('payee.add', { name: 'Fresnel Hire', number: '20-00-00 55779911' });
    const cost = await added('cost.add', {
      kind: 'expense',
      day: '2026-11-02',
      currency: 'GBP',
      memberId: at.member,
      owedBack: true,
      lines: [{ text: 'Gel', amount: 900 }],
    });
    await run('payout.add', { payouts: [{ costId: cost, amount: 900, day: '2026-11-03', note: `To ${name}` }] });
    const forgotten = forget({ table: 'members', id: at.member });
    const text = kept(forgotten.rows, forgotten.journal);
    for (const word of [name, number]) expect(text).not.toContain(word);
    expect(forgotten.rows.payees.map((row) => row.name)).toEqual(['Fresnel Hire']);
    expect(forgotten.rows.payouts).toMatchObject([
      { amount: 900, note: expect.stringMatching(/^To Deleted /) as string },
    ]);
    expect(await checkWorkspace(new MemoryStore().load(forgotten.rows as never, forgotten.journal))).toEqual([]);
  });

  it('leaves issued invoices as they were sent, says how many name them, and work goes on', async () => {
    const name = await nameOf(at.playhouse);
    const entry = await added('entry.add', work(at.rig, 3600));
    const invoice = await added('invoice.draft', { clientId: at.playhouse, entryIds: [entry] });
    await run('invoice.issue', { id: invoice });
    const before = (await store.get('invoices', invoice))!.frozen;
    const { rows, journal, papers } = forget({ table: 'clients', id: at.playhouse });
    expect(rows.invoices.find(({ id }) => id === invoice)!.frozen).toEqual(before);
    expect([papers, canonical(before).includes(name)]).toEqual([1, true]);
    const after = new MemoryStore().load(rows as never, journal);
    const test = new TestContext(9);
    const executor = new MemoryExecutor(after, test.context);
    // Nothing before it can be taken back.
    expect((await executor.standing()).undo).toBeNull();
    await executor.run('payment.add', { invoiceId: invoice, day: '2026-11-12', amount: 100, note: '' });
    expect(await checkWorkspace(after)).toEqual([]);
  });

  it('takes a single contact or member out, and leaves those who are called alike in part', async () => {
    const contact = await added('contact.add', { clientId: at.playhouse, name: 'Ann', email: '' });
    await added('contact.add', { clientId: at.playhouse, name: 'Annabel Ross', email: '' });
    const without = forget({ table: 'contacts', id: contact });
    expect(without.rows.contacts.map(({ name }) => name)).toEqual(['Annabel Ross']);
    const member = forget({ table: 'members', id: at.member });
    expect(member.rows.members.find(({ id }) => id === at.member)!.name).toMatch(/^Deleted [0-9a-f]{8}$/);
    expect(await checkWorkspace(new MemoryStore().load(member.rows as never, member.journal))).toEqual([]);
  });

  it('names differ by their salt, so that nobody can try names against them', () => {
    const hash = (salt: string) =>
      forgetPerson(all(), { table: 'clients', id: at.playhouse }, { ...begin, salt }).rows.clients.find(
        ({ id }) => id === at.playhouse,
      )!.name;
    expect(hash('one')).not.toBe(hash('two'));
    expect(hash('one')).toBe(hash('one'));
  });

  it('changes nothing where there is no such person, or where what is left would be no record', async () => {
    expect(() => forget({ table: 'clients', id: DEVICE })).toThrow(fault('unknown'));
    await run('client.edit', { id: at.playhouse, name: 'hourly' });
    const before = canonical(all());
    expect(() => forget({ table: 'clients', id: at.playhouse })).toThrow(fault('invalid'));
    expect(canonical(all())).toBe(before);
  });
});

describe('a file without its history', () => {
  it('begins with the records as they are, and tells when they are others', async () => {
    const base = withoutHistory(all(), begin);
    expect(await checkWorkspace(new MemoryStore().load(all() as never, [base]))).toEqual([]);
    const altered = { ...all(), clients: store.rows('clients').map((row) => ({ ...row, name: `${row.name}!` })) };
    expect(
      (await checkWorkspace(new MemoryStore().load(altered as never, [base]))).map(({ message }) => message),
    ).toEqual(['The records are not those that the history began with.']);
  });
});
