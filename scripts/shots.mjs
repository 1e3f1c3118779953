// npm run shots: takes the pictures of docs/screenshots from the demo.
import { bin, build, install, mustRun } from './lib.mjs';
import { needSystem } from './system.mjs';

install();
needSystem();
build();
mustRun(bin('playwright'), ['test', '-c', 'e2e/playwright.shots.ts']);
