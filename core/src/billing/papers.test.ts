import { describe, expect, it } from 'vitest';
import type { CommandInput } from '../commands';
import { ledger } from '../testing/ledger';
import { fault } from '../testing/fault';
import { DAY, work } from '../testing/studio';
import { beforeIssuing, computeDraft, postingsOf, Pricer, readBook, readSources, registerSums, type Posting } from '.';

// What stands on papers besides lines and sums, what is asked before they go out, and what becomes of them in the books.

const HOUR = 3600;
type Made = Awaited<ReturnType<typeof ledger>>;

const pricerOf = async ({ store }: Made) => new Pricer(await readBook(store));

/** A client in Saltmere's neighbour country, billed in euro with VAT, and what a euro was. */
async function inEuro(made: Made, rates: [from: string, rate: string][] = [['2026-11-01', '1.15']]) {
  const { added, run, at } = made;
  for (const [from, rate] of rates)
    await run('exchange.add', { from, base: 'GBP', currency: 'EUR', rate, source: 'by hand' });
  const clientId = await added('client.add', {
    name: 'Atelier Clairval',
    address: '',
    email: '',
    taxNumber: '',
    termsDays: null,
    archived: false,
    currency: 'EUR',
    taxId: at.tax,
    code: 'C-204',
  });
  const projectId = await added('project.add', { name: 'Vitrine', clientId });
  await run('rate.add', { projectId, from: '2026-01-01', price: '100', currency: 'EUR' });
  const draft = async (hours: number) => {
    const entryIds = [await added('entry.add', work(projectId, hours * HOUR))];
    return added('invoice.draft', { clientId, entryIds });
  };
  return { clientId, draft };
}

describe('tax in the studio’s own currency', () => {
  it('stands beside a foreign total with the rate that was used, and is credited by that rate', async () => {
    const made = await ledger();
    const { draft } = await inEuro(made);
    const id = await draft(1);
    const sent = await made.issue(id);
    // 20.00 EUR at 1 GBP = 1.15 EUR is 17.39 GBP.
    expect(sent.home).toEqual({
      currency: 'GBP',
      rates: [{ base: 'GBP', currency: 'EUR', rate: '1.15', from: '2026-11-01' }],
    });
    expect(sent.taxes.map(({ amount, home }) => [amount, home])).toEqual([[2000, 1739]]);
    await made.run('exchange.add', { from: DAY, base: 'GBP', currency: 'EUR', rate: '2', source: 'by hand' });
    const key = sent.lines[0]!.key;
    const notes = [
      await made.credit(id, { [key]: 3333 }),
      await made.credit(id, { [key]: 3333 }),
      await made.credit(id),
    ];
    const home = notes.map((note) => note.frozen!.taxes[0]!.home!);
    expect(home.slice(0, 2)).toEqual([-580, -580]);
    expect(home.reduce((sum, each) => sum + each, 0)).toBe(-1739);
  });

  it('goes by the tax point, as the percentage does; without a rate the list says so and nothing is made up', async () => {
    const made = await ledger();
    const { draft } = await inEuro(made, [['2026-11-05', '1.25']]);
    const id = await draft(1);
    await made.run('invoice.edit', { id, taxPoint: '2026-10-31' });
    await made.run('tax.edit', { id: made.at.tax, later: [{ from: '2026-11-01', percent: '22' }] });
    expect((await findingsOf(made, id)).map(({ text }) => text)).toContain(
      'No exchange rate says what the tax is in GBP.',
    );
    const sent = await made.issue(id);
    expect(sent).toMatchObject({ taxPoint: '2026-10-31', home: null, tax: 2000 });
  });

  it('is not said where the invoice is in that currency, or bears no tax', async () => {
    const made = await ledger();
    const pounds = await made.issue(await made.byHand([made.hand('10')]));
    expect(pounds).toMatchObject({ home: null, taxPoint: null });
  });
});

async function findingsOf(made: Made, id: string, day = DAY) {
  const { store } = made;
  const pricer = await pricerOf(made);
  const invoice = made.invoice(id);
  const allocations = store.rows('allocations').filter((row) => row.invoiceId === id);
  const draft = computeDraft(pricer, { invoice, allocations, day, ...(await readSources(store, pricer, allocations)) });
  const issued = store.rows('invoices').flatMap((row) => row.frozen ?? []);
  const rows = { costs: store.rows('costs'), costLines: store.rows('costLines') };
  return beforeIssuing(pricer, { draft, invoice, day, issued, rows });
}

