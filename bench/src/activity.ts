import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root, tsx } from './browser';
import { compare, count } from './measure';

const PORT = 4385;
const COUNT = count(100_000, 3000);
const AT_ONCE = 1000;
const WANTED = 10_000;

/** 100,000 activities sent to the server as the agent does, each batch on disk before it is answered, and all collected again. */
export async function benchActivity(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'half-penny-taken-'));
  const server = spawn(tsx, ['server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), HALF_PENNY_DATA: data },
    stdio: 'ignore',
  });
  try {
    const keyFile = join(data, String(PORT), 'pairing-key');
    for (let tries = 0; tries < 100 && !existsSync(keyFile); tries++)
      await new Promise((done) => setTimeout(done, 200));
    await new Promise((done) => setTimeout(done, 500));
    const key = readFileSync(keyFile, 'utf8').trim();
    const post = (path: string, head: Record<string, string>, body: unknown) =>
      fetch(`http://127.0.0.1:${PORT}${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', ...head },
        body: JSON.stringify(body),
      });
    const from = Date.parse('2026-11-12T09:00:00Z');
    const start = performance.now();
    for (let first = 1; first <= COUNT; first += AT_ONCE) {
      const activities = Array.from({ length: AT_ONCE }, (_, index) => ({
        from: from + first + index,
        to: from + first + index + 1,
        hands: 1,
        kind: 'window',
        program: 'Plotting desk',
        title: `plot-sheet-${first + index}.lgp - Plotting desk`,
        file: `/work/quayside/plot-sheet-${first + index}.lgp`,
      }));
      const response = await post(
        '/activity',
        { authorization: `Bearer ${key}` },
        { device: 'bench', first, activities },
      );
      if (!response.ok) throw new Error(await response.text());
    }
    const rate = COUNT / ((performance.now() - start) / 1000);
    let collected = 0;
    const own = { 'x-half-penny': readFileSync(join(data, String(PORT), 'page-secret'), 'utf8').trim() };
    for (;;) {
      const response = await fetch(`http://127.0.0.1:${PORT}/activity/waiting`, { headers: own });
      const { waiting } = (await response.json()) as { waiting: { first: number; activities: unknown[] } | null };
      if (!waiting) break;
      if (waiting.first !== collected + 1) throw new Error(`Number ${collected + 1} is missing.`);
      collected += waiting.activities.length;
      await post('/activity/collected', own, { device: 'bench', upTo: collected });
    }
    if (collected !== COUNT) throw new Error(`${collected} of ${COUNT} activities were collected.`);
    const aSecond = (value: number) => `${Math.round(value).toLocaleString('en-GB')} a second`;
    compare({
      what: 'Activities taken, each batch on disk before it is answered',
      own: aSecond(rate),
      peer: 'wanted',
      other: aSecond(WANTED),
      ratio: rate / WANTED,
      aim: 1,
      atLeast: true,
    });
  } finally {
    server.kill();
    rmSync(data, { recursive: true, force: true });
  }
}
