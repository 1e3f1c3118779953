// npm run torture: the built application under random presses and kills; see trials/src/torture-main.ts.
import { bin, build, install, run } from './lib.mjs';
import { needSystem } from './system.mjs';

install();
needSystem();
build();
if (!run(bin('tsx'), ['trials/src/torture-main.ts', ...process.argv.slice(2)])) process.exit(1);
