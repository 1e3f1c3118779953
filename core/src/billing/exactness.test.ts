import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Invoice } from '../model/records';
import { fromScaled } from '../money/decimal';
import { brokenRules } from '../testing/en16931';
import { ledger } from '../testing/ledger';
import { DAY, work } from '../testing/studio';
import { lineNets, netOf, owedOn, Pricer, readBook, standingOf } from '.';
import { runs } from '../testing/runs';
import { fault } from '../testing/fault';

// Figures that an accountant would work out on paper: what an invoice comes to, what credits of it come to, and what is left to bill.

const HOUR = 3600;
const MINUTE = 60;

/** Minor units as a plain decimal. */
const plain = (minor: number): string => fromScaled(minor * 100);

const taxesOf = ({ taxes }: NonNullable<Invoice['frozen']>) => taxes.map(({ basis, amount }) => [basis, amount]);

describe('a discount on the whole', () => {
  it('takes the same percentage off every basis, and is credited as it was given', async () => {
    const { hand, byHand, issue, credit, owing } = await ledger();
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const id = await byHand([hand('850')], { allowance });
    expect(await issue(id)).toMatchObject({ net: 85_000, tax: 15_300, total: 91_800, payable: 91_800 });
    const note = await credit(id);
    expect(note.frozen).toMatchObject({ tax: -15_300, total: -91_800, payable: -91_800 });
    expect(brokenRules(note.frozen!)).toEqual([]);
    expect(owedOn(owing(id))).toBe(0);
  });

  it('comes off a basis below nothing with that basis’s own sign', async () => {
    const { hand, byHand, issue } = await ledger();
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const sent = await issue(await byHand([hand('850'), hand('-10', { taxId: null })], { allowance }));
    // 84.00 off 840.00: 85.00 off what is taxed, 1.00 back on what is not.
    expect(taxesOf(sent)).toEqual([[76_500, 15_300]]);
    expect(sent.total).toBe(84_000 - 8400 + 15_300);
    expect(lineNets(sent)).toEqual([76_500, -900]);
    expect(brokenRules(sent)).toEqual([]);
  });

  it('is refused where the lines come to nothing or less', async () => {
    const { hand, byHand, run } = await ledger();
    const allowance = { text: 'Discount', percent: null, amount: 500 };
    const id = await byHand([hand('10'), hand('-10')], { allowance });
    await expect(run('invoice.issue', { id })).rejects.toThrow(fault('out-of-range'));
  });
});

describe('prices that include tax', () => {
  // The VAT fraction of HMRC Notice 700 (from memory): rate ÷ (100 + rate), 1/6 at 20 %.
  it('leave gross ÷ (1 + rate), and what is missing to the gross is the rounding amount', async () => {
    const { hand, byHand, issue, credit, owing } = await ledger();
    const id = await byHand([hand('0.03')], { inclusive: true });
    // 0.03 ÷ 1.2 = 0.025, so 0.03; the tax on it 0.006, so 0.01; 0.03 − 0.03 − 0.01 = −0.01.
    const sent = await issue(id);
    expect(sent).toMatchObject({ net: 3, tax: 1, total: 4, rounding: -1, payable: 3 });
    const note = await credit(id);
    expect(note.frozen).toMatchObject({ total: -4, rounding: 1, payable: -3 });
    expect(owedOn(owing(id))).toBe(0);
  });

  it('are credited with the tax that is in them after the discount', async () => {
    const { hand, byHand, issue, credit } = await ledger();
    const allowance = { text: 'Discount', percent: '10', amount: null };
    const id = await byHand([hand('100')], { inclusive: true, allowance });
    expect(await issue(id)).toMatchObject({ tax: 1500, total: 9000, payable: 9000 });
    expect((await credit(id)).frozen).toMatchObject({ tax: -1500, total: -9000, payable: -9000 });
  });

  it('keep a retention to what was earned', async () => {
    const { hand, byHand, issue } = await ledger();
    const sent = await issue(await byHand([hand('850')], { inclusive: true, retention: '5' }));
    // 850.00 ÷ 1.2 = 708.33; 5 % of that is 35.4165.
    expect(sent.deductions.map((each) => each.amount)).toEqual([3542]);
  });

  it('can have the tax added, so that what was earned stays', async () => {
    const { hand, byHand, issue } = await ledger();
    const sent = await issue(await byHand([hand('100')], { inclusive: true, grossedUp: true }));
    expect(sent).toMatchObject({ net: 12_000, tax: 2000, total: 12_000, rounding: 0 });
    expect(sent.lines[0]).toMatchObject({ price: '120', amount: 12_000 });
  });

  it('hold on any lines: never more than one minor unit a rate, and none where none is possible', async () => {
    const { hand, byHand, store, run, at, low } = await ledger();
    const id = await byHand([hand('1')]);
    const lines = fc.array(fc.tuple(fc.integer({ min: 1, max: 99_999 }), fc.boolean()), { minLength: 1, maxLength: 8 });
    await fc.assert(
      fc.asyncProperty(lines, async (made) => {
        const byHandLines = made.map(([minor, reduced]) => hand(plain(minor), { taxId: reduced ? low : at.tax }));
        await run('invoice.edit', { id, byHand: byHandLines, inclusive: true });
        const sent = await issueDry(store, id);
        expect(brokenRules(sent)).toEqual([]);
        const gross = made.reduce((sum, [minor]) => sum + minor, 0);
        expect(sent.payable).toBe(gross);
        expect(Math.abs(sent.rounding)).toBeLessThanOrEqual(sent.taxes.length);
        expect(lineNets(sent).reduce((sum, each) => sum + each, 0)).toBe(netOf(sent));
        if (sent.taxes.length !== 1) return;
        const percent = BigInt(sent.taxes[0]!.percent);
        const exact = Array.from({ length: 5 }, (_, step) => sent.taxes[0]!.basis - 2 + step).some((basis) => {
          const tax = Number((BigInt(basis) * percent * 2n + 100n) / 200n);
          return basis + tax === gross;
        });
        if (exact) expect(sent.rounding).toBe(0);
      }),
      { numRuns: runs(60) },
    );
  });
});

