import type { FastifyInstance } from 'fastify';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { ownPage } from './door';
import { writeSafely } from './files';

// Calendars by address: the page may not reach other sites, so the server fetches them for it, within limits.

const MOST_FEEDS = 20;
const LARGEST = 5 << 20;
const SLOWEST = 15_000;
const MOST_REDIRECTS = 3;
const EVERY = 15 * 60_000;

const feedSchema = z.strictObject({
  id: z.uuid(),
  /** It may hold a secret of the calendar's service; it is in no backup and no export. */
  address: z.string(),
  /** Changes with the content. */
  version: z.int().min(0),
  etag: z.string().nullable(),
  /** When it was last asked for, and what went wrong then; null where nothing did. */
  fetched: z.int().nullable(),
  fault: z.string().nullable(),
});
type Feed = z.output<typeof feedSchema>;

const addressSchema = z
  .string()
  .trim()
  .max(2000)
  .transform((text) => text.replace(/^webcal:/i, 'https:'))
  .refine(
    (text) => URL.canParse(text) && isWeb(new URL(text)),
    'A calendar’s address begins with https:// or http://.',
  );

const isWeb = ({ protocol }: URL): boolean => protocol === 'https:' || protocol === 'http:';

/** What may go wrong in fetching, in words. */
class FetchFault extends Error {}

export interface FeedsOptions {
  now?: () => number;
}

/** Calendars that are fetched on a schedule, kept in a folder for its owner alone. */
export class Feeds {
  readonly #folder: string;
  readonly #now: () => number;
  #feeds: Feed[];
  #work: Promise<void> = Promise.resolve();

