import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { chmodSync, existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { installAtLogin, uninstallAtLogin, type LoginOptions } from './login';

let home: string;
let said: string[];
const before = process.env.PATH;
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), 'half-penny-login-'));
  said = [];
  process.env.PATH = `${home}${delimiter}/bin`;
});
afterEach(() => {
  process.env.PATH = before;
});
/** A program of the system that notes how it was called. */
function program(name: string, status = 0): void {
  writeFileSync(join(home, name), `#!/bin/sh\necho "${name} $*" >> ${join(home, 'calls')}\nexit ${status}\n`);
  chmodSync(join(home, name), 0o755);
}
const calls = () => readFileSync(join(home, 'calls'), 'utf8').trim().split('\n');
const options = (platform: LoginOptions['platform']): LoginOptions => ({
  platform,
  home,
  folder: '/opt/half penny',
  command: ['/usr/bin/node', 'main.ts', '--watch', '/home/me/100% "work" & $more'],
  say: (text) => said.push(text),
});

describe('starting at login', () => {
  it('is a user unit of systemd, which reads its words as they were', () => {
    program('systemctl');
    installAtLogin(options('linux'));
    const text = readFileSync(join(home, '.config/systemd/user/half-penny-agent.service'), 'utf8');
    expect(text).toContain(
      'ExecStart="/usr/bin/node" "main.ts" "--watch" "/home/me/100%% \\"work\\" & $$more"\nWorkingDirectory=/opt/half penny\n',
    );
    expect(calls()).toEqual(['systemctl --user daemon-reload', 'systemctl --user enable --now half-penny-agent']);
    expect(said.at(-1)).toContain('starts again at every login');
    uninstallAtLogin(options('linux'));
    expect(calls().at(-1)).toBe('systemctl --user disable --now half-penny-agent');
    expect(existsSync(join(home, '.config/systemd/user/half-penny-agent.service'))).toBe(false);
    uninstallAtLogin(options('linux'));
    expect(said.at(-1)).toContain('does not start at login');
  });

  it('is an agent of launchd', () => {
    program('launchctl');
    installAtLogin(options('darwin'));
    const text = readFileSync(join(home, 'Library/LaunchAgents/half-penny-agent.plist'), 'utf8');
    expect(XMLValidator.validate(text)).toBe(true);
    const { plist } = new XMLParser().parse(text) as { plist: { dict: { array: { string: string[] } } } };
    expect(plist.dict.array.string).toEqual(options('darwin').command);
    expect(calls()[0]).toMatch(/^launchctl load -w /);
  });

  it('is a task of the Task Scheduler', () => {
    program('schtasks');
    installAtLogin(options('win32'));
    const text = readFileSync(join(home, '.half-penny/half-penny-agent.xml'), 'utf8');
    expect(XMLValidator.validate(text)).toBe(true);
    type Task = { Task: { Actions: { Exec: { Command: string; Arguments: string } } } };
    const { Exec } = (new XMLParser().parse(text) as Task).Task.Actions;
    expect(Exec).toMatchObject({
      Command: '/usr/bin/node',
      Arguments: 'main.ts --watch "/home/me/100% \\"work\\" & $more"',
    });
    uninstallAtLogin(options('win32'));
    expect(calls().at(-1)).toBe('schtasks /Delete /F /TN Half Penny agent');
  });

  it('says what is left to do where the system does not take it', () => {
    program('systemctl', 1);
    installAtLogin(options('linux'));
    expect(said.at(-1)).toBe(
      'systemctl --user daemon-reload did not succeed here. Run it in a session of your own; the file is there.',
    );
  });
});
