import * as z from 'zod';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { letterSchema, letterWays, type Letter } from '../model/records';
import { command, defined, need, Plan } from '../engine/command';
import type { Reader } from '../engine/store';

const { id: letterId, createdAt: _at, standing: _standing, tries: _tries, ...written } = letterSchema.shape;

/** Addresses as they are written with commas between them. */
export const addressesIn = (text: string): string[] =>
  text
    .split(/[,;\n]/)
    .map((each) => each.trim())
    .filter(Boolean);

const mailbox = z.email();

/** @throws Fault that names an address that is none */
function checkAddresses(letter: { recipients?: string | undefined; copies?: string | undefined }): void {
  for (const path of ['recipients', 'copies'] as const) {
    const wrong = addressesIn(letter[path] ?? '').find((each) => !mailbox.safeParse(each).success);
    if (wrong !== undefined) throw new Fault('invalid', `“${wrong.slice(0, 60)}” is not an e-mail address.`, path);
  }
}

/**
 * Puts letters in the outbox, each with what it is about and what is enclosed.
 *
 * @throws Fault that names an address that is none
 */
export const writeLetter = command({
  name: 'letter.write',
  title: ({ letters }: { letters: unknown[] }) =>
    letters.length === 1 ? 'Letter put in the outbox' : `${letters.length} letters put in the outbox`,
  input: z.strictObject({
    letters: z
      .array(
        z.strictObject({ id: letterId, ...written }).partial({
          id: true,
          copies: true,
          invoiceId: true,
          quoteId: true,
          version: true,
          enclosed: true,
          language: true,
        }),
      )
      .min(1)
      .max(500),
  }),
  async plan(reader, { letters }, { now, newId }) {
    const plan = new Plan();
    for (const input of letters) {
      checkAddresses(input);
      if (input.clientId !== null) await need(reader, 'clients', input.clientId, 'client');
      const letter: Letter = {
        copies: '',
        invoiceId: null,
        quoteId: null,
        version: null,
        enclosed: ['pdf'],
        language: 'en',
        ...defined(input),
        id: input.id ?? newId(),
        createdAt: now,
        standing: 'waiting',
        tries: [],
      } as Letter;
      plan.put('letters', letter);
    }
    return plan;
  },
});

/** @throws Fault where it has left, or may have */
async function needHere(reader: Reader, id: Id): Promise<Letter> {
  const letter = await need(reader, 'letters', id, 'letter');
  if (letter.standing === 'sent') throw new Fault('stays', 'This letter was sent and stays as it went.', 'id');
  if (letter.standing === 'handed over')
    throw new Fault('stays', 'This letter was handed to the mail server: say first whether it arrived.', 'id');
  return letter;
}

/**
 * Changes a letter that waits.
 *
 * @throws Fault where it was sent or handed over
 */
export const editLetter = command({
  name: 'letter.edit',
  title: 'Letter changed',
  input: z
    .strictObject({
      recipients: written.recipients,
      copies: written.copies,
      subject: written.subject,
      body: written.body,
      enclosed: written.enclosed,
    })
    .partial()
    .extend({ id: fields.id }),
  async plan(reader, input) {
    checkAddresses(input);
    return new Plan().put('letters', { ...(await needHere(reader, input.id)), ...defined(input) });
  },
});

/**
 * Deletes letters that wait.
 *
 * @throws Fault where one was sent or handed over
 */
export const discardLetters = command({
  name: 'letter.discard',
  title: ({ ids }: { ids: Id[] }) => (ids.length === 1 ? 'Letter discarded' : `${ids.length} letters discarded`),
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(500) }),
  async plan(reader, { ids }) {
    const plan = new Plan();
    for (const id of ids) plan.remove('letters', (await needHere(reader, id)).id);
    return plan;
  },
});

const gone = 'A letter that left cannot be taken back.';

/** A letter is claimed before it is handed over, so that no other tab hands it over as well. */
export const claimLetter = command({
  name: 'letter.claim',
  title: 'Letter handed over',
  outward: gone,
  input: z.strictObject({ id: fields.id, again: z.boolean().optional() }),
  async plan(reader, { id, again = false }) {
    const letter = await need(reader, 'letters', id, 'letter');
    if (letter.standing === 'sent') throw new Fault('already', 'This letter was sent already.', 'id');
    if (letter.standing === 'handed over' && !again)
      throw new Fault(
        'already',
        'This letter was handed over before, and no answer came: it may have arrived. Ask before it goes again.',
        'id',
      );
    if (addressesIn(letter.recipients).length === 0) throw new Fault('empty', 'Say who it goes to.', 'recipients');
    return new Plan().put('letters', { ...letter, standing: 'handed over' });
  },
});

/**
 * Keeps what came of handing a letter over: sent, failed with the reason, or unsure, where no answer came.
 *
 * @throws Fault where it was sent already
 */
export const tellLetter = command({
  name: 'letter.told',
  title: ({ outcome }: { outcome: 'sent' | 'failed' | 'unsure' }) =>
    outcome === 'sent' ? 'Letter sent' : outcome === 'failed' ? 'Letter not sent' : 'No answer from the mail server',
  outward: gone,
  input: z.strictObject({
    id: fields.id,
    way: z.enum(letterWays),
    outcome: z.enum(['sent', 'failed', 'unsure']),
    reason: z.string().max(1000).optional(),
  }),
  async plan(reader, { id, way, outcome, reason = '' }, { now }) {
    const letter = await need(reader, 'letters', id, 'letter');
    if (letter.standing === 'sent') throw new Fault('already', 'This letter was sent already.', 'id');
    const standing = outcome === 'unsure' ? 'handed over' : outcome;
    return new Plan().put('letters', {
      ...letter,
      standing,
      tries: [...letter.tries, { at: now, way, outcome, reason }],
    });
  },
});
