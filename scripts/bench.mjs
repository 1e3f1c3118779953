// npm run bench: speed as ratios to a peer or a limit measured in the same run.
import { bin, build, install, mustRun } from './lib.mjs';
import { needSystem } from './system.mjs';

install();
// The browser and the database that some parts are measured with.
needSystem();
build();
mustRun(bin('tsx'), ['bench/src/main.ts', ...process.argv.slice(2)]);
