import { describe, expect, it } from 'vitest';
import type { Letter } from '../model/records';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { addDays, dayOf } from '../time/day';
import { lateInvoices } from '.';

/** An invoice of 12 November, due 30 days later, and what is to be reminded of on a day. */
async function late() {
  const made = await ledger();
  const { run, store, byHand, hand, issue, owing } = made;
  const id = await byHand([hand('100')]);
  const { dueDay } = await issue(id);
  const letters: Letter[] = [];
  const on = (days: number) => {
    const workspace = store.rows('workspace')[0]!;
    return lateInvoices([owing(id)], letters, store.rows('clients'), workspace, addDays(dueDay, days))[0];
  };
  /** A reminder that was sent so many days past the due day, or waits. */
  const remind = (days: number, standing: Letter['standing'] = 'sent', kind: Letter['kind'] = 'reminder') => {
    const at = Date.parse(`${addDays(dueDay, days)}T12:00:00Z`);
    const common = { clientId: made.at.playhouse, invoiceId: id, quoteId: null, version: null, copies: '' };
    const tries = [{ at, way: 'post' as const, outcome: 'sent' as const, reason: '' }];
    const written = { recipients: 'a@b.example', subject: 'x', body: '', enclosed: [], language: 'en' as const };
    letters.push({ ...common, ...written, id: made.test.newId(), createdAt: at, kind, standing, tries });
  };
  return { ...made, run, id, dueDay, on, remind };
}

describe('reminders', () => {
  it('go one after the other, on their days', async () => {
    const { on, remind } = await late();
    expect(on(0)).toBeUndefined();
    expect(on(6)).toMatchObject({ due: null, why: 'not yet', daysLate: 6 });
    expect(on(7)).toMatchObject({ due: 'reminder', daysLate: 7, last: null });
    remind(7);
    expect(on(8)).toMatchObject({ due: null, why: 'not yet' });
    expect(on(21)).toMatchObject({ due: 'second reminder' });
    remind(21, 'sent', 'second reminder');
    expect(on(35)).toMatchObject({ due: 'last reminder' });
    remind(35, 'sent', 'last reminder');
    expect(on(300)).toMatchObject({ due: null, why: 'all were sent' });
  });

  it('that go late keep their distance to the next', async () => {
    const { on, remind, dueDay } = await late();
    expect(on(60)).toMatchObject({ due: 'reminder' });
    remind(60);
    expect(on(61)).toMatchObject({ due: null, why: 'not yet', next: addDays(dueDay, 74), last: addDays(dueDay, 60) });
    expect(on(74)).toMatchObject({ due: 'second reminder' });
  });

  it('wait for what is in the outbox, for a dispute to be settled, and for nothing once it is paid', async () => {
    const { run, id, on, remind, dueDay } = await late();
    await run('invoice.dispute', { id, note: 'Two lamps too many' });
    expect(on(30)).toMatchObject({ due: null, why: 'in dispute' });
    await run('invoice.dispute', { id, note: null });
    expect(on(30)).toMatchObject({ due: 'reminder' });
    remind(30, 'waiting');
    expect(on(31)).toMatchObject({ due: null, why: 'waits in the outbox' });
    await run('payment.add', { invoiceId: id, day: dayOf(Date.parse(dueDay), 'UTC'), amount: 12_000, note: '' });
    expect(on(31)).toBeUndefined();
  });

  it('go as the studio and the client have it, each later than the one before', async () => {
    const { run, on, at } = await late();
    await run('workspace.edit', { reminders: [3, 10] });
    expect(on(3)).toMatchObject({ due: 'reminder' });
    await run('client.edit', { id: at.playhouse, reminders: [50] });
    expect(on(49)).toMatchObject({ due: null, why: 'not yet' });
    await run('client.edit', { id: at.playhouse, reminders: [] });
    expect(on(300)).toMatchObject({ due: null, why: 'client is not reminded' });
    await expect(run('workspace.edit', { reminders: [7, 7] })).rejects.toThrow(fault('invalid'));
  });
});
