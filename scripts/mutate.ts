// npm run mutate -- core/src/money core/src/rates …: small deliberate errors in the code of folders or files, and which of them the tests notice.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Folders whose figures money depends on. */
const usual = ['core/src/money', 'core/src/time', 'core/src/rates', 'core/src/billing', 'core/src/costs'];
/** Tests that watch all of them. */
const watching = ['core/src/**/*.test.ts'];

const places = process.argv.slice(2);
const missing = places.find((place) => !existsSync(place));
if (missing) {
  console.error(`${missing}: there is no such file or folder.`);
  process.exit(2);
}
const mutate = (places.length > 0 ? places : usual).flatMap((place) =>
  statSync(place).isDirectory() ? [`${place}/**/*.ts`, `!${place}/**/*.test.ts`] : [place],
);
const folder = join(tmpdir(), `half-penny-mutate-${process.pid}`);
mkdirSync(folder, { recursive: true });
const vitest = join(folder, 'vitest.config.mjs');
writeFileSync(
  vitest,
  `export default { test: { include: ${JSON.stringify(watching)}, testTimeout: 60000, exclude: ['**/node_modules/**', '**/*.sql.test.ts', 'core/src/reports/sql*.test.ts', 'core/src/capture/**'] } };\n`,
);
const config = join(folder, 'stryker.config.json');
writeFileSync(
  config,
  JSON.stringify({
    testRunner: 'vitest',
    vitest: { configFile: vitest, related: true },
    mutate,
    ignorePatterns: ['web/dist', 'docs', 'test-results', 'e2e', 'bench'],
    // Texts for people are not figures: that one says another thing is for eyes, not for tests.
    mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral', 'ArrayDeclaration', 'Regex'] },
    coverageAnalysis: 'perTest',
    // What is computed as a file is read would be tried by every test there is.
    ignoreStatic: true,
    concurrency: 2,
    timeoutMS: 20_000,
    reporters: ['progress-append-only', 'clear-text', 'json'],
    clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: true },
    jsonReporter: { fileName: join(folder, 'report.json') },
    tempDirName: join(folder, 'work'),
    allowConsoleColors: false,
    thresholds: { high: 85, low: 70, break: null },
  }),
);
// Few tries of each property are enough to notice an error that is always there.
const env = { PROPERTY_RUNS: '15', ...process.env };
const { status } = spawnSync('node_modules/.bin/stryker', ['run', config], { stdio: 'inherit', env });
console.log(`Report: ${join(folder, 'report.json')}`);
process.exit(status ?? 1);
