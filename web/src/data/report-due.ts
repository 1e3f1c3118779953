import type { Report } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';

/** Whether a report waits to be looked at: its day of this month has come, and nobody has looked since. */
export function isReportDue({ readyOn, seenOn }: Pick<Report, 'readyOn' | 'seenOn'>, today: Day): boolean {
  if (readyOn === null) return false;
  const due = `${today.slice(0, 8)}${String(readyOn).padStart(2, '0')}`;
  return today >= due && (seenOn ?? '') < due;
}
