import type { Right } from '@half-penny/core/model';
import { everything, type Rights } from '@half-penny/core/rights';
import { createContext, useContext } from 'react';

export const RightsContext = createContext<Rights>(everything);

/** What whoever works in this browser may see and do; everything while that is being read, and where nobody limited it. */
export const useRights = (): Rights => useContext(RightsContext);

/** Whether they have one of these rights for some work. */
export const hasAny = (rights: Rights, any: readonly Right[]): boolean => any.some((right) => rights.has(right));

/** With one of these somebody sees costs that are not their own. */
export const SEE_COSTS: readonly Right[] = ['record others', 'approve', 'costs', 'billing'];

/** With one of these somebody sees what others recorded. */
export const SEE_OTHERS: readonly Right[] = ['record others', 'approve', 'reports', 'billing'];

/** What of the money of work whoever works here may see, all of it together. */
export interface MoneySeen {
  /** What it sells for and what was billed. */
  worth: boolean;
  /** What it costs the studio. */
  cost: boolean;
}

export function useMoneySeen(): MoneySeen {
  const rights = useRights();
  return { worth: rights.hasForAll('see rates'), cost: rights.hasForAll('see cost') };
}
