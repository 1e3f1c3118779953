import { batchSchema } from '@half-penny/core/capture';
import type { FastifyInstance } from 'fastify';
import { randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { Spool } from './spool';

/** A batch of 2,000 with long titles; longer ones are sent in parts. */
const LARGEST = 8 << 20;
const SLOWEST = 5000;

const collectedSchema = z.strictObject({ device: z.string().max(64), upTo: z.int().min(0) });

/**
 * Adds the taking in of captured activity. The agent sends batches with the pairing key, and they wait on disk until the application
 * collects them; what it has collected is gone from here.
 */
export function addActivity(server: FastifyInstance, folder: string): void {
  const spool = new Spool(join(folder, 'spool'));
  let key = readKey(folder);
  let wrong = 0;

  server.post('/activity', { bodyLimit: LARGEST }, async (request, reply) => {
    if (!isKey(request.headers.authorization, key)) {
      wrong++;
      // Guessing is slow, and seen.
      console.warn(`A wrong pairing key was sent to /activity (${wrong} so far).`);
      await new Promise((resolve) => setTimeout(resolve, Math.min(SLOWEST, 250 * 2 ** Math.min(wrong, 6))));
      return reply.code(401).send({ message: 'The pairing key is wrong. Sift → Sources shows the right one.' });
    }
    wrong = 0;
    const parsed = batchSchema.safeParse(request.body);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return reply.code(400).send({ message: issue!.message, path: issue!.path.join('/') });
    }
    return { upTo: spool.take(parsed.data) };
  });

  // What follows is for the application alone: another site's page can neither send this head nor read the answer.
  const own = async (request: { headers: Record<string, unknown> }) => {
    if (request.headers['x-half-penny'] !== 'application') {
      throw Object.assign(new Error('Only the application may ask for this.'), { statusCode: 403 });
    }
  };
  server.get('/activity/waiting', { preHandler: own }, async () => ({ waiting: spool.waiting() }));
  server.post('/activity/collected', { preHandler: own }, async (request, reply) => {
    const parsed = collectedSchema.safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    spool.collected(parsed.data.device, parsed.data.upTo);
    return reply.code(204).send();
  });
  server.get('/activity/key', { preHandler: own }, async () => ({ key }));
  server.post('/activity/key', { preHandler: own }, async () => ({ key: (key = makeKey(folder)) }));
}

function readKey(folder: string): string {
  const path = join(folder, 'pairing-key');
  return existsSync(path) ? readFileSync(path, 'utf8').trim() : makeKey(folder);
}

function makeKey(folder: string): string {
  const key = randomBytes(24).toString('base64url');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  writeFileSync(join(folder, 'pairing-key'), `${key}\n`, { mode: 0o600 });
  return key;
}

function isKey(header: string | undefined, key: string): boolean {
  const given = Buffer.from(header ?? '');
  const wanted = Buffer.from(`Bearer ${key}`);
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}
