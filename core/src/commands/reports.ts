import { reportSchema } from '../model/records';
import { plainCommands } from '../engine/crud';

/** Keeping what reports ask. */
export const reports = plainCommands('reports', 'report', 'Report', reportSchema, {
  note: '',
  readyOn: null,
  seenOn: null,
});
