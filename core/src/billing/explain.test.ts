import { describe, expect, it } from 'vitest';
import type { CostRate, Entry, Project } from '../model/records';
import { blankEntry } from '../entries/timer';
import { bookOf, clientRow, projectRow, rateLine, taskRow } from '../testing/studio';
import { slipOf } from '../testing/slip';
import { describeRate, explainPriced, Pricer, priceLength } from '.';

// Slips, read as a person reads them.

const costRate = (fields: Partial<CostRate> = {}): CostRate => ({
  id: 'cost',
  from: '2026-01-01',
  price: '48',
  unit: 'hour',
  currency: 'GBP',
  memberId: null,
  role: null,
  ...fields,
});

const studio = (more: Parameters<typeof bookOf>[0] = {}) =>
  new Pricer(
    bookOf({
      clients: [
        clientRow('playhouse', 'Quayside Playhouse'),
        clientRow('salon', 'Maison Clairval', { currency: 'EUR' }),
      ],
      projects: [
        projectRow('rig', 'Winter season rig', 'playhouse'),
        projectRow('bars', 'Advance bars', 'playhouse', { parentId: 'rig' }),
        projectRow('bill', 'Spring double bill', 'playhouse', { kind: 'fixed price' }),
        projectRow('house', 'Studio', null),
        projectRow('favour', 'Favour', 'playhouse', { kind: 'internal' } as Partial<Project>),
        projectRow('vitrine', 'Vitrine', 'salon'),
      ],
      tasks: [taskRow('plot', 'Plot', 'rig')],
      members: [{ id: 'imogen', name: 'Imogen Vale', role: 'principal' }],
      services: [{ id: 'design', name: 'Lighting design', costCodeId: null }],
      contracts: [{ id: 'seasons', name: 'Seasons', clientId: 'playhouse' }],
      rateLines: [rateLine('always', { from: '2000-01-01', price: '78' })],
      ...more,
    } as never),
  );

const work = (projectId: string | null, fields: Partial<Entry> = {}): Entry =>
  blankEntry({
    id: 'entry',
    memberId: 'imogen',
    day: '2026-06-01',
    projectId,
    seconds: 4680,
    note: 'Plot sheet 4',
    ...fields,
  });
const slip = (pricer: Pricer, entry: Entry, seconds = entry.seconds, billed = seconds) =>
  slipOf(explainPriced(pricer, priceLength(pricer, entry, { seconds, billed })));

