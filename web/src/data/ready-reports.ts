import type { Day } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { isReady } from './ready';
import { useSession } from './session';

/** How many reports wait. */
export function useReadyReports(today: Day): number {
  const { reader } = useSession();
  return (
    useLiveQuery(
      async () => (await reader.all('reports')).filter((row) => isReady(row, today)).length,
      [reader, today],
    ) ?? 0
  );
}
