import { expect, it } from 'vitest';
import { isMet, ratioOf, type Measured } from './measure';
import { parts } from './parts';
import { tableOf } from './table';

const row = (fields: Partial<Measured> = {}): Measured => ({
  what: 'Draft',
  own: '34 ms',
  peer: 'bare loop',
  other: '2 ms',
  ratio: 17,
  aim: 10,
  atLeast: false,
  ...fields,
});

it('says which aims are met, and which parts did not run to their end', () => {
  const text = tableOf(
    [
      { name: 'draft', rows: [row(), row({ ratio: 10 }), row({ aim: null })], failed: false, seconds: 3 },
      { name: 'activity', rows: [row({ ratio: 0.515, aim: 1, atLeast: true })], failed: true, seconds: 3 },
    ],
    new Date('2026-11-27T12:00:00Z'),
    'Some machine',
  );
  expect(text.split('\n').filter((line) => /^\| (draft|activity)/.test(line))).toEqual([
    '| draft | Draft | 34 ms | bare loop: 2 ms | 17 | ≤ 10 | **not met** |',
    '| draft | Draft | 34 ms | bare loop: 2 ms | 10 | ≤ 10 | met |',
    '| draft | Draft | 34 ms | bare loop: 2 ms | 17 |  |  |',
    '| activity | Draft | 34 ms | bare loop: 2 ms | 0.515 | ≥ 1 | **not met** |',
    '| activity | did not run to its end | | | | | |',
  ]);
  expect(text).toContain('Last run: 2026-11-27 on Some machine.');
});

it('takes an aim that is just reached for met, and shows small ratios to three places', () => {
  expect([isMet(row({ ratio: 10 })), isMet(row({ ratio: 10.01 }))]).toEqual([true, false]);
  expect([isMet(row({ ratio: 1, aim: 1, atLeast: true })), isMet(row({ ratio: 0.99, aim: 1, atLeast: true }))]).toEqual(
    [true, false],
  );
  expect([ratioOf(row({ ratio: 0.06667 })), ratioOf(row({ ratio: 12.345 }))]).toEqual([0.067, 12.3]);
});

it('has a word for each part that a person can type', () => {
  for (const name of Object.keys(parts)) expect(name).toMatch(/^[a-z]+$/);
});
