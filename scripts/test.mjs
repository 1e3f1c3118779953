// npm test: everything that must hold. Closes with one line over all of it: "N passed, N failed".
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, install, root, run } from './lib.mjs';
import { needSystem } from './system.mjs';

install();
needSystem();

const results = join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;
/** What did not hold, said again at the end, where the long output of the runners does not bury it. */
const fell = [];

/** A step that either holds or does not. */
function step(name, command, args) {
  console.log(`\n== ${name}`);
  if (run(command, args)) passed++;
  else {
    failed++;
    fell.push(name);
  }
}

/** A test runner: its own counts, from its report; a runner that reports nothing has failed. */
function runner(name, command, args, env, report, count) {
  console.log(`\n== ${name}`);
  const fine = run(command, args, { env: { ...process.env, ...env } });
  try {
    const counts = count(JSON.parse(readFileSync(report, 'utf8')));
    passed += counts.passed;
    failed += counts.failed;
    fell.push(...counts.names);
    if (counts.passed + counts.failed === 0 || (!fine && counts.failed === 0)) {
      failed++;
      fell.push(`${name}: the runner ended with a fault of its own`);
    }
  } catch {
    failed++;
    fell.push(`${name}: no report`);
  }
}

step('Types', 'node', ['scripts/types.mjs']);
step('ESLint', bin('eslint'), ['.']);
step('Prettier', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
step('Import arrows', bin('depcruise'), [
  '--config',
  '.dependency-cruiser.cjs',
  'core',
  'formats',
  'documents',
  'web',
  'server',
  'relay',
  'agent',
  'extension',
  'cli',
  'demo',
  'bench',
  'e2e',
  'trials',
]);
step('Published schemas', bin('tsx'), ['scripts/schema.ts', '--check']);
build();
step('Bench, in short', bin('tsx'), ['bench/src/main.ts', '--short']);
const unit = join(results, 'unit.json');
runner(
  'Unit',
  bin('vitest'),
  ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
  {},
  unit,
  (report) => ({
    passed: report.numPassedTests,
    failed:
      report.numFailedTests +
      report.testResults.filter((file) => file.status === 'failed' && file.assertionResults.length === 0).length,
    names: report.testResults.flatMap((file) => [
      ...(file.status === 'failed' && file.assertionResults.length === 0 ? [`${file.name}: ${file.message}`] : []),
      ...file.assertionResults
        .filter((each) => each.status === 'failed')
        .map((each) => `${each.fullName}\n${each.failureMessages.join('\n')}`),
    ]),
  }),
);
// The runner empties its own folder, so its report stands in another.
const browser = join(results, '../node_modules/.half-penny-e2e.json');
rmSync(browser, { force: true });
runner(
  'End to end',
  bin('playwright'),
  ['test', '-c', 'e2e/playwright.config.ts'],
  { E2E_REPORT: browser },
  browser,
  ({ stats, errors, suites }) => ({
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected + errors.length,
    names: [...suites.flatMap(unexpectedOf), ...errors.map((error) => error.message ?? 'a fault outside the tests')],
  }),
);

/** The names of the browser tests under a suite that did not end as they should. */
function unexpectedOf(suite) {
  return [
    ...(suite.suites ?? []).flatMap(unexpectedOf),
    ...(suite.specs ?? []).filter((spec) => !spec.ok).map((spec) => `${suite.file}: ${spec.title}`),
  ];
}

for (const name of fell) console.log(`\nDid not hold: ${name.slice(0, 2000)}`);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
