import helmet from '@fastify/helmet';
import files from '@fastify/static';
import Fastify, { type FastifyInstance } from 'fastify';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { addActivity } from './activity';
import { addBackups, Backups, TRAILS } from './backups';
import { addBookkeeping } from './bookkeeping';
import { ownPage } from './door';
import { addFeeds } from './feeds';
import { addInbox, startInbox } from './inbox';
import { addPages } from './pages';
import { addPay } from './pay';
import { addPost } from './post';
import { addTracker } from './tracker';

export interface ServerOptions {
  /** Folder of the built application. */
  root: string;
  port: number;
  /** Where backups, the pairing key and activity that was not collected yet are kept. */
  data: string;
  /** What the application's page must know. */
  secret: string;
  /** Where a relay is that pages may ask besides those on this machine; "https://relay.saltmere-lighting.example". */
  relay?: string | undefined;
  /** The clock of what is simulated; the machine's where not given. */
  now?: () => number;
  /** How long a mail server is waited for, in milliseconds. */
  patience?: number;
}

export const HOST = '127.0.0.1';

/** Longer than a large backup takes on this machine, and not for ever. */
const SLOWEST_REQUEST = 120_000;

/**
 * The server: the built application, with headers that let it run nothing but itself. Of the person's data it keeps the backups that the
 * page hands it, and activity until it is collected.
 */
export async function makeServer({
  root,
  port,
  data,
  secret,
  relay,
  now,
  patience,
}: ServerOptions): Promise<FastifyInstance> {
  if (!existsSync(join(root, 'index.html')))
    throw new Error('The application has not been built yet. Run npm start, which builds it.');
  const server = Fastify({ bodyLimit: 1 << 20, logger: false, requestTimeout: SLOWEST_REQUEST });

  // Browser data is bound to its address, so there is only one.
  server.addHook('onRequest', async (request, reply) => {
    // A whole address in the first line is for a proxy, which this is not.
    if (!request.raw.url?.startsWith('/')) {
      return reply.code(400).send({ message: `Ask for a path at http://${HOST}:${port}.` });
    }
    const host = request.headers.host ?? '';
    if (host === `${HOST}:${port}`) return;
    if (/^localhost(:\d+)?$/.test(host)) return reply.redirect(`http://${HOST}:${port}${request.url}`, 308);
    return reply.code(421).send({ message: `This server answers at http://${HOST}:${port} only.` });
  });

  await server.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Primitives place popovers with inline styles.
        styleSrc: ["'self'", "'unsafe-inline'"],
        fontSrc: ["'self'", 'data:'],
        imgSrc: ["'self'", 'data:', 'blob:'],
        // A relay on this machine may be asked, and the one that it was started with.
        connectSrc: ["'self'", 'data:', 'blob:', 'http://127.0.0.1:*', 'http://localhost:*', ...(relay ? [relay] : [])],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        frameSrc: ["'self'", 'blob:'],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    // Everything is on the loopback address, without TLS.
    strictTransportSecurity: false,
    crossOriginEmbedderPolicy: false,
    referrerPolicy: { policy: 'no-referrer' },
  });

  await server.register(files, {
    root,
    cacheControl: false,
    setHeaders(reply, path) {
      // Names of built assets change with their content; everything else is asked for again.
      const lasting = /\/assets\//.test(path);
      reply.header('cache-control', lasting ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  const own = ownPage(secret, `http://${HOST}:${port}`);
  addBookkeeping(server, own, now);
  addActivity(server, data, own);
  addFeeds(server, join(data, 'calendars'), own, now);
  const clock = now ? { now } : {};
  const letters = join(data, 'inbox');
  // Nothing listens for letters before somebody wants the simulated post.
  let inbox: ReturnType<typeof startInbox> | undefined;
  server.addHook('onClose', async () => (await inbox)?.close());
  addInbox(server, letters);
  addPost(server, own, {
    folder: join(data, 'post'),
    inbox: () => (inbox ??= startInbox(letters)),
    ...clock,
    ...(patience !== undefined && { patience }),
  });
  const address = `http://${HOST}:${port}`;
  addPages(server, own, { folder: join(data, 'pages'), address, ...clock });
  addTracker(server, own, { folder: join(data, 'tracker'), address });
  addPay(server, own, { folder: join(data, 'pay'), address, ...clock });
  addBackups(
    server,
    own,
    new Backups(join(data, 'backups'), clock),
    new Backups(join(data, 'trail-backups'), { ...clock, kind: TRAILS }),
  );
  server.setNotFoundHandler((request, reply) => {
    const wantsPage = request.method === 'GET' && request.headers.accept?.includes('text/html');
    if (!wantsPage) return reply.code(404).send({ message: `There is nothing at ${request.url}.` });
    return reply.header('cache-control', 'no-cache').sendFile('index.html');
  });
  return server;
}
