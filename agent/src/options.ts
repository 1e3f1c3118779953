import { parseArgs } from 'node:util';

export interface Options {
  /** What is to be done: noticing, or having it begin at every login, or no more. */
  act: 'run' | 'install' | 'uninstall';
  server: string;
  /** The pairing key; read from beside the server where not given. */
  key: string | null;
  /** Where what was not sent yet is kept. */
  data: string | null;
  /** Folders whose files are watched. */
  watch: string[];
  /** Mailboxes that are watched: Maildir folders and mbox files. */
  mail: string[];
  /** Nothing that was noticed is written to the disk, not even sealed. */
  inMemory: boolean;
  /** Several people use this computer: who is there is asked. */
  shared: boolean;
  /** Plays the made-up week instead of watching. */
  simulate: boolean;
  /** So many times as fast as it was; all at once where null. */
  speed: number | null;
  /** Ends when the made-up week was sent, instead of going on with today. */
  once: boolean;
}

export const USAGE = `npm run agent -- --watch FOLDER [--watch FOLDER…]   watches this computer; add --mail MAILBOX for a Maildir or mbox
npm run agent -- install --watch FOLDER [--mail …]  does so from now on at every login; uninstall ends that
npm run agent -- --simulate [--speed 600] [--once]  plays a made-up week of the demo studio
All take --server http://127.0.0.1:4350, --key PAIRING-KEY, --data FOLDER, --in-memory to keep what waits off the disk,
and --shared to be asked who is there at a computer that several use.`;

/** @throws Error in words where something is asked for that there is not */
export function readOptions(args: readonly string[]): Options {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      server: { type: 'string', default: 'http://127.0.0.1:4350' },
      key: { type: 'string' },
      data: { type: 'string' },
      watch: { type: 'string', multiple: true, default: [] },
      mail: { type: 'string', multiple: true, default: [] },
      'in-memory': { type: 'boolean', default: false },
      shared: { type: 'boolean', default: false },
      simulate: { type: 'boolean', default: false },
      speed: { type: 'string' },
      once: { type: 'boolean', default: false },
    },
  });
  const speed = values.speed === undefined ? null : Number(values.speed);
  if (speed !== null && !(speed >= 1 && speed <= 1e6)) throw new Error('--speed is a number from 1 to 1000000.');
  if (!URL.canParse(values.server)) throw new Error(`“${values.server}” is no address of a server.`);
  const [act = 'run', ...more] = positionals;
  if (act !== 'run' && act !== 'install' && act !== 'uninstall') throw new Error(`“${act}” is nothing the agent does.`);
  if (more.length > 0) throw new Error(`“${more.join(' ')}” is too much.`);
  const { server, key = null, data = null, watch, mail, 'in-memory': inMemory, shared, simulate, once } = values;
  return { act, server, key, data, watch, mail, inMemory, shared, simulate, speed, once };
}
