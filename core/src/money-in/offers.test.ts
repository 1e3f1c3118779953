import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { owedOn, postingsOf, Pricer, readBook } from '../billing';
import type { MoneyInLine } from '../commands';
import type { MoneyIn } from '../model/records';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { arrivedOf, leftOfSum, matchedSums, offersFor, type Offer } from '.';

/** A studio with invoices of the Playhouse over 100.00 and 50.00 and one of the museum over 80.00, each with 20 % tax. */
async function studio() {
  const made = await ledger();
  const { run, store, at, byHand, hand, issue, owing } = made;
  const first = await byHand([hand('100')]);
  const second = await byHand([hand('50')]);
  const numbers = [await issue(first), await issue(second)].map((frozen) => frozen.number);
  const clients = () => store.rows('clients');
  const invoices = () => store.rows('invoices').map(({ id }) => owing(id));
  let count = 0;
  const take = async (more: Partial<MoneyInLine> & { amount: number }): Promise<MoneyIn> => {
    const source = more.source ?? `test:${count++}`;
    const line = {
      source,
      day: '2026-11-20',
      payer: '',
      text: '',
      reference: '',
      currency: 'GBP',
      sent: null,
      ...more,
    };
    await run('money.take', { lines: [line] });
    return store.rows('moneyIn').find((row) => row.source === source)!;
  };
  const offers = async (sums = store.rows('moneyIn')) =>
    offersFor(sums, {
      invoices: invoices(),
      clients: clients(),
      moneyIn: store.rows('moneyIn'),
      deposits: store.rows('deposits'),
      exchange: new Pricer(await readBook(store)).rates.exchange,
      rounding: 'half away from zero',
    });
  const offer = async (more: Parameters<typeof take>[0]): Promise<Offer> => {
    const sum = await take(more);
    return (await offers([sum])).get(sum.id)!;
  };
  const match = async (sum: MoneyIn) => {
    const { parts, ahead } = (await offers([sum])).get(sum.id)!;
    return run('money.match', { matches: [{ id: sum.id, parts, ahead }] });
  };
  const said = ({ parts, ahead, sure }: Offer) => ({
    parts: parts.map(({ invoiceId, amount, fee }) => [made.frozen(invoiceId).number, amount, fee]),
    ahead: ahead?.amount ?? 0,
    sure,
  });
  return { ...made, at, first, second, numbers, take, offers, offer, match, said, invoices };
}

