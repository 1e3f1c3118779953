import { worthOf, type PricedEntry, type Pricer } from '@half-penny/core/billing';
import type { Entry, Id } from '@half-penny/core/model';
import { placeOfProject } from '@half-penny/core/rights';
import { useMemo } from 'react';
import { useRights } from './rights';

/** What work is worth, to whoever works here: all of it, some of it, or nothing. */
export interface WorthSeen {
  /** Whether there is any work whose worth they may see. */
  any: boolean;
  /** Whether they may see the worth of work on this project, or of work on none yet. */
  on(projectId: Id | null): boolean;
  /** Entries with what they are worth; without a price where that is not for them. */
  of(pricer: Pricer, entries: readonly Entry[]): PricedEntry[];
}

export function useWorthSeen(pricer: Pricer | undefined): WorthSeen {
  const rights = useRights();
  return useMemo((): WorthSeen => {
    if (rights.hasForAll('see rates')) return { any: true, on: () => true, of: worthOf };
    const on = (projectId: Id | null) => {
      const project = pricer?.project.get(projectId ?? '');
      return (
        project !== undefined &&
        rights.covers(
          'see rates',
          placeOfProject(project, (id) => pricer?.project.get(id)),
        )
      );
    };
    return {
      any: rights.has('see rates'),
      on,
      of: (book, entries) =>
        worthOf(book, entries).map((priced) =>
          on(priced.entry.projectId) ? priced : { ...priced, price: null, amount: 0 },
        ),
    };
  }, [rights, pricer]);
}
