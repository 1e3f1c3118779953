import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from 'vitest';
import { makeServer } from './app';

const PORT = 4399;
let server: Awaited<ReturnType<typeof makeServer>>;

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'half-penny-server-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<!doctype html><title>Half Penny</title>');
  writeFileSync(join(root, 'assets/app-1.js'), 'void 0');
  server = await makeServer({ root, port: PORT });
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
    await expect(makeServer({ root: join(tmpdir(), 'not-there'), port: PORT })).rejects.toThrow('not been built yet');
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
