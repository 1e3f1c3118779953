import type { SiftBook } from '@half-penny/core/capture';
import { boundsOfDay, type Day, type Zone } from '@half-penny/core/time';
import type { Workspace } from '@half-penny/core/model';
import { useEffect, useState } from 'react';
import { captureWork, type Looked } from '../workers/capture';
import { useTrailVersion } from './trail';

/** Where the time of some days went, by the trail of this browser; undefined while it is being summed. */
export function useLookBack(
  from: Day,
  to: Day,
  zone: Zone,
  weights: Workspace['weights'],
  book: SiftBook | undefined,
  only: string | null = null,
): Looked | undefined {
  const version = useTrailVersion(boundsOfDay(from, zone).start, boundsOfDay(to, zone).end);
  const [looked, setLooked] = useState<Looked>();
  useEffect(() => {
    if (version === undefined || !book) return;
    let left = false;
    void captureWork()
      .lookBack({ from, to, zone, book, only }, weights)
      .then((found) => !left && setLooked(found));
    return () => void (left = true);
  }, [version, from, to, zone, weights, book, only]);
  return looked;
}
