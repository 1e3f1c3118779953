import { describe, expect, it } from 'vitest';
import type { Quote } from '../model/records';
import { DAY, fault, freshStudio } from '../testing';
import { readAnswer } from './answer';
import { pageOfQuote } from './page';
import { signAnswer, signatureOf, type Answer } from './seal';

/** A studio with a quote that was given to the client. */
async function studioWithQuote() {
  const { store, run, added, at } = await freshStudio();
  const id = await added('quote.add', { clientId: at.playhouse, title: 'Winter rig', validUntil: '2026-12-31' });
  const line = {
    key: id,
    text: 'Design',
    quantity: '1',
    unitName: '',
    price: '900',
    taxId: null,
    basis: 'fixed',
    optional: false,
    costCodeId: null,
  } as const;
  await run('quote.edit', { id, lines: [line] });
  await run('quote.give', { id });
  return { store, run, quote: (await store.get('quotes', id))! };
}

const answerTo = (quote: Quote): { answer: Answer; seal: string } => {
  const page = pageOfQuote(quote, DAY)!;
  const { id, digest, seal } = page.quote!;
  return {
    seal,
    answer: {
      what: 'answer to a quote',
      form: 1,
      quoteId: id,
      number: page.frozen.number,
      digest,
      decision: 'accepted',
      keys: [id],
      by: 'R. Example',
      note: 'Please begin.',
      at: '2026-11-13T10:00:00Z',
    },
  };
};

describe('a client’s answer', () => {
  it('is read with the quote and the version that it is to', async () => {
    const { store, run, quote } = await studioWithQuote();
    const { answer, seal } = answerTo(quote);
    const read = readAnswer(signAnswer(answer, seal), [quote]);
    expect(read.answer).toEqual(answer);
    expect(read.version).toEqual(quote.versions[0]);
    await run('quote.accept', {
      id: quote.id,
      day: DAY,
      by: answer.by,
      keys: answer.keys,
      signed: read.signed,
    });
    const kept = (await store.get('quotes', quote.id))!;
    expect(kept.answer!.signed).toBe(read.signed);
  });

  it('is refused where it was altered, is to another version, or is none', async () => {
    const { store, run, quote } = await studioWithQuote();
    const { answer, seal } = answerTo(quote);
    const signed = signAnswer(answer, seal);
    expect(() => readAnswer(signed.replace('R. Example', 'S. Example'), [quote])).toThrow(fault('altered'));
    expect(() => readAnswer(signAnswer(answer, 'ab'.repeat(32)), [quote])).toThrow(fault('altered'));
    expect(() => readAnswer(signed, [])).toThrow(fault('unknown'));
    expect(() => readAnswer('{"what":', [quote])).toThrow(fault('other-file'));
    expect(() => readAnswer(signed.replace('"accepted"', '"perhaps"'), [quote])).toThrow(fault('other-file'));
    await run('quote.edit', { id: quote.id, note: 'With the second bar.' });
    await run('quote.give', { id: quote.id });
    const again = (await store.get('quotes', quote.id))!;
    expect(() => readAnswer(signed, [again])).toThrow(fault('outdated'));
    expect(again.versions[0]!.seal).not.toBe(again.versions[1]!.seal);
  });

  it('is signed as RFC 4231 has it', () => {
    // RFC 4231, 4.3 has a shorter key; test case 6's message with a key of 32 bytes would be our own, so the key of case 2 is filled with zeros,
    // which HMAC does itself (RFC 2104, 2).
    const key = '4a656665'.padEnd(64, '0');
    expect(signatureOf(key, 'what do ya want for nothing?')).toBe(
      '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
    );
  });
});
