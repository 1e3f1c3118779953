import type { Right } from '@half-penny/core/model';
import { useCallback } from 'react';
import { usePricer } from '../data/book';
import { hasAny, useRights } from '../data/rights';
import type { KeyName } from '../parts/keys';

export interface Place {
  path: string;
  name: string;
  key: KeyName;
  /** Who has none of these rights is not led there; everybody where not given. */
  any?: readonly Right[];
  /** Only in a member’s own workspace. */
  ofMember?: true;
}

/** Somebody who records. */
const records: readonly Right[] = ['record own', 'record others', 'approve'];

/** The index down the left side: groups by the course of the job. Only what exists is here. */
export const sections: readonly { group: string; items: readonly Place[] }[] = [
  {
    group: 'Record',
    items: [
      { path: '/today', name: 'Today', key: 'go.today', any: records },
      { path: '/sift', name: 'Sift', key: 'go.sift', any: ['record own'] },
      { path: '/week', name: 'Week', key: 'go.week', any: records },
    ],
  },
  {
    group: 'Charge',
    items: [
      { path: '/costs', name: 'Costs', key: 'go.costs', any: ['record own', 'record others', 'costs'] },
      { path: '/billing', name: 'Billing', key: 'go.billing', any: ['billing'] },
    ],
  },
  { group: 'Know', items: [{ path: '/reports', name: 'Reports', key: 'go.reports', any: ['reports', 'record own'] }] },
  {
    group: 'Arrange',
    items: [
      { path: '/clients', name: 'Clients', key: 'go.clients', any: ['work', 'rates', 'billing'] },
      { path: '/team', name: 'Team', key: 'go.team', any: ['record others', 'approve', 'close', 'work'] },
      { path: '/sealed', name: 'Sealed files', key: 'go.team', ofMember: true },
      { path: '/setup', name: 'Setup', key: 'go.setup' },
    ],
  },
];

export const places: readonly Place[] = sections.flatMap((section) => section.items);

/** Where whoever works here may go, in this workspace. */
export function useIsFor(): (place: Place) => boolean {
  const rights = useRights();
  const isOwn = usePricer()?.book.workspace.ofMember !== undefined;
  return useCallback(
    ({ any, ofMember }: Place) => (!ofMember || isOwn) && (any === undefined || hasAny(rights, any)),
    [rights, isOwn],
  );
}
