import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { owedOn, postingRows, postingsOf, Pricer, readBook } from '../billing';
import type { CommandInput } from '../commands';
import { sumExact } from '../money';
import { DAY, runs } from '../testing';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { dueRows, duesOf, filesOf, paymentFileOf, payOffers, type SpentLine } from '.';

const IBAN = 'GB82 WEST 1234 5698 7654 32';

/** A studio with a bill of a supplier, and what is asked of it again and again. */
async function studio() {
  const made = await ledger();
  const { run, added, store, at } = made;
  await run('workspace.edit', {
    bankAccounts: [
      {
        id: made.test.newId(),
        currency: 'GBP',
        holder: 'Saltmere Lighting',
        number: 'GB42 SALT 0000 0012 3456 78',
        bic: '',
        ledger: '',
      },
    ],
  });
  const bill = (amount: number, more: Partial<CommandInput<'cost.add'>> = {}) =>
    added('cost.add', {
      kind: 'bill',
      day: DAY,
      supplier: 'Fresnel Hire',
      reference: '4214',
      currency: 'GBP',
      dueDay: '2026-12-12',
      lines: [{ text: 'Lanterns', amount }],
      ...more,
    });
  const expense = (amount: number) =>
    bill(amount, { kind: 'expense', supplier: 'Corner shop', memberId: at.member, owedBack: true, dueDay: null });
  const pay = (costId: string, amount: number, more: object = {}) =>
    run('payout.add', { payouts: [{ costId, amount, day: DAY, ...more }] });
  const dues = () => duesOf(dueRows((table) => store.rows(table)));
  const payee = (name: string, number = IBAN, more: object = {}) => run('payee.add', { name, number, ...more });
  const balances = async () => {
    const all = postingsOf(
      new Pricer(await readBook(store)),
      postingRows((table) => store.rows(table)),
    );
    for (const { lines } of all) expect(sumExact(lines.map(({ debit, credit }) => debit - credit))).toBe(0);
    const { accounts } = store.rows('workspace')[0]!;
    const on = (account: string) =>
      sumExact(
        all.flatMap(({ lines }) =>
          lines.filter((line) => line.account === account).map((line) => line.debit - line.credit),
        ),
      );
    return { bank: on(accounts.bank), payables: on(accounts.payables), members: on(accounts.members) };
  };
  const offers = (lines: SpentLine[]) =>
    payOffers(lines, {
      dues: dues(),
      payouts: store.rows('payouts'),
      invoices: store.rows('invoices').map((each) => made.owing(each.id)),
      deposits: store.rows('deposits'),
      clients: store.rows('clients'),
    });
  return { ...made, bill, expense, pay, dues, payee, balances, offers };
}

const spent = (amount: number, more: Partial<SpentLine> = {}): SpentLine => ({
  source: 'camt:account:1',
  day: '2026-12-10',
  supplier: 'FRESNEL HIRE LTD',
  text: '',
  amount,
  currency: 'GBP',
  ...more,
});

