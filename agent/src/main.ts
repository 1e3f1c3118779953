import { existsSync, readFileSync, statSync } from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FoundDesk } from './desk/desk';
import { endDesk, findDesk } from './desk/find';
import { whoByDialog } from './desk/who';
import { watchFolders } from './folders';
import { Gate } from './gate';
import { keepSaying, sayHello, type HelloOptions } from './hello';
import { installAtLogin, uninstallAtLogin, type LoginOptions } from './login';
import { isMailbox, watchMail } from './mail';
import { readOptions, USAGE, type Options } from './options';
import { Screen } from './screen';
import { Sender } from './sender';
import { playOn, playWeek } from './simulate';
import { Spool } from './spool';
import { WhoIsHere } from './who-is-here';

const LOOK_EVERY = 2000;
/** By this the browser knows that what comes is made up, and takes it whenever it was. */
const MADE_UP = 'made-up';
const say = (text: string) => console.log(text);

let options: Options;
try {
  options = readOptions(process.argv.slice(2));
  if (!options.simulate && options.act !== 'uninstall' && options.watch.length + options.mail.length === 0)
    throw new Error('Say what to do.');
  for (const folder of options.watch) {
    if (!existsSync(folder) || !statSync(folder).isDirectory()) throw new Error(`There is no folder ${folder}.`);
  }
  for (const box of options.mail)
    if (!isMailbox(box)) throw new Error(`${box} is neither a Maildir folder nor a file.`);
} catch (thrown) {
  console.error(`${(thrown as Error).message}\n\n${USAGE}`);
  process.exit(1);
}
const home = process.env.HALF_PENNY_DATA ?? join(homedir(), '.half-penny');
if (options.act === 'run') await notice();
else (options.act === 'install' ? installAtLogin : uninstallAtLogin)(atLogin());

/** The same command as this one, with whole paths. */
function atLogin(): LoginOptions {
  const root = fileURLToPath(new URL('../..', import.meta.url));
  const { server, key, data, watch, mail, inMemory, shared } = options;
  return {
    platform: process.platform,
    home: homedir(),
    folder: root,
    command: [
      process.execPath,
      join(root, 'node_modules/tsx/dist/cli.mjs'),
      join(root, 'agent/src/main.ts'),
      ...watch.flatMap((folder) => ['--watch', resolve(folder)]),
      ...mail.flatMap((box) => ['--mail', resolve(box)]),
      ...['--server', server],
      ...(key === null ? [] : ['--key', key]),
      ...(data === null ? [] : ['--data', resolve(data)]),
      ...(inMemory ? ['--in-memory'] : []),
      ...(shared ? ['--shared'] : []),
    ],
    say,
  };
}

async function notice(): Promise<void> {
  const keyFile = join(home, new URL(options.server).port || '4350', 'pairing-key');
  const key = () => options.key ?? (existsSync(keyFile) ? readFileSync(keyFile, 'utf8').trim() : null);
  const folder = options.data ?? join(home, options.simulate ? 'agent-simulated' : 'agent');
  const kind = options.simulate ? MADE_UP : 'agent';
  const spool = new Spool(folder, { inMemory: options.inMemory, kind });
  const gate = new Gate(spool, folder, options.simulate);
  const sender = new Sender(spool, { server: options.server, key, say });
  let stopped = false;
  const stop: (() => unknown)[] = [];
  const found: FoundDesk = options.simulate
    ? { desk: null, lacks: [] }
    : await findDesk({ platform: process.platform, env: process.env });
  const hello: HelloOptions = { server: options.server, key, gate, about: aboutThis(spool.device, found) };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      stopped = true;
      stop.forEach((each) => each());
      endDesk();
      sender.stop();
      // What was noticed last goes out, and that this is the end; neither is waited for long.
      const last = Promise.all([sender.flush(), sayHello(hello, true)]);
      void Promise.race([last, new Promise((done) => setTimeout(done, 1000))]).then(() => process.exit(0));
    });
  }
  await sayHello(hello);
  void keepSaying(hello, () => stopped);
  void sender.run();
  if (options.simulate) {
    const play = { record: gate.record, speed: options.speed, isStopped: () => stopped };
    say('Playing a made-up week of Saltmere Lighting.');
    await playWeek(play);
    while (!(await sender.flush()) && !stopped) await new Promise((done) => setTimeout(done, 500));
    if (options.once) process.exit(0);
    say('The week is sent. Today goes on as it comes; Ctrl C ends it.');
    await playOn(play);
    return;
  }
  const who = options.shared ? new WhoIsHere({ ask: whoByDialog(process.platform), record: gate.record, say }) : null;
  const record = who?.record ?? gate.record;
  const files = new Set<string>();
  const folders = options.watch.map((each) => resolve(each));
  const watcher = await watchFolders(folders, files, record);
  const mail = await watchMail(
    options.mail.map((each) => resolve(each)),
    record,
  );
  stop.push(
    () => watcher.close(),
    () => mail.close(),
  );
  for (const { what, how } of found.lacks) say(`${what} cannot be seen here. ${how}`);
  say(
    `Watching ${[...folders, ...options.mail, ...(found.desk ? [found.desk.name] : [])].join(', ')}. Ctrl C ends it.`,
  );
  if (!found.desk) return;
  const screen = new Screen({ record, files, folders, desk: found.desk });
  stop.push(() => screen.end());
  // One look at a time, every two seconds and whenever the front changes.
  let looking = Promise.resolve();
  const look = () => (looking = looking.then(() => screen.look()).catch(() => undefined));
  const unwatch = found.desk.onChange?.(() => void look());
  if (unwatch) stop.push(unwatch);
  while (!stopped) {
    await look();
    await new Promise((done) => setTimeout(done, LOOK_EVERY));
  }
}

/** What this computer is and can see, as Sources shows it. */
function aboutThis(device: string, { desk, lacks }: FoundDesk): HelloOptions['about'] {
  if (options.simulate) return { device, name: 'The made-up week', sees: ['a week that was made up'], lacks: [] };
  return {
    device,
    name: desk ? `Agent on ${desk.name}` : 'Agent',
    sees: [
      ...(desk ? ['the window in front'] : []),
      ...(desk?.idle ? ['time away and hands on'] : []),
      ...(options.watch.length > 0 ? ['files that are saved'] : []),
      ...(options.mail.length > 0 ? ['mail: when, who and what about'] : []),
    ],
    lacks,
  };
}
