import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

// Starting at login is each system's own business: a user unit of systemd (systemd.service(5)), an agent of launchd (launchd.plist(5)), a task of
// the Task Scheduler (its XML schema, "Task Scheduler Schema").

/** What is started, and for whom. */
export interface LoginOptions {
  platform: NodeJS.Platform;
  /** The person's own folder. */
  home: string;
  /** The command with its arguments, each by itself. */
  command: readonly [string, ...string[]];
  /** Where it is started. */
  folder: string;
  say: (text: string) => void;
}

interface Service {
  file: string;
  text: string;
  /** What makes the system know it. */
  begin: string[][];
  end: string[][];
}

const NAME = 'half-penny-agent';
const TASK = 'Half Penny agent';

/** Has the agent start at login, and starts it. */
export function installAtLogin(options: LoginOptions): void {
  const { file, text, begin } = serviceOf(options);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
  options.say(`Written: ${file}`);
  const failed = begin.find(([program = '', ...args]) => !does(program, args));
  options.say(
    failed
      ? `${failed.join(' ')} did not succeed here. Run it in a session of your own; the file is there.`
      : 'The agent runs, and starts again at every login.',
  );
}

/** Ends that. */
export function uninstallAtLogin(options: LoginOptions): void {
  const { file, end } = serviceOf(options);
  if (!existsSync(file)) return options.say(`The agent does not start at login: there is no ${file}.`);
  for (const [program = '', ...args] of end) does(program, args);
  rmSync(file);
  options.say(`Removed: ${file}. The agent does not start at login any more.`);
}

const does = (program: string, args: string[]): boolean => spawnSync(program, args, { stdio: 'ignore' }).status === 0;

function serviceOf(options: LoginOptions): Service {
  switch (options.platform) {
    case 'darwin':
      return launchd(options);
    case 'win32':
      return taskScheduler(options);
    default:
      return systemd(options);
  }
}

/** Quoted as systemd reads a command line: in double quotes, with \ and % and $ doubled or escaped. */
const systemdWord = (word: string): string =>
  `"${word.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('%', '%%').replaceAll('$', '$$$$')}"`;

function systemd({ home, command, folder }: LoginOptions): Service {
  return {
    file: join(home, '.config/systemd/user', `${NAME}.service`),
    text: `[Unit]
Description=Half Penny notices which window is in front and which files are saved
PartOf=graphical-session.target
After=graphical-session.target

[Service]
ExecStart=${command.map(systemdWord).join(' ')}
WorkingDirectory=${folder.replaceAll('%', '%%')}
Restart=on-failure
RestartSec=10

[Install]
WantedBy=graphical-session.target
`,
    begin: [
      ['systemctl', '--user', 'daemon-reload'],
      ['systemctl', '--user', 'enable', '--now', NAME],
    ],
    end: [['systemctl', '--user', 'disable', '--now', NAME]],
  };
}

const xml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

function launchd({ home, command, folder }: LoginOptions): Service {
  const file = join(home, 'Library/LaunchAgents', `${NAME}.plist`);
  return {
    file,
    text: `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE plist PUBLIC "-//Apple//DTD PLIST 1.0//EN" "http://www.apple.com/DTDs/PropertyList-1.0.dtd">
<plist version="1.0">
<dict>
  <key>Label</key><string>${NAME}</string>
  <key>ProgramArguments</key>
  <array>
${command.map((word) => `    <string>${xml(word)}</string>`).join('\n')}
  </array>
  <key>WorkingDirectory</key><string>${xml(folder)}</string>
  <key>RunAtLoad</key><true/>
  <key>KeepAlive</key><dict><key>SuccessfulExit</key><false/></dict>
</dict>
</plist>
`,
    begin: [['launchctl', 'load', '-w', file]],
    end: [['launchctl', 'unload', '-w', file]],
  };
}

/** Quoted as Windows takes a command line apart. */
const windowsWord = (word: string): string => (/[\s"]/.test(word) ? `"${word.replaceAll('"', '\\"')}"` : word);

function taskScheduler({ home, command: [program, ...args], folder }: LoginOptions): Service {
  const file = join(home, '.half-penny', `${NAME}.xml`);
  return {
    file,
    text: `<?xml version="1.0"?>
<Task version="1.2" xmlns="http://schemas.microsoft.com/windows/2004/02/mit/task">
  <Triggers><LogonTrigger><Enabled>true</Enabled></LogonTrigger></Triggers>
  <Settings>
    <MultipleInstancesPolicy>IgnoreNew</MultipleInstancesPolicy>
    <DisallowStartIfOnBatteries>false</DisallowStartIfOnBatteries>
    <StopIfGoingOnBatteries>false</StopIfGoingOnBatteries>
    <ExecutionTimeLimit>PT0S</ExecutionTimeLimit>
    <RestartOnFailure><Interval>PT1M</Interval><Count>10</Count></RestartOnFailure>
  </Settings>
  <Actions>
    <Exec>
      <Command>${xml(program)}</Command>
      <Arguments>${xml(args.map(windowsWord).join(' '))}</Arguments>
      <WorkingDirectory>${xml(folder)}</WorkingDirectory>
    </Exec>
  </Actions>
</Task>
`,
    begin: [
      ['schtasks', '/Create', '/F', '/TN', TASK, '/XML', file],
      ['schtasks', '/Run', '/TN', TASK],
    ],
    end: [
      ['schtasks', '/End', '/TN', TASK],
      ['schtasks', '/Delete', '/F', '/TN', TASK],
    ],
  };
}
