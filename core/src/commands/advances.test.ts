import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { advanceStanding, leftWithTax, openAdvances, postingsOf, Pricer, readBook } from '../billing';
import { sumExact } from '../money';
import { runs } from '../testing';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';

const RULE = 'half away from zero' as const;

async function studio() {
  const made = await ledger();
  const { run, store, at, issue, byHand, hand } = made;
  /** A deposit invoice that was issued. */
  const asked = async (amount: number, more: object = {}) => {
    const id = await made.added('advance.ask', {
      clientId: at.playhouse,
      text: 'Deposit',
      amount,
      taxId: at.tax,
      ...more,
    });
    await issue(id);
    return id;
  };
  const worked = (price: string) => byHand([hand(price)]);
  const standing = (id: string) => advanceStanding(made.invoice(id), store.rows('invoices'), RULE);
  const deposits = async () => {
    const rows = { invoices: store.rows('invoices'), payments: store.rows('payments') };
    const lines = postingsOf(new Pricer(await readBook(store)), rows).flatMap((posting) => posting.lines);
    const { accounts } = store.rows('workspace')[0]!;
    const on = (account: string) =>
      sumExact(lines.filter((line) => line.account === account).map(({ debit, credit }) => credit - debit));
    expect(sumExact(lines.map(({ debit, credit }) => debit - credit))).toBe(0);
    return { ahead: on(accounts.deposits), sales: on(accounts.sales), tax: on(accounts.tax) };
  };
  return { ...made, run, asked, worked, standing, deposits };
}

