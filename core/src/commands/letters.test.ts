import { describe, expect, it } from 'vitest';
import { invoiceEvents } from '../billing';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { addressesIn, type CommandInput } from '.';

async function outbox() {
  const made = await ledger();
  const { run, store, at } = made;
  type New = CommandInput<'letter.write'>['letters'][number];
  const write = async (more: Partial<New> = {}) => {
    const letter: New = {
      kind: 'invoice',
      clientId: at.playhouse,
      recipients: 'robin@quayside.example',
      subject: 'Invoice SL-0131',
      body: 'Dear Robin',
      ...more,
    };
    await run('letter.write', { letters: [letter] });
    return store.rows('letters').at(-1)!.id;
  };
  const letter = (id: string) => store.rows('letters').find((row) => row.id === id)!;
  return { ...made, write, letter };
}

describe('a letter', () => {
  it('is claimed once, sent once, and stays as it went', async () => {
    const { run, write, letter } = await outbox();
    const id = await write();
    expect(letter(id)).toMatchObject({ standing: 'waiting', enclosed: ['pdf'], language: 'en' });
    await run('letter.claim', { id });
    await expect(run('letter.claim', { id })).rejects.toThrow(fault('already'));
    await expect(run('letter.edit', { id, subject: 'Other' })).rejects.toThrow(fault('stays'));
    await expect(run('letter.discard', { ids: [id] })).rejects.toThrow(fault('stays'));
    await run('letter.told', { id, way: 'post', outcome: 'sent' });
    expect(letter(id)).toMatchObject({ standing: 'sent', tries: [{ way: 'post', outcome: 'sent' }] });
    await expect(run('letter.claim', { id, again: true })).rejects.toThrow(fault('already'));
    await expect(run('letter.told', { id, way: 'file', outcome: 'sent' })).rejects.toThrow(fault('already'));
  });

  it('that failed is put right and tried again; one without an answer only when somebody says so', async () => {
    const { run, write, letter } = await outbox();
    const id = await write();
    await run('letter.claim', { id });
    await run('letter.told', { id, way: 'post', outcome: 'failed', reason: 'There is no mailbox.' });
    await run('letter.edit', { id, recipients: 'office@quayside.example' });
    await run('letter.claim', { id });
    await run('letter.told', { id, way: 'post', outcome: 'unsure', reason: 'No answer.' });
    expect(letter(id)).toMatchObject({
      standing: 'handed over',
      tries: [{ outcome: 'failed' }, { outcome: 'unsure' }],
    });
    await expect(run('letter.claim', { id })).rejects.toThrow(/may have arrived/);
    await run('letter.claim', { id, again: true });
  });

  it('goes to addresses, and to somebody', async () => {
    const { run, write } = await outbox();
    await expect(write({ recipients: 'robin@quayside.example, robin' })).rejects.toThrow(
      fault('invalid', 'recipients'),
    );
    await expect(write({ copies: 'nobody' })).rejects.toThrow(fault('invalid', 'copies'));
    const id = await write({ recipients: ' ' });
    await expect(run('letter.claim', { id })).rejects.toThrow(fault('empty', 'recipients'));
    expect(addressesIn('a@b.example; c@d.example,\n e@f.example ,')).toEqual([
      'a@b.example',
      'c@d.example',
      'e@f.example',
    ]);
  });

  it('that left is on the invoice’s thread; taking it back is refused', async () => {
    const { run, write, letter, byHand, hand, issue, owing, executor } = await outbox();
    const invoiceId = await byHand([hand('100')]);
    await issue(invoiceId);
    const sent = await write({ invoiceId });
    await run('letter.claim', { id: sent });
    const { seq } = await run('letter.told', { id: sent, way: 'post', outcome: 'sent' });
    const reminder = await write({ invoiceId, kind: 'second reminder' });
    await run('letter.claim', { id: reminder });
    await run('letter.told', { id: reminder, way: 'post', outcome: 'failed', reason: 'The mailbox is full.' });
    await run('letter.claim', { id: reminder });
    await run('letter.told', { id: reminder, way: 'post', outcome: 'sent' });
    const events = invoiceEvents(owing(invoiceId), [letter(sent), letter(reminder)]);
    expect(events.map(({ kind, note }) => [kind, note])).toEqual([
      ['drafted', ''],
      ['issued', ''],
      ['sent', 'robin@quayside.example'],
      ['not sent', 'The mailbox is full.'],
      ['reminded', 'robin@quayside.example'],
    ]);
    await expect(executor.undo(seq)).rejects.toThrow(/cannot be taken back/);
  });
});
