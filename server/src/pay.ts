import type { FastifyInstance, FastifyRequest } from 'fastify';
import { createHmac, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { isSame, keptIn, type ownPage } from './door';
import { writeSafely } from './files';
import { addForms } from './forms';
import { addSimulatedService, type Link } from './pay-service';
import { Told } from './told';

// Paying online. A payment service tells of each payment by a signed message; it may tell more than once, and in any order. What is told
// rightly is kept until the application asks. The service that ships is simulated: nothing leaves the machine, no money moves.

const MOST_TOLD = 5_000;
const MOST_REFUSED = 50;
/** A message that is older may have been sent again by somebody who listened. */
const FRESH = 5 * 60_000;

export const eventSchema = z.strictObject({
  id: z.uuid(),
  kind: z.enum(['paid', 'refunded', 'charged back']),
  at: z.int(),
  payment: z.strictObject({
    id: z.uuid(),
    /** What was asked for: the invoice. */
    reference: z.uuid(),
    /** Whose it is: a person may have several workspaces, and several demos with the same invoices. */
    workspace: z.string().max(100),
    number: z.string().max(100),
    payer: z.string().max(200),
    amount: z.int().min(1),
    /** What the service keeps of it. */
    fee: z.int().min(0),
    currency: z.string().regex(/^[A-Z]{3}$/),
  }),
});
export type PayEvent = z.output<typeof eventSchema>;

const refusedSchema = z.strictObject({ at: z.int(), why: z.string() });

const linkSchema = z.strictObject({
  workspace: z.string().min(1).max(100),
  number: z.string().min(1).max(100),
  payee: z.string().min(1).max(200),
  payer: z.string().max(200),
  amount: z.int().min(1),
  currency: z.string().regex(/^[A-Z]{3}$/),
});
const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** What a message is signed with: its time and its text, in hexadecimal (HMAC-SHA-256). */
export const signatureOf = (secret: string, time: number, body: string): string =>
  createHmac('sha256', secret).update(`${time}\n${body}`).digest('hex');

/** Adds payments online to a server. */
export function addPay(
  server: FastifyInstance,
  own: ReturnType<typeof ownPage>,
  { folder, address, now = Date.now }: { folder: string; address: string; now?: () => number },
): void {
  mkdirSync(join(folder, 'links'), { recursive: true, mode: 0o700 });
  const secret = keptIn(join(folder, 'secret'), {
    pattern: /^[0-9a-f]{64}$/,
    make: () => randomBytes(32).toString('hex'),
    damaged: 'The secret of payments could not be read and was put aside.',
  });
  const told = new Told(join(folder, 'told.json'), eventSchema, MOST_TOLD);
  const refused = new Told(join(folder, 'refused.json'), refusedSchema, MOST_REFUSED);
  const inUse = join(folder, 'simulated');
  const linkFile = (id: string) => join(folder, 'links', `${id}.json`);
  const linkOf = (id: string): Link | null =>
    uuid.test(id) && existsSync(linkFile(id))
      ? { id, ...linkSchema.parse(JSON.parse(readFileSync(linkFile(id), 'utf8'))) }
      : null;

  const standing = () => ({ simulated: existsSync(inUse), told: told.all(), refused: refused.all() });
  server.get('/pay/told', { onRequest: own }, async () => standing());

  server.put('/pay/settings', { onRequest: own }, async (request, reply) => {
    const parsed = z.strictObject({ simulated: z.boolean() }).safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: 'Say whether payments are simulated.' });
    if (parsed.data.simulated) writeSafely(inUse, '');
    else rmSync(inUse, { force: true });
    return standing();
  });

  server.put<{ Params: { id: string } }>('/pay/links/:id', { onRequest: own }, async (request, reply) => {
    const parsed = linkSchema.safeParse(request.body);
    if (!parsed.success || !uuid.test(request.params.id))
      return reply.code(400).send({ message: 'Say what is to be paid, and to whom.' });
    if (!existsSync(inUse)) return reply.code(409).send({ message: 'No payment service is set up.' });
    writeSafely(linkFile(request.params.id), JSON.stringify(parsed.data));
    return { address: `${address}/pay/${request.params.id}` };
  });

  /** Why a message is not taken; null where it is. */
  const faultOf = ({ headers }: FastifyRequest, body: string): [code: number, why: string] | null => {
    const time = Number(headers['pay-time']);
    const given = headers['pay-signature'];
    if (!isSame(typeof given === 'string' ? given : undefined, signatureOf(secret, time, body)))
      return [401, 'A message of the payment service was not signed rightly.'];
    if (!(Math.abs(now() - time) <= FRESH)) return [401, 'A message of the payment service was too old.'];
    const event = eventOf(body);
    if (!event) return [400, 'A message of the payment service could not be read.'];
    if (!linkOf(event.payment.reference))
      return [404, `A payment of ${event.payment.number} was told of, which nobody here asked for.`];
    return null;
  };

  void server.register(async (hooked) => {
    // The signature is of the text as it came.
    hooked.addContentTypeParser('application/json', { parseAs: 'string' }, (_request, body, done) => done(null, body));
    hooked.post('/pay/hook', async (request, reply) => {
      const body = typeof request.body === 'string' ? request.body : '';
      const fault = faultOf(request, body);
      if (fault) {
        refused.add({ at: now(), why: fault[1] });
        return reply.code(fault[0]).send({ message: fault[1] });
      }
      const event = eventOf(body)!;
      if (!told.all().some((each) => each.id === event.id)) told.add(event);
      return { taken: event.id };
    });
  });

  void server.register(async (forms) => {
    addForms(forms, 10_000);
    addSimulatedService(forms, {
      file: join(folder, 'payments.json'),
      linkOf,
      own,
      address,
      now,
      deliver: async (event) => {
        const body = JSON.stringify(event);
        const time = now();
        await server.inject({
          method: 'POST',
          url: '/pay/hook',
          headers: {
            host: new URL(address).host,
            'content-type': 'application/json',
            'pay-time': String(time),
            'pay-signature': signatureOf(secret, time, body),
          },
          payload: body,
        });
      },
    });
  });
}

function eventOf(body: string): PayEvent | null {
  try {
    return eventSchema.parse(JSON.parse(body));
  } catch {
    return null;
  }
}
