import type { Condensing } from '@half-penny/core/model';

/** How sources stand together on lines, in words. */
export const condenseWords: Record<Condensing, string> = {
  item: 'Item by item',
  service: 'By service',
  'cost code': 'By cost code',
  task: 'By task',
  project: 'By project',
  member: 'By member',
  day: 'By day',
  week: 'By week',
};
