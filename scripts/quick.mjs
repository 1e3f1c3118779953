// npm run test:quick: types, and the unit tests of what computes, with few tries of each property. A look while one works; npm test decides.
import { once } from 'node:events';
import { bin, install, start } from './lib.mjs';

install();
const env = { PROPERTY_RUNS: '15', ...process.env };
const steps = [
  start(bin('tsc'), ['-p', '.', '--incremental', '--tsBuildInfoFile', 'node_modules/.half-penny-types']),
  start(bin('vitest'), ['run', '--project', 'pure', '--reporter=dot', 'core', 'formats/src/workspace'], { env }),
];
const codes = await Promise.all(steps.map((step) => once(step, 'close')));
process.exit(codes.some(([code]) => code !== 0) ? 1 : 0);
