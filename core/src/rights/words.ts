import type { Right } from '../model/records';

/** What each right lets one do, after "may". */
export const rightWords: Readonly<Record<Right, string>> = {
  'record own': 'record time and costs of their own',
  'record others': 'record time and costs for others',
  'see rates': 'see rates and what work is worth',
  'see cost': 'see what work costs the studio',
  'billable part': 'say what part of time is billed',
  approve: 'check and approve what is handed in to them',
  close: 'close days and reopen them',
  work: 'change clients, projects and tasks',
  rates: 'change rates and markups',
  costs: 'keep the studio’s costs and pay them',
  billing: 'invoice and book payments',
  reports: 'see reports on everybody’s work',
  setup: 'change how the studio is set up',
};