describe('before it is issued', () => {
  it('says of time that is not approved what the studio or the client wants said', async () => {
    const made = await ledger();
    const { run, at } = made;
    const entry = await run('entry.add', work(at.rig, 3600));
    const entryIds = [entry.changes[0]!.id];
    const drafted = await run('invoice.draft', { clientId: at.playhouse, entryIds });
    const id = drafted.changes.find((row) => row.table === 'invoices')!.id;
    const said = async () =>
      (await findingsOf(made, id)).filter((each) => each.remedy.kind === 'checking').map((each) => each.weight);
    expect(await said()).toEqual([]);
    await run('workspace.edit', { billsApproved: 'warn' });
    expect(await said()).toEqual(['odd']);
    await run('client.edit', { id: at.playhouse, billsApproved: 'only' });
    expect(await said()).toEqual(['refused']);
    await expect(run('invoice.issue', { id })).rejects.toThrow(fault('not-approved', 'entryIds'));
    // The client as the studio has it again, and the entry approved.
    await run('client.edit', { id: at.playhouse, billsApproved: null });
    await run('period.handIn', { memberId: at.member, day: DAY });
    await run('period.approve', { ids: [], entryIds, costIds: [] });
    expect(await said()).toEqual([]);
    await run('invoice.issue', { id });
  });

  it('notes a receipt that is missing, warns of it, or keeps the cost from being invoiced, as the studio says', async () => {
    const made = await ledger();
    const { run, at } = made;
    await run('workspace.edit', { receiptOver: 5000 });
    const costs = await run('cost.add', {
      kind: 'expense',
      day: DAY,
      supplier: 'Saltmere Hardware',
      currency: 'GBP',
      lines: [{ projectId: at.rig, text: 'Gel', amount: 6000 }],
    });
    const idIn = (table: string) => costs.changes.find((row) => row.table === table)!.id;
    const costLineIds = [idIn('costLines')];
    const drafted = await run('invoice.draft', { clientId: at.playhouse, entryIds: [], costLineIds });
    const id = drafted.changes.find((row) => row.table === 'invoices')!.id;
    const weights = async () =>
      (await findingsOf(made, id)).filter((each) => each.remedy.kind === 'cost').map((each) => each.weight);
    expect(await weights()).toEqual(['odd']);
    await run('workspace.edit', { receiptPolicy: 'note' });
    expect(await weights()).toEqual([]);
    await run('workspace.edit', { receiptPolicy: 'require' });
    expect(await weights()).toEqual(['refused']);
    await expect(run('invoice.issue', { id })).rejects.toThrow(
      'Saltmere Hardware of 12 Nov 2026 has no receipt. Add it, or say on its page why there is none.',
    );
    // A reason stands for the receipt.
    await run('cost.edit', { id: idIn('costs'), noReceipt: 'Lost on the train' });
    expect(await weights()).toEqual([]);
    await run('invoice.issue', { id });
    expect(made.store.rows('invoices').find((row) => row.id === id)?.frozen?.number).toBe('SL-0001');
  });

  it('everything that is missing or odd is listed with its remedy', async () => {
    const made = await ledger();
    const { run, at, added, draftOf } = made;
    await run('workspace.edit', { paymentDetails: '', receiptOver: 5000 });
    await run('client.edit', { id: at.playhouse, address: '' });
    const costs = await run('cost.add', {
      kind: 'expense',
      day: '2026-11-20',
      supplier: 'Saltmere Hardware',
      currency: 'GBP',
      lines: [{ projectId: at.rig, text: 'Gel', amount: 6000 }],
    });
    const costLineIds = costs.changes.filter((row) => row.table === 'costLines').map((row) => row.id);
    const entryIds = [await added('entry.add', work(at.rig, HOUR, { day: '2026-11-15' }))];
    const id = await draftOf({ entryIds, costLineIds });
    const found = await findingsOf(made, id);
    expect(found.map(({ weight, text, remedy }) => [weight, text, remedy.kind])).toEqual([
      ['odd', 'Quayside Playhouse has no address.', 'client'],
      ['odd', 'Tax is charged, and the studio has no tax number.', 'studio'],
      ['odd', 'Nothing says how to pay: there are no payment details and no account.', 'accounts'],
      ['odd', 'It has work of 20 Nov 2026, which is later.', 'date'],
      ['odd', 'Saltmere Hardware of 20 Nov 2026 is above £50.00 and has no receipt.', 'cost'],
    ]);
    await run('workspace.edit', {
      taxNumber: 'GB 1',
      bankAccounts: [
        { id: at.tax, currency: 'GBP', holder: 'Saltmere Lighting', number: '00-00-00 12345678', bic: '', ledger: '' },
      ],
    });
    await run('client.edit', { id: at.playhouse, address: '1 Quay' });
    await run('workspace.edit', { receiptOver: null });
    expect(await findingsOf(made, id, '2026-11-21')).toEqual([]);
    const [account] = made.store.rows('workspace')[0]!.bankAccounts;
    await run('workspace.edit', { paymentDetails: 'By transfer', bankAccounts: [{ ...account!, currency: 'EUR' }] });
    expect((await findingsOf(made, id, '2026-11-21')).map(({ text }) => text)).toEqual([
      'No account takes GBP; only the words under “How to pay” are printed.',
    ]);
    await run('workspace.edit', { bankAccounts: [account!] });
    const sent = await made.issue(id);
    expect(sent.studio.account).toEqual({ holder: 'Saltmere Lighting', number: '00-00-00 12345678', bic: '' });
  });

  it('says what keeps it from being issued first, and when the one before it is later', async () => {
    const made = await ledger();
    const { run, at, byHand, hand, issue } = made;
    await issue(await byHand([hand('10')]));
    const reverse = await made.added('tax.add', { name: 'VAT', percent: '0', category: 'AE', note: 'Reverse charge' });
    const outside = await made.added('tax.add', { name: 'VAT', percent: '0', category: 'O', note: 'Outside' });
    await run('workspace.edit', { paymentDetails: 'By transfer' });
    await run('client.edit', { id: at.playhouse, address: '1 Quay', purchaseOrder: 'always' });
    const id = await byHand([hand('10', { taxId: reverse }), hand('10', { taxId: outside })]);
    const found = await findingsOf(made, id, '2026-11-01');
    expect(found.map(({ weight, text }) => [weight, text.split('.')[0]])).toEqual([
      ['refused', 'Quayside Playhouse always gives an order number'],
      ['refused', expect.stringContaining('is outside the scope of tax')],
      ['odd', 'The customer accounts for the tax, and Quayside Playhouse has no VAT number'],
      ['odd', 'The invoice before it is of 12 Nov 2026, which is later'],
    ]);
  });
});

