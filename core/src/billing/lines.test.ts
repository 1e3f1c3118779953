import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries/timer';
import { agreedDefaults, costDefaults, costLineDefaults } from '../model/defaults-billing';
import { condensings, type Client, type Cost, type CostLine, type Entry, type Invoice } from '../model/records';
import { bookOf, clientRow, projectRow, taskRow } from '../testing/studio';
import type { Charge } from './charges';
import {
  chargeText,
  checkSays,
  entryText,
  filledText,
  groupOf,
  namedCharge,
  namedEntry,
  plainText,
  wayKey,
  wayOf,
} from './lines';
import { Pricer } from './pricer';
import { fault } from '../testing/fault';

// What stands together on a line, and what the line says.

const pricer = new Pricer(
  bookOf({
    clients: [clientRow('playhouse', 'Quayside Playhouse')],
    projects: [
      projectRow('rig', 'Winter season rig', 'playhouse'),
      projectRow('bars', 'Advance bars', 'playhouse', { parentId: 'rig' }),
    ],
    tasks: [taskRow('plot', 'Plot', 'rig')],
    members: [
      { id: 'imogen', name: 'Imogen Vale' },
      { id: 'teodor', name: 'Teodor Lund' },
    ],
    services: [
      { id: 'design', name: 'Lighting design', costCodeId: 'labour' },
      { id: 'site', name: 'Site and focus', costCodeId: null },
    ],
    costCodes: [
      { id: 'labour', code: '10', name: 'Labour', costType: 'labour' },
      { id: 'lamps', code: '20', name: 'Lamps', costType: 'material' },
    ],
  } as never),
);

/** Thursday. */
const DAY = '2026-11-12';
const entry = (fields: Partial<Entry> = {}): Entry =>
  blankEntry({
    id: 'e',
    memberId: 'imogen',
    day: DAY,
    projectId: 'rig',
    seconds: 3600,
    note: ' Plot sheet 4 ',
    ...fields,
  });
function charge(line: Partial<CostLine> = {}, cost: Partial<Cost> = {}, fields: Partial<Charge> = {}): Charge {
  return {
    id: 'c',
    kind: cost.kind ?? 'bill',
    projectId: 'rig',
    costCodeId: 'lamps',
    day: DAY,
    cost: { ...costDefaults, id: 'cost', kind: 'bill', day: DAY, currency: 'GBP', supplier: ' Brightwater ', ...cost },
    line: { ...costLineDefaults, id: 'c', costId: 'cost', text: ' Gel ', ...line },
    ...fields,
  } as Charge;
}
const agreed = charge({}, {}, {
  kind: 'extra',
  cost: undefined,
  line: undefined,
  day: '',
  costCodeId: null,
  agreed: { ...agreedDefaults, id: 'a', projectId: 'rig', kind: 'extra', text: 'One more', amount: 100 },
} as never);

