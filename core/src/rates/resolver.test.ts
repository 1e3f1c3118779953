import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Contract, CostRate, ExchangeRate, Member, RateLine } from '../model/records';
import { clientRow, projectRow, rateLine, taskRow } from '../testing/studio';
import { addDays } from '../time/day';
import { RateResolver } from '.';

const sources = {
  members: [
    { id: 'imogen', name: 'Imogen Vale', role: 'principal' } as Member,
    { id: 'asha', name: 'Asha Quill', role: 'programmer' } as Member,
  ],
  clients: [clientRow('playhouse', 'Quayside Playhouse')],
  contracts: [{ id: 'seasons', clientId: 'playhouse', name: 'Three seasons' } as Contract],
  projects: [
    projectRow('rig', 'Winter season rig', 'playhouse', { contractId: 'seasons' }),
    projectRow('house', 'Front of house', 'playhouse', { parentId: 'rig' }),
    projectRow('bars', 'Advance bars', 'playhouse', { parentId: 'house' }),
    projectRow('foyer', 'Foyer refresh', 'playhouse'),
    projectRow('studio', 'Studio', null),
  ],
  tasks: [taskRow('plot', 'Plot', 'bars')],
  costRates: [] as CostRate[],
  exchangeRates: [] as ExchangeRate[],
};
const question = { projectId: 'bars', taskId: 'plot', memberId: 'imogen', serviceId: 'design', day: '2026-06-01' };

/** Every kind of line that fits the question, broadest first. */
const ladder = (
  [
    ['workspace', {}],
    ['client', { clientId: 'playhouse' }],
    ['contract', { contractId: 'seasons' }],
    ['outer project', { projectId: 'rig' }],
    ['project around it', { projectId: 'house' }],
    ['project', { projectId: 'bars' }],
    ['task', { taskId: 'plot' }],
  ] as const
).flatMap(([place, where]) => [
  rateLine(place, where),
  rateLine(`${place} service`, { ...where, serviceId: 'design' }),
  rateLine(`${place} role`, { ...where, role: 'principal' }),
  rateLine(`${place} role service`, { ...where, role: 'principal', serviceId: 'design' }),
  rateLine(`${place} member`, { ...where, memberId: 'imogen' }),
  rateLine(`${place} member service`, { ...where, memberId: 'imogen', serviceId: 'design' }),
]);