  constructor(folder: string, { now = Date.now }: FeedsOptions = {}) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.#folder = folder;
    this.#now = now;
    this.#feeds = this.#read();
  }

  list(): Feed[] {
    return this.#feeds;
  }

  text(id: string): string | null {
    const path = this.#path(id);
    return this.#feeds.some((each) => each.id === id) && existsSync(path) ? readFileSync(path, 'utf8') : null;
  }

  /** @throws Error in words where there are too many, or it is there already */
  add(address: string): Feed {
    if (this.#feeds.some((each) => each.address === address)) throw new Error('This calendar is followed already.');
    if (this.#feeds.length >= MOST_FEEDS) throw new Error(`At most ${MOST_FEEDS} calendars are followed.`);
    const feed: Feed = { id: randomUUID(), address, version: 0, etag: null, fetched: null, fault: null };
    this.#keep([...this.#feeds, feed]);
    return feed;
  }

  forget(id: string): void {
    if (!this.#feeds.some((each) => each.id === id)) return;
    this.#keep(this.#feeds.filter((each) => each.id !== id));
    rmSync(this.#path(id), { force: true });
  }

  /** Asks for all of them, one after another. */
  fetchAll(): Promise<void> {
    this.#work = this.#work.then(async () => {
      for (const feed of [...this.#feeds]) await this.#fetch(feed);
    });
    return this.#work;
  }

  async #fetch(feed: Feed): Promise<void> {
    let change: Partial<Feed>;
    try {
      const got = await fetched(feed.address, feed.etag);
      if (got === 'the same') change = { fault: null };
      else {
        const isSame = got.text === this.text(feed.id);
        if (!isSame) writeSafely(this.#path(feed.id), got.text);
        change = { etag: got.etag, fault: null, version: feed.version + (isSame ? 0 : 1) };
      }
    } catch (thrown) {
      change = { fault: thrown instanceof FetchFault ? thrown.message : 'Nobody answers there; it is tried again.' };
    }
    // It may have been forgotten meanwhile.
    this.#keep(this.#feeds.map((each) => (each.id === feed.id ? { ...each, ...change, fetched: this.#now() } : each)));
    if (!this.#feeds.some((each) => each.id === feed.id)) rmSync(this.#path(feed.id), { force: true });
  }

  #read(): Feed[] {
    const path = join(this.#folder, 'feeds.json');
    if (!existsSync(path)) return [];
    try {
      return z.array(feedSchema).parse(JSON.parse(readFileSync(path, 'utf8')));
    } catch {
      renameSync(path, `${path}.damaged`);
      console.warn('feeds.json cannot be read and was put aside; add the calendars again in Sift → Sources.');
      return [];
    }
  }

  #keep(feeds: Feed[]): void {
    this.#feeds = feeds;
    writeSafely(join(this.#folder, 'feeds.json'), JSON.stringify(feeds));
  }

  #path(id: string): string {
    return join(this.#folder, `${z.uuid().parse(id)}.ics`);
  }
}

/**
 * Fetches a calendar: within fifteen seconds, at most 5 MB, over at most three redirects, and only by http and https.
 *
 * @throws FetchFault in words
 */
async function fetched(
  address: string,
  etag: string | null,
): Promise<'the same' | { text: string; etag: string | null }> {
  const signal = AbortSignal.timeout(SLOWEST);
  let url = new URL(address);
  for (let redirects = 0; ; redirects++) {
    const response = await fetch(url, {
      redirect: 'manual',
      signal,
      headers: { accept: 'text/calendar', ...(etag ? { 'if-none-match': etag } : {}) },
    }).catch((thrown: unknown) => {
      throw signal.aborted ? new FetchFault('It took longer than 15 seconds.') : thrown;
    });
    if (response.status === 304) return 'the same';
    const to = response.headers.get('location');
    if (response.status >= 300 && response.status < 400 && to) {
      await response.body?.cancel();
      if (redirects >= MOST_REDIRECTS) throw new FetchFault('It leads on more than three times.');
      url = new URL(to, url);
      if (!isWeb(url)) throw new FetchFault('It leads to something that is no page.');
      continue;
    }
    if (!response.ok) {
      await response.body?.cancel();
      throw new FetchFault(`It answers with ${response.status}.`);
    }
    const text = await readUpTo(response, signal);
    if (!/^\s*BEGIN:VCALENDAR/i.test(text.replace(/^\ufeff/, ''))) throw new FetchFault('There is no calendar there.');
    return { text, etag: response.headers.get('etag') };
  }
}

async function readUpTo(response: Response, signal: AbortSignal): Promise<string> {
  const parts: Uint8Array[] = [];
  let length = 0;
  try {
    for await (const part of response.body ?? []) {
      length += part.length;
      if (length > LARGEST) throw new FetchFault('It is larger than 5 MB.');
      parts.push(part);
    }
  } catch (thrown) {
    throw signal.aborted ? new FetchFault('It took longer than 15 seconds.') : thrown;
  }
  return Buffer.concat(parts).toString('utf8');
}

/** Adds following calendars to a server, for its own page; and one that is made up, to try it with. */
export function addFeeds(
  server: FastifyInstance,
  folder: string,
  own: ReturnType<typeof ownPage>,
  now: () => number = Date.now,
): void {
  const feeds = new Feeds(folder, { now });
  const timer = setInterval(() => void feeds.fetchAll(), EVERY);
  timer.unref();
  server.addHook('onClose', () => clearInterval(timer));

  server.get('/calendars', { onRequest: own }, async () => ({ calendars: feeds.list() }));
  server.post('/calendars', { onRequest: own }, async (request, reply) => {
    const parsed = z.strictObject({ address: addressSchema }).safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    try {
      feeds.add(parsed.data.address);
    } catch (thrown) {
      return reply.code(400).send({ message: (thrown as Error).message });
    }
    await feeds.fetchAll();
    return { calendars: feeds.list() };
  });
  server.post('/calendars/fetch', { onRequest: own }, async () => {
    await feeds.fetchAll();
    return { calendars: feeds.list() };
  });
  server.post('/calendars/forget', { onRequest: own }, async (request, reply) => {
    const parsed = z.strictObject({ id: z.uuid() }).safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    feeds.forget(parsed.data.id);
    return { calendars: feeds.list() };
  });
  server.get<{ Params: { id: string } }>('/calendars/:id', { onRequest: own }, async (request, reply) => {
    const { id } = request.params;
    const text = z.uuid().safeParse(id).success ? feeds.text(id) : null;
    if (text === null) return reply.code(404).send({ message: 'This calendar is not followed.' });
    return reply.type('text/calendar').send(text);
  });

  server.get('/simulated/calendar.ics', async (request, reply) => {
    const text = madeUpCalendar(now());
    const etag = `"${Buffer.from(text).length}-${Math.floor(now() / HOUR)}"`;
    reply.header('etag', etag).header('cache-control', 'no-cache');
    if (request.headers['if-none-match'] === etag) return reply.code(304).send();
    return reply.type('text/calendar').send(text);
  });
}

const HOUR = 3_600_000;

/** A made-up day of the studio's calendar: every hour one meeting moves by a quarter of an hour, and another is called off or is not. */
function madeUpCalendar(now: number): string {
  const day = new Date(now).toISOString().slice(0, 10).replaceAll('-', '');
  const hour = Math.floor(now / HOUR);
  const event = (uid: string, from: string, to: string, summary: string, more: string[] = []) => [
    'BEGIN:VEVENT',
    `UID:${uid}-${day}@saltmere-lighting.example`,
    `DTSTAMP:${day}T000000Z`,
    `SEQUENCE:${hour % 1000}`,
    `DTSTART:${day}T${from}00Z`,
    `DTEND:${day}T${to}00Z`,
    `SUMMARY:${summary}`,
    ...more,
    'END:VEVENT',
  ];
  const quarter = String((hour % 3) * 15).padStart(2, '0');
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Half Penny//Made-up calendar//EN',
    ...event('morning', '0830', '0900', 'Morning round\\, studio'),
    ...event('site', `15${quarter}`, '1700', 'Site visit\\, Footbridge'),
    ...event('rig', '1800', '1900', 'Rig check\\, Quayside', hour % 2 === 0 ? ['STATUS:CANCELLED'] : []),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}
