import type { KeyName } from '../parts/keys';

interface Place {
  path: string;
  name: string;
  key: KeyName;
}

/** The index down the left side: groups by the course of the job. Only what exists is here. */
export const sections: readonly { group: string; items: readonly Place[] }[] = [
  {
    group: 'Record',
    items: [
      { path: '/today', name: 'Today', key: 'go.today' },
      { path: '/sift', name: 'Sift', key: 'go.sift' },
      { path: '/week', name: 'Week', key: 'go.week' },
    ],
  },
  {
    group: 'Charge',
    items: [
      { path: '/costs', name: 'Costs', key: 'go.costs' },
      { path: '/billing', name: 'Billing', key: 'go.billing' },
    ],
  },
  { group: 'Know', items: [{ path: '/reports', name: 'Reports', key: 'go.reports' }] },
  {
    group: 'Arrange',
    items: [
      { path: '/clients', name: 'Clients', key: 'go.clients' },
      { path: '/team', name: 'Team', key: 'go.team' },
      { path: '/setup', name: 'Setup', key: 'go.setup' },
    ],
  },
];

export const places: readonly Place[] = sections.flatMap((section) => section.items);
