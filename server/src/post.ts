import type { FastifyInstance } from 'fastify';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import * as z from 'zod';
import type { ownPage } from './door';
import { writeSafely } from './files';
import { INBOX_PASSWORD, INBOX_USER, type Inbox } from './inbox';

// Sends what the page hands it by SMTP. The password stays in this server's folder, for its owner alone: it is told to nobody, and is in no
// export, backup or history. A letter is noted before it is handed over, so that nothing goes twice, whatever breaks in between.

const SLOWEST = 20_000;
const LARGEST = 30 << 20;

const settingsSchema = z.strictObject({
  host: z.string().trim().min(1, 'Say the name of the mail server.').max(253),
  port: z.int().min(1).max(65_535),
  secure: z.enum(['tls', 'starttls', 'none']),
  user: z.string().max(320),
  from: z.email('Say the address that letters come from.'),
  fromName: z.string().max(200),
});
const givenSchema = settingsSchema.extend({ password: z.string().max(1000).optional() });
type Settings = z.output<typeof settingsSchema> & { password: string };

const address = z.email('This is not an e-mail address.');
const letterSchema = z.strictObject({
  id: z.uuid(),
  to: z.array(address).min(1, 'Say who it goes to.').max(20),
  cc: z.array(address).max(20).default([]),
  subject: z.string().min(1, 'A letter has a subject.').max(500),
  text: z.string().max(100_000),
  attached: z
    .array(z.strictObject({ name: z.string().min(1).max(200), type: z.string().max(100), base64: z.base64() }))
    .max(50)
    .default([]),
  /** The person looked and knows that it did not arrive. */
  again: z.boolean().default(false),
});
type Letter = z.output<typeof letterSchema>;

/** What became of a letter, as this server saw it. */
const noteSchema = z.strictObject({
  outcome: z.enum(['handed over', 'sent', 'failed']),
  at: z.int(),
  reason: z.string(),
});
type Note = z.output<typeof noteSchema>;

/** A letter could not be sent: why, and whether it certainly did not go. */
class PostFault extends Error {
  readonly certain: boolean;
  constructor(message: string, certain: boolean) {
    super(message);
    this.certain = certain;
  }
}

interface PostOptions {
  folder: string;
  /** The simulated post, started when it is wanted. */
  inbox: () => Promise<Inbox>;
  now?: () => number;
  /** How long a mail server is waited for, in milliseconds. */
  patience?: number;
}

/** Adds the sending of letters to a server. */
export function addPost(server: FastifyInstance, own: ReturnType<typeof ownPage>, options: PostOptions): void {
  const { folder, inbox, now = Date.now, patience = SLOWEST } = options;
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const settingsFile = join(folder, 'settings.json');
  const noteFile = (id: string) => join(folder, `${id}.json`);

  const settings = (): Settings | null => read(settingsFile, settingsSchema.extend({ password: z.string() }));
  const note = (id: string): Note | null => read(noteFile(id), noteSchema);
  const keep = (id: string, outcome: Note['outcome'], reason = '') =>
    writeSafely(noteFile(id), JSON.stringify({ outcome, at: now(), reason } satisfies Note));

  const told = (kept: Settings | null) => {
    if (!kept) return { settings: null, simulated: false };
    const { password, ...rest } = kept;
    return { settings: { ...rest, hasPassword: password !== '' }, simulated: isSimulated(kept) };
  };

  server.get('/post/settings', { onRequest: own }, async () => told(settings()));

  server.put('/post/settings', { onRequest: own }, async (request, reply) => {
    const parsed = givenSchema.safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    const { password, ...rest } = parsed.data;
    const before = settings();
    // Another server is never handed the password of the one before.
    const same = before?.host === rest.host && before.user === rest.user;
    const kept: Settings = { ...rest, password: password ?? (same ? before.password : '') };
    writeSafely(settingsFile, JSON.stringify(kept));
    return told(kept);
  });

  server.put('/post/simulated', { onRequest: own }, async (request, reply) => {
    const parsed = settingsSchema.pick({ from: true, fromName: true }).safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    const kept: Settings = {
      ...parsed.data,
      host: '127.0.0.1',
      port: (await inbox()).port,
      secure: 'none',
      user: INBOX_USER,
      password: INBOX_PASSWORD,
    };
    writeSafely(settingsFile, JSON.stringify(kept));
    return told(kept);
  });

  server.post('/post/test', { onRequest: own }, async (request, reply) => {
    const parsed = z.strictObject({ to: address }).safeParse(request.body);
    if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
    const kept = settings();
    if (!kept) return reply.code(409).send({ message: 'Say first which mail server is used.' });
    const letter = {
      id: 'test',
      to: [parsed.data.to],
      cc: [],
      subject: 'A test of your mail settings',
      text: 'If you read this, letters can be sent.',
      attached: [],
      again: false,
    };
    return handOver(await current(kept), letter, now(), patience).then(
      () => reply.code(204).send(),
      (thrown: unknown) => reply.code(502).send({ message: (thrown as Error).message }),
    );
  });

  /** The simulated post has another port each time that the server starts. */
  const current = async (kept: Settings): Promise<Settings> =>
    isSimulated(kept) ? { ...kept, port: (await inbox()).port } : kept;

  server.post('/post/letters', { onRequest: own, bodyLimit: LARGEST }, async (request, reply) => {
    const parsed = letterSchema.safeParse(request.body);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return reply.code(400).send({ message: issue!.message, path: issue!.path.join('/') });
    }
    const letter = parsed.data;
    const before = note(letter.id);
    if (before?.outcome === 'sent') return { outcome: 'sent', at: before.at, before: true, reason: before.reason };
    if (before?.outcome === 'handed over' && !letter.again) {
      return reply.code(409).send({
        message:
          'It was handed to the mail server before, and no answer came: it may have arrived. Ask, or look into the mailbox, before it goes again.',
        outcome: 'unsure',
      });
    }
    const kept = settings();
    if (!kept)
      return reply
        .code(409)
        .send({ message: 'Say first which mail server is used, in Setup → Post.', outcome: 'failed' });
    keep(letter.id, 'handed over');
    try {
      const reason = await handOver(await current(kept), letter, now(), patience);
      keep(letter.id, 'sent', reason);
      return { outcome: 'sent', at: now(), before: false, reason };
    } catch (thrown) {
      const fault = thrown as PostFault;
      if (fault.certain) keep(letter.id, 'failed', fault.message);
      return reply.code(502).send({ message: fault.message, outcome: fault.certain ? 'failed' : 'unsure' });
    }
  });

  server.get<{ Params: { id: string } }>('/post/letters/:id', { onRequest: own }, async (request, reply) => {
    if (!z.uuid().safeParse(request.params.id).success) return reply.code(400).send({ message: 'This is no letter.' });
    const found = note(request.params.id);
    return found ?? reply.code(404).send({ message: 'This letter was never handed over.' });
  });
}