describe('the register', () => {
  const adds = (frozen: Parameters<typeof registerSums>[0]) => {
    const sums = registerSums(frozen);
    const taxes = [...sums.taxes.values()].reduce((sum, each) => sum + each, 0);
    expect(sums.net + sums.discount).toBe(sums.netAfter);
    expect(sums.netAfter + taxes + sums.rounding).toBe(sums.total);
    expect(sums.total + sums.deducted).toBe(sums.payable);
    return sums;
  };

  it('adds up from the net to what is to be paid, discounted, held back, with tax in the prices, and credited', async () => {
    const made = await ledger();
    const { byHand, hand, low, run, frozen, credit } = made;
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const plain = await byHand([hand('850'), hand('100', { taxId: low })], { allowance, retention: '5' });
    const sums = adds(await made.issue(plain));
    expect(sums).toMatchObject({ net: 95_000, discount: -9500, netAfter: 85_500, deducted: -4275 });
    expect([...sums.taxes]).toEqual([
      ['VAT 20 %', 15_300],
      ['VAT reduced 5 %', 450],
    ]);
    const inclusive = await byHand([hand('120'), hand('10', { taxId: null })], { allowance, inclusive: true });
    expect(adds(await made.issue(inclusive))).toMatchObject({ net: 11_000, discount: -1100, netAfter: 9900 });
    await credit(plain, { [frozen(plain).lines[0]!.key]: 10_000 });
    await run('invoice.release', { id: plain, day: DAY });
    for (const row of made.store.rows('invoices')) if (row.frozen) adds(row.frozen);
  });
});

