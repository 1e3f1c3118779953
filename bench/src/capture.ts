import { writeLine, type Activity, type PlacingRule } from '@half-penny/core/capture';
import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compare, count, note } from './measure';
import { shipped } from './shipped';

const COUNT = count(1_000_000, 20_000);
const RULES = 500;
const RUNS = count(3, 1);
const MINUTE = 60_000;
const MEMORY_LIMIT = 1.2e9;

interface Result {
  took: number;
  peak: number;
  stretches?: number;
  placed?: number;
}

/** 1,000,000 activities with 500 rules, from JSON Lines to placed stretches, against JSON.parse on the same lines. */
export async function benchCapture(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-capture-'));
  try {
    const file = join(folder, 'activity.jsonl');
    const rules = join(folder, 'rules.json');
    await writeActivities(file);
    writeFileSync(rules, JSON.stringify(makeRules()));
    const program = await shipped('capture-run.ts', folder);
    const run = (mode: string) =>
      JSON.parse(execFileSync(process.execPath, [program, mode, file, rules], { encoding: 'utf8' })) as Result;
    const best = (mode: string) =>
      Array.from({ length: RUNS }, () => run(mode)).reduce((a, b) => (b.took < a.took ? b : a));
    const parse = best('parse');
    const whole = best('stretches');
    const seconds = (ms: number) => `${Math.round(ms / 10) / 100} s`;
    note(`${RULES} rules; ${whole.stretches} stretches, ${whole.placed} placed`);
    compare({
      what: `${COUNT.toLocaleString('en-GB')} activities to placed stretches`,
      own: seconds(whole.took),
      peer: 'JSON.parse on the same lines',
      other: seconds(parse.took),
      ratio: whole.took / parse.took,
      aim: 2,
    });
    const megabytes = (value: number) => `${Math.round(value / 1e6)} MB`;
    compare({
      what: 'Its peak memory',
      own: megabytes(whole.peak),
      peer: 'limit',
      other: megabytes(MEMORY_LIMIT),
      ratio: whole.peak / MEMORY_LIMIT,
      aim: 1,
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const word = (number: number): string => `item${((number * 2_654_435_761) % 9973).toString(36)}`;

/** Some three years of busy days; a fifth of the titles are distinct. */
async function writeActivities(path: string): Promise<void> {
  const out = createWriteStream(path);
  let at = Date.parse('2023-01-02T08:00:00Z');
  const perDay = 900;
  for (let index = 0; index < COUNT; index++) {
    if (index % perDay === 0) at = Date.parse('2023-01-02T08:00:00Z') + (index / perDay) * 24 * 60 * MINUTE;
    // Eight things, each five times in turn, and on to the next job.
    const session = Math.floor(index / 40);
    const about = session * 8 + (index % 8);
    const job = session % 60;
    const length = 5000 + ((index * 104_729) % 60_000);
    const activity: Activity = { kind: 'window', from: at, to: at + length, hands: Math.floor(length / 2) };
    activity.program = `Program ${about % 12}`;
    activity.title = `${word(about)} ${word(about + 1)} sheet ${about} - Program ${about % 12}`;
    if (about % 3 === 0) activity.file = `/work/client-${job}/job-${job % 7}/sheet-${about}.lgp`;
    else if (about % 3 === 1) activity.address = `https://site-${about % 400}.example/page/${about}`;
    else activity.people = [`person-${about % 300}@client-${job}.example`];
    at += length;
    if (!out.write(`${writeLine(activity)}\n`)) await new Promise((resolve) => out.once('drain', () => resolve(null)));
  }
  await new Promise((resolve) => out.end(() => resolve(null)));
}

function makeRules(): PlacingRule[] {
  return Array.from({ length: RULES }, (_, order): PlacingRule => {
    const text = (
      field: 'title' | 'folder' | 'site' | 'people',
      verb: 'has' | 'begins with' | 'is like',
      text: string,
    ) => ({
      field,
      verb,
      text,
    });
    const kinds: PlacingRule['when'][] = [
      text('title', 'has', `${word(order)} `),
      text('folder', 'begins with', `/work/client-${order % 60}/`),
      { all: [text('site', 'has', `site-${order}.`), { field: 'weekday', days: [1, 2, 3, 4, 5] }] },
      { any: [text('people', 'has', `@client-${order}.`), text('title', 'is like', `*${word(order * 3)}*sheet*`)] },
      {
        all: [
          text('title', 'has', 'sheet'),
          text('title', 'has', word(order * 5)),
          { not: text('site', 'has', 'site-1') },
        ],
      },
    ];
    return {
      id: `r${order}`,
      order,
      when: kinds[order % kinds.length]!,
      then: {
        act: 'place',
        workspaceId: 'w',
        projectId: `p${order % 50}`,
        taskId: null,
        unlisted: '',
        serviceId: null,
        note: '',
        billable: 100,
        openedForId: null,
      },
      since: 0,
      posts: false,
      on: true,
    };
  });
}