function read<T>(file: string, schema: z.ZodType<T>): T | null {
  if (!existsSync(file)) return null;
  try {
    return schema.parse(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return null;
  }
}

const isSimulated = ({ host, user, password }: Settings): boolean =>
  host === '127.0.0.1' && user === INBOX_USER && password === INBOX_PASSWORD;

/**
 * @returns who of several it did not arrive at; empty where it arrived at all of them
 * @throws PostFault
 */
async function handOver(settings: Settings, letter: Letter, at: number, patience: number): Promise<string> {
  const { host, port, secure, user, password, from, fromName } = settings;
  const watch = new Watch();
  const transport = createTransport({
    host,
    port,
    secure: secure === 'tls',
    requireTLS: secure === 'starttls',
    ignoreTLS: secure === 'none',
    ...(user !== '' && { auth: { user, pass: password } }),
    connectionTimeout: patience,
    greetingTimeout: patience,
    socketTimeout: patience,
    logger: watch,
    debug: true,
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  try {
    const info = await transport.sendMail({
      from: { name: fromName, address: from },
      to: letter.to,
      cc: letter.cc,
      subject: letter.subject,
      text: letter.text,
      date: new Date(at),
      // The same again where it should go twice in spite of everything: mailboxes know it by this.
      messageId: `<${letter.id}@${from.split('@')[1]}>`,
      attachments: letter.attached.map(({ name, type, base64 }) => ({
        filename: name,
        contentType: type,
        content: Buffer.from(base64, 'base64'),
      })),
    });
    const refused = info.rejected.map(String);
    return refused.length > 0 ? `It did not arrive at ${refused.join(', ')}, whose mailbox refused it.` : '';
  } catch (thrown) {
    throw faultOf(thrown as SmtpError, settings, watch.handedOver);
  } finally {
    transport.close();
  }
}

/** Listens to what is said, for one thing: once the server asked for the letter (354), silence does not say that it did not go. */
class Watch {
  handedOver = false;
  readonly #hear = (_about: unknown, said?: unknown) => {
    if (typeof said === 'string' && /^354/.test(said)) this.handedOver = true;
  };
  trace = this.#hear;
  debug = this.#hear;
  info = this.#hear;
  warn = this.#hear;
  error = this.#hear;
  fatal = this.#hear;
  level = () => undefined;
}

interface SmtpError extends Error {
  code?: string;
  responseCode?: number;
  response?: string;
  rejected?: string[];
}

/** What an SMTP server or the network said, in words; replies by RFC 5321 and RFC 3463. */
function faultOf(thrown: SmtpError, { host, port, user }: Settings, uncertain: boolean): PostFault {
  const { code = '', responseCode = 0, rejected = [], message } = thrown;
  const said = (thrown.response ?? message).replace(/\s+/g, ' ').slice(0, 200);
  const who = rejected.length > 0 ? rejected.join(', ') : 'the mailbox';
  if (code === 'EAUTH' || responseCode === 535)
    return new PostFault(`${host} does not accept the user name ${user} with this password.`, true);
  if (/5\.2\.2|full|quota/i.test(said) && responseCode >= 400)
    return new PostFault(`The mailbox of ${who} is full: “${said}”.`, true);
  if (responseCode === 550 || responseCode === 551 || responseCode === 553)
    return new PostFault(`There is no mailbox ${who}: “${said}”.`, true);
  if (responseCode >= 400 && responseCode < 500)
    return new PostFault(`${host} takes it later, not now: “${said}”. Send it again in a while.`, true);
  if (responseCode >= 500) return new PostFault(`${host} refused it: “${said}”.`, true);
  if (code === 'EDNS' || code === 'ENOTFOUND')
    return new PostFault(`There is no mail server by the name ${host}.`, true);
  if (code === 'ETIMEDOUT' || code === 'ECONNECTION' || code === 'ESOCKET' || code === 'ECONNREFUSED')
    return new PostFault(
      uncertain
        ? `${host} did not answer after the letter was handed over: it may have arrived.`
        : `${host} does not answer at port ${port}.`,
      !uncertain,
    );
  if (code === 'ETLS') return new PostFault(`No safe connection to ${host} could be made: “${said}”.`, true);
  return new PostFault(`It could not be sent: “${said}”.`, !uncertain);
}
