interface Place {
  path: string;
  name: string;
  key: string;
}

/** The index down the left side: groups by the course of the job. Only what exists is here. */
export const sections: readonly { group: string; items: readonly Place[] }[] = [
  {
    group: 'Record',
    items: [
      { path: '/today', name: 'Today', key: 'Alt+1' },
      { path: '/sift', name: 'Sift', key: 'Alt+2' },
      { path: '/week', name: 'Week', key: 'Alt+3' },
    ],
  },
  {
    group: 'Charge',
    items: [
      { path: '/costs', name: 'Costs', key: 'Alt+4' },
      { path: '/billing', name: 'Billing', key: 'Alt+5' },
    ],
  },
  { group: 'Know', items: [{ path: '/reports', name: 'Reports', key: 'Alt+6' }] },
  {
    group: 'Arrange',
    items: [
      { path: '/clients', name: 'Clients', key: 'Alt+7' },
      { path: '/setup', name: 'Setup', key: 'Alt+8' },
    ],
  },
];

export const places: readonly Place[] = sections.flatMap((section) => section.items);