describe('what is owed', () => {
  it('is a bill with its tax, less what was paid of it, and goes off the bank as it is paid', async () => {
    const { at, bill, pay, dues, balances } = await studio();
    const id = await bill(10_000, { taxId: at.tax });
    expect(dues()).toMatchObject([{ gross: 12_000, paid: 0, left: 12_000, day: '2026-12-12', doubts: [] }]);
    await pay(id, 5_000);
    expect(dues()).toMatchObject([{ paid: 5_000, left: 7_000 }]);
    expect(await balances()).toEqual({ bank: -5_000, payables: -7_000, members: 0 });
    await pay(id, 7_000);
    expect(dues()).toEqual([]);
    expect(await balances()).toEqual({ bank: -12_000, payables: 0, members: 0 });
  });

  it('is never more than the bill: neither by another payment nor by a bill made smaller', async () => {
    const { run, bill, pay, store } = await studio();
    const id = await bill(10_000);
    await pay(id, 6_000);
    await expect(pay(id, 4_001)).rejects.toEqual(fault('more-than-left', 'amount'));
    await expect(run('cost.edit', { id, lines: [{ text: 'Lanterns', amount: 5_999 }] })).rejects.toEqual(
      fault('more-than-left'),
    );
    await expect(run('cost.edit', { id, currency: 'EUR' })).rejects.toEqual(fault('other-currency'));
    await expect(run('cost.remove', { ids: [id] })).rejects.toThrow();
    expect(store.rows('payouts')).toHaveLength(1);
  });

  it('is what a member spent, paid back at once or as a part of it', async () => {
    const { run, expense, pay, dues, store, balances } = await studio();
    const [first, second] = [await expense(1_500), await expense(900)];
    expect(dues()).toMatchObject([
      { name: 'Imogen Vale', left: 1_500, day: DAY },
      { name: 'Imogen Vale', left: 900 },
    ]);
    await pay(first, 500);
    await run('cost.payBack', { ids: [first, second], day: '2026-11-20' });
    expect(
      store
        .rows('payouts')
        .map((row) => row.amount)
        .sort(),
    ).toEqual([1_000, 500, 900].sort());
    expect(dues()).toEqual([]);
    expect(await balances()).toEqual({ bank: -2_400, payables: 0, members: 0 });
    await run('cost.payBack', { ids: [first, second], day: null });
    expect(sumExact(dues().map((due) => due.left))).toBe(2_400);
  });

  it('counts a cost as paid that a book of before says was paid back', async () => {
    const { run, expense, pay, dues } = await studio();
    const id = await expense(1_500);
    await run('cost.edit', { id, paidBackOn: DAY });
    expect(dues()).toEqual([]);
    await expect(pay(id, 1)).rejects.toEqual(fault('paid'));
  });

  it('says what speaks against paying: a number twice, another account, a credit note', async () => {
    const { bill, payee, dues } = await studio();
    await payee('FRESNEL HIRE LTD.');
    await bill(10_000);
    await bill(10_000, { payTo: 'DE89 3704 0044 0532 0130 00', reference: ' 4214' });
    await bill(-2_000, { reference: 'C-7' });
    expect(dues().map(({ left, doubts }) => [left, doubts])).toEqual(
      expect.arrayContaining([
        [10_000, ['another bill of theirs has the number 4214 and this sum too']],
        [
          10_000,
          [
            'another bill of theirs has the number 4214 and this sum too',
            'asks for another account than is kept of them: DE89 3704 0044 0532 0130 00',
          ],
        ],
        [-2_000, ['a credit note: it is set against another bill, or paid back by the supplier']],
      ]),
    );
  });

  it('is gained or lost by exchange between the bill and its payment', async () => {
    const { run, bill, pay, store } = await studio();
    await run('exchange.add', { from: '2026-11-01', base: 'EUR', currency: 'GBP', rate: '0.8', source: 'by hand' });
    const id = await bill(10_000, { currency: 'EUR' });
    await pay(id, 10_000, { left: { amount: 8_350, currency: 'GBP' } });
    const postings = postingsOf(
      new Pricer(await readBook(store)),
      postingRows((table) => store.rows(table)),
    );
    const paid = postings.find((posting) => posting.text.includes('Paid'))!;
    expect(paid.lines.map(({ account, home }) => [account, home])).toEqual([
      ['1200', { debit: 0, credit: 8_350 }],
      ['2100', { debit: 8_000, credit: 0 }],
      ['7950', { debit: 350, credit: 0 }],
    ]);
  });
});

describe('payees', () => {
  it('are one a name and one a member, with check digits that fit', async () => {
    const { run, payee, at } = await studio();
    await payee('Fresnel Hire');
    await expect(payee('fresnel hire ')).rejects.toEqual(fault('name-taken'));
    await expect(payee('Other', 'GB82 WEST 1234 5698 7654 33')).rejects.toEqual(fault('invalid', 'number'));
    await payee('Other', '20-00-00 55779911');
    await payee('Imogen Vale', '20-00-00 55779911', { memberId: at.member });
    await expect(payee('Imogen', IBAN, { memberId: at.member })).rejects.toEqual(fault('name-taken'));
    await expect(run('member.remove', { id: at.member })).rejects.toThrow();
  });
});