describe('the journal', () => {
  const accounts = (postings: readonly Posting[]) =>
    postings.map(({ text, lines }) => [
      text,
      ...lines.map(({ account, debit, credit, taxCode }) => [account, debit - credit, taxCode]),
    ]);
  const balanced = (postings: readonly Posting[]) => {
    for (const { lines } of postings) {
      expect(lines.reduce((sum, each) => sum + each.debit - each.credit, 0)).toBe(0);
      expect(lines.reduce((sum, each) => sum + (each.home?.debit ?? 0) - (each.home?.credit ?? 0), 0)).toBe(0);
    }
  };

  it('posts supplier bills, expenses, what members are paid back, and the tax that is claimed', async () => {
    const made = await ledger();
    const { run, at, store } = made;
    await run('tax.edit', { id: at.tax, code: 'T1' });
    const cost = (kind: 'bill' | 'expense' | 'ledger', fields: object) =>
      run('cost.add', { kind, day: DAY, currency: 'GBP', taxId: at.tax, ...fields } as CommandInput<'cost.add'>);
    await cost('bill', { supplier: 'Lantern Hire', reference: 'LH-9', lines: [{ text: 'Dimmers', amount: 10_000 }] });
    await cost('expense', {
      supplier: 'Train',
      taxIncluded: true,
      memberId: at.member,
      owedBack: true,
      paidBackOn: '2026-11-30',
      lines: [{ text: 'To Fernhill', amount: 1200 }],
    });
    await cost('expense', { supplier: 'Lunch', taxReclaimed: false, lines: [{ text: 'Lunch', amount: 1000 }] });
    await cost('ledger', { supplier: 'Bank', source: 'ledger:1', lines: [{ text: 'Fee', amount: 500 }] });
    const rows = { invoices: [], payments: [], costs: store.rows('costs'), costLines: store.rows('costLines') };
    const postings = postingsOf(await pricerOf(made), rows);
    balanced(postings);
    expect(accounts(postings)).toEqual(
      expect.arrayContaining([
        ['Lantern Hire', ['5000', 10_000, 'T1'], ['2201', 2000, 'T1'], ['2100', -12_000, '']],
        ['Train', ['5000', 1000, 'T1'], ['2201', 200, 'T1'], ['2120', -1200, '']],
        ['Train: Paid back to Imogen Vale', ['2120', 1200, ''], ['1200', -1200, '']],
        ['Lunch', ['5000', 1200, 'T1'], ['1200', -1200, '']],
      ]),
    );
    expect(postings).toHaveLength(4);
  });

  it('posts income net on its accounts under its tax code, with the client’s code, the bank of the currency, and the value at home', async () => {
    const made = await ledger();
    const { run, at, store } = made;
    await run('tax.edit', { id: at.tax, code: 'T1' });
    await run('workspace.edit', {
      bankAccounts: [{ id: at.tax, currency: 'EUR', holder: '', number: '1', bic: 'SALTGB2L', ledger: '1210' }],
    });
    const { draft } = await inEuro(made);
    const id = await draft(1);
    await run('invoice.edit', {
      id,
      inclusive: true,
      allowance: { text: 'Discount', percent: '10', amount: null },
      byHand: [made.hand('20', { account: '4100' })],
    });
    await made.issue(id);
    await run('payment.add', { invoiceId: id, day: DAY, amount: 10_800, note: '' });
    const postings = postingsOf(await pricerOf(made), {
      invoices: store.rows('invoices'),
      payments: store.rows('payments'),
    });
    balanced(postings);
    // 120.00 with tax less 10 % is 108.00: 90.00 earned, 75.00 of it for the hour, and 18.00 tax.
    expect(accounts(postings)).toEqual(
      expect.arrayContaining([
        [
          'Atelier Clairval: Invoice',
          ['1100', 10_800, ''],
          ['4000', -7500, 'T1'],
          ['4100', -1500, 'T1'],
          ['2200', -1800, 'T1'],
        ],
        ['Atelier Clairval: Payment', ['1210', 10_800, ''], ['1100', -10_800, '']],
      ]),
    );
    expect(postings.every((each) => each.clientCode === 'C-204')).toBe(true);
    // 108.00 EUR at 1.15.
    expect(postings[0]!.lines.map(({ home }) => home!.debit - home!.credit)).toContain(9391);
  });
});
