import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, statSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { makeServer } from './app';
import { SECRET_HEAD, secretIn } from './door';

const PORT = 4399;
const SECRET = 'abcdefgh';
const data = mkdtempSync(join(tmpdir(), 'half-penny-data-'));
let server: Awaited<ReturnType<typeof makeServer>>;

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'half-penny-server-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<!doctype html><title>Half Penny</title>');
  writeFileSync(join(root, 'assets/app-1.js'), 'void 0');
  server = await makeServer({ root, port: PORT, data, secret: SECRET });
});

const get = (url: string, host = `127.0.0.1:${PORT}`, accept = 'text/html') =>
  server.inject({ url, headers: { host, accept } });

describe('the server', () => {
  it('serves the application at every address of a screen', async () => {
    for (const url of ['/', '/today', '/billing/client/x', '/setup/data']) {
      const response = await get(url);
      expect([response.statusCode, response.body]).toEqual([200, expect.stringContaining('Half Penny')]);
    }
  });

  it('lets it run nothing but itself', async () => {
    const { headers } = await get('/');
    expect(headers['content-security-policy']).toMatch(/default-src 'none';script-src 'self' 'wasm-unsafe-eval';/);
    expect(headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'no-referrer',
      'cross-origin-opener-policy': 'same-origin',
    });
  });

  it('keeps built assets and asks again for everything else', async () => {
    expect((await get('/assets/app-1.js')).headers['cache-control']).toMatch('immutable');
    expect((await get('/')).headers['cache-control']).toBe('no-cache');
  });

  it('sends localhost to its one address, and other names away', async () => {
    const response = await get('/today?day=2026-11-12', `localhost:${PORT}`);
    expect([response.statusCode, response.headers.location]).toEqual([
      308,
      `http://127.0.0.1:${PORT}/today?day=2026-11-12`,
    ]);
    expect((await get('/', 'rebound.example')).statusCode).toBe(421);
  });

  it('does not leave its folder or pretend that missing files are pages', async () => {
    expect((await get('/assets/none.js', undefined, '*/*')).statusCode).toBe(404);
    expect((await get('/../package.json', undefined, '*/*')).body).not.toContain('dependencies');
    expect((await get('/%2e%2e/%2e%2e/package.json', undefined, '*/*')).body).not.toContain('dependencies');
  });

  it('says that the application was not built', async () => {
    await expect(makeServer({ root: join(tmpdir(), 'not-there'), port: PORT, data, secret: SECRET })).rejects.toThrow(
      'not been built yet',
    );
  });
});

