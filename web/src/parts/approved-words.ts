import type { ApprovedPolicy } from '@half-penny/core/model';

/** Whether time has to be approved before it is invoiced, as a choice. */
export const approvedWords: readonly (readonly [ApprovedPolicy, string])[] = [
  ['free', 'Approved or not'],
  ['warn', 'Not approved is said before issuing'],
  ['only', 'Approved only'],
];
