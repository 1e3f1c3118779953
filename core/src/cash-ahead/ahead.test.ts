import { describe, expect, it } from 'vitest';
import type { InvoiceBalance } from '../billing';
import type { Invoice, Payment, Repeat } from '../model/records';
import { frozenInvoice, frozenLine } from '../testing/frozen';
import { addDays, type Day } from '../time';
import { cashAhead, type CashFacts } from './ahead';
import { Chance } from './chance';
import { heldOut } from './held-out';
import { lateDaysOf, PayingHabits } from './late-days';

let count = 0;

/** An issued invoice, paid so many days past its due day; not paid where null. */
function balance(clientId: string, day: Day, amount: number, late: number | null, terms = 30): InvoiceBalance {
  const dueDay = addDays(day, terms);
  const id = `invoice ${++count}`;
  const frozen = { ...frozenInvoice([frozenLine(amount)], []), day, dueDay, number: `SL-${count}` };
  const invoice = {
    id,
    clientId,
    seq: count,
    kind: 'invoice',
    currency: 'GBP',
    frozen,
    voided: null,
    releasedOn: null,
  };
  const paid = { id: `payment ${count}`, invoiceId: id, kind: 'payment', day: addDays(dueDay, late ?? 0), amount };
  return { invoice: invoice as unknown as Invoice, payments: late === null ? [] : [paid as Payment], credits: [] };
}

const factsOf = (today: Day, invoices: InvoiceBalance[], more: Partial<CashFacts> = {}): CashFacts => ({
  today,
  invoices,
  atHome: (amount) => amount,
  repeats: [],
  sumOf: () => 0,
  toBill: new Map(),
  milestones: [],
  termsOf: () => 30,
  ...more,
});

const TODAY = '2026-11-12';

/** Each month for a year up to a day, paid so late; nothing of the last two months is. */
const monthly = (clientId: string, amount: number, late: number, months = 12): InvoiceBalance[] =>
  Array.from({ length: months }, (_, index) => {
    const day = addDays(TODAY, -30 * (months - index));
    return balance(clientId, day, amount, addDays(day, 30 + late) < TODAY ? late : null);
  });

describe('how late clients pay', () => {
  it('is told of invoices that are paid, by client', () => {
    const late = lateDaysOf([
      ...monthly('a', 100, 9),
      balance('b', '2026-06-01', 100, -5),
      balance('c', TODAY, 100, null),
    ]);
    expect([...late.keys()]).toEqual(['a', 'b']);
    expect(new Set(late.get('a'))).toEqual(new Set([9]));
    expect(late.get('b')).toEqual([-5]);
  });

  it('is drawn near what a client did, and past what went by already', () => {
    const habits = new PayingHabits(
      new Map([
        ['a', Array.from({ length: 20 }, () => 10)],
        ['b', [60, 61, 62]],
      ]),
    );
    const chance = new Chance(1);
    const drawn = Array.from({ length: 500 }, () => habits.draw(chance, 'a', -30));
    const near = drawn.filter((late) => Math.abs(late - 10) <= 2).length;
    expect(near).toBeGreaterThan(400);
    for (let tries = 0; tries < 200; tries++) expect(habits.draw(chance, 'a', 70)).toBeGreaterThan(70);
    expect([habits.usual('a'), habits.usual('b'), habits.usual('nobody')]).toEqual([10, 61, 10]);
  });
});

