import { describe, expect, it } from 'vitest';
import { showAmount } from '../money/amount';
import { ledger } from '../testing/ledger';
import { fault } from '../testing/fault';
import { accountStatements, postingRows, postingsOf, Pricer, readBook, type Posting } from '.';

// Journals, read as a bookkeeper reads them.

const DAY = '2026-11-12';

async function books() {
  const made = await ledger();
  const { run, store, at } = made;
  await run('client.edit', { id: at.playhouse, code: 'QUAY' });
  await run('tax.edit', { id: at.tax, code: 'T1' });
  const journal = async (): Promise<Posting[]> =>
    postingsOf(
      new Pricer(await readBook(store)),
      postingRows((table) => store.rows(table)),
    );
  return { ...made, journal };
}

const written = ({ day, reference, text, clientCode, currency, lines }: Posting): string[] => [
  [day, reference, clientCode, text].filter(Boolean).join(' | '),
  ...lines.map((each) =>
    [
      each.account,
      each.debit > 0 ? `debit ${showAmount(each.debit, currency)}` : `credit ${showAmount(each.credit, currency)}`,
      each.text,
      each.taxCode,
    ]
      .filter(Boolean)
      .join(' | '),
  ),
];
const balances = ({ lines }: Posting) => {
  const sum = (of: (line: Posting['lines'][number]) => number) => lines.reduce((total, line) => total + of(line), 0);
  expect(sum((line) => line.debit)).toBe(sum((line) => line.credit));
  if (lines.every(({ home }) => home)) expect(sum(({ home }) => home!.debit)).toBe(sum(({ home }) => home!.credit));
};

describe('money paid ahead', () => {
  it('goes back to the client in part, never more of it than is left, and is booked so', async () => {
    const { run, store, at, byHand, hand, issue, journal } = await books();
    await run('deposit.add', { clientId: at.playhouse, day: '2026-11-01', amount: 5_000, currency: 'GBP' });
    const { id } = store.rows('deposits')[0]!;
    const invoice = await byHand([hand('100')], { deposits: [{ depositId: id, amount: 3_000 }] });
    await expect(run('deposit.payBack', { id, day: DAY, amount: 2_001 })).rejects.toThrow(fault('more-than-left'));
    await run('deposit.payBack', { id, day: DAY, amount: 2_000, note: 'Paid twice' });
    await issue(invoice);
    const all = await journal();
    all.forEach(balances);
    expect(all.filter(({ reference }) => reference === '').map(written)).toEqual([
      ['2026-11-01 | Paid ahead', '1200 | debit £50.00 | Paid ahead', '2110 | credit £50.00 | Paid ahead'].map(
        (line, index) => (index === 0 ? line.replace(' | ', ' | QUAY | ') : line),
      ),
      [`${DAY} | QUAY | Paid twice`, '1200 | credit £20.00 | Paid twice', '2110 | debit £20.00 | Paid twice'],
    ]);
    const account = accountStatements(
      store.rows('invoices').map((row) => ({ invoice: row, payments: [], credits: [] })),
      store.rows('deposits'),
      '2026-11-01',
      '2026-11-30',
    )[0]!;
    expect(account.ahead).toBe(0);
    expect(account.lines.map(({ move, amount }) => [move, amount])).toContainEqual(['refund', 2_000]);
    expect(account.closing).toBe(12_000 - 5_000 + 2_000);
  });
});

