import { plainDefinition, type Definition } from '@half-penny/core/reports';

/** Why a document was open, in the studio's words, and by which endings it is told. */
export const openedFor = [
  { id: '00000000-0000-7000-8000-0000000000c1', name: 'Plotting', endings: ['.lgp'] },
  { id: '00000000-0000-7000-8000-0000000000c2', name: 'Measuring', endings: ['.xlsx'] },
  { id: '00000000-0000-7000-8000-0000000000c3', name: 'Writing up', endings: ['.md'] },
] as const;

/** How much an hour of what counts. */
export const weights = [
  {
    id: '00000000-0000-7000-8000-0000000000d1',
    name: 'Stage',
    percent: 100,
    projects: ['Winter season rig', 'Spring double bill'],
  },
  {
    id: '00000000-0000-7000-8000-0000000000d2',
    name: 'Buildings',
    percent: 80,
    projects: ['Museum gallery 3', 'Footbridge lighting'],
  },
] as const;

/** Reports that the studio keeps. */
export const reports: readonly { name: string; note: string; readyOn: number | null; definition: Definition }[] = [
  {
    name: 'What the month brought',
    note: '',
    readyOn: 2,
    definition: {
      ...plainDefinition,
      rows: ['client', 'project'],
      measures: ['recorded', 'billable', 'worth', 'effective rate', 'to bill'],
      when: { kind: 'moving', name: 'last month' },
    },
  },
  {
    name: 'Who worked on what',
    note: 'Hours by member and week.',
    readyOn: null,
    definition: {
      ...plainDefinition,
      rows: ['member', 'whole project'],
      columns: 'week',
      measures: ['recorded'],
      when: { kind: 'moving', name: 'this month' },
    },
  },
];

/** Who pays, but a month late. */
export const latePayer = 'clairval';

/** Why a week of Teodor's came back. */
export const sentBackFor = 'Which of the two rooms was this for?';
/** Why an entry of Asha's was corrected. */
export const correctedFor = 'Half an hour of it was our own setting up';