describe('the slip of an entry', () => {
  it('goes from the recorded length by rounding and rate to its worth', () => {
    expect(slip(studio(), work('rig'), 4680, 5400)).toEqual([
      'Plot sheet 4',
      'Recorded: 1 h 18 min',
      'Rounded: 1 h 30 min (up to the next 6 min, entry by entry)',
      'Rate: 78.00 /h (Saltmere Lighting card)',
      '— 1 h 30 min × 78.00 ÷ 1 h',
      '= Worth: £117.00',
    ]);
  });

  it('says what of it is to bill, where that is less', () => {
    expect(slip(studio(), work('rig', { note: '  ' }), 3600)).toEqual([
      'Winter season rig · Quayside Playhouse',
      'Recorded: 1 h 18 min',
      'Of that to bill: 1 h',
      'Rounded: 1 h (up to the next 6 min, entry by entry)',
      'Rate: 78.00 /h (Saltmere Lighting card)',
      '— 1 h × 78.00 ÷ 1 h',
      '= Worth: £78.00',
    ]);
  });

  it('says why nobody is billed', () => {
    const why = (entry: Entry) => slip(studio(), entry).slice(3);
    expect(why(work(null))).toEqual(['No job yet, so nobody to bill', '= Worth: £0.00']);
    expect(why(work(null, { unlisted: 'New foyer' }))).toEqual([
      'The job is not set up yet, so nobody to bill',
      '= Worth: £0.00',
    ]);
    for (const project of ['house', 'favour'])
      expect(why(work(project))).toEqual(['Internal work is not billed', '= Worth: £0.00']);
  });

  it('says what the hours of a fixed price would be worth', () => {
    expect(slip(studio(), work('bill')).slice(3)).toEqual([
      'Rate: 78.00 /h (Saltmere Lighting card)',
      'Fixed price (The price is agreed for the whole; this is what the hours would be worth.)',
      '— 1 h 18 min × 78.00 ÷ 1 h',
      '= Worth: £101.40',
    ]);
  });

  it('names the best of the rates that were beaten, and why', () => {
    const pricer = studio({
      rateLines: [
        rateLine('always', { from: '2000-01-01', price: '78' }),
        rateLine('card', { clientId: 'playhouse', price: '85', from: '2026-02-01' }),
        rateLine('own', { projectId: 'rig', price: '90', from: '2026-06-01' }),
        rateLine('later', { projectId: 'rig', price: '99', from: '2026-06-02' }),
      ],
    });
    const [, , , rate] = slip(pricer, work('rig'));
    expect(rate).toMatch(
      /^Rate: 90\.00 \/h \(Winter season rig card, from 1 Jun 2026; beats 85\.00 \/h on Quayside Playhouse card, from 1 Feb 2026: .+\)$/,
    );
    // One of another currency, or of later, is beaten by nobody.
    expect(slip(pricer, work('rig', { day: '2026-01-31' }))[3]).toBe('Rate: 78.00 /h (Saltmere Lighting card)');
    const euros = studio({
      rateLines: [
        rateLine('euro', { clientId: 'salon', price: '95', currency: 'EUR' }),
        rateLine('always', { from: '2000-01-01', price: '78' }),
      ],
    });
    expect(slip(euros, work('vitrine')).slice(3)).toEqual([
      'Rate: 95.00 /h (Maison Clairval card, from 1 Jan 2026)',
      '— 1 h 18 min × 95.00 ÷ 1 h',
      '= Worth: €123.50',
    ]);
  });

  it('shows a rate that was agreed for it alone', () => {
    expect(slip(studio(), work('rig', { rate: { price: '1.5', unit: 'minute' } })).slice(3)).toEqual([
      'Rate: 1.50 /min (agreed for this entry alone)',
      '— 1 h 18 min × 1.50 ÷ 1 min',
      '= Worth: £117.00',
    ]);
  });

  it('shows cost, markup and exchange rate, and whose cost it is', () => {
    const rateLines = [rateLine('marked', { from: '2000-01-01', markup: '62.5' })];
    const cost = (fields: Partial<CostRate> = {}, project = 'rig') =>
      slip(studio({ rateLines, costRates: [costRate(fields)] }), work(project)).slice(3);
    expect(cost()).toEqual([
      'Cost: 48.00 /h (anybody, from 1 Jan 2026)',
      'Markup: + 62.5 % (Saltmere Lighting card)',
      '— Rate: 78.00 /h',
      '— 1 h 18 min × 78.00 ÷ 1 h',
      '= Worth: £101.40',
    ]);
    expect(cost({ role: 'principal' })[0]).toBe('Cost: 48.00 /h (principal, from 1 Jan 2026)');
    expect(cost({ memberId: 'imogen' })[0]).toBe('Cost: 48.00 /h (Imogen Vale, from 1 Jan 2026)');
    const exchange = (source: string) =>
      slip(
        studio({
          rateLines,
          costRates: [costRate()],
          exchangeRates: [{ id: 'x', base: 'EUR', currency: 'GBP', from: '2026-05-01', rate: '0.8', source }],
        }),
        work('vitrine'),
      ).slice(3, 6);
    expect(exchange('by hand')).toEqual([
      'Cost: 48.00 /h (anybody, from 1 Jan 2026)',
      'Markup: + 62.5 % (Saltmere Lighting card)',
      '1 EUR: 0.8 GBP (from 1 May 2026, by hand)',
    ]);
    expect(exchange('')[2]).toBe('1 EUR: 0.8 GBP (from 1 May 2026)');
  });

  it('says what is missing where there is no price, and where to add it', () => {
    const marked = [rateLine('marked', { from: '2000-01-01', markup: '-10' })];
    expect(slip(studio({ rateLines: [] }), work('rig')).slice(3)).toEqual([
      'No rate fits (Give Quayside Playhouse or the project a rate in GBP.)',
      '= Worth: £0.00',
    ]);
    expect(slip(studio({ rateLines: [] }), work('vitrine')).slice(3)).toEqual([
      'No rate fits (Give Maison Clairval or the project a rate in EUR.)',
      '= Worth: €0.00',
    ]);
    expect(slip(studio({ rateLines: marked }), work('rig')).slice(3)).toEqual([
      'No cost rate (cost − 10 % on Saltmere Lighting card holds, but what Imogen Vale costs is not set. Add a cost rate in Setup → People.)',
      '= Worth: £0.00',
    ]);
    expect(slip(studio({ rateLines: marked }), work('rig', { memberId: 'gone' }))[3]).toContain(
      'but what the member costs is not set',
    );
    expect(slip(studio({ rateLines: marked, costRates: [costRate()] }), work('vitrine')).slice(3)).toEqual([
      'No exchange rate (cost − 10 % on Saltmere Lighting card holds, but nothing says what GBP is in EUR on 1 Jun 2026. Add a rate in Setup → Rates.)',
      '= Worth: €0.00',
    ]);
  });

  it('says which estimate is billed in its place', () => {
    const estimate = (fields: object = {}) => ({
      id: 'estimate',
      projectId: 'rig',
      kind: 'estimate',
      text: 'All the rigging, '.repeat(6),
      amount: 100_000,
      cost: null,
      costCodeId: null,
      agreedOn: '2026-01-01',
      agreedBy: '',
      milestoneId: null,
      billed: true,
      ...fields,
    });
    const line = (pricer: Pricer, entry: Entry) => slip(pricer, entry).find((each) => each.startsWith('By estimate'));
    expect(line(studio({ agreed: [estimate()] } as never), work('bars'))).toBe(
      `By estimate (“${'All the rigging, '.repeat(6).slice(0, 60)}” of Winter season rig, no cost code is billed in place of the hours and costs under it, parts of the project included.)`,
    );
    const headed = studio({
      agreed: [estimate({ text: '', costCodeId: 'labour' })],
      costCodes: [{ id: 'labour', code: '10', name: 'Labour', costType: 'labour' }],
      services: [{ id: 'design', name: 'Lighting design', costCodeId: 'labour' }],
    } as never);
    expect(line(headed, work('rig', { serviceId: 'design' }))).toBe(
      'By estimate (The estimate of Winter season rig, “Labour” is billed in place of the hours and costs under it, parts of the project included.)',
    );
    expect(line(headed, work('rig'))).toBeUndefined();
  });
});

describe('a rate in words', () => {
  it('names its card, its person, its service and its day', () => {
    const pricer = studio();
    const words = (fields: Parameters<typeof rateLine>[1]) => describeRate(pricer, rateLine('line', fields));
    expect(words({})).toBe('Saltmere Lighting card, from 1 Jan 2026');
    expect(words({ from: '2000-01-02' })).toBe('Saltmere Lighting card, from 2 Jan 2000');
    expect(words({ from: '2000-01-01' })).toBe('Saltmere Lighting card');
    expect(words({ clientId: 'playhouse', memberId: 'imogen', serviceId: 'design' })).toBe(
      'Quayside Playhouse card, Imogen Vale, Lighting design, from 1 Jan 2026',
    );
    expect(words({ contractId: 'seasons', role: 'principal' })).toBe('Seasons contract, principal, from 1 Jan 2026');
    expect(words({ projectId: 'rig' })).toBe('Winter season rig card, from 1 Jan 2026');
    expect(words({ taskId: 'plot' })).toBe('Plot card, from 1 Jan 2026');
  });
});
