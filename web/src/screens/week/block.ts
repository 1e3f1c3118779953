import type { Pricer } from '@half-penny/core/billing';
import { jobOf, unlistedJob, type Job, type WeekRow } from '@half-penny/core/entries';
import { Fault } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { readLength, type Day, type Seconds } from '@half-penny/core/time';
import { ownNameOf } from '../../parts/jobs';
import { knownJobs } from '../../parts/known-jobs';
import { lengthForEditing } from '../../parts/editing';

/** A cell of a pasted block, placed in the week. */
export interface PastedCell extends Job {
  day: Day;
  seconds: Seconds;
}

interface Target {
  pricer: Pricer;
  rows: readonly WeekRow[];
  days: readonly Day[];
  /** Where the block's first length goes. */
  row: number;
  column: number;
}

/**
 * Reads a block as spreadsheets put it on the clipboard. Its first column may name jobs; then each line goes to its own job, one that is
 * not known as a job in words. Otherwise lines go to the week's rows from the focused one on.
 *
 * @throws Fault that names row and column of what cannot be read
 */
export function readBlock(text: string, { pricer, rows, days, row, column }: Target): PastedCell[] {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  const named = lines.every(([first]) => !isLength(first ?? ''));
  const cells: PastedCell[] = [];
  lines.forEach((line, lineIndex) => {
    const place = rows[row + lineIndex];
    const job = named ? jobCalled(pricer, line[0]!.trim()) : place;
    if (!job) {
      throw new Fault(
        'outside',
        `Row ${lineIndex + 1} of the block goes below the last job of the week. Add a job for it first.`,
        'row',
      );
    }
    line.slice(named ? 1 : 0).forEach((value, valueIndex) => {
      if (value.trim() === '') return;
      const day = days[column + valueIndex];
      const where = `Row ${lineIndex + 1}, column ${valueIndex + (named ? 2 : 1)} of the block`;
      if (!day) throw new Fault('outside', `${where} lies beyond the last day of the week.`, 'column');
      cells.push({ day, ...jobOf(job), seconds: secondsIn(value, where) });
    });
  });
  if (cells.length === 0) throw new Fault('lacking', 'There is no length in what was pasted.', 'cells');
  return cells;
}

const isLength = (text: string): boolean => {
  if (text.trim() === '') return true;
  try {
    secondsIn(text, '');
    return true;
  } catch {
    return false;
  }
};

function secondsIn(text: string, where: string): Seconds {
  const plain = text.trim();
  if (/^[-–]$|^0+(?:[.:,]0+)?$/.test(plain)) return 0;
  try {
    return readLength(plain).seconds;
  } catch (thrown) {
    throw new Fault(thrown instanceof Fault ? thrown.code : 'not-a-length', `${where}: ${wordsOf(thrown)}`, 'cells');
  }
}

function jobCalled(pricer: Pricer, name: string): Job {
  const words = name
    .toLowerCase()
    .split(/[\s/·,]+/)
    .filter(Boolean);
  const open = knownJobs(pricer, 'project first').filter((each) => each.open);
  const fitting = open.filter((each) => {
    const known = each.words.toLowerCase();
    return words.every((word) => known.includes(word));
  });
  const exact = fitting.find(({ job }) => ownNameOf(pricer, job).toLowerCase() === name.toLowerCase());
  // A project's name fits its tasks as well.
  const projects = fitting.filter(({ job }) => job.taskId === null);
  const [only, another] = projects.length > 0 ? projects : fitting;
  return exact?.job ?? (only && !another ? only.job : unlistedJob(name.slice(0, 500)));
}

/** A block of the week as spreadsheets take it: one line a row, tabs between the days. */
export const writeBlock = (
  rows: readonly WeekRow[],
  from: { row: number; column: number },
  to: { row: number; column: number },
): string =>
  rows
    .slice(from.row, to.row + 1)
    .map((row) =>
      row.cells
        .slice(from.column, to.column + 1)
        .map((cell) => (cell.seconds > 0 ? lengthForEditing(cell.seconds) : ''))
        .join('\t'),
    )
    .join('\n');
