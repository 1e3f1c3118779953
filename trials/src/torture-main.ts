import { parseArgs } from 'node:util';
import { afternoon } from './browser';
import { chanceOf } from './chance';
import { runCommands, type Ran } from './commands';
import { browserPlace, memoryPlace } from './places';

// npm run torture -- --minutes 60: the built application under random presses in several tabs while browser, server and agent are killed,
// the disk is full, clocks jump and the network goes; then random commands through the browser's executor and in memory.

const USAGE = `npm run torture -- [--minutes 10] [--seed N] [--commands N] [--memory N] [--port 4391]
--minutes    of random presses and kills in a browser; 0 for none
--commands   through the browser's executor, on a stand-in for its database
--memory     commands in memory`;

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '10' },
    seed: { type: 'string', default: String(Date.now() % 1_000_000) },
    commands: { type: 'string', default: '2000' },
    memory: { type: 'string', default: '20000' },
    port: { type: 'string', default: '4391' },
    help: { type: 'boolean', default: false },
  },
});
if (values.help) {
  console.log(USAGE);
  process.exit(0);
}
const number = (name: 'minutes' | 'seed' | 'commands' | 'memory' | 'port'): number => {
  const found = Number(values[name]);
  if (Number.isFinite(found) && found >= 0) return found;
  console.error(`--${name} is “${values[name]}”; it must be a number from 0 on.\n\n${USAGE}`);
  process.exit(2);
};

const seed = number('seed');
console.log(`Seed ${seed}`);
let wrong = 0;
const say = (lines: readonly string[]) => {
  wrong += lines.length;
  for (const line of [...new Set(lines)].slice(0, 20)) console.log(`  ${line}`);
};

const minutes = number('minutes');
if (minutes > 0) {
  const end = Date.now() + minutes * 60_000;
  const short = ({ kills, presses, lost, wrong: faults }: Awaited<ReturnType<typeof afternoon>>) =>
    `${kills.browser} kills of the browser, ${kills.server} of the server, ${kills.agent} of the agent; ${presses} presses; ${lost.length} lost, ${faults.length} wrong`;
  const told = await afternoon(
    chanceOf(seed),
    () => Date.now() > end,
    number('port'),
    (now) => console.log(`  … ${short(now)}`),
  );
  console.log(
    `Browser: ${short(told)}; ${told.troubles.full} times a full disk, ${told.troubles.clock} jumps of the clock, ${told.troubles.offline} times without a network; ${told.commands} commands in the history; ${told.acknowledged} entries and ${told.activities} activities shown as kept; ${told.doubled.length} doubled`,
  );
  say([...told.lost.map((each) => `lost: ${each}`), ...told.doubled.map((each) => `doubled: ${each}`), ...told.wrong]);
}
const showRan = (where: string, { done, refused, wrong: faults }: Ran) => {
  console.log(
    `${where}: ${(done + refused).toLocaleString('en-GB')} commands, ${refused.toLocaleString('en-GB')} of them refused in words; ${faults.length} wrong`,
  );
  say(faults);
};
if (number('commands') > 0)
  showRan("The browser's executor", await runCommands(browserPlace, number('commands'), chanceOf(seed + 1)));
if (number('memory') > 0) showRan('In memory', await runCommands(memoryPlace, number('memory'), chanceOf(seed + 2)));
console.log(wrong === 0 ? 'Nothing lost, nothing doubled, nothing raw.' : `${wrong} findings`);
process.exit(wrong === 0 ? 0 : 1);