describe('a payment file', () => {
  it('asks for a transfer a bill and one a member, and what it asks for is not asked for again', async () => {
    const { run, bill, expense, payee, dues, store, at, balances } = await studio();
    await payee('Fresnel Hire');
    const costs = [await bill(10_000), await bill(2_000, { reference: '' }), await expense(1_500), await expense(900)];
    const payouts = [10_000, 2_000, 1_500, 900].map((amount, index) => ({ costId: costs[index]!, amount }));
    await expect(run('payout.ask', { day: '2026-12-01', payouts })).rejects.toEqual(fault('not-set-up'));
    expect(store.rows('payouts')).toEqual([]);
    await payee('Imogen Vale', IBAN, { memberId: at.member });
    await run('payout.ask', { day: '2026-12-01', payouts });
    expect(dues().map((due) => due.left)).toEqual([0, 0, 0, 0]);
    await expect(run('payout.ask', { day: '2026-12-01', payouts })).rejects.toEqual(fault('nothing-left'));
    // Nothing went off the bank yet.
    expect(await balances()).toMatchObject({ bank: 0, payables: -12_000, members: -2_400 });
    const [own] = filesOf(store.rows('payouts')).values();
    const byId = new Map(store.rows('costs').map((cost) => [cost.id, cost]));
    const file = paymentFileOf(own!, byId, store.rows('payees'), store.rows('workspace')[0]!)!;
    expect(file).toMatchObject({ currency: 'GBP', day: '2026-12-01', debtor: 'Saltmere Lighting' });
    expect(file.messageId).toHaveLength(32);
    expect(file.transfers.map(({ payee: { name }, amount, text }) => [name, amount, text])).toEqual([
      ['Fresnel Hire', 10_000, '4214'],
      ['Fresnel Hire', 2_000, `Bill of ${DAY}`],
      ['Imogen Vale', 2_400, `Expenses ${DAY}`],
    ]);
    await run('payout.settle', { ids: own!.map((row) => row.id), day: '2026-12-02' });
    expect(dues()).toEqual([]);
    expect(await balances()).toEqual({ bank: -14_400, payables: 0, members: 0 });
    await expect(run('payout.settle', { ids: [own![0]!.id], day: '2026-12-02' })).rejects.toEqual(fault('already'));
  });

  it('is for one currency, from an account that the studio has', async () => {
    const { run, bill, payee } = await studio();
    await payee('Fresnel Hire');
    const [pounds, euro] = [await bill(10_000), await bill(5_000, { currency: 'EUR', reference: '9' })];
    const ask = (...ids: string[]) =>
      run('payout.ask', { day: DAY, payouts: ids.map((costId) => ({ costId, amount: 100 })) });
    await expect(ask(pounds, euro)).rejects.toEqual(fault('mixed'));
    await expect(ask(euro)).rejects.toEqual(fault('not-set-up'));
  });
});