async function issueDry(store: Awaited<ReturnType<typeof ledger>>['store'], id: string) {
  const { computeDraft, freeze } = await import('.');
  const invoice = store.rows('invoices').find((row) => row.id === id)!;
  const pricer = new Pricer(await readBook(store));
  const draft = computeDraft(pricer, { invoice, entries: [], allocations: [], day: DAY });
  return freeze(pricer, draft, invoice, 1, DAY);
}

describe('credits of one invoice', () => {
  it('give the tax back to the penny, the last one with the rest', async () => {
    const { hand, byHand, issue, credit, owing } = await ledger();
    const line = hand('10.03');
    const id = await byHand([line]);
    expect(await issue(id)).toMatchObject({ net: 1003, tax: 201 });
    const taxes = [];
    for (const lines of [{ [line.key]: 332 }, { [line.key]: 332 }, undefined])
      taxes.push((await credit(id, lines)).frozen!.tax);
    expect(taxes).toEqual([-66, -66, -69]);
    expect(owedOn(owing(id))).toBe(0);
    expect(standingOf(owing(id), DAY)).toBe('credited');
  });

  it('come to what was invoiced in any parts, per tax, and never to more', async () => {
    const anyLine = fc.record({
      minor: fc.integer({ min: -5000, max: 30_000 }),
      tax: fc.constantFrom('vat' as const, 'low' as const, 'none' as const),
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyLine, { minLength: 1, maxLength: 5 }),
        fc.array(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 5, maxLength: 5 }), { maxLength: 4 }),
        fc.boolean(),
        fc.constantFrom(null, '10', '33.3333'),
        async (lines, parts, inclusive, discount) => {
          fc.pre(lines.reduce((sum, each) => sum + each.minor, 0) > 100 && lines.every((each) => each.minor !== 0));
          // Tax on reductions may leave less than is held back; that cannot be issued.
          const rates = { vat: 1.2, low: 1.05, none: 1 };
          fc.pre(lines.reduce((sum, { minor, tax }) => sum + minor * (rates[tax] - 0.05), 0) > 10);
          const { hand, byHand, run, issue, credit, owing, notes, frozen, at, low } = await ledger();
          const taxes = { vat: at.tax, low, none: null };
          const made = lines.map(({ minor, tax }) => hand(plain(minor), { taxId: taxes[tax] }));
          const allowance = discount === null ? null : { text: 'Discount', percent: discount, amount: null };
          const id = await byHand(made, { inclusive, allowance, retention: '5' });
          const sent = await issue(id);
          for (const percents of parts) {
            const some: Record<string, number> = {};
            sent.lines.forEach((line, index) => {
              const back = notes(id)
                .flatMap((note) => note.frozen!.lines)
                .filter((each) => each.key === line.key)
                .reduce((sum, each) => sum + each.amount, line.amount);
              const part = Math.trunc((back * percents[index]!) / 100);
              if (part !== 0) some[line.key] = part;
            });
            // Crediting a reduction alone, or more than the whole came to, is refused; nothing is done by it.
            if (Object.keys(some).length > 0)
              await credit(id, some).catch((thrown: Error) =>
                expect(thrown.message).toMatch(/^(More|This would ask for more) /),
              );
          }
          const left = owing(id)
            .credits.flatMap((note) => note.frozen!.lines)
            .reduce((sum, line) => sum + line.amount, sent.net);
          const some = sent.lines.some((line) => {
            const back = notes(id)
              .flatMap((note) => note.frozen!.lines)
              .filter((each) => each.key === line.key);
            return back.reduce((sum, each) => sum + each.amount, line.amount) !== 0;
          });
          if (some) await credit(id);
          else expect(left).toBe(0);
          const sum = (of: (frozen: NonNullable<Invoice['frozen']>) => number) =>
            notes(id).reduce((all, note) => all + of(note.frozen!), 0);
          expect(sum((each) => each.net)).toBe(-sent.net);
          expect(sum((each) => each.tax)).toBe(-sent.tax || 0);
          expect(sum((each) => each.total)).toBe(-sent.total);
          expect(sum((each) => each.rounding) || 0).toBe(-sent.rounding || 0);
          for (const tax of sent.taxes) {
            const own = (of: 'basis' | 'amount') =>
              notes(id)
                .flatMap((note) => note.frozen!.taxes)
                .filter((each) => each.id === tax.id)
                .reduce((all, each) => all + each[of], 0);
            expect([own('basis') || 0, own('amount') || 0]).toEqual([-tax.basis || 0, -tax.amount || 0]);
          }
          expect(owedOn(owing(id))).toBe(0);
          expect(frozen(id)).toEqual(sent);
          await expect(run('invoice.credit', { id, reason: 'More', free: false })).rejects.toThrow(
            fault('nothing-left'),
          );
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('give back retention with the rest: what was paid is then overpaid', async () => {
    const { hand, byHand, issue, credit, owing, run } = await ledger();
    const id = await byHand([hand('850')], { retention: '5' });
    expect(await issue(id)).toMatchObject({ total: 102_000, payable: 97_750 });
    await run('payment.add', { invoiceId: id, day: DAY, amount: 97_750, note: '' });
    const note = await credit(id);
    expect(note.frozen!.deductions.map((each) => each.amount)).toEqual([-4250]);
    expect(owedOn(owing(id))).toBe(-97_750);
    await expect(run('invoice.release', { id, day: DAY })).rejects.toThrow(fault('nothing-left'));
  });

  it('give a deposit back for later invoices', async () => {
    const { hand, byHand, issue, credit, added, at, run } = await ledger();
    const deposit = await added('deposit.add', { clientId: at.playhouse, day: DAY, amount: 5000, currency: 'GBP' });
    const deposits = [{ depositId: deposit, amount: 5000 }];
    const first = await byHand([hand('100')], { deposits });
    await issue(first);
    const second = await byHand([hand('100')]);
    await expect(run('invoice.edit', { id: second, deposits })).rejects.toThrow(fault('more-than-left'));
    expect((await credit(first)).frozen).toMatchObject({ total: -12_000, payable: -7000 });
    await run('invoice.edit', { id: second, deposits });
  });

  it('keep what was credited for good from coming back to bill', async () => {
    const { project, added, draftOf, issue, credit, open } = await ledger();
    const entry = await added('entry.add', work(await project('100'), HOUR));
    const id = await draftOf({ entryIds: [entry] });
    const [line] = (await issue(id)).lines;
    await credit(id, { [line!.key]: 4000 }, false);
    await credit(id, undefined, true);
    expect((await open()).map((item) => [item.seconds, item.amount])).toEqual([[2160, 6000]]);
  });
});

describe('one rounded length, shared', () => {
  const tenths = { increment: 360, direction: 'up', minimum: 0, per: 'entry' } as const;
  const quarters = { increment: 900, direction: 'up', minimum: 0, per: 'entry' } as const;

  it('is billed in parts as it is billed in one', async () => {
    const { project, added, draftOf, issue, open } = await ledger();
    const entry = await added('entry.add', work(await project('80', tenths), HOUR));
    const amounts = [];
    for (let part = 0; part < 3; part++) {
      const id = await draftOf({ entryIds: [entry], parts: { [entry]: 20 * MINUTE } });
      const [line] = (await issue(id)).lines;
      amounts.push([line!.seconds, line!.amount]);
    }
    // A third of an hour at 80.00 is 26.67: each line’s own rounding, 80.01 together.
    expect(amounts).toEqual([1200, 1200, 1200].map((seconds) => [seconds, 2667]));
    expect(await open()).toEqual([]);
  });

  it('bills a quarter hour in two parts once', async () => {
    const { project, added, draftOf, issue } = await ledger();
    const entry = await added('entry.add', work(await project('80', quarters), 13 * MINUTE));
    const first = await draftOf({ entryIds: [entry], parts: { [entry]: 6 * MINUTE } });
    const [one] = (await issue(first)).lines;
    const [two] = (await issue(await draftOf({ entryIds: [entry] }))).lines;
    expect(one!.seconds + two!.seconds).toBe(15 * MINUTE);
  });

  it('falls by a third where a third is written down', async () => {
    const { project, added, run, open } = await ledger();
    const entry = await added('entry.add', work(await project('80', quarters), 15 * MINUTE));
    await run('bill.adjust', {
      entryIds: [entry],
      kind: 'written down',
      parts: { [entry]: 5 * MINUTE },
      reason: 'Slow',
    });
    expect((await open()).map((item) => [item.seconds, item.billed])).toEqual([[10 * MINUTE, 10 * MINUTE]]);
  });

  it('bills a daily minimum once, on whichever invoices its entries stand', async () => {
    const { project, added, draftOf, issue, open } = await ledger();
    const atLeastAnHour = await project('80', { increment: 900, direction: 'up', minimum: HOUR, per: 'day and job' });
    const [a, b] = [
      await added('entry.add', work(atLeastAnHour, 15 * MINUTE)),
      await added('entry.add', work(atLeastAnHour, 15 * MINUTE)),
    ];
    expect((await open()).map((item) => item.billed)).toEqual([1800, 1800]);
    const [one] = (await issue(await draftOf({ entryIds: [a] }))).lines;
    expect((await open()).map((item) => [item.entry.id, item.billed])).toEqual([[b, 1800]]);
    const [two] = (await issue(await draftOf({ entryIds: [b] }))).lines;
    expect([one!.seconds, two!.seconds, one!.amount + two!.amount]).toEqual([1800, 1800, 8000]);
    // What is done there later that day goes with the hour that was billed.
    await added('entry.add', work(atLeastAnHour, 10 * MINUTE));
    expect((await open()).map((item) => [item.seconds, item.billed, item.amount])).toEqual([[600, 0, 0]]);
  });

  it('offers again what was credited to bill again', async () => {
    const { project, added, draftOf, issue, credit, open } = await ledger();
    const entry = await added('entry.add', work(await project('80', tenths), 72 * MINUTE));
    const id = await draftOf({ entryIds: [entry] });
    const [line] = (await issue(id)).lines;
    expect(line!.amount).toBe(9600);
    await credit(id, { [line!.key]: 2800 }, true);
    expect((await open()).map((item) => [item.billed, item.amount])).toEqual([[1260, 2800]]);
  });

  it('conserves recorded seconds, billed seconds and money, whatever is done with it', async () => {
    const step = fc.record({
      what: fc.constantFrom('part', 'down', 'credit', 'all'),
      size: fc.integer({ min: 1, max: 100 }),
      pick: fc.nat(100),
      free: fc.boolean(),
    });
    const policy = fc.record({
      increment: fc.constantFrom(1, 60, 360, 900),
      direction: fc.constantFrom('up' as const, 'nearest' as const, 'down' as const),
      minimum: fc.constantFrom(0, 1800),
      per: fc.constantFrom('entry' as const, 'day and job' as const),
    });
    await fc.assert(
      fc.asyncProperty(
        policy,
        fc.array(fc.integer({ min: 1, max: 8000 }), { minLength: 1, maxLength: 4 }),
        fc.array(step, { maxLength: 10 }),
        async (rounding, lengths, steps) => {
          const { project, added, draftOf, issue, credit, open, run, store, notes } = await ledger();
          const place = await project('80', rounding);
          for (const seconds of lengths) await added('entry.add', work(place, seconds));
          const whole = (await open()).reduce((sum, item) => sum + item.billed, 0);
          let down = 0;
          for (const { what, size, pick, free } of steps) {
            const items = await open();
            const item = items[pick % Math.max(1, items.length)];
            const sent = store.rows('invoices').filter((row) => row.kind === 'invoice' && row.frozen);
            if (what === 'credit') {
              const invoice = sent[pick % Math.max(1, sent.length)];
              const line = invoice?.frozen!.lines[0];
              if (!invoice || !line) continue;
              const left = notes(invoice.id)
                .flatMap((note) => note.frozen!.lines)
                .reduce((sum, each) => sum + each.amount, line.amount);
              const back = Math.trunc((left * size) / 100);
              if (back > 0) await credit(invoice.id, { [line.key]: back }, free);
              continue;
            }
            if (!item) continue;
            const id = item.entry.id;
            const part = Math.max(1, Math.trunc((item.seconds * size) / 100));
            if (what === 'down') {
              await run('bill.adjust', { entryIds: [id], kind: 'written down', parts: { [id]: part }, reason: 'Slow' });
              down += 1;
            } else
              await issue(await draftOf({ entryIds: [id], parts: { [id]: what === 'all' ? item.seconds : part } }));
          }
          const rows = store.rows('allocations');
          const billed = rows.reduce((sum, row) => sum + (row.billed ?? 0), 0);
          const rest = (await open()).reduce((sum, item) => sum + item.billed, 0);
          // A share of what was written down is rounded once for each entry.
          const gone = down === 0 ? 0 : whole - billed - rest;
          expect(billed + rest + gone).toBe(whole);
          expect(gone).toBeGreaterThanOrEqual(0);
          for (const row of store.rows('invoices')) {
            if (row.kind === 'credit note' || !row.frozen) continue;
            for (const line of row.frozen.lines) {
              // 80.00 an hour: the amount is the nearest to its billed seconds.
              expect(line.amount).toBe(Math.round((line.seconds * 8000) / 3600));
            }
          }
        },
      ),
      { numRuns: runs(40) },
    );
  });
});

describe('a sum over time, costs and refunds', () => {
  it('books each its own worth', async () => {
    const { project, added, run, draftOf, issue, store } = await ledger();
    const place = await project('85');
    const entry = await added('entry.add', work(place, 10 * HOUR));
    const cost = async (amount: number) => {
      const row = await run('cost.add', {
        kind: 'bill',
        day: DAY,
        currency: 'GBP',
        supplier: 'Brightwater Supplies',
        lines: [{ projectId: place, amount, text: 'Gel' }],
      });
      return row.changes.find((change) => change.table === 'costLines')!.id;
    };
    const [gel, refund] = [await cost(2000), await cost(-500)];
    const id = await draftOf({ entryIds: [entry], costLineIds: [gel, refund] });
    const lump = { way: 'project', lump: true } as const;
    await run('invoice.edit', { id, ways: { time: lump, bill: lump } });
    expect((await issue(id)).lines.map((line) => line.amount)).toEqual([86_500]);
    const shares = new Map(store.rows('allocations').map((row) => [row.entryId ?? row.costLineId, row.amount]));
    expect([shares.get(entry), shares.get(gel), shares.get(refund)]).toEqual([85_000, 2000, -500]);
  });

  it('prints what takes something off as a negative quantity at a positive price (EN 16931 BR-27)', async () => {
    const { hand, byHand, issue } = await ledger();
    const sent = await issue(await byHand([hand('100'), hand('-12.5', { quantity: '2' })]));
    expect(sent.lines.map((line) => [line.quantity, line.price, line.amount])).toEqual([
      ['1', '100', 10_000],
      ['-2', '12.5', -2500],
    ]);
    expect(brokenRules(sent)).toEqual([]);
  });
});

describe('tax', () => {
  it('is rounded half away from zero whatever the rule for amounts', async () => {
    const { hand, byHand, issue, run } = await ledger();
    await run('workspace.edit', { amountRounding: 'towards zero' });
    // 20 % of 0.03 is 0.006.
    expect(taxesOf(await issue(await byHand([hand('0.03')])))).toEqual([[3, 1]]);
  });

  it('that is outside the scope stands on an invoice of its own', async () => {
    const { hand, byHand, run, added } = await ledger();
    const outside = await added('tax.add', { name: 'No VAT', percent: '0', note: 'Outside the scope.', category: 'O' });
    const id = await byHand([hand('10'), hand('5', { taxId: outside, text: 'Abroad' })]);
    await expect(run('invoice.issue', { id })).rejects.toThrow(fault('tax-category'));
  });
});