describe('money that came in is for', () => {
  it('the invoice that its reference or text names', async () => {
    const { offer, said, numbers } = await studio();
    const named = { parts: [[numbers[0], 12_000, 0]], ahead: 0, sure: true };
    expect(said(await offer({ amount: 12_000, text: `Invoice ${numbers[0]}` }))).toEqual(named);
    expect(said(await offer({ amount: 12_000, reference: numbers[0]!.toLowerCase().replace('-', '') }))).toEqual(named);
  });

  it('several invoices that it names, or that add up to it in one way', async () => {
    const { offer, said, numbers } = await studio();
    const both = [
      [numbers[0], 12_000, 0],
      [numbers[1], 6_000, 0],
    ];
    expect(said(await offer({ amount: 18_000, text: numbers.join(' + ') }))).toEqual({
      parts: both,
      ahead: 0,
      sure: true,
    });
    expect(said(await offer({ amount: 18_000, payer: 'QUAYSIDE PLAYHOUSE' }))).toEqual({
      parts: both,
      ahead: 0,
      sure: true,
    });
    // One is named, and the rest is what the other comes to.
    expect(said(await offer({ amount: 18_000, text: numbers[0]! }))).toEqual({ parts: both, ahead: 0, sure: false });
  });

  it('a part of it, or all of it less what was kept on the way', async () => {
    const { offer, said, numbers } = await studio();
    const of = async (more: Parameters<typeof offer>[0]) => said(await offer({ text: numbers[0]!, ...more }));
    expect(await of({ amount: 5_000, payer: 'Quayside Playhouse' })).toMatchObject({
      parts: [[numbers[0], 5_000, 0]],
      sure: true,
    });
    expect(await of({ amount: 5_000 })).toMatchObject({ parts: [[numbers[0], 5_000, 0]], sure: false });
    expect(await of({ amount: 11_800 })).toMatchObject({ parts: [[numbers[0], 12_000, 200]], sure: false });
    const sent = { amount: 12_000, currency: 'GBP' };
    expect(await of({ amount: 9_000, sent })).toMatchObject({ parts: [[numbers[0], 12_000, 3_000]], sure: true });
  });

  it('more than is owed, which is paid ahead', async () => {
    const { offer, said, numbers } = await studio();
    const more = await offer({ amount: 13_000, text: numbers[0]! });
    expect(said(more)).toEqual({ parts: [[numbers[0], 12_000, 0]], ahead: 1_000, sure: false });
    expect(more.reasons.join()).toContain('£10.00 more than is owed');
  });

  it('nobody knows what', async () => {
    const { offer, said } = await studio();
    expect(said(await offer({ amount: 777, payer: 'A stranger' }))).toEqual({ parts: [], ahead: 0, sure: false });
    expect(said(await offer({ amount: 6_000, payer: 'A stranger' }))).toMatchObject({
      parts: [[expect.anything(), 6_000, 0]],
      sure: false,
    });
  });

  it('one of two alike, which is not sure, and never both the same', async () => {
    const { byHand, hand, issue, take, offers } = await studio();
    await issue(await byHand([hand('100')]));
    const payer = 'Quayside Playhouse';
    const sums = [await take({ amount: 12_000, payer }), await take({ amount: 12_000, payer })];
    const found = [...(await offers(sums)).values()];
    expect(found.map((each) => each.sure)).toEqual([false, false]);
    expect(new Set(found.map((each) => each.parts[0]!.invoiceId)).size).toBe(2);
  });

  it('an invoice that is paid or void already: it is said, and offered as paid ahead', async () => {
    const { run, first, second, numbers, take, match, offer } = await studio();
    await match(await take({ amount: 12_000, text: numbers[0]! }));
    const twice = await offer({ amount: 12_000, text: numbers[0]! });
    expect(twice).toMatchObject({ parts: [], ahead: { amount: 12_000 }, sure: false });
    expect(twice.reasons[0]).toBe(`${numbers[0]} is paid already`);
    await run('invoice.void', { id: second, reason: 'Wrong client' });
    expect((await offer({ amount: 6_000, text: numbers[1]! })).reasons[0]).toBe(`${numbers[1]} is void`);
    expect(first).not.toBe(second);
  });

  it('somebody who paid for the client before', async () => {
    const { take, match, offer, numbers, said } = await studio();
    await match(await take({ amount: 12_000, text: numbers[0]!, payer: 'J MARSH CARD 4471' }));
    expect(said(await offer({ amount: 6_000, payer: 'J Marsh card 4471' }))).toMatchObject({
      parts: [[numbers[1], 6_000, 0]],
      sure: true,
    });
  });

  it('not sure where another client seems to pay, or another file tells of it too', async () => {
    const { take, offer, numbers } = await studio();
    const other = await offer({ amount: 12_000, text: numbers[0]!, payer: 'Fernhill Folk Museum' });
    expect(other).toMatchObject({ sure: false });
    expect(other.reasons.join()).toContain('looks like Fernhill Folk Museum');
    await take({ amount: 6_000, text: numbers[1]!, source: 'camt:1' });
    expect(await offer({ amount: 6_000, text: numbers[1]!, source: 'ofx:1' })).toMatchObject({ sure: false });
  });
});