describe('cash ahead', () => {
  it('has what is owed in the week in which the client mostly pays', () => {
    const { weeks, items } = cashAhead(factsOf(TODAY, [...monthly('a', 5_000, 3, 12)]));
    const owed = items.filter((item) => item.kind === 'owed');
    expect(owed.map((item) => item.amount)).toEqual([5_000]);
    for (const { low, likely, high } of weeks) expect(low <= likely && likely <= high).toBe(true);
    const sums = weeks.map((week) => week.likely);
    expect(sums).toEqual([...sums].sort((one, other) => one - other));
    // What is owed, and two of those that follow: the third is not paid within the quarter.
    expect(sums.at(-1)).toBe(15_000);
    expect(weeks.flatMap((week) => week.items).every((item) => item.likely > TODAY)).toBe(true);
  });

  it('is the same whenever it is asked', () => {
    const facts = factsOf(TODAY, [...monthly('a', 5_000, 3), ...monthly('b', 800, 20)]);
    expect(cashAhead(facts)).toEqual(cashAhead(facts));
  });

  it('has agreed sums on their days, once, and nothing that is paused', () => {
    const repeat: Repeat = {
      id: 'r',
      clientId: 'a',
      name: 'Upkeep',
      kind: 'sums',
      lines: [],
      rule: 'FREQ=MONTHLY;BYMONTHDAY=1',
      from: '2026-01-01',
      until: null,
      paused: false,
      note: '',
      prepared: ['2026-12-01'],
    };
    const { items } = cashAhead(factsOf(TODAY, [], { repeats: [repeat], sumOf: () => 1_200 }));
    expect(items.map(({ invoicedOn, name }) => [invoicedOn, name])).toEqual([
      ['2027-01-01', 'Upkeep'],
      ['2027-02-01', 'Upkeep'],
    ]);
    expect(cashAhead(factsOf(TODAY, [], { repeats: [{ ...repeat, paused: true }], sumOf: () => 1_200 })).items).toEqual(
      [],
    );
  });

  it('has milestones, and on the next invoice what is open already', () => {
    const milestones = [{ clientId: 'z', day: '2026-12-01', amount: 9_000, name: 'Opening night' }];
    const { items } = cashAhead(
      factsOf(TODAY, monthly('a', 3_000, 0), { milestones, toBill: new Map([['a', 2_900]]) }),
    );
    expect(items.find((item) => item.kind === 'milestone')).toMatchObject({ amount: 9_000, due: '2026-12-31' });
    const [next] = items.filter((item) => item.kind === 'pace').sort((one, other) => (one.due < other.due ? -1 : 1));
    expect(next!.amount).toBeGreaterThanOrEqual(2_900);
    expect(next!.amount).toBeLessThan(6_000);
  });

  it('says how many it left out for want of an exchange rate, and foresees nothing of a client that is gone', () => {
    const gone = [
      balance('a', '2026-01-02', 100, 0),
      balance('a', '2026-02-02', 100, 0),
      balance('a', '2026-03-02', 100, 0),
    ];
    expect(cashAhead(factsOf(TODAY, gone)).items).toEqual([]);
    const foreign = factsOf(TODAY, [balance('b', TODAY, 100, null)], { atHome: () => null });
    expect(cashAhead(foreign)).toMatchObject({ items: [], unknown: 1 });
  });
});

describe('three months that were held out', () => {
  it('lie within the band about as often as it says: eight of ten', () => {
    let weeks = 0;
    let within = 0;
    for (let seed = 1; seed <= 30; seed++) {
      const found = heldOut(factsOf(TODAY, madeUpStudio(seed)))!;
      weeks += found.weeks.length;
      within += found.within;
    }
    expect(weeks).toBe(30 * 13);
    expect(within / weeks).toBeGreaterThan(0.65);
    expect(within / weeks).toBeLessThan(0.95);
  });

  it('are told of nothing where there is too little', () => {
    expect(heldOut(factsOf(TODAY, [balance('a', addDays(TODAY, -20), 100, null)]))).toBeNull();
  });
});

/** Eighteen months of a studio with four to seven clients, each with its habits. */
function madeUpStudio(seed: number): InvoiceBalance[] {
  const chance = new Chance(seed * 7919);
  return Array.from({ length: chance.between(4, 7) }, (_, index) => `client ${index}`).flatMap((clientId) => {
    const usual = chance.between(50_000, 600_000);
    const late = chance.between(-5, 25);
    return Array.from({ length: 18 }, (_, month): InvoiceBalance => {
      const day = addDays(TODAY, -30 * (18 - month) + chance.between(-2, 2));
      const amount = Math.round(usual * (0.6 + 0.8 * chance.next()));
      const own = late + chance.between(-6, 6) + (chance.next() < 0.1 ? chance.between(10, 30) : 0);
      return balance(clientId, day, amount, addDays(day, 30 + own) <= TODAY ? own : null);
    });
  });
}