describe('money that is invoiced ahead', () => {
  it('bears its own tax at its own tax point, and is no income yet', async () => {
    const { asked, frozen, deposits } = await studio();
    const id = await asked(100_000, { taxPoint: '2026-11-09' });
    expect(frozen(id)).toMatchObject({ net: 100_000, tax: 20_000, payable: 120_000, taxPoint: '2026-11-09' });
    expect(await deposits()).toEqual({ ahead: 100_000, sales: 0, tax: 20_000 });
  });

  it('is taken off the invoice for the work with its tax, so that neither is told twice', async () => {
    const { run, asked, worked, frozen, issue, standing, deposits } = await studio();
    const advance = await asked(100_000);
    const id = await worked('1500');
    await run('advance.draw', { id, advanceId: advance });
    await issue(id);
    expect(frozen(id)).toMatchObject({ net: 50_000, tax: 10_000, payable: 60_000 });
    expect(frozen(id).lines.at(-1)).toMatchObject({ amount: -100_000, quantity: '-1', price: '1000' });
    expect(frozen(id).ahead).toEqual([
      { number: frozen(advance).number, asked: 100_000, used: 100_000, left: 0, seconds: null },
    ]);
    expect(standing(advance)).toMatchObject({ left: 0, parts: [] });
    expect(await deposits()).toEqual({ ahead: 0, sales: 150_000, tax: 30_000 });
  });

  it('is drawn down in parts, in hours where it stands for some, and no further than there is', async () => {
    const { run, asked, worked, frozen, issue, standing, store } = await studio();
    const advance = await asked(80_000, { seconds: 10 * 3600 });
    const first = await worked('240');
    await run('advance.draw', { id: first, advanceId: advance });
    await issue(first);
    expect(frozen(first)).toMatchObject({ payable: 0, ahead: [{ left: 56_000, seconds: 7 * 3600 }] });
    const second = await worked('900');
    await expect(run('advance.draw', { id: second, advanceId: advance, amount: 60_000 })).rejects.toThrow(
      fault('more-than-left'),
    );
    await run('advance.draw', { id: second, advanceId: advance, amount: 50_000 });
    // What stands on a draft is drawn already: another draft finds the rest.
    expect(standing(advance)).toMatchObject({ used: 74_000, left: 6_000 });
    const third = await worked('900');
    await run('advance.draw', { id: third, advanceId: advance });
    await expect(run('advance.draw', { id: third, advanceId: advance })).rejects.toThrow(fault('nothing-left'));
    expect(openAdvances(store.rows('invoices'), RULE)).toEqual([]);
  });

  it('comes back when the invoice that drew on it is void or credited, and is not void while it is drawn on', async () => {
    const { run, asked, worked, issue, credit, standing, deposits } = await studio();
    const advance = await asked(50_000);
    const id = await worked('800');
    await run('advance.draw', { id, advanceId: advance });
    await expect(run('invoice.void', { id: advance, reason: 'Wrong' })).rejects.toThrow(fault('in-use'));
    await issue(id);
    await run('invoice.void', { id, reason: 'Wrong' });
    expect(standing(advance).left).toBe(50_000);
    const again = await worked('800');
    await run('advance.draw', { id: again, advanceId: advance });
    await issue(again);
    await credit(again);
    expect(standing(advance).left).toBe(50_000);
    expect(await deposits()).toEqual({ ahead: 50_000, sales: 0, tax: 10_000 });
    expect(leftWithTax(standing(advance))).toBe(60_000);
  });

  it('is of one client, and of a tax that the draft has', async () => {
    const { run, asked, byHand, hand, low, at, added } = await studio();
    const advance = await asked(50_000);
    const reduced = await byHand([hand('100', { taxId: low })]);
    await expect(run('advance.draw', { id: reduced, advanceId: advance })).rejects.toThrow(fault('nothing-left'));
    const other = await added('advance.ask', { clientId: at.museum, text: 'Deposit', amount: 100, taxId: at.tax });
    await expect(run('advance.draw', { id: other, advanceId: advance })).rejects.toThrow(fault('nothing-left'));
    const foreign = hand('10', { quantity: '-1', advanceId: advance });
    await expect(run('invoice.edit', { id: other, byHand: [foreign] })).rejects.toThrow(fault('unknown'));
  });

  it('leaves the ledger with what is left of it, whatever is drawn, credited and made void', async () => {
    const step = fc.record({
      what: fc.constantFrom('ask', 'draw', 'issue', 'void', 'credit'),
      pick: fc.nat(50),
      size: fc.integer({ min: 1, max: 90_000 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 14 }), async (steps) => {
        const { run, store, asked, worked, deposits, credit, standing } = await studio();
        const pick = <T>(rows: T[], at: number): T | undefined => rows[at % Math.max(1, rows.length)];
        const advances = () => store.rows('invoices').filter((row) => row.advance && row.frozen && !row.voided);
        for (const { what, pick: at, size } of steps) {
          const issued = store.rows('invoices').filter((row) => row.frozen && row.kind === 'invoice' && !row.voided);
          const draft = pick(
            store.rows('invoices').filter((row) => !row.frozen),
            at,
          );
          const advance = pick(advances(), at);
          // Whatever is refused changes nothing: that is what is looked at in the end.
          const tried = async () => {
            if (what === 'ask') await asked(size);
            else if (what === 'draw' && advance) {
              const id = draft?.id ?? (await worked(String(size / 100)));
              await run('advance.draw', { id, advanceId: advance.id });
            } else if (what === 'issue' && draft) await run('invoice.issue', { id: draft.id });
            else if (what === 'void' && pick(issued, at))
              await run('invoice.void', { id: pick(issued, at)!.id, reason: 'Tried' });
            else if (what === 'credit' && pick(issued, at)) await credit(pick(issued, at)!.id);
          };
          await tried().catch(() => undefined);
        }
        // What drafts draw is booked once they are issued.
        const drafts = new Set(
          store
            .rows('invoices')
            .filter((row) => !row.frozen)
            .map((row) => row.id),
        );
        const onDrafts = sumExact(
          store
            .rows('invoices')
            .flatMap((row) => (drafts.has(row.id) ? row.byHand : []))
            .filter((line) => line.advanceId)
            .map((line) => Math.round(Number(line.price) * 100)),
        );
        const left = sumExact(advances().map((row) => standing(row.id).left));
        expect((await deposits()).ahead).toBe(left + onDrafts);
        for (const row of advances()) expect(standing(row.id).left).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: runs(25) },
    );
  });
});

describe('a retainer', () => {
  it('asks for money ahead each time, and loses what is left where that was agreed', async () => {
    const { run, store, at, hand, issue, standing, deposits } = await studio();
    const agree = (carried: boolean, name: string) =>
      run('repeat.add', {
        clientId: at.playhouse,
        name,
        kind: 'sums',
        lines: [hand('600')],
        rule: 'FREQ=MONTHLY;BYMONTHDAY=1',
        from: '2026-10-01',
        ahead: { seconds: 8 * 3600, carried },
      });
    await agree(false, 'Care');
    await agree(true, 'Spare hours');
    await run('repeat.prepare', {});
    const drafts = store.rows('invoices').filter((row) => row.advance);
    expect(drafts.map((row) => row.advance!.until).sort()).toEqual([
      '2026-10-31',
      '2026-10-31',
      '2026-11-30',
      '2026-11-30',
    ]);
    for (const { id } of drafts) await issue(id);
    const lost = drafts.find((row) => row.advance!.until === '2026-10-31' && !row.advance!.carried)!;
    await run('advance.lapse', { id: lost.id });
    await expect(run('advance.lapse', { id: lost.id })).rejects.toThrow(fault('already'));
    expect(standing(lost.id)).toMatchObject({ lapsed: 60_000, left: 0 });
    const lasting = drafts.find((row) => row.advance!.until === '2026-11-30' && !row.advance!.carried)!;
    await expect(run('advance.lapse', { id: lasting.id })).rejects.toThrow(fault('too-early'));
    const kept = drafts.find((row) => row.advance!.carried)!;
    await expect(run('advance.lapse', { id: kept.id })).rejects.toThrow(fault('declined'));
    expect(await deposits()).toMatchObject({ ahead: 180_000, sales: 60_000 });
  });
});
