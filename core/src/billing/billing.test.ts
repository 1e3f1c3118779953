import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { MemoryExecutor } from '../commands';
import { MemoryStore } from '../engine';
import type { Allocation, Entry, Invoice, RateLine, Workspace } from '../model/records';
import { serviceDefaults, taxDefaults, workspaceDefaults } from '../model/defaults';
import { condensings, WORKSPACE_ID } from '../model/records';
import { amountOfTime } from '../money';
import { bookOf, clientRow, projectRow, rateLine, setUp, studio, TestContext, work } from '../testing/studio';
import {
  readBook,
  billableOf,
  computeDraft,
  newAllocation,
  type InvoiceBalance,
  explainDraft,
  explainFrozen,
  explainLine,
  explainOwed,
  explainPriced,
  freeze,
  newDraft,
  owedOn,
  Pricer,
  shareOfSources,
  standingOf,
  toBill,
  worthOf,
} from '.';
import { fault } from '../testing/fault';

const invoice = newDraft({ id: 'playhouse', currency: 'GBP', taxId: 'vat' }, { id: 'invoice', createdAt: 0 });

function pricerWith(
  policy = studio.workspace.rounding,
  more: Partial<typeof studio.workspace> = {},
  rateLines: RateLine[] = [],
): Pricer {
  return new Pricer(
    bookOf({
      workspace: {
        ...workspaceDefaults,
        ...studio.workspace,
        ...more,
        rounding: policy,
        id: WORKSPACE_ID,
      } as Workspace,
      clients: [
        clientRow('playhouse', 'Quayside Playhouse', { taxId: 'vat', termsDays: 14 }),
        clientRow('clairval', 'Maison Clairval', { currency: 'EUR' }),
      ],
      projects: [
        projectRow('rig', 'Winter season rig', 'playhouse'),
        projectRow('foyer', 'Foyer refresh', 'playhouse'),
        projectRow('salon', 'Salon windows', 'clairval'),
        projectRow('studio', 'Studio', null),
      ],
      services: [{ ...serviceDefaults, id: 'design', name: 'Lighting design' }],
      taxes: [{ id: 'vat', name: 'VAT', percent: '20', note: '', ...taxDefaults }],
      rateLines: [
        rateLine('any', { price: '85' }),
        rateLine('foyer', { projectId: 'foyer', price: '77.77' }),
        rateLine('design', { serviceId: 'design', price: '1.2345', unit: 'minute' }),
        ...rateLines,
      ],
    }),
  );
}

let count = 0;
const entryOf = (fields: Partial<Entry> = {}): Entry =>
  blankEntry({
    id: `entry ${++count}`,
    memberId: 'imogen',
    day: '2026-11-12',
    projectId: 'rig',
    note: 'Plot sheet 4',
    seconds: 3600,
    ...fields,
  });
const reserve = (entries: readonly Entry[]): Allocation[] =>
  entries.map((entry) =>
    newAllocation({ id: entry.id, invoiceId: 'invoice', entryId: entry.id, seconds: billableOf(entry) }),
  );

const anyEntry = fc
  .record({
    seconds: fc.integer({ min: 1, max: 40_000 }),
    projectId: fc.constantFrom('rig', 'foyer'),
    serviceId: fc.constantFrom('design', null),
    day: fc.constantFrom('2026-11-10', '2026-11-11', '2026-11-12'),
  })
  .map(entryOf);
const anyPolicy = fc.record({
  increment: fc.constantFrom(1, 60, 360, 900),
  direction: fc.constantFrom('up' as const, 'nearest' as const, 'down' as const),
  minimum: fc.constantFrom(0, 900),
  per: fc.constantFrom('entry' as const, 'day and job' as const),
});

describe('calculating and explaining', () => {
  it('arrive at the same amount for every entry, line and draft', () => {
    fc.assert(
      fc.property(
        fc.array(anyEntry, { minLength: 1, maxLength: 25 }),
        anyPolicy,
        fc.constantFrom(...condensings),
        (entries, policy, condense) => {
          const pricer = pricerWith(policy);
          for (const priced of worthOf(pricer, entries)) {
            expect(explainPriced(pricer, priced).result.figure).toMatchObject({ minor: priced.amount });
          }
          const draft = computeDraft(pricer, {
            invoice: { ...invoice, condense },
            entries,
            allocations: reserve(entries),
            day: '2026-11-30',
          });
          for (const line of draft.lines) {
            expect(explainLine(pricer, line, 'GBP').result.figure).toMatchObject({ minor: line.amount });
            expect(shareOfSources(pricer, line).reduce((sum, part) => sum + part, 0)).toBe(line.amount);
          }
          expect(explainDraft(pricer, draft, false, 'Draft').result.figure).toMatchObject({
            minor: draft.totals.total,
          });
        },
      ),
    );
  });

  it('condensing never changes hours, and a line has one price', () => {
    fc.assert(
      fc.property(fc.array(anyEntry, { minLength: 1, maxLength: 25 }), anyPolicy, (entries, policy) => {
        const pricer = pricerWith(policy);
        const hours = condensings.map((condense) => {
          const { lines } = computeDraft(pricer, {
            invoice: { ...invoice, condense },
            entries,
            allocations: reserve(entries),
            day: '2026-11-30',
          });
          for (const line of lines) {
            expect(line.amount).toBe(
              amountOfTime(line.billed, {
                price: line.price!.price,
                unit: line.price!.unit,
                currency: 'GBP',
                daySeconds: 27_000,
                rule: 'half away from zero',
              }),
            );
            expect(new Set(line.sources.map((source) => pricer.priceOf(source.entry)?.key)).size).toBe(1);
          }
          return lines.reduce((sum, line) => sum + line.billed, 0);
        });
        expect(new Set(hours).size).toBe(1);
      }),
    );
  });
});

