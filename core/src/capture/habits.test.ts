import { describe, expect, it } from 'vitest';
import { habitsOf, pageInSmall, percentOf, shareOfWeighed, timeTakers, usualDay, type WeightGroup } from './habits';
import { behindRow, heatMap } from './look-back';
import { placeOn } from './job-key';
import type { Outcome } from './rules';
import type { Stretch } from './stretch';
import { subjectOf } from './subject';

const ZONE = 'Europe/London';
const HOUR = 3_600_000;
const groups: WeightGroup[] = [
  { id: 'g1', name: 'Boards', percent: 100, projectIds: ['drawing'] },
  { id: 'g2', name: 'Upkeep', percent: 20, projectIds: ['studio'] },
];
const on = (projectId: string): Outcome => placeOn({ workspaceId: 'w', projectId, taskId: null });

let made = 0;
function stretch(from: string, minutes: number, outcome: Outcome | null, address = '', program = 'Plan'): Stretch {
  const start = Date.parse(from);
  const seen = minutes * 60_000;
  const subject = subjectOf({ kind: 'window', program, title: 'x', address, file: '', people: [] });
  return {
    id: `s${++made}`,
    day: from.slice(0, 10),
    spans: [{ start, end: start + seen }],
    seen,
    evidence: [{ subject, seen, hands: -1, times: 1, first: start }],
    placing: null,
    outcome,
    rule: null,
    second: null,
  };
}

describe('weighted habits', () => {
  // 12 November 2026 is a Thursday, without summer time.
  const stretches = [
    stretch('2026-11-12T09:30:00Z', 60, on('drawing')),
    stretch('2026-11-12T10:30:00Z', 30, on('studio')),
    stretch('2026-11-13T10:00:00Z', 60, { act: 'not work' }),
    stretch('2026-11-13T14:00:00Z', 45, null),
    stretch('2026-11-13T15:00:00Z', 15, on('elsewhere')),
  ];

  it('hours and weekdays count by the weights of their jobs; what is in no group tells nothing', () => {
    const { hours, weekdays } = habitsOf(stretches, groups, ZONE);
    expect(shareOfWeighed(hours[9]!)).toBe(100);
    expect(hours[10]).toEqual({ seen: 2 * HOUR, weighable: 2 * HOUR, weighted: 0.5 * HOUR + 0.1 * HOUR });
    expect(shareOfWeighed(hours[14]!)).toBeNull();
    expect(shareOfWeighed(weekdays[3]!)).toBeCloseTo((66 / 90) * 100);
    expect(weekdays[4]).toEqual({ seen: 2 * HOUR, weighable: HOUR, weighted: 0 });
  });

  it('not work counts nothing, and what is not placed is not known', () => {
    expect(percentOf({ outcome: { act: 'not work' } }, groups)).toBe(0);
    expect(percentOf({ outcome: null }, groups)).toBeNull();
    expect(percentOf({ outcome: on('studio') }, groups)).toBe(20);
    expect(percentOf({ outcome: on('elsewhere') }, groups)).toBeNull();
  });

  it('hours of the wall clock follow the change of clocks', () => {
    const summer = [stretch('2026-10-24T08:30:00Z', 60, on('drawing')), stretch('2026-10-25T08:30:00Z', 60, null)];
    const map = heatMap(summer, ZONE);
    expect([map[5]![9], map[5]![10]]).toEqual([HOUR / 2, HOUR / 2]);
    expect([map[6]![8], map[6]![9]]).toEqual([HOUR / 2, HOUR / 2]);
  });
});

it('what takes time from the work is told by its site, else by its program, without what counts half or more', () => {
  const takers = timeTakers(
    [
      stretch('2026-11-12T09:00:00Z', 50, { act: 'not work' }, 'https://news.example/a'),
      stretch('2026-11-12T10:00:00Z', 10, { act: 'not work' }, 'https://news.example/b'),
      stretch('2026-11-12T11:00:00Z', 100, on('studio'), '', 'Tables'),
      stretch('2026-11-12T13:00:00Z', 90, on('drawing')),
      stretch('2026-11-12T15:00:00Z', 90, null),
    ],
    groups,
  );
  expect(takers).toEqual([
    { name: 'Tables', isSite: false, seen: 80 * 60_000 },
    { name: 'news.example', isSite: true, seen: HOUR },
  ]);
});

it('a day in small has its spans in order and its jobs, the most first; a usual day leaves out days without anything', () => {
  const jobOf = ({ outcome }: Stretch) => (outcome?.act === 'place' ? outcome.projectId! : 'none');
  const late = stretch('2026-11-12T14:00:00Z', 30, on('studio'));
  const early = stretch('2026-11-12T09:00:00Z', 90, on('drawing'));
  const page = pageInSmall('2026-11-12', [late, early], jobOf);
  expect(page.spans.map(({ id }) => id)).toEqual([early.id, late.id]);
  expect(page.jobs).toEqual([
    { key: 'drawing', seen: 1.5 * HOUR },
    { key: 'studio', seen: 0.5 * HOUR },
  ]);
  const usual = usualDay([page, pageInSmall('2026-11-13', [], jobOf), pageInSmall('2026-11-16', [early], jobOf)]);
  expect(usual).toEqual({
    days: 2,
    seen: 1.75 * HOUR,
    jobs: new Map([
      ['drawing', 1.5 * HOUR],
      ['studio', 0.25 * HOUR],
    ]),
  });
  expect(usualDay([])).toEqual({ days: 0, seen: 0, jobs: new Map() });
});

it('behind a row are the stretches that it was in, latest first, with its own time there', () => {
  const first = stretch('2026-11-12T09:00:00Z', 50, null, 'https://news.example/a');
  const second = stretch('2026-11-13T09:00:00Z', 20, on('studio'), 'https://news.example/b');
  const rows = behindRow([first, second, stretch('2026-11-13T11:00:00Z', 20, null)], 'site', 'news.example', () => '');
  expect(rows).toEqual([
    { stretch: second, seen: 20 * 60_000 },
    { stretch: first, seen: 50 * 60_000 },
  ]);
});
