import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { serviceDefaults, taxDefaults } from '../model/defaults';
import type { Client, Entry, Invoice, Service, Tax } from '../model/records';
import { bookOf, clientRow, projectRow, rateLine } from '../testing/studio';
import { computeDraft, freeze, invoiceNumber, newAllocation, newDraft, Pricer } from '.';
import { fault } from '../testing/fault';

const tax = (id: string, percent: string, fields: Partial<Tax> = {}): Tax => ({
  ...taxDefaults,
  id,
  name: 'VAT',
  percent,
  note: '',
  ...fields,
});
const service = (id: string, name: string, fields: Partial<Service> = {}): Service => ({
  ...serviceDefaults,
  id,
  name,
  ...fields,
});

const pricerFor = (client: Partial<Client> = {}, kind: 'hourly' | 'cost-plus' = 'hourly') =>
  new Pricer(
    bookOf({
      clients: [clientRow('museum', 'Fernhill Folk Museum', { taxId: 'standard', ...client })],
      contracts: [{ id: 'agreed', clientId: 'museum', name: 'Galleries', terms: '', cap: null, termsDays: 7 }],
      projects: [
        projectRow('gallery', 'Museum gallery 3', 'museum', { kind }),
        projectRow('cases', 'Cases', 'museum', { parentId: 'gallery', contractId: 'agreed' }),
      ],
      services: [
        service('design', 'Lighting design', { account: '4000' }),
        service('books', 'Printed guide', { taxId: 'zero', account: '4200' }),
      ],
      taxes: [
        tax('standard', '20', { later: [{ from: '2027-04-01', percent: '17.5' }] }),
        tax('zero', '0'),
        tax('reverse', '0', { reverseCharge: true }),
      ],
      rateLines: [
        kind === 'hourly'
          ? rateLine('all', { price: '80' })
          : rateLine('all', { markup: '70', sentence: 'Cost plus 70 %.', printed: true }),
      ],
      costRates: [
        { id: 'cost', memberId: null, role: null, from: '2026-01-01', price: '50', unit: 'hour', currency: 'GBP' },
      ],
    }),
  );

let count = 0;
const hour = (fields: Partial<Entry> = {}) =>
  blankEntry({
    id: `entry ${++count}`,
    memberId: 'imogen',
    day: '2026-11-12',
    projectId: 'gallery',
    seconds: 3600,
    note: 'Case lighting',
    ...fields,
  });

function drafted(pricer: Pricer, entries: Entry[], more: Partial<Invoice> = {}, day = '2026-11-30') {
  const client = pricer.client.get('museum')!;
  const invoice = { ...newDraft(client, { id: 'invoice', createdAt: 0 }), ...more };
  const allocations = entries.map((entry) =>
    newAllocation({ id: entry.id, invoiceId: 'invoice', entryId: entry.id, seconds: entry.seconds }),
  );
  const draft = computeDraft(pricer, { invoice, entries, allocations, day });
  return { draft, send: () => freeze(pricer, draft, invoice, 1, day) };
}

describe('what lines inherit from their services', () => {
  const both = [hour({ serviceId: 'design' }), hour({ serviceId: 'books' })];

  it('is a tax of their own and an account', () => {
    const frozen = drafted(pricerFor(), both).send();
    expect(frozen.lines.map((line) => [line.text, line.taxId, line.account])).toEqual([
      ['Museum gallery 3: Lighting design', 'standard', '4000'],
      ['Museum gallery 3: Printed guide', 'zero', '4200'],
    ]);
    expect(frozen.taxes.map((part) => [part.percent, part.basis, part.amount])).toEqual([
      ['20', 8000, 1600],
      ['0', 8000, 0],
    ]);
  });

  it('gives way to reverse charge, and to no tax at all', () => {
    for (const taxId of ['reverse', null]) {
      const { draft } = drafted(pricerFor({ taxId }), both);
      expect(draft.lines.map((line) => line.taxId)).toEqual([taxId, taxId]);
    }
  });

  it('keeps taxes apart where a project is one line, and tells no account where there are several', () => {
    const lines = drafted(pricerFor({ condense: 'project' }), [...both, hour()]).draft.lines;
    expect(lines.map((line) => [line.billed, line.taxId, line.account])).toEqual([
      [7200, 'standard', ''],
      [3600, 'zero', '4200'],
    ]);
  });
});

it('is numbered with the year and month of its day where the prefix says so', () => {
  const pattern = { numberPrefix: 'SL-YYYY-MM/', numberDigits: 3 };
  expect(invoiceNumber(pattern, 42, '2027-01-05')).toBe('SL-2027-01/042');
  expect(invoiceNumber({ ...pattern, numberPrefix: 'SL-' }, 42, '2027-01-05')).toBe('SL-042');
});

it('bears the percentage of the day it is issued on', () => {
  const totalOn = (day: string) => drafted(pricerFor(), [hour()], {}, day).draft.totals.tax;
  expect([totalOn('2027-03-31'), totalOn('2027-04-01')]).toEqual([1600, 1400]);
});

describe('how a client likes it', () => {
  it('is what a line of a single entry says, in that order', () => {
    const text = (says: Client['says'], entry = hour({ serviceId: 'design' })) =>
      drafted(pricerFor({ says, condense: 'item' }), [entry]).draft.lines[0]!.text;
    expect(text(['day', 'member', 'note'])).toBe('12 Nov 2026, Imogen Vale, Case lighting');
    expect(text(['service', 'project'])).toBe('Lighting design, Museum gallery 3');
    // What is not known is left out; what it was on stands where nothing is.
    expect(text(['note'], hour({ note: '', serviceId: 'design' }))).toBe('Museum gallery 3: Lighting design');
  });

  it('is open book or not', () => {
    // Practice: cost 50 an hour and 70 % on it is 85.
    const shown = (openBook: boolean) =>
      drafted(pricerFor({ openBook }, 'cost-plus'), [hour()])
        .send()
        .lines.map((line) => [line.cost, line.markup, line.price]);
    expect(shown(true)).toEqual([[5000, '70', '85']]);
    expect(shown(false)).toEqual([[null, null, '85']]);
  });

  it('is with an order number, which it may not go without', () => {
    const pricer = pricerFor({ purchaseOrder: 'always' });
    expect(() => drafted(pricer, [hour()], { purchaseOrder: ' ' }).send()).toThrow(fault('lacking'));
    expect(drafted(pricer, [hour()], { purchaseOrder: 'PO-77' }).send().purchaseOrder).toBe('PO-77');
  });

  it('prints what was agreed, once', () => {
    const frozen = drafted(pricerFor({}, 'cost-plus'), [hour(), hour({ serviceId: 'design' })]).send();
    expect(frozen.sentences).toEqual(['Cost plus 70 %.']);
    expect(drafted(pricerFor(), [hour()]).send().sentences).toEqual([]);
  });

  it('has the terms of the contract that all of it stands under', () => {
    const due = (entries: Entry[]) => drafted(pricerFor({ termsDays: 30 }), entries).send().dueDay;
    expect(due([hour({ projectId: 'cases' })])).toBe('2026-12-07');
    expect(due([hour({ projectId: 'cases' }), hour()])).toBe('2026-12-30');
  });
});