describe('a way', () => {
  it('is that of a project, that of its kind, or the usual one of the invoice', () => {
    const invoice = (condense: Invoice['condense'], ways: Invoice['ways'] = {}) => ({ condense, ways }) as Invoice;
    const lump = { way: 'project', lump: true } as const;
    expect(wayOf(invoice('day', { time: lump, 'time rig': { way: 'task', lump: false } }), 'time', 'rig')).toEqual({
      way: 'task',
      lump: false,
    });
    expect(wayOf(invoice('day', { time: lump }), 'time', 'bars')).toEqual(lump);
    expect(wayOf(invoice('service'), 'time', 'rig')).toEqual({ way: 'service', lump: false });
    expect(wayOf(invoice('service'), 'bill', 'rig')).toEqual({ way: 'cost code', lump: false });
    expect(wayOf(invoice('day'), 'bill', 'rig')).toEqual({ way: 'day', lump: false });
    expect(wayOf(invoice('day'), 'agreed', 'rig')).toEqual({ way: 'item', lump: false });
    expect(['expense', 'bill', 'ledger'].map((kind) => groupOf(charge({}, { kind } as Partial<Cost>)))).toEqual([
      'expense',
      'bill',
      'ledger',
    ]);
    expect(groupOf(agreed)).toBe('agreed');
  });

  it('keeps together what shares its key and nothing else', () => {
    const keys = (fields: Partial<Entry>) =>
      Object.fromEntries(condensings.map((way) => [way, wayKey(way, namedEntry(pricer, entry(fields)))]));
    const plain = keys({});
    const differs = (fields: Partial<Entry>) => {
      const other = keys(fields);
      return condensings.filter((way) => other[way] !== plain[way]);
    };
    expect(differs({})).toEqual([]);
    expect(differs({ id: 'f' })).toEqual(['item']);
    expect(differs({ serviceId: 'site' })).toEqual(['service']);
    expect(differs({ serviceId: 'design' }).sort()).toEqual(['cost code', 'service']);
    expect(differs({ taskId: 'plot' })).toEqual(['task']);
    expect(differs({ projectId: 'bars' }).sort()).toEqual(['project', 'service', 'task']);
    expect(differs({ memberId: 'teodor' })).toEqual(['member']);
    // Monday and Sunday of the same week, and the days around them.
    expect(differs({ day: '2026-11-09' })).toEqual(['day']);
    expect(differs({ day: '2026-11-15' })).toEqual(['day']);
    expect(differs({ day: '2026-11-08' })).toEqual(['day', 'week']);
    expect(differs({ day: '2026-11-16' })).toEqual(['day', 'week']);
    // What different ways make is never the same key by chance.
    expect(new Set(Object.values(plain)).size).toBe(condensings.length);
    const bought = namedCharge(charge({}, { memberId: 'teodor' }));
    expect(wayKey('member', bought)).not.toBe(wayKey('member', namedCharge(charge())));
    expect(wayKey('member', bought)).toBe(wayKey('member', namedEntry(pricer, entry({ memberId: 'teodor' }))));
    expect(wayKey('member', namedCharge(agreed))).toBe(wayKey('member', namedCharge(charge())));
    expect(wayKey('cost code', bought)).not.toBe(wayKey('cost code', namedCharge(agreed)));
    expect(wayKey('week', namedCharge(agreed))).not.toBe(wayKey('week', bought));
  });

  it('gives a line its plain words', () => {
    const words = (fields: Partial<Entry>) =>
      condensings.map((way) => plainText(pricer, way, namedEntry(pricer, entry(fields)), 'time'));
    expect(
      Object.fromEntries(words({ serviceId: 'design', taskId: 'plot' }).map((text, at) => [condensings[at], text])),
    ).toEqual({
      item: 'Winter season rig',
      service: 'Winter season rig: Lighting design',
      'cost code': 'Labour',
      task: 'Winter season rig: Plot',
      project: 'Winter season rig',
      member: 'Imogen Vale',
      day: '12 Nov 2026',
      week: 'Week of 9 Nov 2026',
    });
    expect(Object.fromEntries(words({}).map((text, at) => [condensings[at], text]))).toMatchObject({
      service: 'Winter season rig',
      'cost code': 'Time',
      task: 'Winter season rig',
    });
    const bought = (way: (typeof condensings)[number], group: 'expense' | 'bill' | 'ledger' | 'agreed') =>
      plainText(pricer, way, namedCharge(agreed), group);
    expect(bought('member', 'bill')).toBe('Purchases');
    expect(bought('day', 'bill')).toBe('Winter season rig');
    expect(bought('week', 'bill')).toBe('Winter season rig');
    expect((['expense', 'bill', 'ledger', 'agreed'] as const).map((group) => bought('cost code', group))).toEqual([
      'Expenses',
      'Supplier bills',
      'Purchases',
      'As agreed',
    ]);
  });
});

