import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';
import { beforeAll, describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'half-penny-cli-'));
const at = (name: string) => join(folder, name);

/** The command line as one module of plain JavaScript: starting from sources would take longer than what is tried. */
const program = at('half-penny.mjs');

function run(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [program, ...args], { cwd: root, encoding: 'utf8' });
  return { status, stdout, stderr };
}

const NOW = '2026-11-12T15:00:00Z';
beforeAll(async () => {
  await build({
    configFile: false,
    logLevel: 'error',
    root,
    build: {
      ssr: join(root, 'cli/src/main.ts'),
      outDir: folder,
      emptyOutDir: false,
      rolldownOptions: { output: { entryFileNames: 'half-penny.mjs' } },
    },
    // What makes PDFs reads files beside itself.
    ssr: { noExternal: true, external: ['@react-pdf/renderer'] },
  });
  symlinkSync(join(root, 'node_modules'), at('node_modules'));
  expect(run('demo', at('demo.zip'), '--now', NOW).status).toBe(0);
});

interface Line {
  amount: number;
}
interface Printed {
  lines: Line[];
  net: number;
  tax: number;
  total: number;
  currency: string;
  standing: string;
  owed: number;
}

describe('half-penny', () => {
  it('finds the demo sound', () => {
    expect(run('check', at('demo.zip'))).toMatchObject({
      status: 0,
      stdout: expect.stringMatching(/^Sound: .*hash chains hold, .* Head \d+-[0-9a-f]{10}\.\n$/) as string,
      stderr: '',
    });
  });

  it('makes the same demo from the same seed, another from another', () => {
    run('demo', at('same.zip'), '--now', NOW);
    run('demo', at('other.zip'), '--now', NOW, '--seed', '7');
    expect(readFileSync(at('same.zip')).equals(readFileSync(at('demo.zip')))).toBe(true);
    expect(readFileSync(at('other.zip')).equals(readFileSync(at('demo.zip')))).toBe(false);
  });

  it('prints what is to bill in minor units and seconds, its sums those of its items', () => {
    const { status, stdout } = run('to-bill', at('demo.zip'), '--json');
    expect(status).toBe(0);
    const rows = JSON.parse(stdout) as {
      client: string;
      amount: number;
      currency: string;
      seconds: number;
      items: { amount: number; seconds: number }[];
      charges: { amount: number }[];
    }[];
    expect(rows.map((row) => row.client)).toContain('Quayside Playhouse');
    for (const row of rows) {
      expect([...row.items, ...row.charges].reduce((sum, item) => sum + item.amount, 0)).toBe(row.amount);
      expect(row.items.reduce((sum, item) => sum + item.seconds, 0)).toBe(row.seconds);
    }
    const one = run('to-bill', at('demo.zip'), '--client', 'Maison Clairval');
    expect(one.stdout).toMatch(/^Maison Clairval: \d+ entries, .*€/);
    expect(run('to-bill', at('demo.zip'), '--client', 'Nobody')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('There is no client called “Nobody”') as string,
    });
  });

  it('prints an invoice as text, JSON and PDF, all saying the same', () => {
    const printed = JSON.parse(run('invoice', at('demo.zip'), '--number', 'SL-0131', '--json').stdout) as Printed;
    expect(printed.lines.reduce((sum, line) => sum + line.amount, 0)).toBe(printed.net);
    expect(printed.net + printed.tax).toBe(printed.total);
    const major = `£${Math.floor(printed.total / 100).toLocaleString('en-GB')}.${String(printed.total % 100).padStart(2, '0')}`;
    expect(run('invoice', at('demo.zip'), '--number', 'SL-0131').stdout).toContain(`To pay, GBP: ${major}`);
    expect(run('invoice', at('demo.zip'), '--number', 'SL-0131', '--pdf', at('invoice.pdf')).status).toBe(0);
    const text = spawnSync('pdftotext', ['-layout', at('invoice.pdf'), '-'], { encoding: 'utf8' }).stdout;
    expect(text).toContain(major);
    expect(run('invoice', at('demo.zip'), '--number', 'SL-9999')).toMatchObject({
      status: 1,
      stderr: 'There is no invoice SL-9999.\n',
    });
  });

  it('compares the head of the history with one that was written down', () => {
    const [head] = /\d+-[0-9a-f]{10}/.exec(run('check', at('demo.zip')).stdout)!;
    expect(run('check', at('demo.zip'), '--head', head).status).toBe(0);
    expect(run('check', at('demo.zip'), '--head', '12-0123456789')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining(`The history ends with ${head}, not with 12-0123456789`) as string,
    });
  });

  it('unpacks and packs into the same bytes', () => {
    expect(run('unpack', at('demo.zip'), at('parts')).status).toBe(0);
    expect(run('unpack', at('demo.zip'), at('parts'))).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('not empty') as string,
    });
    expect(run('pack', at('parts'), at('packed.zip')).status).toBe(0);
    expect(readFileSync(at('packed.zip')).equals(readFileSync(at('demo.zip')))).toBe(true);
    const entries = join(at('parts'), 'tables/entries.jsonl');
    const whole = readFileSync(entries, 'utf8');
    writeFileSync(entries, whole.replace(/"seconds":\d+/, '"seconds":-1'));
    run('pack', at('parts'), at('packed.zip'));
    expect(run('check', at('packed.zip'))).toMatchObject({
      status: 1,
      stdout: '',
      stderr: expect.stringMatching(/^tables\/entries.jsonl:1 seconds: A length cannot be negative/) as string,
    });
    writeFileSync(entries, whole);
  });

  it('refuses records that were altered beside the history; with a base row they begin again', () => {
    run('unpack', at('demo.zip'), at('altered'));
    const rates = join(at('altered'), 'tables/rateLines.jsonl');
    const whole = readFileSync(rates, 'utf8');
    const line = whole.split('\n').findIndex((row) => row.includes('"price":"78"')) + 1;
    expect(line).toBeGreaterThan(0);
    writeFileSync(rates, whole.replace('"price":"78"', '"price":"79"'));
    run('pack', at('altered'), at('altered.zip'));
    const { status, stderr } = run('check', at('altered.zip'));
    expect(status).toBe(1);
    expect(stderr).toMatch(
      new RegExp(`tables/rateLines.jsonl:${line} price: This is not what change \\d+ of the history made of it`),
    );
    expect(run('pack', at('altered'), at('altered.zip'), '--base', ' ').status).toBe(2);
    expect(run('pack', at('altered'), at('altered.zip'), '--base', 'Prices put right by hand').status).toBe(0);
    expect(run('check', at('altered.zip'))).toMatchObject({ status: 0, stderr: '' });
  });

  it('ends quietly when whoever reads it has read enough', () => {
    const command = `set -o pipefail; node_modules/.bin/tsx cli/src/main.ts to-bill ${at('demo.zip')} --json | head -c 1`;
    const { stdout, stderr, status } = spawnSync('bash', ['-c', command], { cwd: root, encoding: 'utf8' });
    expect({ stdout, stderr, status }).toEqual({ stdout: '[', stderr: '', status: 0 });
  });

  it('names a file that is missing, not ours or cut off', () => {
    writeFileSync(at('note.txt'), 'Dear diary');
    writeFileSync(at('cut.zip'), readFileSync(at('demo.zip')).subarray(0, 50_000));
    expect(run('check', at('none.zip'))).toMatchObject({
      status: 1,
      stderr: `${at('none.zip')}: there is no such file or folder.\n`,
    });
    expect(run('check', at('note.txt'))).toMatchObject({
      status: 1,
      stderr: `${at('note.txt')}: This is not a workspace file of Half Penny.\n`,
    });
    expect(run('check', at('cut.zip'))).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('broken or cut off') as string,
    });
  });

  it.each([
    [[]],
    [['dance']],
    [['check']],
    [['check', 'a', 'b']],
    [['to-bill', 'a', '--client']],
    [['invoice', 'a']],
    [['demo', 'a', '--seed', 'x']],
    [['check', 'a', '--fast']],
  ])('answers %j with the usage and 2', (args: string[]) => {
    expect(run(...args)).toMatchObject({
      status: 2,
      stdout: '',
      stderr: expect.stringContaining('Usage: npm run -s half-penny') as string,
    });
  });
});
