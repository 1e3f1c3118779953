import type { Right } from '../model/records';
import type { Rights } from './rights';

/** What a command needs. */
export interface Need {
  /** One of these. */
  any?: readonly Right[];
  /** These besides. */
  also?: readonly Right[];
  /** Each row that it changes is asked about by itself, by whose it is. */
  byRow?: true;
  /** Why anybody may. */
  free?: string;
}

/** What is missing of a need before anything is known of the work that it is for; null where nothing is. */
export function lacking(rights: Rights, { any, also = [], free }: Need): Right | null {
  if (free !== undefined) return null;
  const besides = also.find((right) => !rights.has(right));
  if (besides !== undefined) return besides;
  return any && !any.some((right) => rights.has(right)) ? any[0]! : null;
}
