import type { FastifyInstance } from 'fastify';
import { simpleParser } from 'mailparser';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { escaped, plainPage } from './forms';

// A stand-in for the post: an SMTP server on this machine alone, and the box that everything it takes lands in. Nothing leaves the machine. Who a
// letter goes to decides what becomes of it, so that every fault can be tried: bounce@, full@, slow@.

/** What has to be said to it; it is no secret. */
export const INBOX_USER = 'studio';
export const INBOX_PASSWORD = 'lantern';

const LARGEST = 30 << 20;
const MOST_KEPT = 200;

/** The faults that the simulated post has, by whom a letter is for. */
const faults: readonly { for: RegExp; code: number; says: string }[] = [
  { for: /^bounce@/i, code: 550, says: '5.1.1 There is no such mailbox here' },
  { for: /^full@/i, code: 552, says: '5.2.2 The mailbox is full' },
  { for: /^later@/i, code: 451, says: '4.7.1 Try again later' },
];

/** The simulated post, and where it listens. */
export interface Inbox {
  port: number;
  close: () => Promise<void>;
}

/**
 * Starts the simulated post on a free port.
 *
 * @param folder where letters are kept; the oldest go when there are many
 */
export async function startInbox(folder: string): Promise<Inbox> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  let count = Math.max(0, ...lettersIn(folder).map((name) => parseInt(name, 10)));
  const smtp = new SMTPServer({
    authOptional: false,
    // On the loopback address there is nobody to listen in between.
    allowInsecureAuth: true,
    disabledCommands: ['STARTTLS'],
    size: LARGEST,
    onAuth({ username, password }, _session, done) {
      if (username === INBOX_USER && password === INBOX_PASSWORD) done(null, { user: username });
      else done(refusal(535, '5.7.8 User name or password are wrong'));
    },
    onRcptTo({ address }, _session, done) {
      if (/^slow@/i.test(address)) return;
      const fault = faults.find((each) => each.for.test(address));
      done(fault ? refusal(fault.code, fault.says) : null);
    },
    onData(stream, _session, done) {
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => {
        if (stream.sizeExceeded) return done(refusal(552, '5.3.4 The letter is too large'));
        count++;
        writeFileSync(join(folder, `${String(count).padStart(6, '0')}.eml`), Buffer.concat(pieces), { mode: 0o600 });
        for (const old of lettersIn(folder).slice(0, -MOST_KEPT)) rmSync(join(folder, old));
        done(null);
      });
    },
  });
  // A connection that breaks off is the affair of who opened it.
  smtp.on('error', () => undefined);
  await new Promise<void>((resolve) => smtp.listen(0, '127.0.0.1', resolve));
  const { port } = smtp.server.address() as { port: number };
  return { port, close: () => new Promise((resolve) => smtp.close(() => resolve())) };
}

const refusal = (responseCode: number, message: string) => Object.assign(new Error(message), { responseCode });

const lettersIn = (folder: string): string[] =>
  (existsSync(folder) ? readdirSync(folder) : []).filter((name) => /^\d{6}\.eml$/.test(name)).sort();

/** What arrived, as pages for whoever is at this machine. */
export function addInbox(server: FastifyInstance, folder: string): void {
  server.get('/inbox', async (_request, reply) => {
    const rows: string[] = [];
    for (const name of lettersIn(folder).reverse()) {
      const letter = await simpleParser(readFileSync(join(folder, name)));
      const to = [letter.to ?? []].flat().map((each) => each.text);
      const number = parseInt(name, 10);
      rows.push(
        `<li><a href="/inbox/${number}">${escaped(letter.subject ?? '(no subject)')}</a><br><small>to ${escaped(to.join(', '))}, ${letter.attachments.length} attached</small></li>`,
      );
    }
    const body = rows.length > 0 ? `<ol>${rows.join('')}</ol>` : '<p>Nothing arrived yet.</p>';
    return reply.type('text/html; charset=utf-8').send(plainPage('What arrived', `<h1>What arrived</h1>${body}`));
  });

  server.get<{ Params: { number: string } }>('/inbox/:number', async (request, reply) => {
    const name = nameOf(folder, request.params.number);
    if (!name) return reply.code(404).send({ message: 'There is no such letter.' });
    const letter = await simpleParser(readFileSync(join(folder, name)));
    const to = [letter.to ?? []].flat().map((each) => each.text);
    const attached = letter.attachments
      .map(
        ({ filename, size }, index) =>
          `<li><a href="/inbox/${parseInt(name, 10)}/attached/${index}">${escaped(filename ?? 'a file')}</a> <small>${size} bytes</small></li>`,
      )
      .join('');
    const subject = letter.subject ?? '(no subject)';
    return reply
      .type('text/html; charset=utf-8')
      .send(
        plainPage(
          subject,
          `<p><a href="/inbox">What arrived</a></p><h1>${escaped(subject)}</h1><dl>From ${escaped(letter.from?.text ?? '')}<br>To ${escaped(to.join(', '))}</dl><pre>${escaped(letter.text ?? '')}</pre><ol>${attached}</ol>`,
        ),
      );
  });

  server.get<{ Params: { number: string; index: string } }>(
    '/inbox/:number/attached/:index',
    async (request, reply) => {
      const name = nameOf(folder, request.params.number);
      const letter = name && (await simpleParser(readFileSync(join(folder, name))));
      const file = letter && letter.attachments[Number(request.params.index)];
      if (!file) return reply.code(404).send({ message: 'There is no such file.' });
      // Never shown on this address, whose pages know the person's data: only saved.
      return reply
        .header('content-disposition', `attachment; filename="${(file.filename ?? 'file').replace(/[^\w.-]+/g, '-')}"`)
        .type('application/octet-stream')
        .send(file.content);
    },
  );
}

const nameOf = (folder: string, number: string): string | undefined =>
  /^\d{1,6}$/.test(number) ? lettersIn(folder).find((each) => parseInt(each, 10) === Number(number)) : undefined;
