import { useRead } from './read';
import type { Day } from '@half-penny/core/time';
import { isReportDue } from './report-due';

/** How many reports wait. */
export function useReadyReports(today: Day): number {
  return (
    useRead(async (reader) => (await reader.all('reports')).filter((row) => isReportDue(row, today)).length, [today]) ??
    0
  );
}
