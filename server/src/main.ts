import { homedir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { HOST, makeServer } from './app';
import { secretIn } from './door';
import { FolderInUse, lockFolder } from './spool';

const DEFAULT_PORT = 4350;

/** Why it did not start, and what to do. */
function inWords({ code, path = 'its folder', message }: Error & { code?: string; path?: string }): string {
  switch (code) {
    case 'EADDRINUSE':
      return `Port ${port} is in use. Half Penny may be running already: open http://${HOST}:${port}. Otherwise choose another port: PORT=4360 npm start`;
    case 'EACCES':
      return port < 1024
        ? `Port ${port} is kept for the system. Choose one from 1024 on: PORT=4360 npm start`
        : `${path} may not be written. Give HALF_PENNY_DATA a folder that may: HALF_PENNY_DATA=/tmp/half-penny npm start`;
    case 'EROFS':
    case 'EPERM':
    case 'ENOTDIR':
    case 'EEXIST':
      return `${path} cannot be written (${code}). Give HALF_PENNY_DATA a folder that can: HALF_PENNY_DATA=/tmp/half-penny npm start`;
    case 'ENOSPC':
      return `The disk is full: ${path} could not be written. Nothing was lost; make room and start again.`;
    default:
      return message;
  }
}

/** The relay that pages may ask. Anything but an origin would say something else in the page's rules. */
function relayAsked(): string | undefined {
  const text = process.env.HALF_PENNY_RELAY;
  if (!text) return undefined;
  try {
    const { origin, protocol } = new URL(text);
    if (protocol === 'https:' || protocol === 'http:') return origin;
  } catch {
    // Told below.
  }
  throw new Error(`HALF_PENNY_RELAY is “${text}”; it must be an address such as https://relay.example.`);
}

const PATIENCE = 5000;

/** One that is just being ended, as when it is started again at once, is waited for. */
async function lockedFolder(folder: string): Promise<() => void> {
  for (const end = Date.now() + PATIENCE; ;) {
    try {
      return lockFolder(folder);
    } catch (thrown) {
      if (!(thrown instanceof FolderInUse) || Date.now() > end) throw thrown;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}

const asked = process.env.PORT ?? String(DEFAULT_PORT);
const port = Number(asked);
if (!/^\d+$/.test(asked) || port < 1 || port > 65_535) {
  console.error(`PORT is “${asked}”; it must be a number from 1 to 65535.`);
  process.exit(1);
}
try {
  const root = fileURLToPath(new URL('../../web/dist', import.meta.url));
  // Another port is another store, here as in the browser.
  const data = join(process.env.HALF_PENNY_DATA ?? join(homedir(), '.half-penny'), String(port));
  const unlock = await lockedFolder(data);
  process.once('exit', unlock);
  const secret = secretIn(join(data, 'page-secret'));
  const server = await makeServer({ root, port, data, secret, relay: relayAsked() });
  await server.listen({ host: HOST, port });
  // What stands after # is not sent anywhere: the page keeps it, and tells by it that it is the person's own.
  console.log(`Half Penny is at http://${HOST}:${port}/#${secret}`);
  if (port !== DEFAULT_PORT) {
    console.log(
      `This is another address than the usual one, so the browser keeps another store for it: data entered at port ${DEFAULT_PORT} is not here.`,
    );
  }
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void server.close().then(() => process.exit(0)));
} catch (thrown) {
  console.error(inWords(thrown as Error & { code?: string; path?: string }));
  process.exit(1);
}
