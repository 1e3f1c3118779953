import { captureDefaults, formStretches, RuleBook, TrailArrays, type PlacingRule } from '@half-penny/core/capture';
import { readActivityLines } from '@half-penny/formats/activity';
import { createReadStream, readFileSync } from 'node:fs';

// One measured run in a process of its own: what it takes, and the most memory it had.

const [mode, file, rulesFile] = process.argv.slice(2) as [string, string, string];

async function parseOnly(): Promise<number> {
  const lines = readFileSync(file, 'utf8').trimEnd().split('\n');
  const start = performance.now();
  let sum = 0;
  for (const line of lines) sum += (JSON.parse(line) as { to: number }).to % 2;
  const took = performance.now() - start;
  if (sum < 0) throw new Error('never');
  return took;
}

async function toStretches(): Promise<{ took: number; stretches: number; placed: number }> {
  const rules = JSON.parse(readFileSync(rulesFile, 'utf8')) as PlacingRule[];
  const start = performance.now();
  const columns = new TrailArrays();
  const { refused } = await readActivityLines(createReadStream(file, { highWaterMark: 1 << 20 }), columns);
  if (refused > 0) throw new Error(`${refused} lines were refused.`);
  const days = formStretches(columns, {
    settings: captureDefaults,
    zone: 'Europe/London',
    rules: new RuleBook(rules),
    placings: [],
  });
  const took = performance.now() - start;
  const stretches = days.flatMap((day) => day.stretches);
  return { took, stretches: stretches.length, placed: stretches.filter((each) => each.outcome).length };
}

const result = mode === 'parse' ? { took: await parseOnly() } : await toStretches();
// On Linux in kilobytes.
console.log(JSON.stringify({ ...result, peak: process.resourceUsage().maxRSS * 1024 }));
