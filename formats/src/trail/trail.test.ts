import { captureDefaults } from '@half-penny/core/capture';
import { describe, expect, it } from 'vitest';
import { readTrail, writeTrail, type TrailRows, type TrailTableName } from '.';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const rows: TrailRows = {
  activities: [
    { device: 'laptop', seq: 1, kind: 'window', from: NINE, to: NINE + 60_000, title: 'Plot\nsheet “4”', hands: 3 },
    { device: 'file-calls.csv 7', seq: 2, kind: 'call', from: NINE, to: NINE, people: ['+44 1632 960123'] },
  ],
  placings: [
    {
      id: 's1',
      day: '2026-11-12',
      spans: [{ start: NINE, end: NINE + 60_000 }],
      outcome: { act: 'private' },
      note: '',
      billableSeconds: null,
      features: ['p:plotting desk'],
      at: NINE,
    },
  ],
  rules: [
    {
      id: 'r1',
      order: 1,
      when: {
        all: [
          { field: 'title', verb: 'has', text: 'rig' },
          {
            not: {
              any: [
                { field: 'weekday', days: [6, 7] },
                { field: 'time', from: 1320, to: 360 },
              ],
            },
          },
        ],
      },
      then: { act: 'never record' },
      since: 0,
      posts: false,
      on: true,
    },
  ],
  switches: [{ file: '/work/rig.lgp', at: NINE, on: true }],
  openedFor: [{ file: '/work/rig.lgp', openedForId: 'o1' }],
  settings: [
    { key: 'capture', value: { ...captureDefaults, keepDays: 30 } },
    { key: 'pauses', value: [{ from: NINE, to: null }] },
  ],
};

async function* all() {
  for (const [name, each] of Object.entries(rows)) yield [name as TrailTableName, each] as const;
}
const written = () => new Response(writeTrail(all())).text();
const read = (text: string) => readTrail(new Blob([text]).stream());

describe('a trail in a file', () => {
  it('comes back as it was, row by row', async () => {
    expect(await read(await written())).toEqual(rows);
    expect((await written()).split('\n')).toHaveLength(1 + 8 + 1 + 1);
  });

  it('of nothing is a trail too', async () => {
    const none = await new Response(
      writeTrail(
        (async function* () {
          // Nothing was noticed.
        })(),
      ),
    ).text();
    expect((await read(none)).activities).toEqual([]);
  });

  it('says what is wrong and where', async () => {
    const text = await written();
    const lines = text.split('\n');
    const with2 = (line: string) => [lines[0], line, ...lines.slice(2)].join('\n');
    const faults: [string, RegExp][] = [
      ['', /has no end/],
      ['{"trail":2}\n', /no trail that this version/],
      [text.slice(0, text.lastIndexOf('{')), /has no end: a part of it is missing/],
      [[...lines.slice(0, 2), ...lines.slice(3)].join('\n'), /has 7 rows and says that it has 8/],
      [`${text}${lines[1]}\n`, /Line 11 of the trail stands behind its end/],
      [with2('{"table":"entries","row":{}}'), /Line 2 of the trail is no row of a trail/],
      [with2('{"table":'), /Line 2 of the trail cannot be read as JSON/],
      [with2(lines[1]!.replace(String(NINE), '12')), /Line 2 of the trail, activities: The clock is wrong/],
      [with2(lines[1]!.replace('"window"', '"dream"')), /Line 2 of the trail, activities/],
      [
        [...lines.slice(0, 4), lines[4]!.replace('[6,7]', '[6,8]'), ...lines.slice(5)].join('\n'),
        /Line 5 of the trail, rules.when/,
      ],
    ];
    for (const [given, message] of faults) await expect(read(given), given.slice(0, 80)).rejects.toThrow(message);
  });
});
