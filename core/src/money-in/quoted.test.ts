import { describe, expect, it } from 'vitest';
import { namesAgree, QuotedNumbers } from '.';

const numbers = new QuotedNumbers([
  { id: 'a', number: 'SL-0131', reference: 'RF73SL0131' },
  { id: 'b', number: 'SL-0132', reference: 'RF46SL0132' },
  { id: 'c', number: '2026/131', reference: '' },
]);
const named = (text: string, reference = '') => numbers.in(text, reference).map((row) => row.number);

describe('invoices named by a payer', () => {
  it.each([
    ['SL-0131', ['SL-0131']],
    ['INV SL0131/NOV', ['SL-0131']],
    ['sl 131 with thanks', ['SL-0131']],
    ['SL-0131 and SL/132', ['SL-0131', 'SL-0132']],
    ['2026 131', ['2026/131']],
    // Another number that holds this one is another invoice.
    ['SL-01310', []],
    ['XSL-0131', []],
    ['invoice 131', []],
    ['', []],
  ])('%s', (text, expected) => expect(named(text)).toEqual(expected));

  it('by a reference, as it was given or in groups within a text', () => {
    expect(named('', 'RF73SL0131')).toEqual(['SL-0131']);
    expect(named('PAYMENT RF73 SL01 31 THANK YOU')).toEqual(['SL-0131']);
    expect(named('', 'RF99SL0199')).toEqual([]);
  });

  it('loosely by their figures', () => {
    expect(numbers.looselyIn('invoice 131').map((row) => row.number)).toEqual(['SL-0131', '2026/131']);
    expect(numbers.looselyIn('invoice 1310')).toEqual([]);
  });
});

describe('names of payers', () => {
  it.each([
    ['QUAYSIDE PLAYHOUSE LTD', 'Quayside Playhouse', true],
    // Banks cut names off.
    ['QUAYSIDE PLAYHOU', 'Quayside Playhouse', true],
    ['OTTERBOURNE TOWN C', 'Otterbourne Town Council', true],
    ['Quay S', 'Quay Street Dance', false],
    ['MAISON CLAIRVAL SARL', 'Maison Clairval', true],
    ['Musee d’Ete', 'Musée d’été', true],
    ['Otterbourne', 'Otterbourne Town Council', true],
    ['Quayside Fish Bar', 'Quayside Playhouse', false],
    ['Town', 'Otterbourne Town Council', false],
    ['', 'Quayside Playhouse', false],
    ['LTD', 'Limited', false],
  ])('%s is %s: %s', (payer, name, agree) => expect(namesAgree(payer, name)).toBe(agree));
});
