import { computeDraft, type Draft, type Pricer } from '@half-penny/core/billing';
import { useEffect, useMemo, useState } from 'react';
import { wordsOf } from '../../data/in-words';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useSession } from '../../data/session';
import { draftInWorker, withEntries } from '../../workers/draft';

/** Up to so many sources a draft is computed where it is shown, within a frame. */
const AT_ONCE = 1000;

/** A draft as it is now, or why it could not be computed; null while a long one is being computed for the first time. */
export type DraftNow = { draft: Draft | null; fault: string | null };

/** A draft as it is now; a long one is computed off the page, and what was there before stays until it is done. */
export function useDraft(pricer: Pricer, records: InvoiceRecords, day: string): DraftNow {
  const { database } = useSession();
  const long = records.allocations.length > AT_ONCE;
  const short = useMemo(() => (long ? null : computeDraft(pricer, { ...records, day })), [long, pricer, records, day]);
  const [far, setFar] = useState<DraftNow>({ draft: null, fault: null });
  useEffect(() => {
    if (!long) return;
    let left = false;
    draftInWorker(database.name, records.invoice.id, day).then(
      (sent) => {
        const draft = left ? null : withEntries(sent, records.entries);
        if (draft) setFar({ draft, fault: null });
      },
      (thrown: unknown) => !left && setFar((before) => ({ ...before, fault: wordsOf(thrown) })),
    );
    return () => void (left = true);
  }, [long, database, pricer, records, day]);
  return short ? { draft: short, fault: null } : far;
}
