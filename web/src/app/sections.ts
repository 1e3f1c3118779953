import type { Right } from '@half-penny/core/model';
import type { Rights } from '@half-penny/core/rights';
import type { KeyName } from '../parts/keys';

export interface Place {
  path: string;
  name: string;
  key: KeyName;
  /** Who has none of these rights is not led there; everybody where not given. */
  any?: readonly Right[];
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
      { path: '/setup', name: 'Setup', key: 'go.setup' },
    ],
  },
];

export const places: readonly Place[] = sections.flatMap((section) => section.items);

/** Where somebody may go. */
export const isFor = ({ any }: Place, rights: Rights): boolean =>
  any === undefined || any.some((right) => rights.has(right));
