export { answerFor } from './answer';
export * from './content';
export { jobSheetFor } from './job-sheet';
export { verdictOn, type Sides, type Verdict } from './merge';
export { timesheetFor } from './timesheet';
