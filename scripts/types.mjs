// Type checks core by itself, without DOM and Node, and beside it everything there is as one program.
import { once } from 'node:events';
import { bin, start } from './lib.mjs';

const projects = ['core', '.'];
const codes = await Promise.all(projects.map((project) => once(start(bin('tsc'), ['-p', project]), 'close')));
if (codes.some(([code]) => code !== 0)) {
  console.error('Types do not hold.');
  process.exit(1);
}
