import { cursorOf, toldUntil } from '@half-penny/demo';
import type { FastifyInstance } from 'fastify';
import * as z from 'zod';
import type { ownPage } from './door';
import { FaultsOnDemand } from './faults-on-demand';

// A stand-in for a bookkeeping service, so that reading one can be tried without having one. docs/costs.md says how it answers.

const MOST_AT_ONCE = 200;
const SLOW = 6000;

const wanted = z.strictObject({
  after: z
    .string()
    .regex(/^(\d{14}-T\d{1,9}-\d{1,3})?$/, 'The cursor is one that this service gave out.')
    .default(''),
  limit: z.coerce.number().int().min(1).max(MOST_AT_ONCE).default(100),
});

export const faultKinds = ['slow', 'error', 'duplicate', 'malformed'] as const;
/** Adds the simulated bookkeeping to a server, by a clock that tests can set; its faults are switched on by the application's page alone. */
export function addBookkeeping(
  server: FastifyInstance,
  own: ReturnType<typeof ownPage>,
  now: () => number = Date.now,
): void {
  const faults = new FaultsOnDemand(server, '/bookkeeping/fault', faultKinds, own);

  server.get('/bookkeeping/transactions', async (request, reply) => {
    const parsed = wanted.safeParse(request.query);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    const { after, limit } = parsed.data;
    const kind = faults.next();
    if (kind === 'error') return reply.code(500).send({ message: 'The bookkeeping has a fault of its own.' });
    if (kind === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW));
    const told = toldUntil(now()).filter((each) => cursorOf(each) > after);
    const page = told.slice(0, limit);
    const transactions: unknown[] = page.map((each) => each.transaction);
    if (kind === 'duplicate') transactions.push(...transactions.slice(0, 3));
    if (kind === 'malformed' && page.length > 0) transactions[0] = { ...page[0]!.transaction, amount: 'n/a' };
    const last = page.at(-1);
    return {
      transactions: kind === 'malformed' && page.length === 0 ? 'none' : transactions,
      cursor: last ? cursorOf(last) : after,
      more: told.length > page.length,
    };
  });
}
