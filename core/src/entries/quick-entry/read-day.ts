import { Fault } from '../../faults/fault';
import type { Day } from '../../time/day';
import { formAt } from './forms';
import type { UnderstoodLine } from './said';

/**
 * Reads a day as people write it: "yesterday", "mon", "last thu", "12 nov", "3/12", "2026-11-12".
 *
 * @throws Fault when it cannot be read
 */
export function readDay(text: string, today: Day): Day {
  const plain = text.trim();
  const hit = formAt(plain, 0, today);
  const said: Pick<UnderstoodLine, 'day'> = { day: null };
  if (hit?.kind === 'day' && hit.to === plain.length) hit.apply(said as UnderstoodLine);
  if (said.day === null) {
    throw new Fault(
      'not-a-day',
      `“${text.slice(0, 40)}” cannot be read as a day. Write 12 nov, mon, yesterday or 2026-11-12.`,
      'day',
      { text },
    );
  }
  return said.day;
}