describe('the rate of an entry', () => {
  it('is of the narrowest where, within it the narrowest who, within it the narrowest what', () => {
    for (let rung = 0; rung < ladder.length; rung++) {
      const resolver = new RateResolver({ ...sources, rateLines: ladder.slice(0, rung + 1) });
      expect(resolver.resolve(question)?.id).toBe(ladder[rung]!.id);
    }
  });

  it('does not depend on the order of lines, and a broader line never changes what a narrower decides', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ladder, { minLength: 1 }), (lines) => {
        const narrowest = Math.max(...lines.map((each) => ladder.indexOf(each)));
        const resolver = new RateResolver({ ...sources, rateLines: lines });
        expect(resolver.resolve(question)?.id).toBe(ladder[narrowest]!.id);
        const { winner, rejected: beaten } = resolver.explain(question);
        expect(winner?.id).toBe(ladder[narrowest]!.id);
        expect(beaten).toHaveLength(lines.length - 1);
      }),
    );
  });

  it('is the latest that is not after the day of the work', () => {
    const rateLines = [
      rateLine('old', { from: '2026-01-01' }),
      rateLine('new', { from: '2026-04-01' }),
      rateLine('later', { from: '2026-09-01' }),
    ];
    const resolver = new RateResolver({ ...sources, rateLines });
    const on = (day: string) => resolver.resolve({ ...question, day })?.id ?? null;
    expect(['2025-12-31', '2026-01-01', '2026-03-31', '2026-04-01', '2026-08-31', '2026-09-01'].map(on)).toEqual([
      null,
      'old',
      'old',
      'new',
      'new',
      'later',
    ]);
    expect(resolver.explain(question).rejected.map(({ line: { id }, why }) => [id, why])).toEqual([
      ['later', 'only from 1 Sep 2026'],
      ['old', 'replaced from 1 Apr 2026'],
    ]);
  });

  it('falls back to a broader line before a narrower one starts', () => {
    const resolver = new RateResolver({
      ...sources,
      rateLines: [rateLine('studio'), rateLine('own', { projectId: 'bars', from: '2026-07-01' })],
    });
    expect(resolver.resolve(question)?.id).toBe('studio');
    expect(resolver.resolve({ ...question, day: '2026-07-01' })?.id).toBe('own');
  });

  it('is in the client’s currency only, and internal work has none', () => {
    const resolver = new RateResolver({
      ...sources,
      rateLines: [rateLine('euro', { projectId: 'bars', currency: 'EUR' }), rateLine('pound')],
    });
    expect(resolver.resolve(question)?.id).toBe('pound');
    expect(resolver.explain(question).rejected[0]).toMatchObject({
      line: { id: 'euro' },
      why: 'in EUR, the client is invoiced in GBP',
    });
    expect(resolver.resolve({ ...question, projectId: 'studio', taskId: null })).toBeNull();
    expect(resolver.resolve({ ...question, projectId: null, taskId: null })).toBeNull();
  });

  it('of another project, task or contract never counts', () => {
    const resolver = new RateResolver({
      ...sources,
      rateLines: [rateLine('rig', { projectId: 'rig' }), rateLine('plot', { taskId: 'plot' }), rateLine('any')],
    });
    expect(resolver.resolve({ ...question, projectId: 'foyer', taskId: null })?.id).toBe('any');
    expect(resolver.resolve({ ...question, taskId: null })?.id).toBe('rig');
  });

  it('is found among many services, members and projects, asked in any order', () => {
    const services = Array.from({ length: 40 }, (_, index) => `service ${index}`);
    const rateLines = services.map((serviceId, index) => rateLine(`line ${index}`, { serviceId }));
    const resolver = new RateResolver({ ...sources, rateLines });
    const ask = (serviceId: string, memberId: string, projectId: string) =>
      resolver.resolve({ ...question, serviceId, memberId, projectId, taskId: null })?.id;
    for (const round of [services, services.toReversed()]) {
      for (const serviceId of round) {
        for (const member of ['imogen', 'asha', 'somebody']) {
          expect(ask(serviceId, member, 'rig')).toBe(serviceId.replace('service', 'line'));
          expect(ask(serviceId, member, 'studio')).toBeUndefined();
        }
      }
    }
  });

  it('is the same by a search over all lines, whatever lines there are', () => {
    const anyLine = fc
      .record({
        place: fc.constantFrom(
          {},
          { clientId: 'playhouse' },
          { contractId: 'seasons' },
          { projectId: 'rig' },
          { projectId: 'bars' },
        ),
        who: fc.constantFrom({}, { role: 'principal' }, { role: 'programmer' }, { memberId: 'imogen' }),
        serviceId: fc.constantFrom(null, 'design', 'site'),
        days: fc.integer({ min: 0, max: 300 }),
      })
      .map(({ place, who, serviceId, days }) => ({ ...place, ...who, serviceId, from: addDays('2026-01-01', days) }));
    fc.assert(
      fc.property(fc.array(anyLine, { maxLength: 30 }), fc.integer({ min: 0, max: 360 }), (fields, days) => {
        const rateLines = fields.map((each, index) => rateLine(`line ${index}`, each));
        const asked = { ...question, day: addDays('2026-01-01', days) };
        const found = new RateResolver({ ...sources, rateLines }).resolve(asked);
        expect(found && scoreOf(found)).toEqual(best(rateLines, asked.day));
      }),
    );
  });

  it('changes only from the day of a new line on', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray(ladder, { minLength: 1 }),
        fc.constantFrom(...ladder),
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 0, max: 320 }),
        (lines, like, from, on) => {
          const added: RateLine = { ...like, id: 'new', from: addDays('2026-01-01', from) };
          const day = addDays('2026-01-01', on);
          const before = new RateResolver({ ...sources, rateLines: lines }).resolve({ ...question, day });
          const after = new RateResolver({ ...sources, rateLines: [...lines, added] }).resolve({ ...question, day });
          if (on < from) expect(after?.id).toBe(before?.id);
          else if (after?.id !== 'new') expect(after?.id).toBe(before?.id);
        },
      ),
    );
  });
});

/** The rule once more, said as a comparison: where, then who, then what, then the later date. */
function scoreOf(line: RateLine): number[] {
  const where =
    line.projectId === 'bars' ? 4 : line.projectId === 'rig' ? 3 : line.contractId ? 2 : line.clientId ? 1 : 0;
  return [where, line.memberId ? 2 : line.role ? 1 : 0, line.serviceId ? 1 : 0, Number(line.from.replaceAll('-', ''))];
}

function best(lines: readonly RateLine[], day: string): number[] | null {
  const fitting = lines
    .filter((line) => line.from <= day && line.role !== 'programmer' && line.serviceId !== 'site')
    .map(scoreOf)
    .sort((a, b) => a.map((part, i) => b[i]! - part).find((difference) => difference !== 0) ?? 0);
  return fitting[0] ?? null;
}