describe('the text of a line', () => {
  it('of one entry says what the client likes to read, and what it was on where nothing is known', () => {
    const likes = (...says: Client['says']) => clientRow('playhouse', 'Quayside Playhouse', { says });
    expect(entryText(pricer, entry(), undefined)).toBe('Plot sheet 4');
    expect(
      entryText(pricer, entry({ serviceId: 'design' }), likes('day', 'member', 'project', 'service', 'note')),
    ).toBe('12 Nov 2026, Imogen Vale, Winter season rig, Lighting design, Plot sheet 4');
    expect(entryText(pricer, entry({ memberId: 'gone' }), likes('member', 'service', 'note'))).toBe('Plot sheet 4');
    expect(entryText(pricer, entry({ note: ' ' }), likes('note'))).toBe('Winter season rig');
    expect(entryText(pricer, entry({ note: ' ', serviceId: 'design' }), likes('note'))).toBe(
      'Winter season rig: Lighting design',
    );
    expect(entryText(pricer, entry({ note: ' ', serviceId: 'gone' }), likes('service'))).toBe('Winter season rig');
  });

  it('of one cost says what was bought, how much of it, or from whom', () => {
    expect(chargeText(charge())).toBe('Gel');
    expect(chargeText(charge({ quantity: '3', unit: 'sheets' }))).toBe('Gel, 3 sheets');
    expect(chargeText(charge({ quantity: '1', unit: 'sheet' }))).toBe('Gel');
    expect(chargeText(charge({ quantity: '3', unit: '' }))).toBe('Gel');
    expect(chargeText(charge({ text: ' ' }))).toBe('Brightwater');
    expect(chargeText(charge({ text: '' }, { supplier: ' ', reference: ' B-1 ' }))).toBe('B-1');
    expect(chargeText(charge({ text: '' }, { supplier: '', reference: ' ' }))).toBe('Purchase');
    expect(chargeText(agreed)).toBe('One more');
  });

  it('fills in names in braces from all that stands on it, the first four of what differs', () => {
    const entries = [
      entry({ serviceId: 'design', taskId: 'plot' }),
      entry({ id: 'f', projectId: 'bars', memberId: 'teodor', day: '2026-11-13', note: 'Focus', serviceId: 'site' }),
      entry({ id: 'g' }),
    ];
    const charges = [charge({}, { memberId: 'teodor' }), agreed];
    const filled = (says: string) => filledText(pricer, says, entries, charges);
    expect(filled('{project}')).toBe('Winter season rig, Winter season rig › Advance bars');
    expect(filled('{task}')).toBe('Plot');
    expect(filled('{service}')).toBe('Lighting design, Site and focus');
    expect(filled('{heading}')).toBe('Labour, Lamps');
    expect(filled('{member}')).toBe('Imogen Vale, Teodor Lund');
    expect(filled('{supplier}')).toBe('Brightwater');
    expect(filled('{day}')).toBe('12 Nov 2026, 13 Nov 2026');
    expect(filled('{note}')).toBe('Plot sheet 4, Focus, Gel, One more');
    expect(filled('{ heading }: {count} items')).toBe('Labour, Lamps: 5 items');
    const many = Array.from({ length: 6 }, (_, at) => entry({ id: `${at}`, note: `N${at}` }));
    expect(filledText(pricer, '{note}', many.slice(0, 4), [])).toBe('N0, N1, N2, N3');
    expect(filledText(pricer, '{note}', many, [])).toBe('N0, N1, N2, N3 and 2 more');
    // What is empty leaves no stray signs, and what is no name of ours stays.
    expect(filledText(pricer, '{task}, {service}: work  done –', [entry()], [])).toBe('work done');
    expect(filledText(pricer, 'as {toString} and {constructor}', [entry()], [])).toBe(
      'as {toString} and {constructor}',
    );
  });

  it('takes only names that mean something', () => {
    expect(() => checkSays('{project}, { count } of {note}')).not.toThrow();
    expect(() => checkSays('{project} by {colour}')).toThrow(fault('unknown-name'));
    expect(() => checkSays('{toString}')).toThrow(fault('unknown-name'));
  });
});
