import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import type { Entry } from '../model/records';
import { bookOf, clientRow, costLineRow, costRow, projectRow, rateLine } from '../testing/studio';
import { noCharges } from './charges';
import { Pricer } from './pricer';
import { byWhen, toBill, worthOf } from './to-bill';

const HOUR = 3600;
const pricer = new Pricer(
  bookOf({
    clients: [
      clientRow('museum', 'Fernhill Folk Museum'),
      clientRow('dance', 'Bramble Street Dance'),
      clientRow('abroad', 'Maison Clairval', { currency: 'EUR' }),
    ],
    projects: [
      projectRow('gallery', 'Museum gallery 3', 'museum'),
      projectRow('bill', 'Spring double bill', 'dance'),
      projectRow('salon', 'Salon', 'abroad'),
      projectRow('own', 'Studio', null),
    ],
    rateLines: [rateLine('rate', { price: '85' })],
  }),
);
let count = 0;
const entry = (projectId: string, day: string, fields: Partial<Entry> = {}): Entry =>
  blankEntry({ id: `e${++count}`, memberId: 'imogen', day, seconds: HOUR, projectId, ...fields });
const at = (start: number) => ({ spans: [{ start, end: start + HOUR * 1000 }] });

it('entries come by day, then by start, those without times last, and equals by id', () => {
  const late = entry('gallery', '2026-11-02', at(1000));
  const loose = entry('gallery', '2026-11-01');
  const noon = entry('gallery', '2026-11-01', at(2000));
  const nine = entry('gallery', '2026-11-01', at(1000));
  const twin = entry('gallery', '2026-11-01', { ...at(1000), id: 'e0' });
  const expected = [twin, nine, noon, loose, late];
  expect([late, loose, noon, nine, twin].sort(byWhen)).toEqual(expected);
  expect([...expected].reverse().sort(byWhen)).toEqual(expected);
});

describe('what is to bill', () => {
  it('is by client in the order of their names, with what is left, the oldest day, and what cannot be priced', () => {
    const entries = [
      entry('gallery', '2026-11-09'),
      entry('gallery', '2026-11-03', { billableSeconds: HOUR / 2 }),
      entry('gallery', '2026-11-01', { billableSeconds: 0 }),
      entry('bill', '2026-11-05'),
      entry('own', '2026-11-01'),
      entry('salon', '2026-11-07'),
    ];
    const rows = {
      ...noCharges,
      costs: [costRow({ day: '2026-11-02' }), costRow({ id: 'dollars', day: '2026-11-04', currency: 'USD' })],
      costLines: [
        costLineRow({ id: 'lamps', amount: 500, projectId: 'gallery', forClient: true }),
        costLineRow({ id: 'gel', costId: 'dollars', amount: 500, projectId: 'gallery', forClient: true }),
      ],
    };
    const open = toBill(pricer, entries, [], rows);
    expect(open.map(({ client }) => client.name)).toEqual([
      'Bramble Street Dance',
      'Fernhill Folk Museum',
      'Maison Clairval',
    ]);
    const [dance, museum, abroad] = open;
    expect(museum).toMatchObject({
      seconds: 1.5 * HOUR,
      billed: 1.5 * HOUR,
      amount: 8500 + 4250 + 500,
      currency: 'GBP',
      unpriced: 1,
      oldest: '2026-11-02',
    });
    expect(museum!.items.map((item) => item.entry.day)).toEqual(['2026-11-03', '2026-11-09']);
    expect(dance).toMatchObject({ amount: 8500, unpriced: 0, oldest: '2026-11-05', charges: [] });
    // No rate is in euros.
    expect(abroad).toMatchObject({ amount: 0, unpriced: 1, currency: 'EUR' });
    expect(toBill(pricer, [entry('own', '2026-11-01')], [])).toEqual([]);
  });

  it('is not what an entry is worth, which follows its billable part alone', () => {
    const [whole, half, none] = worthOf(pricer, [
      entry('gallery', '2026-11-03'),
      entry('gallery', '2026-11-03', { billableSeconds: HOUR / 2 }),
      entry('gallery', '2026-11-03', { billableSeconds: 0 }),
    ]);
    expect([whole!.amount, half!.amount, none!.amount]).toEqual([8500, 4250, 0]);
  });
});

describe('time that has to be approved first', () => {
  const approval = { looks: [{ byId: 'imogen', at: 1 }], needs: 1 as const };
  const asked = (studio: 'free' | 'only', client?: 'free' | 'only') => {
    const book = pricer.book;
    return new Pricer({
      ...book,
      workspace: { ...book.workspace, billsApproved: studio },
      clients: book.clients.map((row) => ({ ...row, ...(client && { billsApproved: client }) })),
    });
  };
  const entries = [
    entry('gallery', '2026-11-09', { approval }),
    entry('gallery', '2026-11-03', { approval: { ...approval, needs: 2 } }),
    entry('gallery', '2026-11-02'),
  ];

  it('waits beside what is to bill, and is no part of its amount', () => {
    const [open] = toBill(asked('only'), entries, []);
    expect(open).toMatchObject({ seconds: HOUR, amount: 8500, oldest: '2026-11-09' });
    expect(open!.items.map(({ entry: { day } }) => day)).toEqual(['2026-11-09']);
    expect(open!.waiting).toEqual({ entries: 2, seconds: 2 * HOUR, amount: 17_000 });
  });

  it('is to bill like any other where nobody asks, or the client is otherwise', () => {
    for (const free of [asked('free'), asked('only', 'free')]) {
      const [open] = toBill(free, entries, []);
      expect(open).toMatchObject({ amount: 25_500, waiting: { entries: 0, seconds: 0, amount: 0 } });
    }
    expect(toBill(asked('free', 'only'), entries, [])[0]).toMatchObject({ amount: 8500, waiting: { entries: 2 } });
  });
});
