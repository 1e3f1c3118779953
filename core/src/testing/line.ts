import type { LineJob } from '../entries/quick-entry/index';

/** A top-level project as a line can name it. */
export const lineProject = (
  id: string,
  own: string,
  client: string,
  jobNumber = '',
  closed: string | null = null,
): LineJob => ({
  id,
  projectId: id,
  taskId: null,
  own,
  around: [client],
  within: [id],
  jobNumber,
  name: `${client} / ${own}`,
  closed,
});
