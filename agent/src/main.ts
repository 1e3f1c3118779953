import { existsSync, readFileSync, statSync } from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import { watchFolders } from './folders';
import { readOptions, USAGE, type Options } from './options';
import { isThere, Screen } from './screen';
import { Sender } from './sender';
import { playOn, playWeek } from './simulate';
import { Spool } from './spool';

const LOOK_EVERY = 2000;
const say = (text: string) => console.log(text);

let options: Options;
try {
  options = readOptions(process.argv.slice(2));
  if (!options.simulate && options.watch.length === 0) throw new Error('Say what to do.');
  for (const folder of options.watch) {
    if (!existsSync(folder) || !statSync(folder).isDirectory()) throw new Error(`There is no folder ${folder}.`);
  }
} catch (thrown) {
  console.error(`${(thrown as Error).message}\n\n${USAGE}`);
  process.exit(1);
}

const home = process.env.HALF_PENNY_DATA ?? join(homedir(), '.half-penny');
const keyFile = join(home, new URL(options.server).port || '4350', 'pairing-key');
const spool = new Spool(options.data ?? join(home, options.simulate ? 'agent-simulated' : 'agent'));
const sender = new Sender(spool, {
  server: options.server,
  key: () => options.key ?? (existsSync(keyFile) ? readFileSync(keyFile, 'utf8').trim() : null),
  say,
});
let stopped = false;
const stop: (() => unknown)[] = [];
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    stopped = true;
    stop.forEach((each) => each());
    sender.stop();
    void Promise.race([sender.flush(), new Promise((done) => setTimeout(done, 1000))]).then(() => process.exit(0));
  });
}
const record = (activities: Parameters<Spool['add']>[0]) => spool.add(activities);
void sender.run();
if (options.simulate) {
  const play = { record, speed: options.speed, isStopped: () => stopped };
  say('Playing a made-up week of Saltmere Lighting.');
  await playWeek(play);
  while (!(await sender.flush()) && !stopped) await new Promise((done) => setTimeout(done, 500));
  if (options.once) process.exit(0);
  say('The week is sent. Today goes on as it comes; Ctrl C ends it.');
  await playOn(play);
} else {
  await watchThis();
}

async function watchThis(): Promise<void> {
  const files = new Set<string>();
  const folders = options.watch.map((folder) => resolve(folder));
  const watcher = await watchFolders(folders, files, record);
  stop.push(() => watcher.close());
  const hasScreen = Boolean(process.env.DISPLAY) && (await isThere('xprop', ['-root', '_NET_ACTIVE_WINDOW']));
  const hasIdle = hasScreen && (await isThere('xprintidle', []));
  if (!hasScreen) say('The window in front cannot be seen here (it takes X11 and xprop); saved files are watched.');
  else if (!hasIdle) say('Time away cannot be told here (it takes xprintidle); windows and saved files are watched.');
  say(`Watching ${folders.join(', ')}. Ctrl C ends it.`);
  if (!hasScreen) return;
  const screen = new Screen({ record, files, folders, hasIdle });
  stop.push(() => screen.end());
  while (!stopped) {
    await screen.look().catch(() => undefined);
    await new Promise((done) => setTimeout(done, LOOK_EVERY));
  }
}
