import { batchSchema, deviceSchema } from '@half-penny/core/capture';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { Spool, SpoolFull } from './spool';

/** A batch of 2,000 with long titles; longer ones are sent in parts. */
const LARGEST = 8 << 20;
const SLOWEST = 5000;
const MOST_ADDRESSES = 1000;

const collectedSchema = z.strictObject({ device: deviceSchema, upTo: z.int().min(0) });

/**
 * Adds the taking in of captured activity. The agent sends batches with the pairing key, and they wait on disk until the application
 * collects them; what it has collected is gone from here.
 */
export function addActivity(server: FastifyInstance, folder: string, options: { mostBytes?: number } = {}): void {
  const spool = new Spool(join(folder, 'spool'), options);
  let key = readKey(folder);
  /** Wrong keys lately, by where they came from. */
  const wrong = new Map<string, number>();

  // The key is looked at before anything of a body is read.
  const paired = async ({ ip, headers }: FastifyRequest, reply: FastifyReply) => {
    if (isKey(headers.authorization, key)) return void wrong.delete(ip);
    const count = (wrong.get(ip) ?? 0) + 1;
    if (wrong.size >= MOST_ADDRESSES) wrong.clear();
    wrong.set(ip, count);
    // Guessing is slow, and seen.
    console.warn(`A wrong pairing key was sent to /activity (${count} so far).`);
    await new Promise((resolve) => setTimeout(resolve, Math.min(SLOWEST, 250 * 2 ** Math.min(count, 6))));
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

  // What follows is for the application alone: another site's page can neither send this head nor read the answer.
  const own = async (request: { headers: Record<string, unknown> }) => {
    if (request.headers['x-half-penny'] !== 'application') {
      throw Object.assign(new Error('Only the application may ask for this.'), { statusCode: 403 });
    }
  };
  server.get('/activity/waiting', { onRequest: own }, async () => ({ waiting: spool.waiting() }));
  server.post('/activity/collected', { onRequest: own }, async (request, reply) => {
    const parsed = collectedSchema.safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    spool.collected(parsed.data.device, parsed.data.upTo);
    return reply.code(204).send();
  });
  server.get('/activity/key', { onRequest: own }, async () => ({ key }));
  server.post('/activity/key', { onRequest: own }, async () => ({ key: (key = makeKey(folder)) }));
}

/** 24 random bytes in base64url. */
const KEY = /^[\w-]{32}$/;

function readKey(folder: string): string {
  const path = join(folder, 'pairing-key');
  if (!existsSync(path)) return makeKey(folder);
  const key = readFileSync(path, 'utf8').trim();
  if (KEY.test(key)) return key;
  renameSync(path, `${path}.damaged`);
  console.warn(
    'The pairing key cannot be read and was put aside. Show the new one in Sift → Sources and give it to the agent.',
  );
  return makeKey(folder);
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
