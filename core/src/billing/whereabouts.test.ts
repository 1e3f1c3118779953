import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries';
import { bookOf, clientRow, projectRow, rateLine } from '../testing/studio';
import { Pricer, whereaboutsOf, type PlacedTaking, type Standing } from '.';

const pricer = new Pricer(
  bookOf({
    clients: [clientRow('quayside', 'Quayside Playhouse')],
    projects: [projectRow('rig', 'Winter season rig', 'quayside'), projectRow('studio', 'Studio', null)],
    rateLines: [rateLine('r', { price: '60' })],
  }),
);
const entry = (projectId: string | null = 'rig') =>
  blankEntry({ id: 'e', memberId: 'imogen', day: '2026-11-12', seconds: 3600, projectId });
/** Seconds of the entry on an invoice at its standing; given up where there is none. */
const on = (seconds: number, standing: Standing | null): [PlacedTaking, Standing | null] => [
  {
    entryId: 'e',
    seconds,
    amount: standing === 'draft' ? null : seconds,
    invoiceId: standing,
  } as unknown as PlacedTaking,
  standing,
];
const where = (takings: readonly [PlacedTaking, Standing | null][], of = entry()) =>
  whereaboutsOf(
    pricer,
    [of],
    takings.map(([taking]) => taking),
    new Map(takings.flatMap(([, standing]) => (standing ? [[standing, standing] as const] : []))),
  ).get('e');

describe('where an entry is on its way to being paid', () => {
  it.each([
    ['to bill', []],
    ['on a draft', [on(3600, 'draft')]],
    ['invoiced', [on(3600, 'issued')]],
    ['invoiced', [on(3600, 'overdue')]],
    ['invoiced', [on(3600, 'part paid')]],
    ['paid', [on(3600, 'paid')]],
    ['paid', [on(3600, 'overpaid')]],
    ['written off', [on(3600, 'written off')]],
    ['written off', [on(3600, null)]],
    // What is open of it counts first, then what is owed.
    ['to bill', [on(1800, 'paid')]],
    ['on a draft', [on(1800, 'paid'), on(1800, 'draft')]],
    ['invoiced', [on(1800, 'paid'), on(1800, 'issued')]],
    ['paid', [on(1800, 'paid'), on(1800, null)]],
  ] as const)('is %s', (expected, takings) => {
    expect(where(takings as never)).toBe(expected);
  });

  it('is not billed where nobody is', () => {
    expect(where([], entry('studio'))).toBe('not billed');
    expect(where([], entry(null))).toBe('not billed');
  });
});
