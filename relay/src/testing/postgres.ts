import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A PostgreSQL of the tests' own, in a scratch folder on a free port. */
export interface ScratchPostgres {
  url: string;
  folder: string;
  /** Ends it at once, as a machine that loses its power does. */
  kill(): Promise<void>;
  start(): Promise<void>;
  stop(): Promise<void>;
}

const ROOT = '/usr/lib/postgresql';

function programs(): string {
  const versions = existsSync(ROOT) ? readdirSync(ROOT).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((version) => join(ROOT, version, 'bin')).find((bin) => existsSync(join(bin, 'initdb')));
  if (!found) throw new Error('The tests of the relay need Debian’s package postgresql.');
  return found;
}

export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });
}

/** PostgreSQL refuses to be run by root, so it is run by whoever Debian made for it. */
function postgresUser(): { uid?: number; gid?: number } {
  if (process.getuid?.() !== 0) return {};
  const number = (flag: string) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout);
  return { uid: number('-u'), gid: number('-g') };
}

/** @param within where its folder is made */
export async function scratchPostgres(within = tmpdir()): Promise<ScratchPostgres> {
  const bin = programs();
  const user = postgresUser();
  const folder = mkdtempSync(join(within, 'half-penny-postgres-'));
  chmodSync(folder, 0o700);
  if (user.uid !== undefined) chownSync(folder, user.uid, user.gid!);
  const data = join(folder, 'data');
  const made = spawnSync(join(bin, 'initdb'), ['-D', data, '-U', 'relay', '-A', 'trust', '--no-sync'], {
    ...user,
    cwd: folder,
    encoding: 'utf8',
  });
  if (made.status !== 0) throw new Error(`initdb: ${made.stderr}`);
  const port = await freePort();
  const args = ['-D', data, '-p', String(port), '-k', folder, '-c', 'listen_addresses=127.0.0.1'];
  let running: ReturnType<typeof spawn> | null = null;
  const ended = () => new Promise<void>((resolve) => (running ? running.once('exit', () => resolve()) : resolve()));
  const end = async (signal: NodeJS.Signals) => {
    const done = ended();
    running?.kill(signal);
    await done;
    running = null;
  };
  const start = async () => {
    running = spawn(join(bin, 'postgres'), args, { ...user, cwd: folder, stdio: 'ignore' });
    // Long, for a machine that others keep busy.
    for (const until = Date.now() + 120_000; Date.now() < until;) {
      const asked = spawnSync(join(bin, 'pg_isready'), ['-h', '127.0.0.1', '-p', String(port)]);
      if (asked.status === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('PostgreSQL did not start.');
  };
  await start();
  return {
    url: `postgres://relay@127.0.0.1:${port}/postgres`,
    folder,
    start,
    // Its children end by themselves once it is gone, and let go of what they share.
    kill: () => end('SIGQUIT'),
    async stop() {
      await end('SIGINT');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
