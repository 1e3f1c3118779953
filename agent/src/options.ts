import { parseArgs } from 'node:util';

export interface Options {
  server: string;
  /** The pairing key; read from beside the server where not given. */
  key: string | null;
  /** Where what was not sent yet is kept. */
  data: string | null;
  /** Folders whose files are watched. */
  watch: string[];
  /** Plays the made-up week instead of watching. */
  simulate: boolean;
  /** So many times as fast as it was; all at once where null. */
  speed: number | null;
  /** Ends when the made-up week was sent, instead of going on with today. */
  once: boolean;
}

export const USAGE = `npm run agent -- --watch FOLDER [--watch FOLDER…]   watches this computer
npm run agent -- --simulate [--speed 600] [--once]  plays a made-up week of the demo studio
Both take --server http://127.0.0.1:4350, --key PAIRING-KEY and --data FOLDER.`;

/** @throws Error in words where something is asked for that there is not */
export function readOptions(args: readonly string[]): Options {
  const { values } = parseArgs({
    args: [...args],
    options: {
      server: { type: 'string', default: 'http://127.0.0.1:4350' },
      key: { type: 'string' },
      data: { type: 'string' },
      watch: { type: 'string', multiple: true, default: [] },
      simulate: { type: 'boolean', default: false },
      speed: { type: 'string' },
      once: { type: 'boolean', default: false },
    },
  });
  const speed = values.speed === undefined ? null : Number(values.speed);
  if (speed !== null && !(speed >= 1 && speed <= 1e6)) throw new Error('--speed is a number from 1 to 1000000.');
  if (!URL.canParse(values.server)) throw new Error(`“${values.server}” is no address of a server.`);
  const { server, key = null, data = null, watch, simulate, once } = values;
  return { server, key, data, watch, simulate, speed, once };
}