describe('money in another currency', () => {
  it('pays the invoice that it names where the exchange rate is near', async () => {
    const { run, second, frozen, take, offers, owing } = await studio();
    await run('exchange.add', { base: 'EUR', currency: 'GBP', rate: '0.85', from: '2026-01-01' });
    const sum = await take({ amount: 7_000, currency: 'EUR', text: frozen(second).number });
    const offer = (await offers([sum])).get(sum.id)!;
    // 60.00 GBP are 70.59 EUR by 0.85: 70.00 are near.
    expect(offer).toMatchObject({ parts: [{ amount: 6_000, arrived: 7_000 }], sure: false });
    await run('money.match', { matches: [{ id: sum.id, parts: offer.parts, ahead: null }] });
    expect(owedOn(owing(second))).toBe(0);
    const far = await take({ amount: 2_000, currency: 'EUR', text: frozen(second).number });
    expect((await offers([far])).get(far.id)!.parts).toEqual([]);
  });

  it('is booked at what it is worth, and the difference to what was owed as lost or gained', async () => {
    const { run, store, at, byHand, hand, issue } = await ledger();
    await run('exchange.add', { base: 'EUR', currency: 'GBP', rate: '0.8', from: '2026-01-01' });
    await run('exchange.add', { base: 'EUR', currency: 'GBP', rate: '0.9', from: '2026-11-18' });
    await run('client.edit', { id: at.playhouse, currency: 'EUR' });
    const [first, second] = [
      await byHand([hand('100', { taxId: null })]),
      await byHand([hand('100', { taxId: null })]),
    ];
    await issue(first);
    await issue(second);
    const line = { day: '2026-11-20', payer: '', text: '', reference: '', currency: 'GBP', sent: null };
    await run('money.take', { lines: [{ ...line, source: 'a', amount: 7_950 }] });
    const parts = [{ invoiceId: first, amount: 10_000, arrived: 7_950 }];
    await run('money.match', { matches: [{ id: store.rows('moneyIn')[0]!.id, parts, ahead: null }] });
    await run('payment.add', { invoiceId: second, day: '2026-11-21', amount: 10_000, note: '' });
    const paid = postingsOf(new Pricer(await readBook(store)), {
      invoices: store.rows('invoices'),
      payments: store.rows('payments'),
    }).slice(-2);
    // Owed 80.00 GBP by the rate of the invoice: 79.50 came; by the rate of the day of the other, 90.00.
    expect(paid.map(({ lines }) => lines.map(({ account, home }) => [account, home!.debit, home!.credit]))).toEqual([
      [
        ['1200', 7_950, 0],
        ['1100', 0, 8_000],
        ['7950', 50, 0],
      ],
      [
        ['1200', 9_000, 0],
        ['1100', 0, 8_000],
        ['7950', 0, 1_000],
      ],
    ]);
  });
});

