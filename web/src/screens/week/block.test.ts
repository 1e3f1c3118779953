import { Pricer } from '@half-penny/core/billing';
import type { WeekRow } from '@half-penny/core/entries';
import { bookOf, clientRow, projectRow, taskRow } from '@half-penny/core/testing';
import { daysFrom } from '@half-penny/core/time';
import { describe, expect, it } from 'vitest';
import { readBlock, writeBlock } from './block';

const days = daysFrom('2026-11-09', '2026-11-15');
const pricer = new Pricer(
  bookOf({
    clients: [clientRow('quayside', 'Quayside Playhouse')],
    projects: [
      projectRow('rig', 'Winter season rig', 'quayside'),
      projectRow('foyer', 'Foyer refresh', 'quayside'),
      projectRow('old', 'Summer season rig', 'quayside', { finished: true }),
    ],
    tasks: [taskRow('plot', 'Plot sheets', 'rig')],
  }),
);
const row = (projectId: string, seconds: readonly number[] = []): WeekRow => ({
  key: projectId,
  projectId,
  unlisted: '',
  taskId: null,
  cells: days.map((day, index) => ({ day, seconds: seconds[index] ?? 0, entries: [], plans: [], openSeconds: 0 })),
  seconds: 0,
  planned: 0,
});
const rows = [row('rig'), row('foyer')];
const read = (text: string, place = { row: 0, column: 0 }) => readBlock(text, { pricer, rows, days, ...place });

describe('a block from a spreadsheet', () => {
  it('goes to the rows and days from the focused cell on; empty cells leave what is there', () => {
    const cells = read('1:30\t\t2\r\n0.25\t1h\t-\r\n', { row: 0, column: 1 });
    expect(cells.map((cell) => [cell.projectId, cell.day, cell.seconds])).toEqual([
      ['rig', days[1], 5400],
      ['rig', days[3], 7200],
      ['foyer', days[1], 900],
      ['foyer', days[2], 3600],
      ['foyer', days[3], 0],
    ]);
  });

  it('may name its jobs, by any part of the name, or in words where there is none', () => {
    const cells = read('Quayside foyer\t1\nWinter season rig\t2\nHadley Hall\t3\nplot sheets\t1\nSummer season rig\t1');
    expect(cells.map((cell) => [cell.projectId, cell.taskId, cell.unlisted])).toEqual([
      ['foyer', null, ''],
      ['rig', null, ''],
      [null, null, 'Hadley Hall'],
      ['rig', 'plot', ''],
      // What is finished takes no more time.
      [null, null, 'Summer season rig'],
    ]);
  });

  it.each([
    ['1\tlong', 'Row 1, column 2 of the block: “long” cannot be read'],
    ['1\n2\n3', 'Row 3 of the block goes below the last job'],
    ['rig\t1\t1\t1\t1\t1\t1\t1\t1', 'Row 1, column 9 of the block lies beyond the last day'],
    ['\t\t', 'There is no length'],
  ])('that does not fit is refused with its place: %j', (text, message) => {
    expect(() => read(text)).toThrow(message);
  });

  it('is written as it is read', () => {
    const filled = [row('rig', [5400, 0, 61]), row('foyer', [0, 3600])];
    const text = writeBlock(filled, { row: 0, column: 0 }, { row: 1, column: 2 });
    expect(text).toBe('1:30\t\t0:01:01\n\t1:00\t');
    expect(read(text).map((cell) => cell.seconds)).toEqual([5400, 61, 3600]);
  });
});
