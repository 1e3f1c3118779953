import * as z from 'zod';
import * as R from '../model/records';
import { command, Plan } from '../engine/command';

const MOST = 50_000;

/** Clients, projects, tasks and services of a list, all of them or none. */
export const importWork = command({
  name: 'work.import',
  title: ({ clients, projects, tasks, services }: Record<'clients' | 'projects' | 'tasks' | 'services', unknown[]>) =>
    `${clients.length + projects.length + tasks.length + services.length} rows of clients and work imported`,
  input: z.strictObject({
    clients: z.array(R.clientSchema).max(MOST),
    projects: z.array(R.projectSchema).max(MOST),
    tasks: z.array(R.taskSchema).max(MOST),
    services: z.array(R.serviceSchema).max(MOST),
  }),
  async plan(_reader, { clients, projects, tasks, services }) {
    const plan = new Plan();
    for (const row of clients) plan.put('clients', row);
    for (const row of projects) plan.put('projects', row);
    for (const row of tasks) plan.put('tasks', row);
    for (const row of services) plan.put('services', row);
    return plan;
  },
});
