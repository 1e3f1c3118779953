import { Fault } from '@half-penny/core/model';

const LONGEST_ESTIMATE = 20_000;

/**
 * Reads how long a task is thought to take: "40", "12.5 h" or "12:30" hours, as whole seconds; null where nothing is said.
 *
 * @throws Fault for what is no number of hours
 */
export function readEstimate(written: string): number | null {
  const text = written
    .trim()
    .replace(',', '.')
    .replace(/ ?h(?:ours?)?$/i, '');
  if (text === '') return null;
  const clock = /^(\d{1,5}):([0-5]\d)$/.exec(text);
  const hours = clock ? Number(clock[1]) + Number(clock[2]) / 60 : Number(text);
  if (!(hours > 0) || hours > LONGEST_ESTIMATE)
    throw new Fault('not-a-length', `“${text.slice(0, 20)}” is not a number of hours, such as 40 or 12.5.`, 'estimate');
  return Math.max(1, Math.round(hours * 3600));
}
