// Programs the tests use that npm does not bring: Debian's Chromium, poppler-utils, xmllint, qpdf, PostgreSQL, and an X display with its tools.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { run } from './lib.mjs';

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;

/** The address of a Chromium; installs what is missing where that is possible, else says what to do. */
export function needSystem() {
  const missing = [];
  if (!process.env.CHROMIUM && !existsSync('/usr/bin/chromium')) missing.push('chromium');
  if (!has('pdftotext')) missing.push('poppler-utils');
  if (!has('xmllint')) missing.push('libxml2-utils');
  if (!has('qpdf')) missing.push('qpdf');
  if (!existsSync('/usr/lib/postgresql')) missing.push('postgresql');
  if (!has('Xvfb')) missing.push('xvfb');
  if (!has('xprop') || !has('xmessage')) missing.push('x11-utils');
  if (missing.length === 0) return;
  console.log(`Installing ${missing.join(' and ')}…`);
  const sudo = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    return run(command, rest, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  };
  if (!has('apt-get') || !apt('update', '-qq') || !apt('install', '-y', '-qq', ...missing)) {
    console.error(`The tests need ${missing.join(' and ')} from Debian's packages; they could not be installed here.`);
    process.exit(1);
  }
}
