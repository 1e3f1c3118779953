import { showLength } from '@half-penny/core/time';
import { trackerStates } from '@half-penny/demo';
import type { FastifyInstance } from 'fastify';
import * as z from 'zod';
import { escaped, formPages } from './forms';
import type { Board } from './tracker-board';

interface PageOptions<Fault extends string> {
  board: () => Board;
  address: string;
  faults: readonly Fault[];
  setFault: (kind: Fault) => void;
}

const choice = (
  name: string,
  label: string,
  options: readonly (readonly [value: string, says: string])[],
  at: string,
) =>
  `<label>${label} <select name="${name}">${options
    .map(
      ([value, says]) =>
        `<option value="${escaped(value)}"${value === at ? ' selected' : ''}>${escaped(says)}</option>`,
    )
    .join('')}</select></label> `;

/** The simulated tracker's own page, where its keeper would change tasks: what follows it can be watched from there. */
export function addTrackerPage<Fault extends string>(
  server: FastifyInstance,
  { board, address, faults, setFault }: PageOptions<Fault>,
): void {
  const { send, sameSite } = formPages(address);

  server.get('/tracker', async (_request, reply) => {
    const { tasks, clients, hours } = board();
    const states = trackerStates.map((state) => [state, state] as const);
    const projects = new Map(tasks.map(({ project }) => [project.id, project.name]));
    const told = (id: string) => hours.filter((row) => row.task === id).reduce((sum, row) => sum + row.seconds, 0);
    const rows = tasks.map(
      (task) =>
        `<li><form method="post" action="/tracker/tasks/${task.id}"><strong>${escaped(task.number)}</strong> <label>Title <input name="title" size="44" value="${escaped(task.title)}"></label><br>${choice('state', 'State', states, task.state)}<label>Estimate, hours <input name="hours" size="5" value="${task.estimate === null ? '' : task.estimate / 3600}"></label> <button>Change</button></form><br><small>${escaped(task.project.name)}${task.assignee ? `, ${escaped(task.assignee)}` : ''}${task.closed ? ', closed' : ''}; told ${showLength(told(task.id))}</small></li>`,
    );
    const gone = clients.map(
      (client) =>
        `<li>${escaped(client.name)} <form method="post" action="/tracker/clients/${client.id}"><button name="gone" value="${client.gone ? '' : 'yes'}">${client.gone ? 'Back on the list' : 'Off the list'}</button></form></li>`,
    );
    const heard = hours
      .filter((row) => row.seconds > 0)
      .map(
        (row) =>
          `<li>${row.day}, ${escaped(row.member)}: ${showLength(row.seconds)} on ${escaped(row.task)} <small>${escaped(row.note)}</small></li>`,
      );
    return send(
      reply,
      'Simulated tracker',
      [
        '<h1>Simulated tracker</h1><p><small>A stand-in on this machine. The last state closes a task.</small></p>',
        `<ol>${rows.join('')}</ol>`,
        `<form method="post" action="/tracker/tasks">${choice('project', 'Project', [...projects], '')}<label>Title <input name="title" required size="44"></label> <button>Add a task</button></form>`,
        `<h2>Clients</h2><ol>${gone.join('')}</ol>`,
        `<h2>Hours that were told</h2>${heard.length > 0 ? `<ol>${heard.join('')}</ol>` : '<p>None yet.</p>'}`,
        `<h2>Faults</h2><form method="post" action="/tracker/faults">${choice(
          'kind',
          'The next answer is',
          faults.map((kind) => [kind, kind]),
          '',
        )}<button>Set</button></form>`,
      ].join(''),
    );
  });

  const change = z.object({
    title: z.string().trim().min(1).max(300),
    state: z.enum(trackerStates),
    hours: z
      .string()
      .trim()
      .regex(/^(\d{1,4}(\.\d{1,2})?)?$/),
  });
  server.post<{ Params: { id: string } }>('/tracker/tasks/:id', { onRequest: sameSite }, async (request, reply) => {
    const parsed = change.safeParse(request.body);
    if (!parsed.success)
      return reply.code(400).send({ message: 'A task has a title, a state and a plain number of hours, or none.' });
    const { title, state, hours } = parsed.data;
    const estimate = Math.round(Number(hours) * 3600) || null;
    const closed = state === trackerStates.at(-1);
    if (!board().edit(request.params.id, { title, state, estimate, closed }))
      return reply.code(404).send({ message: 'There is no such task.' });
    return reply.redirect('/tracker', 303);
  });

  const addition = z.object({ project: z.string(), title: z.string().trim().min(1).max(300) });
  server.post('/tracker/tasks', { onRequest: sameSite }, async (request, reply) => {
    const parsed = addition.safeParse(request.body);
    if (!parsed.success || !board().add(parsed.data.project, parsed.data.title))
      return reply.code(400).send({ message: 'A task has a project and a title.' });
    return reply.redirect('/tracker', 303);
  });

  server.post<{ Params: { id: string }; Body: Record<string, string> }>(
    '/tracker/clients/:id',
    { onRequest: sameSite },
    async (request, reply) => {
      if (!board().setGone(request.params.id, request.body.gone === 'yes'))
        return reply.code(404).send({ message: 'There is no such client.' });
      return reply.redirect('/tracker', 303);
    },
  );

  server.post<{ Body: Record<string, string> }>('/tracker/faults', { onRequest: sameSite }, async (request, reply) => {
    const kind = faults.find((each) => each === request.body.kind);
    if (!kind) return reply.code(400).send({ message: 'There is no such fault.' });
    setFault(kind);
    return reply.redirect('/tracker', 303);
  });
}