describe('matching', () => {
  it('says of all of a sum what it is for, once, and lets it wait again whole', async () => {
    const { run, store, take, first, second, at, owing } = await studio();
    const sum = await take({ amount: 13_000, payer: 'Quayside' });
    const parts = [{ invoiceId: first, amount: 12_000, fee: 200 }];
    const ahead = { clientId: at.playhouse, amount: 1_200 };
    await expect(run('money.match', { matches: [{ id: sum.id, parts, ahead: null }] })).rejects.toThrow(
      /£12.00 of the £130.00 are for nothing yet/,
    );
    await expect(
      run('money.match', { matches: [{ id: sum.id, parts, ahead: { ...ahead, amount: 1_300 } }] }),
    ).rejects.toThrow(/£1.00 more than the £130.00/);
    await run('money.match', { matches: [{ id: sum.id, parts, ahead }] });
    expect(owedOn(owing(first))).toBe(0);
    await expect(run('money.match', { matches: [{ id: sum.id, parts, ahead }] })).rejects.toThrow(fault('already'));
    await expect(run('money.setAside', { ids: [sum.id], reason: 'Interest' })).rejects.toThrow(fault('already'));
    await expect(run('money.remove', { ids: [sum.id] })).rejects.toThrow(fault('already'));
    const [deposit] = store.rows('deposits');
    await expect(run('deposit.edit', { id: deposit!.id, amount: 1 })).rejects.toThrow(fault('not-the-sum'));
    const [payment] = store.rows('payments');
    await run('payment.remove', { id: payment!.id });
    expect([...store.rows('payments'), ...store.rows('deposits')]).toEqual([]);
    expect(owedOn(owing(first))).toBe(12_000);
    await run('money.setAside', { ids: [sum.id], reason: 'Interest' });
    await expect(
      run('money.match', { matches: [{ id: sum.id, parts: [{ invoiceId: second, amount: 13_000 }], ahead: null }] }),
    ).rejects.toThrow(/was set aside: Interest/);
    await run('money.apart', { id: sum.id });
    expect(store.rows('moneyIn')[0]!.setAside).toBeNull();
  });

  it('is refused for what is void, not issued, in another currency, or all charges', async () => {
    const { run, take, first, second, numbers } = await studio();
    await run('invoice.void', { id: first, reason: 'Twice' });
    const sum = await take({ amount: 6_000 });
    const match = (part: object) =>
      run('money.match', {
        matches: [{ id: sum.id, parts: [{ invoiceId: second, amount: 6_000, ...part }], ahead: null }],
      });
    await expect(match({ invoiceId: first })).rejects.toThrow(`${numbers[0]} is void`);
    await expect(match({ fee: 6_000, amount: 6_000, arrived: 6_000 })).rejects.toThrow(fault('out-of-range'));
    const euro = await take({ amount: 6_000, currency: 'EUR' });
    await expect(
      run('money.match', { matches: [{ id: euro.id, parts: [{ invoiceId: second, amount: 6_000 }], ahead: null }] }),
    ).rejects.toThrow(fault('other-currency'));
  });

  it('comes in once, whatever the file was read with before', async () => {
    const { run, store, take } = await studio();
    await take({ amount: 100, source: 'camt:old' });
    const line = { day: '2026-11-20', payer: '', text: '', reference: '', currency: 'GBP', sent: null, amount: 100 };
    await run('money.take', { lines: [{ ...line, source: 'camt:new', was: 'camt:old' }] });
    await run('money.take', { lines: [{ ...line, source: 'camt:old' }] });
    expect(store.rows('moneyIn')).toHaveLength(1);
  });

  it('books what was kept on the way as charges', async () => {
    const { run, store, take, first } = await studio();
    const sum = await take({ amount: 11_800 });
    await run('money.match', {
      matches: [{ id: sum.id, parts: [{ invoiceId: first, amount: 12_000, fee: 200 }], ahead: null }],
    });
    const postings = postingsOf(new Pricer(await readBook(store)), {
      invoices: store.rows('invoices'),
      payments: store.rows('payments'),
    });
    expect(postings.at(-1)!.lines.map(({ account, debit, credit }) => [account, debit, credit])).toEqual([
      ['1200', 11_800, 0],
      ['7900', 200, 0],
      ['1100', 0, 12_000],
    ]);
  });

  it('gives out no more of an invoice than is owed, and no more of a sum than came in, whatever comes', async () => {
    const { take, offers, owing, first, second, numbers } = await studio();
    const text = fc.constantFrom('', numbers[0]!, numbers[1]!, numbers.join(' '), 'invoice', 'SL-9999');
    const payer = fc.constantFrom('', 'Quayside Playhouse', 'FERNHILL FOLK MUS', 'Somebody');
    const amount = fc.oneof(fc.constantFrom(12_000, 6_000, 18_000, 11_900), fc.integer({ min: 1, max: 40_000 }));
    await fc.assert(
      fc.asyncProperty(fc.array(fc.record({ text, payer, amount }), { maxLength: 6 }), async (lines) => {
        const sums: MoneyIn[] = [];
        for (const line of lines) sums.push(await take(line));
        const found = await offers(sums);
        for (const id of [first, second]) {
          const given = [...found.values()].flatMap((each) => each.parts).filter((part) => part.invoiceId === id);
          expect(given.reduce((sum, part) => sum + part.amount, 0)).toBeLessThanOrEqual(owedOn(owing(id)));
        }
        for (const sum of sums) {
          const { parts, ahead, sure } = found.get(sum.id)!;
          expect(parts.every((part) => arrivedOf(part) > 0 && part.amount > 0)).toBe(true);
          if (parts.length > 0) expect(leftOfSum(sum, parts, ahead?.amount)).toBe(0);
          if (sure) expect(parts.length).toBeGreaterThan(0);
        }
      }),
      { numRuns: 40 },
    );
    expect(matchedSums([owing(first)], []).size).toBe(0);
  });
});
