// npm start: installs what is missing, builds, serves the application and prints its address.
import { bin, build, install, start } from './lib.mjs';

install();
build();
const server = start(bin('tsx'), ['server/src/main.ts']);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
