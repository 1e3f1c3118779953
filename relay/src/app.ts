import cors from '@fastify/cors';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import { grantSchema, REQUEST_HEADERS, type SignedAs } from '@half-penny/formats/sealed-log';
import Fastify, { LogController, type FastifyInstance, type FastifyRequest } from 'fastify';
import type { DestinationStream } from 'pino';
import * as z from 'zod';
import { Books } from './books';
import { checkSigned, Nonces, saidBy } from './door';
import { RelayFault } from './fault';
import { Mailboxes } from './mailboxes';
import { addMetrics } from './metrics';
import { migrate } from './migrations';
import type { Database } from './sql';
import { Store } from './store';
import { Waiting } from './waiting';

declare module 'fastify' {
  interface FastifyRequest {
    /** Who sent it; checked once its body was read. */
    as: SignedAs | null;
  }
  interface FastifyContextConfig {
    /** It counts its nonce, and asks whether its device may, together with what it does. */
    countsItself?: boolean;
    /** Anybody may ask, signed or not. */
    open?: boolean;
  }
}

const MB = 1_000_000;
/** The most that one request may bring, in bytes. */
const LIMITS = { words: 10_000, rows: 4 * MB, piece: 2 * MB, file: 24 * MB } as const;

export interface RelayOptions {
  /** The most that one book may take up, in bytes. */
  quota?: number;
  /** Requests a minute of one device, or of one address where it names none. */
  requestsAMinute?: number;
  /** So long a request may take to come in whole, in milliseconds. */
  patience?: number;
  /** Epoch milliseconds. */
  now?: () => number;
  /** Where log lines go; none are written without. */
  log?: DestinationStream;
}

const id = z.uuid();
const hex32 = z.string().regex(/^[0-9a-f]{64}$/);
const head = z.strictObject({ number: z.int().min(0), hash: z.string().regex(/^([0-9a-f]{64})?$/) });
const logRow = z.strictObject({
  book: id,
  epoch: z.int().min(1),
  number: z.int().min(1),
  previous: z.string().regex(/^([0-9a-f]{64})?$/),
  writer: hex32,
  sealed: z
    .string()
    .min(2)
    .regex(/^([0-9a-f]{2})+$/),
});
const append = z.strictObject({ after: head, rows: z.array(logRow).min(1).max(500) });
const snapshot = z.strictObject({ ...head.shape, epoch: z.int().min(1), pieces: z.int().min(1) });
const epoch = z.strictObject({ epoch: z.int().min(2), at: head, snapshot: id });
const piece = z.coerce.number().int().min(0);
// Each is made once: making one costs more than reading with it.
const where = {
  anything: z.object({ book: id.optional() }),
  book: z.object({ book: id }),
  snapshot: z.object({ book: id, id }),
  piece: z.object({ book: id, id, piece }),
  blob: z.object({ book: id, hash: hex32 }),
  mailbox: z.object({ key: hex32 }),
  letter: z.object({ id }),
};
const since = z.object({ after: z.coerce.number().int().min(0).default(0) });

function read<T extends z.ZodType>(schema: T, value: unknown, what: string): z.output<T> {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const { path, message } = parsed.error.issues[0]!;
  throw new RelayFault('unreadable', `${[what, ...path].join('/')}: ${message}`);
}

function bodyOf<T extends z.ZodType>(schema: T, request: FastifyRequest): z.output<T> {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytesOf(request)));
  } catch {
    throw new RelayFault('unreadable', 'The body is not JSON in UTF-8.');
  }
  return read(schema, value, 'body');
}

const bytesOf = ({ body }: FastifyRequest): Uint8Array => (body instanceof Uint8Array ? body : new Uint8Array());

/**
 * A relay on a database that is there. Several may stand on the same one: none of them holds anything that another needs.
 *
 * @throws Error where the database cannot be brought to the present version
 */
