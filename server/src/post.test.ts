import { mkdirSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeServer } from './app';
import { SECRET_HEAD } from './door';

const PORT = 4398;
const SECRET = 'abcdefgh';
const data = mkdtempSync(join(tmpdir(), 'half-penny-post-'));
let server: Awaited<ReturnType<typeof makeServer>>;

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'half-penny-server-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<!doctype html><title>Half Penny</title>');
  server = await makeServer({ root, port: PORT, data, secret: SECRET, patience: 3000 });
});
afterAll(() => server.close());

const host = `127.0.0.1:${PORT}`;
const own = { host, [SECRET_HEAD]: SECRET, 'sec-fetch-site': 'same-origin', origin: `http://${host}` };
const ask = (method: 'GET' | 'PUT' | 'POST', url: string, payload?: object) =>
  server.inject({ method, url, headers: own, ...(payload && { payload }) });
const from = { from: 'accounts@saltmere-lighting.example', fromName: 'Saltmere Lighting' };
let count = 0;
const id = () => `01a1cfaa-35a2-7000-9e89-${String(++count).padStart(12, '0')}`;
const letter = (more: object = {}) => ({
  id: id(),
  to: ['robin@quayside.example'],
  subject: 'Invoice SL-0131',
  text: 'With thanks,\nImogen Vale',
  ...more,
});
const arrived = () => readdirSync(join(data, 'inbox')).length;

