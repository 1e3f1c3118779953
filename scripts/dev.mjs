// npm run dev: the application from its sources, rebuilt as they change.
import { install, npm, start } from './lib.mjs';

install();
start(npm, ['run', '-s', 'dev', '-w', 'web']);
