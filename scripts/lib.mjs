// What the commands share: installing what is missing, and running steps.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
export const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';

/** Runs a command to its end; false when it failed. */
export function run(command, args, options = {}) {
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options }).status === 0;
}

export function mustRun(command, args, options) {
  if (!run(command, args, options)) {
    console.error(`Failed: ${command} ${args.join(' ')}`);
    process.exit(1);
  }
}

export const start = (command, args, options = {}) => spawn(command, args, { cwd: root, stdio: 'inherit', ...options });

const digest = (text) => createHash('sha256').update(text).digest('hex');

/** Installs the packages of the lock file unless exactly these are there. */
export function install() {
  const lock = digest(readFileSync(join(root, 'package-lock.json')));
  const stamp = join(root, 'node_modules/.half-penny-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages…');
  mustRun(npm, ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, lock);
}

const SOURCES = [
  'core/src',
  'formats/src',
  'documents/src',
  'demo/src',
  'web/src',
  'web/public',
  'web/index.html',
  'web/vite.config.ts',
  'web/build-offline.mjs',
  'extension/src',
  'extension/public',
  'extension/vite.config.ts',
  'package-lock.json',
];

function* filesOf(path) {
  if (!statSync(path).isDirectory()) return yield path;
  for (const name of readdirSync(path).sort()) yield* filesOf(join(path, name));
}

/** Builds the application unless the build is of exactly these sources. */
export function build() {
  const hash = createHash('sha256');
  for (const source of SOURCES)
    for (const file of filesOf(join(root, source))) hash.update(file).update(readFileSync(file));
  const now = hash.digest('hex');
  const stamp = join(root, 'web/dist/.build-stamp');
  const whole = existsSync(stamp) && existsSync(join(root, 'extension/dist/manifest.json'));
  if (whole && readFileSync(stamp, 'utf8') === now) return;
  console.log('Building the application…');
  for (const part of ['web', 'extension'])
    mustRun(npm, ['run', '-s', 'build', '-w', part], { stdio: ['ignore', 'ignore', 'inherit'] });
  writeFileSync(stamp, now);
}

export const bin = (name) => join(root, 'node_modules/.bin', name);
