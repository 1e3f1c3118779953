import { fork } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { measured, type Measured } from './measure';
import { parts } from './parts';
import { tableOf, type PartResult } from './table';

// npm run bench: speed as ratios to a peer or a limit measured in the same run. Each part runs in a process of its own, so that none has
// the memory of another, and one that fails keeps no other from running.

const USAGE = `npm run bench -- [part …] [--short] [--table FILE]
Parts: ${Object.keys(parts).join(' ')}; all where none is named.
--short runs everything in small, to see that it runs; its figures say nothing.
--table writes the figures as a table.`;

/** A part that says nothing for so long is ended. */
const PATIENCE = 45 * 60_000;

async function inChild(name: string): Promise<void> {
  await parts[name]!();
  process.send!(measured());
  process.disconnect();
}

/** Runs a part in a process of its own. */
function runPart(name: string, short: boolean): Promise<PartResult> {
  const began = performance.now();
  return new Promise((resolve) => {
    const child = fork(fileURLToPath(import.meta.url), [], {
      env: { ...process.env, BENCH_PART: name, ...(short ? { BENCH_SHORT: '1' } : {}) },
      execArgv: process.execArgv,
    });
    let rows: readonly Measured[] | null = null;
    const timer = setTimeout(() => child.kill('SIGKILL'), PATIENCE);
    child.on('message', (told) => (rows = told as Measured[]));
    child.on('exit', (code) => {
      clearTimeout(timer);
      resolve({
        name,
        rows: rows ?? [],
        failed: code !== 0 || rows === null,
        seconds: (performance.now() - began) / 1000,
      });
    });
  });
}

if (process.env.BENCH_PART !== undefined) await inChild(process.env.BENCH_PART);
else {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      short: { type: 'boolean', default: false },
      table: { type: 'string' },
      help: { type: 'boolean', default: false },
    },
  });
  if (values.help) {
    console.log(USAGE);
    process.exit(0);
  }
  const unknown = positionals.filter((name) => !Object.hasOwn(parts, name));
  if (unknown.length > 0) {
    console.error(`There is no part ${unknown.join(', ')}.\n\n${USAGE}`);
    process.exit(2);
  }
  const machine = `${cpus()[0]?.model.trim() ?? 'unknown'}, ${cpus().length} cores, Node ${process.versions.node}`;
  const results: PartResult[] = [];
  for (const name of positionals.length > 0 ? positionals : Object.keys(parts)) {
    console.log(`${name}:`);
    const result = await runPart(name, values.short);
    results.push(result);
    // After each part, so that what is measured is not lost with what comes later.
    if (values.table !== undefined) writeFileSync(values.table, tableOf(results, new Date(), machine));
    console.log(`  ${result.failed ? 'FAILED after' : 'took'} ${Math.round(result.seconds)} s`);
  }
  const failed = results.filter((each) => each.failed).map((each) => each.name);
  if (failed.length > 0) {
    console.error(`These parts failed: ${failed.join(', ')}.`);
    process.exit(1);
  }
}
