import { batchSchema, deviceSchema, helloSchema, sealedBatchSchema, welcomeSchema } from '@half-penny/core/capture';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import * as z from 'zod';
import { Devices } from './devices';
import { Guesses, isSame, keepIn, keptIn, type ownPage } from './door';
import { Spool, SpoolFull, type SpoolOptions } from './spool';

/** A batch of 2,000 with long titles; longer ones are sent in parts. */
const LARGEST = 8 << 20;

/** What devices may record: five hundred beginnings of each kind, and rules. */
const LARGEST_RECORDING = 4 << 20;

const collectedSchema = z.strictObject({ device: deviceSchema, upTo: z.int().min(0) });

/**
 * Adds the taking in of captured activity. The agent sends batches with the pairing key, and they wait on disk until the application
 * collects them; what it has collected is gone from here.
 */
export function addActivity(
  server: FastifyInstance,
  folder: string,
  own: ReturnType<typeof ownPage>,
  options: SpoolOptions = {},
): void {
  const spool = new Spool(join(folder, 'spool'), options);
  const devices = new Devices(join(folder, 'devices'), options.now);
  const keyFile = join(folder, 'pairing-key');
  let key = keptIn(keyFile, KEY);
  const guesses = new Guesses();

  // The key is looked at before anything of a body is read.
  const paired = async ({ ip, headers }: FastifyRequest, reply: FastifyReply) => {
    if (isSame(headers.authorization, `Bearer ${key}`)) return guesses.right(ip);
    const count = await guesses.wrong(ip);
    console.warn(`A wrong pairing key was sent to /activity (${count} so far).`);
    await reply.code(401).send({ message: 'The pairing key is wrong. Sift → Sources shows the right one.' });
  };
  server.post('/activity', { bodyLimit: LARGEST, onRequest: paired }, async (request, reply) => {
    const isSealed = typeof request.body === 'object' && request.body !== null && 'sealed' in request.body;
    const parsed = (isSealed ? sealedBatchSchema : batchSchema).safeParse(request.body);
    if (!parsed.success) return refuse(reply, parsed.error);
    const batch = parsed.data;
    try {
      return { upTo: spool.take('sealed' in batch ? { ...batch, activities: batch.sealed } : batch) };
    } catch (thrown) {
      if (!(thrown instanceof SpoolFull)) throw thrown;
      return reply.code(thrown.statusCode).send({ message: thrown.message });
    }
  });

  // A device says that it is there, and is told what it may record.
  server.post('/activity/hello', { onRequest: paired }, async (request, reply) => {
    const parsed = helloSchema.safeParse(request.body);
    if (!parsed.success) return refuse(reply, parsed.error);
    devices.hear(parsed.data);
    return { welcome: devices.welcome };
  });
  server.get('/activity/devices', { onRequest: own }, async () => ({ devices: devices.list() }));
  server.post('/activity/devices/forget', { onRequest: own }, async (request, reply) => {
    const parsed = z.strictObject({ device: deviceSchema }).safeParse(request.body);
    if (!parsed.success) return refuse(reply, parsed.error);
    devices.forget(parsed.data.device);
    return reply.code(204).send();
  });
  server.post('/activity/recording', { bodyLimit: LARGEST_RECORDING, onRequest: own }, async (request, reply) => {
    const parsed = welcomeSchema.safeParse(request.body);
    if (!parsed.success) return refuse(reply, parsed.error);
    devices.setWelcome(parsed.data);
    return reply.code(204).send();
  });
  // The trail was wiped: what waits here goes, too.
  server.post('/activity/wiped', { onRequest: own }, async (_, reply) => {
    spool.wipe();
    return reply.code(204).send();
  });

  server.get('/activity/waiting', { onRequest: own }, async () => ({ waiting: spool.waiting() }));
  server.post('/activity/collected', { onRequest: own }, async (request, reply) => {
    const parsed = collectedSchema.safeParse(request.body);
    if (!parsed.success) return refuse(reply, parsed.error);
    spool.collected(parsed.data.device, parsed.data.upTo);
    return reply.code(204).send();
  });
  server.get('/activity/key', { onRequest: own }, async () => ({ key }));
  server.post('/activity/key', { onRequest: own }, async () => ({ key: (key = keepIn(keyFile, KEY.make())) }));
}

/** Says what is wrong with what was sent, and where. */
function refuse(reply: FastifyReply, { issues }: z.ZodError) {
  const [issue] = issues;
  return reply.code(400).send({ message: issue!.message, path: issue!.path.join('/') });
}

/** 24 random bytes in base64url. */
const KEY = {
  pattern: /^[\w-]{32}$/,
  make: () => randomBytes(24).toString('base64url'),
  damaged:
    'The pairing key cannot be read and was put aside. Show the new one in Sift → Sources and give it to the agent.',
};
