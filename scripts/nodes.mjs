// npm run test:nodes: the quick set under each version of Node.js that is supported; the package `node` of the registry brings them.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run } from './lib.mjs';

const { supportedNodes } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
const wanted = process.argv.length > 2 ? process.argv.slice(2) : supportedNodes;
const failed = wanted.filter((version) => {
  console.log(`\n== Node.js ${version}`);
  return !run('npx', ['--yes', '--package', `node@${version}`, '--', 'npm', 'run', '-s', 'test:quick']);
});
console.log(
  `\n${wanted.length - failed.length} passed, ${failed.length} failed${failed.length > 0 ? `: ${failed.join(', ')}` : ''}`,
);
process.exit(failed.length > 0 ? 1 : 0);