describe('the journal', () => {
  it('has an invoice with what is held back and its taxes, what was paid ahead, and the payments on it', async () => {
    const { run, at, byHand, hand, low, issue, journal } = await books();
    await run('deposit.add', {
      clientId: at.playhouse,
      day: '2026-11-02',
      amount: 2000,
      currency: 'GBP',
      note: ' For the rig ',
    });
    await run('deposit.add', { clientId: at.playhouse, day: '2026-11-01', amount: 100, currency: 'GBP' });
    const id = await byHand([hand('100'), hand('50', { account: '4100' }), hand('20', { taxId: low })], {
      retention: '5',
    });
    await issue(id);
    const pay = (kind: 'payment' | 'write-off' | 'refund', day: string, amount: number, note = '') =>
      run('payment.add', { invoiceId: id, kind, day, amount, note });
    await pay('payment', '2026-11-21', 200, ' By cheque ');
    await pay('payment', '2026-11-20', 15_000);
    await pay('refund', '2026-11-22', 100);
    await pay('write-off', '2026-11-23', 50, 'Too small to ask for');
    const all = await journal();
    all.forEach(balances);
    expect(all.map(written)).toMatchInlineSnapshot(`
      [
        [
          "2026-11-01 | QUAY | Paid ahead",
          "1200 | debit £1.00 | Paid ahead",
          "2110 | credit £1.00 | Paid ahead",
        ],
        [
          "2026-11-02 | QUAY | For the rig",
          "1200 | debit £20.00 | For the rig",
          "2110 | credit £20.00 | For the rig",
        ],
        [
          "2026-11-12 | SL-0001 | QUAY | Quayside Playhouse: Invoice",
          "1100 | debit £192.50 | To be paid",
          "1110 | debit £8.50 | Retention, 5 %",
          "4000 | credit £100.00 | Income | T1",
          "4100 | credit £50.00 | Income | T1",
          "4000 | credit £20.00 | Income",
          "2200 | credit £30.00 | VAT 20 % | T1",
          "2200 | credit £1.00 | VAT reduced 5 %",
        ],
        [
          "2026-11-20 | SL-0001 | QUAY | Quayside Playhouse: Payment",
          "1200 | debit £150.00 | Payment",
          "1100 | credit £150.00 | Payment",
        ],
        [
          "2026-11-21 | SL-0001 | QUAY | Quayside Playhouse: By cheque",
          "1200 | debit £2.00 | By cheque",
          "1100 | credit £2.00 | By cheque",
        ],
        [
          "2026-11-22 | SL-0001 | QUAY | Quayside Playhouse: Paid back",
          "1200 | credit £1.00 | Paid back",
          "1100 | debit £1.00 | Paid back",
        ],
        [
          "2026-11-23 | SL-0001 | QUAY | Quayside Playhouse: Too small to ask for",
          "8100 | debit £0.50 | Too small to ask for",
          "1100 | credit £0.50 | Too small to ask for",
        ],
      ]
    `);
  });

  it('sorts what happened on one day by its number, voids included', async () => {
    const { byHand, hand, issue, run, credit, journal } = await books();
    const first = await byHand([hand('1')]);
    const second = await byHand([hand('2')]);
    await issue(first);
    await issue(second);
    await credit(second);
    await run('invoice.void', { id: first, reason: 'Sent twice' });
    const all = await journal();
    all.forEach(balances);
    expect(all.map(written)).toMatchInlineSnapshot(`
      [
        [
          "2026-11-12 | SL-0001 | QUAY | Quayside Playhouse: Invoice",
          "1100 | debit £1.20 | To be paid",
          "4000 | credit £1.00 | Income | T1",
          "2200 | credit £0.20 | VAT 20 % | T1",
        ],
        [
          "2026-11-12 | SL-0001 | QUAY | Quayside Playhouse: Invoice. Void: Sent twice",
          "1100 | credit £1.20 | To be paid",
          "4000 | debit £1.00 | Income | T1",
          "2200 | debit £0.20 | VAT 20 % | T1",
        ],
        [
          "2026-11-12 | SL-0002 | QUAY | Quayside Playhouse: Invoice",
          "1100 | debit £2.40 | To be paid",
          "4000 | credit £2.00 | Income | T1",
          "2200 | credit £0.40 | VAT 20 % | T1",
        ],
        [
          "2026-11-12 | SL-0003 | QUAY | Quayside Playhouse: Credit note for SL-0002",
          "1100 | credit £2.40 | To be paid",
          "4000 | debit £2.00 | Income | T1",
          "2200 | debit £0.40 | VAT 20 % | T1",
        ],
      ]
    `);
  });

  it('posts what a price with tax in it is rounded by, and retention when it is due', async () => {
    const { byHand, hand, issue, run, journal } = await books();
    await issue(await byHand([hand('0.03')], { inclusive: true }));
    const held = await byHand([hand('100')], { retention: '10' });
    await issue(held);
    await run('invoice.release', { id: held, day: '2026-12-12' });
    const all = await journal();
    all.forEach(balances);
    expect(all.map(written)).toMatchInlineSnapshot(`
      [
        [
          "2026-11-12 | SL-0001 | QUAY | Quayside Playhouse: Invoice",
          "1100 | debit £0.03 | To be paid",
          "4000 | credit £0.03 | Income | T1",
          "2200 | credit £0.01 | VAT 20 % | T1",
          "4000 | debit £0.01 | Rounding",
        ],
        [
          "2026-11-12 | SL-0002 | QUAY | Quayside Playhouse: Invoice",
          "1100 | debit £110.00 | To be paid",
          "1110 | debit £10.00 | Retention, 10 %",
          "4000 | credit £100.00 | Income | T1",
          "2200 | credit £20.00 | VAT 20 % | T1",
        ],
        [
          "2026-12-12 | SL-0002 | QUAY | Quayside Playhouse: retention due",
          "1100 | debit £10.00 | Retention due",
          "1110 | credit £10.00 | Retention due",
        ],
      ]
    `);
  });

  it('has bills, expenses and what is paid back to members, with the tax that is claimed', async () => {
    const { run, at, journal } = await books();
    const cost = (fields: object) =>
      run('cost.add', {
        kind: 'expense',
        day: DAY,
        currency: 'GBP',
        taxId: at.tax,
        lines: [{ text: 'Gel', amount: 1000, projectId: at.rig }],
        ...fields,
      } as never);
    await cost({ kind: 'bill', supplier: 'Brightwater', reference: 'B-1' });
    await cost({ supplier: '', reference: 'E-1', taxReclaimed: false });
    await cost({ supplier: 'Station', reference: 'E-2', taxId: null, memberId: at.member, owedBack: true });
    await cost({
      supplier: 'Station',
      reference: 'E-3',
      memberId: at.member,
      owedBack: true,
      paidBackOn: '2026-11-20',
      lines: [{ text: '', amount: 1000, projectId: at.rig }],
    });
    const all = await journal();
    all.forEach(balances);
    expect(all.map(written)).toMatchInlineSnapshot(`
      [
        [
          "2026-11-12 | B-1 | Brightwater",
          "5000 | debit £10.00 | Gel | T1",
          "2201 | debit £2.00 | VAT 20 % | T1",
          "2100 | credit £12.00 | To be paid",
        ],
        [
          "2026-11-12 | E-1 | Gel",
          "5000 | debit £12.00 | Gel | T1",
          "1200 | credit £12.00 | Paid",
        ],
        [
          "2026-11-12 | E-2 | Station",
          "5000 | debit £10.00 | Gel",
          "2120 | credit £10.00 | Owed back",
        ],
        [
          "2026-11-12 | E-3 | Station",
          "5000 | debit £10.00 | Station | T1",
          "2201 | debit £2.00 | VAT 20 % | T1",
          "2120 | credit £12.00 | Owed back",
        ],
        [
          "2026-11-20 | E-3 | Station: Paid back to Imogen Vale",
          "2120 | debit £12.00 | Paid back to Imogen Vale",
          "1200 | credit £12.00 | Paid back to Imogen Vale",
        ],
      ]
    `);
  });

  it('is valued at home by the rate of its day, in balance, and not at all where no rate is known', async () => {
    const { run, at, journal, byHand, hand, issue } = await books();
    await run('client.edit', { id: at.playhouse, currency: 'EUR' });
    await issue(await byHand([hand('0.33'), hand('0.34', { account: '4100' })]));
    expect((await journal())[0]!.lines.map(({ home }) => home)).toEqual([null, null, null, null]);
    await run('exchange.add', { from: '2026-01-01', base: 'EUR', currency: 'GBP', rate: '0.5', source: 'by hand' });
    const [posting] = await journal();
    balances(posting!);
    expect(posting!.lines.map(({ account, debit, credit, home }) => [account, debit, credit, home]))
      .toMatchInlineSnapshot(`
      [
        [
          "1100",
          80,
          0,
          {
            "credit": 0,
            "debit": 40,
          },
        ],
        [
          "4000",
          0,
          33,
          {
            "credit": 17,
            "debit": 0,
          },
        ],
        [
          "4100",
          0,
          34,
          {
            "credit": 17,
            "debit": 0,
          },
        ],
        [
          "2200",
          0,
          13,
          {
            "credit": 6,
            "debit": 0,
          },
        ],
      ]
    `);
  });
});
