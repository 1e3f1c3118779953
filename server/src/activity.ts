import { batchSchema, deviceSchema } from '@half-penny/core/capture';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import * as z from 'zod';
import { Guesses, isSame, keepIn, keptIn, type ownPage } from './door';
import { Spool, SpoolFull, type SpoolOptions } from './spool';

/** A batch of 2,000 with long titles; longer ones are sent in parts. */
const LARGEST = 8 << 20;

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
    const parsed = batchSchema.safeParse(request.body);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return reply.code(400).send({ message: issue!.message, path: issue!.path.join('/') });
    }
    try {
      return { upTo: spool.take(parsed.data) };
    } catch (thrown) {
      if (!(thrown instanceof SpoolFull)) throw thrown;
      return reply.code(thrown.statusCode).send({ message: thrown.message });
    }
  });

  server.get('/activity/waiting', { onRequest: own }, async () => ({ waiting: spool.waiting() }));
  server.post('/activity/collected', { onRequest: own }, async (request, reply) => {
    const parsed = collectedSchema.safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    spool.collected(parsed.data.device, parsed.data.upTo);
    return reply.code(204).send();
  });
  server.get('/activity/key', { onRequest: own }, async () => ({ key }));
  server.post('/activity/key', { onRequest: own }, async () => ({ key: (key = keepIn(keyFile, KEY.make())) }));
}

/** 24 random bytes in base64url. */
const KEY = {
  pattern: /^[\w-]{32}$/,
  make: () => randomBytes(24).toString('base64url'),
  damaged:
    'The pairing key cannot be read and was put aside. Show the new one in Sift → Sources and give it to the agent.',
};
