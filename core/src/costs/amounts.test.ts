import { describe, expect, it } from 'vitest';
import { Pricer } from '../billing/pricer';
import type { CostCode } from '../model/records';
import { bookOf, clientRow, costLineRow, costRow, projectRow } from '../testing/studio';
import { costAmounts, dueDayOf, lineAmounts, needsReceipt, readMarkup } from './amounts';
import { headingsFor } from '../costing/headings';
import { grossAtHome, lacksReceipt } from '../billing/receipts';

const RULE = 'half away from zero';
const vat = {
  id: 'vat',
  name: 'VAT',
  percent: '20',
  note: '',
  category: 'S' as const,
  later: [{ from: '2026-06-01', percent: '25' }],
};
const cost = { currency: 'GBP', day: '2026-05-31', taxIncluded: false, taxReclaimed: true };
const line = (amount: number) => ({ quantity: '1', price: null, amount });

describe('a line of a cost', () => {
  it('has its tax on top or in it, by the rate of the cost’s day', () => {
    const tax = vat as never;
    expect(lineAmounts(line(1000), cost, tax, RULE)).toEqual({ net: 1000, tax: 200, gross: 1200, cost: 1000 });
    expect(lineAmounts(line(1200), { ...cost, taxIncluded: true }, tax, RULE)).toMatchObject({
      net: 1000,
      gross: 1200,
    });
    expect(lineAmounts(line(1000), { ...cost, day: '2026-06-01' }, tax, RULE).tax).toBe(250);
    expect(lineAmounts(line(1000), { ...cost, taxReclaimed: false }, tax, RULE).cost).toBe(1200);
    expect(lineAmounts(line(1000), cost, undefined, RULE)).toEqual({ net: 1000, tax: 0, gross: 1000, cost: 1000 });
    const pieces = { quantity: '3', price: '0.335', amount: null };
    expect(lineAmounts(pieces, cost, tax, RULE)).toEqual({ net: 101, tax: 20, gross: 121, cost: 101 });
  });

  it('is summed with the others as each was rounded', () => {
    const sum = costAmounts([line(3), line(3)], cost, vat as never, RULE);
    // 0.6 of a penny of tax each is a penny each.
    expect(sum).toEqual({ net: 6, tax: 2, gross: 8, cost: 6 });
    expect(costAmounts([], cost, undefined, RULE)).toEqual({ net: 0, tax: 0, gross: 0, cost: 0 });
  });
});

it('a bill is due some days after its milestone, or on its own day', () => {
  const due = { dueDay: '2026-03-01', dueMilestoneId: 'premiere', dueAfter: 14 };
  expect(dueDayOf(due, () => ({ day: '2026-02-20' }))).toBe('2026-03-06');
  expect(dueDayOf(due, () => undefined)).toBe('2026-03-01');
  expect(dueDayOf({ ...due, dueMilestoneId: null }, () => ({ day: '2026-02-20' }))).toBe('2026-03-01');
});

it('a receipt is asked for above the limit, not at it, of what is no bill and has neither receipt nor reason', () => {
  const expense = { kind: 'expense' as const, receiptIds: [] };
  const asked = (more: object, gross = 2501, receiptOver: number | null = 2500) =>
    needsReceipt({ ...expense, ...more }, gross, { receiptOver });
  expect(asked({})).toBe(true);
  expect(asked({ kind: 'ledger' })).toBe(true);
  expect(asked({}, 2500)).toBe(false);
  expect(asked({}, 2501, null)).toBe(false);
  expect(asked({ kind: 'bill' })).toBe(false);
  expect(asked({ receiptIds: ['one'] })).toBe(false);
  expect(asked({ noReceipt: 'Machine gave none' })).toBe(false);
  expect(asked({ noReceipt: '  ' })).toBe(true);
});

it('a markup between nothing and one may be a share where percent are meant', () => {
  expect(readMarkup('0.35')).toEqual({ percent: '0.35', meant: '35' });
  expect(readMarkup('0.625')).toEqual({ percent: '0.625', meant: '62.5' });
  for (const plain of ['0.35 %', '35', '1', '0', '-0.35']) expect(readMarkup(plain).meant).toBeNull();
});

describe('the headings for a cost', () => {
  const code = (id: string, costType: CostCode['costType'] = 'material'): CostCode => ({
    id,
    code: id,
    name: id,
    costType,
  });
  const costCodes = [code('100'), code('20'), code('9', 'labour'), code('3')];
  const pricer = (client: string[] | null, project: string[] | null) =>
    new Pricer(
      bookOf({
        costCodes,
        clients: [clientRow('playhouse', 'Quayside Playhouse', { costCodeIds: client })],
        projects: [
          projectRow('rig', 'Winter season rig', 'playhouse', { costCodeIds: project }),
          projectRow('part', 'Front of house', 'playhouse', { parentId: 'rig' }),
          projectRow('own', 'Studio', null),
        ],
      }),
    );
  const offered = (made: Pricer, projectId: string | null) => headingsFor(made, projectId).offered.map((row) => row.id);

  it('are all but labour, in the order of their figures, where nobody says otherwise', () => {
    for (const projectId of [null, 'own', 'part']) {
      expect(offered(pricer(null, null), projectId)).toEqual(['3', '20', '100']);
      expect(headingsFor(pricer(null, null), projectId).hidden).toEqual([]);
    }
  });

  it('are those of the project, of one around it, or of the client, and the others say why not', () => {
    const names = (made: Pricer, projectId: string) =>
      headingsFor(made, projectId).hidden.map(({ costCode, why }) => [costCode.id, why]);
    expect(offered(pricer(['20', '9'], null), 'part')).toEqual(['20']);
    expect(names(pricer(['20'], null), 'part')).toEqual([
      ['3', 'not for Quayside Playhouse'],
      ['100', 'not for Quayside Playhouse'],
    ]);
    expect(offered(pricer(['20'], ['100', '3']), 'part')).toEqual(['3', '100']);
    expect(names(pricer(['20'], ['100', '3']), 'part')).toEqual([['20', 'not for Winter season rig']]);
    expect(offered(pricer(['20'], null), 'own')).toEqual(['3', '20', '100']);
  });
});

describe('the limit for receipts', () => {
  const GALLERY = 'gallery';
  const rows = (currency: string, ...amounts: number[]) => ({
    cost: costRow({ currency }),
    lines: amounts.map((amount, index) => costLineRow({ id: `line ${index}`, amount, projectId: GALLERY })),
  });
  const pricer = new Pricer(
    bookOf({
      workspace: { ...bookOf({}).workspace, receiptOver: 2500 },
      exchangeRates: [{ id: 'euro', base: 'EUR', currency: 'GBP', from: '2026-01-01', rate: '0.8', source: '' }],
    }),
  );
  const lacks = ({ cost, lines }: ReturnType<typeof rows>) => lacksReceipt(pricer, cost, lines);

  it('is compared with all of the cost’s lines, in the studio’s currency', () => {
    expect(lacks(rows('GBP', 2500))).toBe(false);
    expect(lacks(rows('GBP', 2000, 501))).toBe(true);
    // 31.25 euros are 25.00; one cent more is 25.01.
    expect(lacks(rows('EUR', 3125))).toBe(false);
    expect(lacks(rows('EUR', 3126))).toBe(true);
    expect(grossAtHome(pricer, rows('EUR', 3126).cost, rows('EUR', 3126).lines)).toBe(2501);
    // Without a rate its own figure counts.
    expect(lacks(rows('USD', 2501))).toBe(true);
  });
});