describe('a statement', () => {
  it('pays the bill that payee and sum tell, in any order, each once', async () => {
    const { bill, offers, run, dues, store } = await studio();
    await bill(10_000);
    await bill(2_000, { reference: '4221' });
    const lines = [
      spent(2_000),
      spent(10_000, { source: 'camt:account:2' }),
      spent(2_000, { source: 'camt:account:3' }),
    ];
    const found = offers(lines);
    expect(lines.map(({ source }) => found.get(source)?.[0]?.sure ?? null)).toEqual([true, true, null]);
    const withdrawn = false;
    await run('ledger.take', {
      lines: lines.map((line) => {
        const [first] = found.get(line.source) ?? [];
        return { ...line, withdrawn, ...(first?.sure && { pays: first.parts }) };
      }),
    });
    expect(dues()).toEqual([]);
    // The third is a cost like any other line.
    expect(store.rows('costs').filter((cost) => cost.kind === 'ledger')).toHaveLength(1);
    // Read once more, nothing becomes of it.
    await run('ledger.take', { lines: lines.map((line) => ({ ...line, withdrawn })) });
    expect(store.rows('costs').filter((cost) => cost.kind === 'ledger')).toHaveLength(1);
    expect(store.rows('payouts')).toHaveLength(2);
  });

  it('knows what the bank was asked for by the sign that the file gave it', async () => {
    const { bill, payee, offers, run, store } = await studio();
    await payee('Fresnel Hire');
    const ids = [await bill(10_000), await bill(10_000, { reference: '4221' })];
    await run('payout.ask', { day: DAY, payouts: ids.map((costId) => ({ costId, amount: 10_000 })) });
    const [first, second] = store.rows('payouts');
    const sign = second!.id.replaceAll('-', '');
    const line = spent(10_000, { supplier: 'Somebody', reference: sign });
    const [offer] = offers([line]).get(line.source)!;
    expect(offer).toMatchObject({ sure: true, parts: [{ id: second!.costId, amount: 10_000 }] });
    await run('ledger.take', { lines: [{ ...line, withdrawn: false, pays: offer!.parts }] });
    expect(store.rows('payouts').map((row) => [row.id, row.standing])).toEqual([
      [first!.id, 'asked'],
      [second!.id, 'paid'],
    ]);
    // All of a file in one sum, by the file's own sign.
    await run('payout.remove', { ids: [second!.id] });
    const cost = store.rows('costs').find((row) => row.kind === 'ledger')!;
    expect(cost).toMatchObject({ source: line.source, supplier: 'Fresnel Hire' });
    expect(store.rows('costLines').find((row) => row.costId === cost.id)).toMatchObject({ amount: 10_000 });
  });

  it('knows what a member is paid in one transfer for several', async () => {
    const { expense, payee, offers, run, store, at, dues } = await studio();
    await payee('Imogen Vale', IBAN, { memberId: at.member });
    const ids = [await expense(1_500), await expense(900)];
    const payouts = ids.map((costId, index) => ({ costId, amount: [1_500, 900][index]! }));
    await run('payout.ask', { day: DAY, payouts });
    const reference = store.rows('payouts')[0]!.id.replaceAll('-', '');
    const line = spent(2_400, { supplier: 'IMOGEN VALE', reference });
    const [offer] = offers([line]).get(line.source)!;
    expect(offer).toMatchObject({ sure: true, says: 'pays Imogen Vale' });
    await run('ledger.take', { lines: [{ ...line, withdrawn: false, pays: offer!.parts }] });
    expect(store.rows('payouts').map((row) => row.standing)).toEqual(['paid', 'paid']);
    expect(dues()).toEqual([]);
    // One of them taken back, the whole line waits to be placed.
    await run('payout.remove', { ids: [store.rows('payouts')[0]!.id] });
    expect(store.rows('payouts')).toEqual([]);
    expect(store.rows('costLines').at(-1)).toMatchObject({ amount: 2_400 });
    // The same where what a member has back is taken back at the expense.
    const cost = store.rows('costs').find((row) => row.kind === 'ledger')!;
    await run('ledger.pays', { costId: cost.id, parts: offer!.parts });
    await run('cost.payBack', { ids: [ids[0]!], day: null });
    expect(store.rows('payouts')).toEqual([]);
    expect(store.rows('costLines').at(-1)).toMatchObject({ amount: 2_400 });
  });

  it('tells all of a file in one sum', async () => {
    const { bill, payee, offers, run, store } = await studio();
    await payee('Fresnel Hire');
    const ids = [await bill(10_000), await bill(300, { reference: '4221' })];
    await run('payout.ask', {
      day: DAY,
      payouts: ids.map((costId, index) => ({ costId, amount: [10_000, 300][index]! })),
    });
    const sign = store.rows('payouts')[0]!.file!.id.replaceAll('-', '').toUpperCase();
    const [offer] = offers([spent(10_300, { supplier: '', text: `Batch ${sign}` })]).get('camt:account:1')!;
    expect(offer).toMatchObject({ sure: true, says: 'pays all 2 transfers that a file asked for' });
    expect(offer!.parts.map((part) => part.amount)).toEqual([10_000, 300]);
  });

  it('offers, and is not sure of, a part that names the bill, a lone sum, and two that are alike', async () => {
    const { bill, offers } = await studio();
    await bill(10_000);
    const one = (line: SpentLine) => offers([line]).get(line.source)?.[0];
    expect(one(spent(4_000, { text: 'INV 4214 part' }))).toMatchObject({ sure: false, parts: [{ amount: 4_000 }] });
    expect(one(spent(4_000))).toBeUndefined();
    expect(one(spent(10_000, { supplier: 'Somebody else' }))).toMatchObject({ sure: false });
    expect(one(spent(10_000, { currency: 'EUR' }))).toBeUndefined();
    await bill(10_000, { reference: '5000' });
    expect(one(spent(10_000))).toMatchObject({ sure: false });
    expect(one(spent(10_000, { text: '5000' }))).toMatchObject({ sure: true, says: 'pays 5000 of Fresnel Hire' });
    // Parts of one bill, under two taxes, are paid together.
    await bill(700, { reference: '5000' });
    expect(one(spent(10_700))).toMatchObject({ sure: true, says: 'pays 5000 of Fresnel Hire' });
    expect(one(spent(20_000, { text: 'bills 4214 and 5000' }))).toBeUndefined();
    expect(one(spent(20_700, { text: 'bills 4214 and 5000' }))).toMatchObject({
      sure: true,
      says: 'pays 4214, 5000 of Fresnel Hire',
    });
    expect(one(spent(20_700))).toMatchObject({ sure: true, says: 'pays all that is left to Fresnel Hire' });
  });

  it('tells of money that goes back to a client: too much on an invoice, or paid ahead', async () => {
    const { run, byHand, hand, issue, at, offers, owing, store, balances } = await studio();
    const id = await byHand([hand('100')]);
    const { number, payable } = await issue(id);
    await run('payment.add', { invoiceId: id, day: DAY, amount: payable + 2_500, note: '' });
    await run('deposit.add', { clientId: at.museum, day: DAY, amount: 40_000, currency: 'GBP' });
    const lines = [
      spent(2_500, { supplier: 'QUAYSIDE PLAYHOUSE', text: `Refund ${number}` }),
      spent(40_000, { supplier: 'Fernhill Folk Museum', source: 'camt:account:2' }),
    ];
    const found = offers(lines);
    expect([...found.values()].map(([first]) => [first!.sure, first!.says])).toEqual([
      [true, `pays Quayside Playhouse back what was too much on ${number}`],
      [true, 'pays Fernhill Folk Museum back what was paid ahead'],
    ]);
    const paying = lines.map((line) => ({ ...line, withdrawn: false, pays: found.get(line.source)![0]!.parts }));
    await run('ledger.take', { lines: paying });
    await run('ledger.take', { lines: paying });
    expect(owedOn(owing(id))).toBe(0);
    expect(store.rows('deposits')[0]!.paidBack).toMatchObject([{ amount: 40_000, source: 'camt:account:2' }]);
    expect(store.rows('costs')).toEqual([]);
    expect(await balances()).toMatchObject({ bank: payable });
  });

  it('becomes what it paid later, when somebody says so', async () => {
    const { run, bill, dues, store } = await studio();
    const id = await bill(10_000);
    await run('ledger.take', { lines: [{ ...spent(9_000), withdrawn: false }] });
    const ledgerLine = store.rows('costs').find((cost) => cost.kind === 'ledger')!;
    const pays = (amount: number) =>
      run('ledger.pays', { costId: ledgerLine.id, parts: [{ kind: 'cost', id, amount, left: null }] });
    await expect(pays(8_000)).rejects.toEqual(fault('not-the-sum'));
    await pays(9_000);
    expect(dues()).toMatchObject([{ paid: 9_000, left: 1_000 }]);
    expect(store.rows('costs').map((cost) => cost.kind)).toEqual(['bill']);
    await run('ledger.take', { lines: [{ ...spent(9_000), withdrawn: false }] });
    expect(store.rows('costs')).toHaveLength(1);
  });

  it('whatever is paid, asked, settled and taken back: never more than the bill, and the books say what is left', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            what: fc.constantFrom('pay', 'ask', 'settle', 'remove', 'line', 'undo'),
            bill: fc.nat(2),
            amount: fc.integer({ min: 1, max: 6_000 }),
          }),
          { minLength: 1, maxLength: 14 },
        ),
        async (steps) => {
          const { run, bill, payee, pay, dues, store, balances, executor } = await studio();
          await payee('Fresnel Hire');
          const bills: string[] = [];
          for (const amount of [3_000, 5_000, 8_000]) bills.push(await bill(amount, { reference: String(amount) }));
          for (const [index, { what, bill: which, amount }] of steps.entries()) {
            const costId = bills[which]!;
            const [some] = store.rows('payouts');
            const source = `camt:account:${index}`;
            const step = {
              pay: () => pay(costId, amount),
              ask: () => run('payout.ask', { day: DAY, payouts: [{ costId, amount }] }),
              settle: () => some && run('payout.settle', { ids: [some.id], day: DAY }),
              remove: () => some && run('payout.remove', { ids: [some.id] }),
              line: () =>
                run('ledger.take', {
                  lines: [
                    {
                      ...spent(amount, { source }),
                      withdrawn: false,
                      pays: [{ kind: 'cost', id: costId, amount, left: null }],
                    },
                  ],
                }),
              undo: () => executor.undo(),
            }[what];
            await Promise.resolve(step()).catch(() => undefined);
          }
          const paid = sumExact(
            store
              .rows('payouts')
              .filter((row) => row.standing === 'paid')
              .map((row) => row.amount),
          );
          const open = sumExact(dues().map((due) => due.left + due.asked));
          expect(await balances()).toEqual({ bank: -paid || 0, payables: -open || 0, members: 0 });
          expect(dues().every((due) => due.left >= 0)).toBe(true);
          const sources = [...store.rows('payouts'), ...store.rows('costs')].map((row) => row.source).filter(Boolean);
          expect(new Set(sources).size).toBe(sources.length);
        },
      ),
      { numRuns: runs(25) },
    );
  });
});