export async function makeRelay(database: Database, options: RelayOptions = {}): Promise<FastifyInstance> {
  const { quota = 2000 * MB, requestsAMinute = 1200, patience = 30_000, now = Date.now, log } = options;
  await migrate(database);
  const relay = Fastify({
    logger: log ? { level: 'info', stream: log, base: null } : false,
    // What is asked holds names of books and files; a line says the kind of request alone.
    logController: new LogController({ disableRequestLogging: true }),
    bodyLimit: LIMITS.words,
    requestTimeout: patience,
    // Node looks after what is late only where the headers have no longer than the whole.
    http: {
      requestTimeout: patience,
      headersTimeout: patience,
      connectionsCheckingInterval: Math.min(patience, 5000),
    },
    return503OnClosing: true,
  });
  relay.decorateRequest('as', null);
  relay.removeAllContentTypeParsers();
  relay.addContentTypeParser('*', { parseAs: 'buffer' }, (_request, body, done) => done(null, body));

  const books = new Books(database, quota);
  const store = new Store(database, books);
  const mailboxes = new Mailboxes(database, quota / 10);
  const nonces = new Nonces(database);
  const waiting = new Waiting(database);
  await waiting.begin();
  const sweeping = setInterval(() => void nonces.sweep().catch(() => undefined), 60_000);
  sweeping.unref();

  await relay.register(helmet, { contentSecurityPolicy: { directives: { defaultSrc: ["'none'"] } } });
  // Any page may ask: what it may is decided by its keys, and it has no cookies to lend.
  await relay.register(cors, {
    origin: '*',
    methods: ['GET', 'POST', 'PUT', 'DELETE'],
    allowedHeaders: ['content-type', ...Object.values(REQUEST_HEADERS)],
  });
  await relay.register(rateLimit, {
    max: requestsAMinute,
    timeWindow: 60_000,
    keyGenerator: (request) => {
      const device = request.headers[REQUEST_HEADERS.device];
      return typeof device === 'string' && /^[0-9a-f]{64}$/.test(device) ? device : request.ip;
    },
    errorResponseBuilder: (_request, { ttl }) =>
      new RelayFault('too many', `Too many requests. Try again in ${Math.ceil(ttl / 1000)} seconds.`),
  });
  const metrics = addMetrics(relay, () => waiting.count);

  relay.addHook('onRequest', async (request) => {
    const { open, countsItself } = request.routeOptions.config;
    if (open || request.is404) return;
    request.as = saidBy(request, now());
    const { book } = read(where.anything, request.params, 'address');
    // Whoever may not write a book does not get as far as sending anything.
    if (book === undefined) return;
    if (countsItself) await books.needLately(book, request.as.device);
    else await books.needWriter(book, request.as.device);
  });
  relay.addHook('preHandler', async (request) => {
    const { as } = request;
    if (!as) return;
    await checkSigned(request, as);
    if (!request.routeOptions.config.countsItself) await nonces.once(as);
  });
  relay.addHook('onResponse', async (request, reply) => {
    request.log.info({
      method: request.method,
      route: request.routeOptions.url ?? 'none',
      status: reply.statusCode,
      ms: Math.round(reply.elapsedTime),
    });
  });
  relay.setErrorHandler((thrown: Error & { statusCode?: number; code?: string }, request, reply) => {
    if (thrown instanceof RelayFault)
      return reply.code(thrown.statusCode).send({ code: thrown.code, message: thrown.message, ...thrown.data });
    const status = thrown.statusCode ?? 500;
    if (status === 413)
      return reply.code(413).send({ code: 'too large', message: 'The request is larger than it may be.' });
    if (status < 500) return reply.code(status).send({ code: 'unreadable', message: thrown.message });
    // PostgreSQL's words may hold values; its code does not.
    request.log.error({ route: request.routeOptions.url, code: thrown.code ?? thrown.name });
    return reply
      .code(503)
      .send({ code: 'not now', message: 'The relay cannot reach what it keeps. Nothing was changed.' });
  });

  relay.get('/health', { config: { open: true, rateLimit: false } }, async () => {
    await database.query('SELECT 1 AS one');
    return { status: 'ok' };
  });

  relay.post('/books', async (request, reply) => {
    await books.found(request.as!, bodyOf(grantSchema, request));
    return reply.code(201).send({});
  });
  const ofBook = (request: FastifyRequest) => read(where.book, request.params, 'address').book;
  relay.get('/books/:book', async (request) => {
    const book = ofBook(request);
    return { ...(await books.standing(book)), snapshot: await store.newest(book) };
  });
  relay.get('/books/:book/writers', async (request) => ({ writers: await books.grants(ofBook(request)) }));
  relay.post('/books/:book/writers', async (request, reply) => {
    const next = bodyOf(grantSchema, request);
    if (next.book !== ofBook(request)) throw new RelayFault('not let in', 'It is of another book.');
    await books.grant(request.as!, next);
    return reply.code(201).send({});
  });

  relay.get('/books/:book/rows', (request) =>
    books.after(ofBook(request), read(since, request.query, 'address').after),
  );
  relay.post('/books/:book/rows', { bodyLimit: LIMITS.rows, config: { countsItself: true } }, async (request) => {
    const book = ofBook(request);
    const { after, rows } = bodyOf(append, request);
    const moved = await books.append(request.as!, book, after, rows);
    metrics.appended.inc(rows.length);
    waiting.tell(book);
    return { head: moved };
  });
  relay.get('/books/:book/wait', (request, reply) => {
    const book = ofBook(request);
    reply.hijack();
    // Headers that hooks have set stand with the reply, which no longer speaks.
    for (const [name, value] of Object.entries(reply.getHeaders())) reply.raw.setHeader(name, value as string);
    reply.raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    waiting.add(book, reply.raw);
  });

  relay.post('/books/:book/snapshots', async (request, reply) => {
    const { pieces, ...at } = bodyOf(snapshot, request);
    return reply.code(201).send({ id: await store.begin(ofBook(request), request.as!.device, at, pieces) });
  });
  const ofPiece = (request: FastifyRequest) => {
    const { book, id: of, piece } = read(where.piece, request.params, 'address');
    return [book, of, piece] as const;
  };
  relay.put('/books/:book/snapshots/:id/pieces/:piece', { bodyLimit: LIMITS.piece }, async (request, reply) => {
    await store.putPiece(...ofPiece(request), bytesOf(request));
    return reply.code(204).send();
  });
  relay.get('/books/:book/snapshots/:id/pieces/:piece', async (request, reply) =>
    reply.type('application/octet-stream').send(Buffer.from(await store.piece(...ofPiece(request)))),
  );
  relay.post('/books/:book/snapshots/:id/finish', async (request, reply) => {
    const { book, id: of } = read(where.snapshot, request.params, 'address');
    await store.finish(book, of);
    return reply.code(204).send();
  });
  relay.post('/books/:book/epochs', async (request, reply) => {
    const book = ofBook(request);
    const wanted = bodyOf(epoch, request);
    await store.beginEpoch(book, wanted.epoch, wanted.at, wanted.snapshot);
    waiting.tell(book);
    return reply.code(204).send();
  });

  const ofBlob = (request: FastifyRequest) => {
    const { book, hash } = read(where.blob, request.params, 'address');
    return [book, hash] as const;
  };
  relay.put('/books/:book/blobs/:hash', { bodyLimit: LIMITS.file }, async (request, reply) => {
    await store.putBlob(...ofBlob(request), bytesOf(request));
    return reply.code(204).send();
  });
  relay.get('/books/:book/blobs/:hash', async (request, reply) =>
    reply.type('application/octet-stream').send(Buffer.from(await store.blob(...ofBlob(request)))),
  );

  relay.post('/mailboxes/:key', { bodyLimit: LIMITS.file }, async (request, reply) => {
    const { key } = read(where.mailbox, request.params, 'address');
    return reply.code(201).send({ id: await mailboxes.put(key, bytesOf(request)) });
  });
  // A mailbox is opened by its key alone: whoever asks is looked up, not what they ask for.
  relay.get('/mailbox', async (request) => ({ letters: await mailboxes.list(request.as!.device) }));
  const ofLetter = (request: FastifyRequest) => read(where.letter, request.params, 'address').id;
  relay.get('/mailbox/:id', async (request, reply) =>
    reply
      .type('application/octet-stream')
      .send(Buffer.from(await mailboxes.read(request.as!.device, ofLetter(request)))),
  );
  relay.delete('/mailbox/:id', async (request, reply) => {
    await mailboxes.remove(request.as!.device, ofLetter(request));
    return reply.code(204).send();
  });

  relay.addHook('preClose', async () => waiting.close());
  relay.addHook('onClose', async () => {
    clearInterval(sweeping);
    await database.close();
  });
  return relay;
}