describe('the post', () => {
  it('is for the person’s own page alone, and asks for settings first', async () => {
    const stranger = await server.inject({
      method: 'POST',
      url: '/post/letters',
      headers: { host },
      payload: letter(),
    });
    expect(stranger.statusCode).toBe(401);
    const response = await ask('POST', '/post/letters', letter());
    expect([response.statusCode, response.json()]).toEqual([409, expect.objectContaining({ outcome: 'failed' })]);
  });

  it('keeps the password to itself, in a file for its owner alone', async () => {
    const settings = { host: 'post.example', port: 465, secure: 'tls', user: 'saltmere', ...from };
    expect((await ask('PUT', '/post/settings', { ...settings, from: 'nobody' })).statusCode).toBe(400);
    const saved = await ask('PUT', '/post/settings', { ...settings, password: 'moonlight' });
    expect(saved.json()).toEqual({ settings: { ...settings, hasPassword: true }, simulated: false });
    expect((await ask('GET', '/post/settings')).body).not.toContain('moonlight');
    const file = join(data, 'post/settings.json');
    expect([statSync(file).mode & 0o777, readFileSync(file, 'utf8')]).toEqual([
      0o600,
      expect.stringContaining('moonlight'),
    ]);
    // It stays where it is not said again, and never goes to another server.
    await ask('PUT', '/post/settings', { ...settings, port: 587 });
    expect(readFileSync(file, 'utf8')).toContain('moonlight');
    await ask('PUT', '/post/settings', { ...settings, host: 'other.example' });
    expect(readFileSync(file, 'utf8')).not.toContain('moonlight');
  });

  it('sends a letter with what is attached, once, whatever is asked', async () => {
    await ask('PUT', '/post/simulated', from);
    const whole = letter({
      cc: ['office@quayside.example'],
      attached: [{ name: 'SL-0131.pdf', type: 'application/pdf', base64: Buffer.from('%PDF').toString('base64') }],
    });
    const before = arrived();
    expect((await ask('POST', '/post/letters', whole)).json()).toMatchObject({ outcome: 'sent', before: false });
    expect((await ask('POST', '/post/letters', whole)).json()).toMatchObject({ outcome: 'sent', before: true });
    expect(arrived()).toBe(before + 1);
    const name = readdirSync(join(data, 'inbox')).sort().at(-1)!;
    const read = await simpleParser(readFileSync(join(data, 'inbox', name)));
    expect(read).toMatchObject({ subject: 'Invoice SL-0131', messageId: `<${whole.id}@saltmere-lighting.example>` });
    expect(read.text!.trim()).toBe(whole.text);
    expect(read.from!.text).toBe('"Saltmere Lighting" <accounts@saltmere-lighting.example>');
    expect(read.attachments.map(({ filename, content }) => [filename, content.toString()])).toEqual([
      ['SL-0131.pdf', '%PDF'],
    ]);
    expect((await server.inject({ url: '/inbox', headers: { host } })).body).toContain('Invoice SL-0131');
    const file = await server.inject({ url: `/inbox/${parseInt(name, 10)}/attached/0`, headers: { host } });
    expect(file.headers['content-disposition']).toBe('attachment; filename="SL-0131.pdf"');
    expect((await server.inject({ url: '/inbox/999999', headers: { host } })).statusCode).toBe(404);
  });

  it.each([
    ['bounce@quayside.example', /There is no mailbox bounce@quayside.example/],
    ['full@quayside.example', /mailbox of full@quayside.example is full/],
    ['later@quayside.example', /takes it later/],
  ])('says why %s did not get it, and sends it again when asked', async (to, reason) => {
    const failing = letter({ to: [to] });
    const response = await ask('POST', '/post/letters', failing);
    expect([response.statusCode, response.json()]).toEqual([
      502,
      { outcome: 'failed', message: expect.stringMatching(reason) },
    ]);
    const again = await ask('POST', '/post/letters', { ...failing, to: ['robin@quayside.example'] });
    expect(again.json()).toMatchObject({ outcome: 'sent', before: false });
  });

  it('says whose mailbox refused it where others took it', async () => {
    const response = await ask(
      'POST',
      '/post/letters',
      letter({ to: ['robin@quayside.example', 'bounce@quayside.example'] }),
    );
    expect(response.json()).toMatchObject({
      outcome: 'sent',
      reason: expect.stringContaining('bounce@quayside.example'),
    });
  });

  it('does not wait for ever, nor send twice what may have arrived', async () => {
    const slow = await ask('POST', '/post/letters', letter({ to: ['slow@quayside.example'] }));
    expect(slow.json()).toEqual({ outcome: 'failed', message: expect.stringContaining('does not answer') });
    // A server that takes the letter and falls silent.
    const silent = createServer((socket) => {
      let body = false;
      socket.on('error', () => undefined);
      socket.write('220 silent.example\r\n');
      socket.on('data', (piece: Buffer) => {
        for (const line of piece.toString().split('\r\n').filter(Boolean)) {
          if (body) return;
          if (/^DATA/i.test(line)) {
            body = true;
            socket.write('354 Go on\r\n');
          } else socket.write('250 Well\r\n');
        }
      });
    });
    await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
    const { port } = silent.address() as { port: number };
    await ask('PUT', '/post/settings', { host: '127.0.0.1', port, secure: 'none', user: '', ...from });
    const lost = letter();
    expect((await ask('POST', '/post/letters', lost)).json()).toMatchObject({ outcome: 'unsure' });
    const second = await ask('POST', '/post/letters', lost);
    expect([second.statusCode, second.json()]).toEqual([409, expect.objectContaining({ outcome: 'unsure' })]);
    await ask('PUT', '/post/simulated', from);
    const before = arrived();
    expect((await ask('POST', '/post/letters', { ...lost, again: true })).json()).toMatchObject({ outcome: 'sent' });
    expect(arrived()).toBe(before + 1);
    silent.close();
  });

  it('tests settings: a wrong password, no server, and a letter that arrives', async () => {
    const test = () => ask('POST', '/post/test', { to: 'imogen@saltmere-lighting.example' });
    await ask('PUT', '/post/simulated', from);
    expect((await test()).statusCode).toBe(204);
    const { settings } = (await ask('GET', '/post/settings')).json<{ settings: { hasPassword: boolean } }>();
    const { hasPassword: _known, ...rest } = settings;
    await ask('PUT', '/post/settings', { ...rest, password: 'wrong' });
    expect((await test()).json<{ message: string }>().message).toMatch(/does not accept the user name studio/);
    await ask('PUT', '/post/settings', { host: '127.0.0.1', port: 9, secure: 'none', user: '', ...from });
    expect((await test()).json<{ message: string }>().message).toMatch(/does not answer at port 9/);
  });

  it('says what is wrong with a letter, and where', async () => {
    const wrong = await ask('POST', '/post/letters', letter({ to: ['robin'] }));
    expect([wrong.statusCode, wrong.json()]).toEqual([
      400,
      { message: 'This is not an e-mail address.', path: 'to/0' },
    ]);
    // A line break in a subject adds no address.
    await ask('PUT', '/post/simulated', from);
    await ask('POST', '/post/letters', letter({ subject: 'Two\r\nBcc: all@quayside.example' }));
    const name = readdirSync(join(data, 'inbox')).sort().at(-1)!;
    const read = await simpleParser(readFileSync(join(data, 'inbox', name)));
    expect([read.subject, read.bcc]).toEqual(['Two Bcc: all@quayside.example', undefined]);
  });
});
