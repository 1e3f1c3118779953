import { computeDraft, draftInSlices, type Draft, type Pricer } from '@half-penny/core/billing';
import { useEffect, useMemo, useState } from 'react';
import type { InvoiceRecords } from '../../data/billing';

/** Up to so many sources a draft is computed at once, faster than anybody could see. */
const AT_ONCE = 1000;
/** Half a frame, in milliseconds: the other half is the page's. */
const BLOCK = 8;

/** A draft as it is now; a long one is computed a slice at a time, and what was there before stays until it is done. */
export function useDraft(pricer: Pricer, records: InvoiceRecords, day: string): Draft | null {
  const long = records.allocations.length > AT_ONCE;
  const short = useMemo(() => (long ? null : computeDraft(pricer, { ...records, day })), [long, pricer, records, day]);
  const [sliced, setSliced] = useState<Draft | null>(null);
  useEffect(() => {
    if (!long) return;
    let stopped = false;
    const slices = draftInSlices(pricer, { ...records, day });
    const goOn = () => {
      const start = performance.now();
      while (!stopped && performance.now() - start < BLOCK) {
        const step = slices.next();
        if (step.done) return setSliced(step.value);
      }
      if (!stopped) setTimeout(goOn);
    };
    goOn();
    return () => void (stopped = true);
  }, [long, pricer, records, day]);
  return short ?? sliced;
}