describe('the page’s secret', () => {
  const ask = (headers: Record<string, string>, url = '/backups') =>
    server.inject({ url, headers: { host: `127.0.0.1:${PORT}`, ...headers } });

  it('is asked for by everything that is the person’s own', async () => {
    for (const url of ['/backups', '/backups/x', '/activity/waiting', '/activity/key']) {
      expect((await ask({}, url)).statusCode).toBe(401);
      expect((await ask({ [SECRET_HEAD]: SECRET }, url)).statusCode).toBeLessThan(405);
    }
    const fault = { method: 'PUT', url: '/bookkeeping/fault', headers: { host: `127.0.0.1:${PORT}` } } as const;
    expect((await server.inject({ ...fault, payload: { kind: 'slow' } })).statusCode).toBe(401);
  });

  it('helps no page of another address', async () => {
    const known = { [SECRET_HEAD]: SECRET };
    expect((await ask({ ...known, origin: `http://127.0.0.1:${PORT}` })).statusCode).toBe(200);
    for (const foreign of [
      { origin: 'http://elsewhere.example' },
      { origin: 'null' },
      { origin: `http://127.0.0.1:${PORT + 1}` },
      { 'sec-fetch-site': 'cross-site' },
      { 'sec-fetch-site': 'same-site' },
      { 'sec-fetch-site': 'none' },
    ])
      expect((await ask({ ...known, ...foreign })).statusCode).toBe(403);
  });

  it('is guessed slowly, while who knows it is answered at once', async () => {
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    const start = performance.now();
    const guess = ask({ [SECRET_HEAD]: 'bbbbbbbb' }).then((answer) => ({ answer, after: performance.now() - start }));
    expect((await ask({ [SECRET_HEAD]: SECRET })).statusCode).toBe(200);
    const { answer, after } = await guess;
    expect(answer.statusCode).toBe(401);
    expect(after).toBeGreaterThan(450);
    expect(warned).toHaveBeenCalled();
    warned.mockRestore();
  });

  it('is made once, for its owner alone, and again when it was damaged', () => {
    const path = join(mkdtempSync(join(tmpdir(), 'half-penny-secret-')), 'in', 'page-secret');
    const secret = secretIn(path);
    expect(secret).toMatch(/^[a-z]{8}$/);
    expect(secretIn(path)).toBe(secret);
    expect([statSync(path).mode & 0o777, statSync(join(path, '..')).mode & 0o777]).toEqual([0o600, 0o700]);
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    writeFileSync(path, 'no secret');
    expect(secretIn(path)).toMatch(/^[a-z]{8}$/);
    expect(warned).toHaveBeenCalledWith(expect.stringContaining('put aside'));
    warned.mockRestore();
  });

  it('lets the page hand over a backup and have it back', async () => {
    const headers = { host: `127.0.0.1:${PORT}`, [SECRET_HEAD]: SECRET, 'content-type': 'application/zip' };
    const payload = Buffer.from('PK\u0003\u0004 a workspace');
    const query = 'workspace=saltmere&name=Saltmere%20Lighting&changes=7';
    const taken = await server.inject({ method: 'POST', url: `/backups?${query}`, headers, payload });
    const { id } = taken.json<{ id: string }>();
    expect((await ask(headers)).json()).toMatchObject({
      folder: join(data, 'backups'),
      backups: [{ id, changes: 7, name: 'Saltmere Lighting', bytes: payload.length }],
    });
    const back = await ask(headers, `/backups/${id}`);
    expect(back.rawPayload.equals(payload)).toBe(true);
    for (const wrong of ['', 'workspace=x&name=y&changes=-1', 'workspace=x&changes=1'])
      expect((await server.inject({ method: 'POST', url: `/backups?${wrong}`, headers, payload })).statusCode).toBe(
        400,
      );
    expect((await server.inject({ method: 'DELETE', url: `/backups/${id}`, headers })).statusCode).toBe(204);
    expect((await ask(headers, `/backups/${id}`)).statusCode).toBe(404);
  });

  it('and requests meant for a proxy are refused', async () => {
    const address = server.server.address() as { port: number } | null;
    const { port } =
      address ?? (await server.listen({ host: '127.0.0.1', port: 0 }), server.server.address() as { port: number });
    const answer = await new Promise<string>((resolve) => {
      const socket = connect(port, '127.0.0.1', () =>
        socket.write(`GET http://elsewhere.example/ HTTP/1.1\r\nHost: 127.0.0.1:${PORT}\r\n\r\n`),
      );
      socket.once('data', (data) => {
        resolve(data.toString());
        socket.destroy();
      });
    });
    expect(answer).toMatch(/^HTTP\/1.1 400 /);
    await server.close();
  });
});

describe('the command', () => {
  const root = fileURLToPath(new URL('../..', import.meta.url));
  const started = (port: string) =>
    new Promise<{ code: number | null; text: string }>((resolve) => {
      const child = spawn(join(root, 'node_modules/.bin/tsx'), ['server/src/main.ts'], {
        cwd: root,
        env: { ...process.env, PORT: port },
      });
      let text = '';
      child.stderr.on('data', (data: Buffer) => (text += data.toString()));
      child.on('exit', (code) => resolve({ code, text }));
    });

  it('says that a port is busy and ends with 1', async () => {
    const busy = createServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => busy.once('listening', resolve));
    const { port } = busy.address() as { port: number };
    const { code, text } = await started(String(port));
    busy.close();
    // Where the application has not been built, it says that first.
    expect(code).toBe(1);
    expect(text).toMatch(new RegExp(`Port ${port} is in use|not been built yet`));
  });

  it.each(['0', '70000', 'web'])('refuses the port %s', async (port) => {
    expect(await started(port)).toEqual({
      code: 1,
      text: expect.stringContaining('must be a number from 1 to 65535') as string,
    });
  });
});
