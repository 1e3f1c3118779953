import { fork, type ChildProcess } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { fileOf, fuzz, importers, type Finding } from './fuzz';

// npm run fuzz -- ics --seconds 60 --seed 1: mutated files, read as a person's are. Each importer runs in a process of its own that is
// watched: one that answers no more, or grows beyond bounds, is ended, and the seed it was at is told.

const USAGE = `npm run fuzz -- [importer …] [--seconds 60] [--files N] [--seed 1] [--keep folder/]
Importers: csv xlsx ics vcf ofx camt statement calls mail jsonl work rates ledger report workspace; all where none is named.
--seconds and --files are for each importer. --keep writes the file of --seed there and reads nothing.`;

const HANG = 20_000;
const MOST_MEMORY = 1500;

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    seconds: { type: 'string', default: '60' },
    files: { type: 'string' },
    seed: { type: 'string', default: '1' },
    keep: { type: 'string' },
    help: { type: 'boolean', default: false },
  },
});

interface Report {
  at: number;
  files: number;
  taken: number;
  said: number;
  slowest: number;
  megabytes: number;
  findings: Finding[];
  done: boolean;
}

const number = (text: string | undefined, name: string): number => {
  const found = Number(text);
  if (!Number.isInteger(found) || found < 0) {
    console.error(`--${name} is “${text}”; it must be a whole number.\n\n${USAGE}`);
    process.exit(2);
  }
  return found;
};

async function inChild(name: string): Promise<void> {
  const seconds = number(values.seconds, 'seconds');
  const files = values.files === undefined ? Infinity : number(values.files, 'files');
  const importer = (await importers())[name]!;
  const end = performance.now() + seconds * 1000;
  let last = 0;
  let reported = 0;
  const report = (at: number, tally: Awaited<ReturnType<typeof fuzz>>, done: boolean) => {
    const findings = tally.findings.slice(reported);
    reported = tally.findings.length;
    const megabytes = Math.round(process.memoryUsage().rss / 1e6);
    process.send!({ ...tally, at, said: tally.said.size, findings, megabytes, done } satisfies Report);
  };
  const tally = await fuzz(name, importer, {
    seed: number(values.seed, 'seed'),
    until: ({ files: read }) => read >= files || (values.files === undefined && performance.now() > end),
    told(seed, now) {
      const moment = performance.now();
      if (moment - last < 100 && now.files > 0) return;
      last = moment;
      report(seed, now, false);
    },
  });
  report(-1, tally, true);
  process.disconnect();
}

/** Runs one importer in a process that is watched. */
function watched(name: string): Promise<Report> {
  const args = process.argv.slice(2).filter((arg) => !positionals.includes(arg));
  const child: ChildProcess = fork(fileURLToPath(import.meta.url), [name, ...args], {
    env: { ...process.env, FUZZ_CHILD: name },
    execArgv: process.execArgv,
  });
  return new Promise((resolve) => {
    let last: Report = { at: 0, files: 0, taken: 0, said: 0, slowest: 0, megabytes: 0, findings: [], done: false };
    const all: Finding[] = [];
    let heard = Date.now();
    const end = (text: string | null) => {
      clearInterval(watching);
      if (text !== null) all.push({ importer: name, seed: last.at, what: 'hang', text });
      child.kill('SIGKILL');
      resolve({ ...last, findings: all });
    };
    const watching = setInterval(() => {
      if (Date.now() - heard > HANG)
        end(`No answer for ${HANG / 1000} s, at this seed or one of the next hundred or so.`);
    }, 1000);
    child.on('message', (report: Report) => {
      heard = Date.now();
      last = { ...report, megabytes: Math.max(report.megabytes, last.megabytes) };
      all.push(...report.findings);
      if (report.done) end(null);
      else if (report.megabytes > MOST_MEMORY) end(`It holds ${report.megabytes} MB.`);
    });
    child.on('exit', (code) => {
      if (!last.done && code !== null) end(`It ended by itself with ${code}.`);
    });
  });
}

if (process.env.FUZZ_CHILD) await inChild(process.env.FUZZ_CHILD);
else {
  if (values.help) {
    console.log(USAGE);
    process.exit(0);
  }
  const all = await importers();
  const wanted = positionals.length > 0 ? positionals : Object.keys(all);
  const unknown = wanted.filter((name) => !Object.hasOwn(all, name));
  if (unknown.length > 0) {
    console.error(`There is no importer ${unknown.join(', ')}.\n\n${USAGE}`);
    process.exit(2);
  }
  if (values.keep !== undefined) {
    for (const name of wanted) {
      const path = `${values.keep}/${name}-${values.seed}`;
      writeFileSync(path, fileOf(all[name]!, number(values.seed, 'seed')));
      console.log(path);
    }
    process.exit(0);
  }
  let files = 0;
  const findings: Finding[] = [];
  for (const name of wanted) {
    const report = await watched(name);
    files += report.files;
    findings.push(...report.findings);
    console.log(
      `${name.padEnd(10)} ${report.files.toLocaleString('en-GB').padStart(9)} files, ${report.taken.toLocaleString('en-GB').padStart(8)} with something taken, ${String(report.said).padStart(4)} different answers, slowest ${Math.round(report.slowest)} ms, at most ${report.megabytes} MB, ${report.findings.length} findings`,
    );
    const kinds = new Set<string>();
    for (const each of report.findings) {
      const kind = `${each.what} ${each.text.split('\n')[0]!.replace(/\d+/g, 'n').slice(0, 80)}`;
      if (kinds.size > 20 || kinds.has(kind)) continue;
      kinds.add(kind);
      console.log(`  seed ${each.seed}: ${each.what}: ${each.text}`);
    }
  }
  console.log(`${files.toLocaleString('en-GB')} files from seed ${values.seed} on, ${findings.length} findings`);
  process.exit(findings.length > 0 ? 1 : 0);
}
