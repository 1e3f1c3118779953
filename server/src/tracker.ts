import type { FastifyInstance } from 'fastify';
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { ownPage } from './door';
import { FaultsOnDemand } from './faults-on-demand';
import { addForms } from './forms';
import { addTrackerPage } from './tracker-page';
import { Board } from './tracker-board';

// A stand-in for a tracker: it tells tasks and clients by page and cursor, takes hours back, and has faults on demand. Nothing leaves the
// machine. docs/work.md says how it answers.

const MOST_AT_ONCE = 200;
const SLOW = 6000;

const wanted = z.strictObject({
  after: z
    .string()
    .regex(/^(\d{1,12})?$/, 'The cursor is one that this service gave out.')
    .default(''),
  limit: z.coerce.number().int().min(1).max(MOST_AT_ONCE).default(100),
});

export const trackerFaults = ['slow', 'error', 'duplicate', 'malformed', 'lost'] as const;
const hoursSchema = z.strictObject({
  hours: z
    .array(
      z.strictObject({
        id: z.string().min(1).max(100),
        revision: z.int().min(1),
        task: z.string().max(300),
        day: z.string().regex(/^\d{4}-\d{2}-\d{2}$/),
        seconds: z.int().min(0),
        member: z.string().max(300),
        note: z.string().max(200_000),
      }),
    )
    .min(1)
    .max(1000),
});

const editSchema = z.strictObject({
  title: z.string().trim().min(1).max(300).optional(),
  assignee: z.string().max(200).nullable().optional(),
  state: z.string().max(60).optional(),
  estimate: z.int().min(1).max(10_000_000).nullable().optional(),
  closed: z.boolean().optional(),
});

interface TrackerOptions {
  /** Where what was changed and what was told is kept. */
  folder: string;
  address: string;
}

/** Adds the simulated tracker to a server; what it holds is changed by the application's page and by its own. */
export function addTracker(
  server: FastifyInstance,
  own: ReturnType<typeof ownPage>,
  { folder, address }: TrackerOptions,
): void {
  const faults = new FaultsOnDemand(server, '/tracker/fault', trackerFaults, own);
  let board: Board | undefined;
  // Nothing is written before somebody asks.
  const held = () => {
    if (!existsSync(folder)) mkdirSync(folder, { recursive: true, mode: 0o700 });
    return (board ??= new Board(join(folder, 'board.json')));
  };

  for (const what of ['tasks', 'clients'] as const) {
    server.get(`/tracker/${what}`, async (request, reply) => {
      const parsed = wanted.safeParse(request.query);
      if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
      const kind = faults.next();
      if (kind === 'error') return reply.code(500).send({ message: 'The tracker has a fault of its own.' });
      if (kind === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW));
      const { rows, cursor, more } = held().changed(what, Number(parsed.data.after || 0), parsed.data.limit);
      const told: unknown[] = kind === 'duplicate' ? [...rows, ...rows.slice(0, 3)] : [...rows];
      if (kind === 'malformed') told[0] = { ...rows[0], id: null };
      return { [what]: told, cursor: String(cursor), more };
    });
  }

  server.post('/tracker/hours', { onRequest: own }, async (request, reply) => {
    const parsed = hoursSchema.safeParse(request.body);
    if (!parsed.success) {
      const { path, message } = parsed.error.issues[0]!;
      return reply.code(400).send({ message: `${path.join('/') || 'The message'}: ${message}` });
    }
    const kind = faults.next();
    if (kind === 'error') return reply.code(500).send({ message: 'The tracker has a fault of its own.' });
    const answer = held().takeHours(parsed.data.hours);
    // Taken, and nobody hears of it: whoever sent it has to send it again.
    if (kind === 'lost') return reply.code(502).send({ message: 'The answer was lost.' });
    if (kind === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW));
    return kind === 'malformed' ? { taken: 'all' } : answer;
  });

  server.put<{ Params: { id: string } }>('/tracker/tasks/:id', { onRequest: own }, async (request, reply) => {
    const parsed = editSchema.safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    const edits = Object.fromEntries(Object.entries(parsed.data).filter(([, value]) => value !== undefined));
    if (!held().edit(request.params.id, edits)) return reply.code(404).send({ message: 'There is no such task.' });
    return reply.code(204).send();
  });

  server.put('/tracker/begin', { onRequest: own }, async (_request, reply) => {
    held().begin();
    faults.set(null);
    return reply.code(204).send();
  });

  void server.register(async (forms) => {
    addForms(forms, 10_000);
    addTrackerPage(forms, {
      board: held,
      address,
      setFault: (kind) => faults.set(kind),
      faults: trackerFaults,
    });
  });
}