it('puts work of one price on one line, whichever rate decided it', () => {
  const rate = rateLine('own', { projectId: 'rig', memberId: 'imogen', from: '2026-06-01', price: '85' });
  const pricer = pricerWith(undefined, {}, [rate]);
  const entries = [entryOf({ day: '2026-05-01' }), entryOf({ day: '2026-07-01' })];
  const draft = computeDraft(pricer, { invoice, entries, allocations: reserve(entries), day: '2026-11-30' });
  expect(draft.lines.map((line) => [line.sources.length, line.amount])).toEqual([[2, 17_000]]);
});

describe('what is to bill', () => {
  // Practice: 3 h worked, 2 h billable.
  it('is the billable part, less what stands on invoices, by client and currency', () => {
    const entries = [
      entryOf({ seconds: 10_800, billableSeconds: 7200 }),
      entryOf({ billableSeconds: 0 }),
      entryOf({ projectId: 'studio' }),
      entryOf({ projectId: null }),
      entryOf({ projectId: 'salon' }),
    ];
    const open = toBill(pricerWith(), entries, [{ ...reserve(entries.slice(0, 1))[0]!, seconds: 3600 }]);
    expect(
      open.map(({ client, seconds, amount, currency, unpriced }) => [client.name, seconds, amount, currency, unpriced]),
    ).toEqual([
      ['Maison Clairval', 3600, 0, 'EUR', 1],
      ['Quayside Playhouse', 3600, 8500, 'GBP', 0],
    ]);
  });
});

describe('an issued invoice', () => {
  const entries = [entryOf({ seconds: 3600 }), entryOf({ seconds: 601, serviceId: 'design' })];
  const frozenBy = (pricer: Pricer) =>
    freeze(
      pricer,
      computeDraft(pricer, { invoice, entries, allocations: reserve(entries), day: '2026-11-30' }),
      invoice,
      7,
      '2026-11-30',
    );

  it('is worked out by hand', () => {
    // 1:00 × 85.00 = 85.00; 601 s is 12 min in six-minute steps × 1.2345 a minute = 14.81; net 99.81, 20 % 19.96, total 119.77.
    const frozen = frozenBy(pricerWith());
    expect(frozen).toMatchObject({ number: 'SL-0007', dueDay: '2026-12-14', net: 9981, tax: 1996, total: 11_977 });
    expect(explainFrozen(frozen).result.figure).toMatchObject({ minor: 11_977 });
  });

  it('has its tax line by line where that is set', () => {
    // 17.00 + 2.96 = 19.96 here too; three lines of 0.33 in the tax tests show where it differs.
    const frozen = frozenBy(pricerWith(studio.workspace.rounding, { taxMethod: 'line' }));
    expect(frozen.tax).toBe(1700 + 296);
  });

  it('cannot be made of nothing or of what has no price', () => {
    const pricer = pricerWith();
    const draft = (list: Entry[]) =>
      computeDraft(pricer, {
        invoice: { ...invoice, currency: list.length ? 'EUR' : 'GBP' },
        entries: list,
        allocations: reserve(list),
        day: '2026-11-30',
      });
    expect(() => freeze(pricer, draft([]), invoice, 1, '2026-11-30')).toThrow(fault('empty'));
    expect(() =>
      freeze(pricer, draft([entryOf({ projectId: 'salon' })]), { ...invoice, currency: 'EUR' }, 1, '2026-11-30'),
    ).toThrow(fault('no-rate'));
  });

  it('stands as its payments and days say', () => {
    const frozen = frozenBy(pricerWith());
    const issued: Invoice = { ...invoice, frozen, seq: 7 };
    const paid = (amount: number, of: Invoice = issued): InvoiceBalance => ({
      invoice: of,
      payments: amount
        ? [{ id: 'p', invoiceId: 'invoice', kind: 'payment', day: '2026-12-01', amount, currency: 'GBP', note: '' }]
        : [],
      credits: [],
    });
    expect(standingOf(paid(0, invoice), '2026-12-01')).toBe('draft');
    expect(standingOf(paid(0), '2026-12-14')).toBe('issued');
    expect(standingOf(paid(100), '2026-12-14')).toBe('part paid');
    expect(standingOf(paid(100), '2026-12-15')).toBe('overdue');
    expect(standingOf(paid(11_977), '2026-12-15')).toBe('paid');
    const voided = { ...issued, voided: { at: 0, day: '2026-12-01', reason: 'x' } };
    expect(standingOf(paid(0, voided), '2027-01-01')).toBe('void');
    expect(owedOn(paid(12_000))).toBe(-23);
    expect(explainOwed(paid(100)).result.figure).toMatchObject({ minor: 11_877 });
  });
});

it('sums currencies apart: a workspace of several never adds them', async () => {
  const test = new TestContext();
  const store = new MemoryStore();
  const executor = new MemoryExecutor(store, test.context);
  const at = await setUp(executor, test);
  await executor.run('client.edit', { id: at.museum, currency: 'USD' });
  await executor.run('rate.add', {
    clientId: at.museum,
    projectId: null,
    memberId: null,
    role: null,
    serviceId: null,
    from: '2026-01-01',
    price: '100',
    unit: 'hour',
    currency: 'USD',
  });
  await executor.run('entry.add', work(at.rig, 3600));
  await executor.run('entry.add', work(at.gallery, 3600));
  const open = toBill(new Pricer(await readBook(store)), store.rows('entries'), []);
  expect(open.map((each) => [each.amount, each.currency])).toEqual([
    [10_000, 'USD'],
    [8_500, 'GBP'],
  ]);
});
