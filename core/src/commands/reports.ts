import { reportSchema } from '../model/records';
import { plainCommands } from './plain';

/** Keeping what reports ask. */
export const reports = plainCommands('reports', 'report', 'Report', reportSchema, {
  note: '',
  readyOn: null,
  seenOn: null,
});
