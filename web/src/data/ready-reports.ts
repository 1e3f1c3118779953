import { useRead } from './read';
import type { Day } from '@half-penny/core/time';
import { useRights } from './rights';
import { isReportDue } from './report-due';

/** How many reports wait for those who keep them. */
export function useReadyReports(today: Day): number {
  const keeps = useRights().has('reports');
  const ready = useRead(
    async (reader) => (await reader.all('reports')).filter((row) => isReportDue(row, today)).length,
    [today],
  );
  return keeps ? (ready ?? 0) : 0;
}
