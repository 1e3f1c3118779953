import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { frozenInvoice, frozenLine, frozenTax } from '../testing/frozen';
import { clientPage, runs } from '../testing';
import { checkPage } from './check';
import { hoursByDay, restOf, withoutAccounts, type ClientPage, type PageItem } from './page';
import { addDays } from '../time/day';

const pageOf = (frozen: ClientPage['frozen'], more: Partial<ClientPage> = {}): ClientPage =>
  clientPage({ frozen, ...more });

const item = (line: string, amount: number, more: Partial<PageItem> = {}): PageItem => ({
  line,
  kind: 'time',
  day: '2026-11-02',
  who: '',
  text: '',
  seconds: 3600,
  billed: 3600,
  amount,
  ...more,
});

const vat = frozenTax('vat', '20', 'S');
const amount = fc.integer({ min: 1, max: 9_999_999 });

describe('a page does its sums again', () => {
  it('and every one of an invoice holds, whatever its lines, discount and tax', () => {
    fc.assert(
      fc.property(fc.array(amount, { minLength: 1, maxLength: 12 }), fc.boolean(), (amounts, split) => {
        const lines = amounts.map((each, index) => frozenLine(each, { key: `line ${index}` }));
        const items = split ? lines.flatMap(({ key, amount: all }) => [item(key, 1), item(key, all - 1)]) : [];
        const { wrong } = checkPage(pageOf(frozenInvoice(lines, [vat]), { items }));
        expect(wrong).toEqual([]);
      }),
      { numRuns: runs(100) },
    );
  });

  it('and one that was altered does not, wherever that was', () => {
    const lines = [frozenLine(12_345), frozenLine(500)];
    const good = frozenInvoice(lines, [vat], { allowance: { text: 'Early', percent: null, amount: 100 } });
    const items = lines.map((line) => item(line.key, line.amount));
    const altered: [string, Partial<ClientPage['frozen']>][] = [
      ['net', { net: good.net + 1 }],
      ['tax', { tax: good.tax - 1 }],
      ['total', { total: good.total + 100 }],
      ['payable', { payable: good.payable - 100 }],
      ['lines/0/gross', { lines: [{ ...good.lines[0]!, price: '123.46' }, good.lines[1]!] }],
      ['lines/1/amount', { lines: [good.lines[0]!, { ...good.lines[1]!, amount: 501 }] }],
      ['taxes/0/amount', { taxes: [{ ...good.taxes[0]!, amount: good.taxes[0]!.amount + 1 }] }],
    ];
    expect(checkPage(pageOf(good, { items })).wrong).toEqual([]);
    for (const [path, change] of altered) {
      const { wrong } = checkPage(pageOf({ ...good, ...change }, { items }));
      expect(wrong.map((each) => each.path)).toContain(path);
    }
    const short = checkPage(pageOf(good, { items: [items[0]!, item(lines[1]!.key, 499)] }));
    expect(short.wrong).toMatchObject([{ path: 'lines/1/amount', is: 500, ought: 499 }]);
  });

  it('of a length at a price, by the second', () => {
    const line = frozenLine(8_542, { unit: 'hour', price: '75', seconds: 4_100, quantity: '1' });
    expect(checkPage(pageOf(frozenInvoice([line], []))).wrong).toEqual([]);
    const slower = { ...line, seconds: 4_200 };
    expect(checkPage(pageOf(frozenInvoice([slower], []))).wrong).toMatchObject([{ ought: 8_750 }]);
  });

  it('of what is still to come', () => {
    const frozen = frozenInvoice([frozenLine(500)], []);
    const rest = { agreed: 10_000, changes: 500, invoiced: 4_000, remaining: 6_500 };
    expect(checkPage(pageOf(frozen, { rest })).wrong).toEqual([]);
    expect(checkPage(pageOf(frozen, { rest: { ...rest, remaining: 6_000 } })).wrong).toMatchObject([
      { path: 'rest/remaining', ought: 6_500 },
    ]);
  });
});

describe('what a page holds', () => {
  it('has hours by day, with the days between that have none', () => {
    const items = [
      item('a', 1, { day: '2026-11-04', seconds: 1800 }),
      item('b', 1, { day: '2026-11-02' }),
      item('b', 1, { day: '2026-11-04', seconds: 900 }),
      item('c', 1, { kind: 'cost', day: '2026-10-01', seconds: 0 }),
    ];
    expect(hoursByDay(items, (day) => addDays(day, 1))).toEqual([
      { day: '2026-11-02', seconds: 3600 },
      { day: '2026-11-03', seconds: 0 },
      { day: '2026-11-04', seconds: 2700 },
    ]);
    expect(hoursByDay([], (day) => addDays(day, 1))).toEqual([]);
  });

  it('has no accounts of the studio’s bookkeeping', () => {
    const line = frozenLine(100, { account: '4000' });
    const quote = { title: 'Rig', version: 1, validUntil: '2026-12-01', intro: '', options: [line] };
    expect(JSON.stringify(withoutAccounts(frozenInvoice([line], [], { quote })))).not.toContain('4000');
  });

  it('says nothing of a rest where nothing was agreed in figures', () => {
    expect(restOf([])).toBeNull();
  });
});
