import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { endDesk, findDesk } from './find';

// Stand-ins for the programs of each system, on a path of their own. What they print follows the programs' manuals.
let place: string;
const before = process.env.PATH;
beforeEach(() => {
  place = mkdtempSync(join(tmpdir(), 'half-penny-desk-'));
  process.env.PATH = `${place}${delimiter}/bin${delimiter}/usr/bin`;
  // Those that may really be here answer nothing.
  for (const name of ['xprop', 'xprintidle', 'gdbus', 'loginctl', 'swaymsg', 'hyprctl', 'kdotool'])
    program(name, 'exit 1');
});
afterEach(() => {
  endDesk();
  process.env.PATH = before;
});
function program(name: string, script: string): void {
  writeFileSync(join(place, name), `#!/bin/sh\n${script}\n`);
  chmodSync(join(place, name), 0o755);
}
const saying = (text: string) => `cat <<'END'\n${text}\nEND`;
const wayland = { platform: 'linux', env: { WAYLAND_DISPLAY: 'wayland-0' } } as const;

describe('macOS', () => {
  const mac = { platform: 'darwin', env: {} } as const;

  it('tells the window in front and time without input', async () => {
    program('osascript', saying('Plotting Desk\n4711\nplot-4.lgp – “Quayside”'));
    program('ioreg', saying('  | "HIDParameters" = {}\n  | "HIDIdleTime" = 61500000000'));
    const { desk, lacks } = await findDesk(mac);
    expect(lacks).toEqual([]);
    expect(await desk!.front()).toEqual({ program: 'Plotting Desk', pid: 4711, title: 'plot-4.lgp – “Quayside”' });
    expect(await desk!.idle!()).toBe(61_500);
  });

  it('says where it is allowed when it is not', async () => {
    program('osascript', 'echo "not allowed assistive access" >&2; exit 1');
    const { desk, lacks } = await findDesk(mac);
    expect(desk).toBeNull();
    expect(lacks[0]!.how).toContain('Accessibility');
  });
});

describe('Windows', () => {
  const windows = { platform: 'win32', env: {} } as const;
  const answering = (answer: object) => `while read -r line; do cat <<'END'\n${JSON.stringify(answer)}\nEND\ndone`;

  it('is asked through one PowerShell that stays', async () => {
    program(
      'powershell',
      `echo started >> ${join(place, 'starts')}\n${answering({ title: 'Säulenplan', program: 'plot', pid: 12, idle: 900 })}`,
    );
    const { desk, lacks } = await findDesk(windows);
    expect(lacks).toEqual([]);
    for (let look = 0; look < 3; look++)
      expect(await desk!.front()).toEqual({ title: 'Säulenplan', program: 'plot', pid: 12 });
    expect(await desk!.idle!()).toBe(900);
    expect(readFileSync(join(place, 'starts'), 'utf8')).toBe('started\n');
  });

  it('has no window in front where no process has one, and starts again what ended', async () => {
    program('powershell', answering({ title: '', program: '', pid: 0, idle: 0 }));
    const { desk } = await findDesk(windows);
    expect(await desk!.front()).toBeNull();
    program('powershell', 'exit 3');
    endDesk();
    await expect(desk!.front()).rejects.toThrow('PowerShell ended');
    program('powershell', answering({ title: 'b', program: 'c', pid: 3, idle: 1 }));
    expect(await desk!.front()).toMatchObject({ title: 'b' });
  });

  it('says so where there is no PowerShell', async () => {
    expect((await findDesk(windows)).lacks[0]!.how).toContain('PowerShell');
  });
});

describe('Wayland', () => {
  it('is asked through Sway: the focused window of its tree', async () => {
    const node = (more: object) => ({ focused: false, name: null, nodes: [], floating_nodes: [], ...more });
    const tree = node({
      nodes: [
        node({ name: 'one', app_id: 'mail', pid: 5 }),
        node({
          floating_nodes: [
            node({ focused: true, name: 'plot-4.lgp', app_id: null, window_properties: { class: 'Plot' }, pid: 7 }),
          ],
        }),
      ],
    });
    program('swaymsg', saying(JSON.stringify(tree)));
    program('loginctl', saying('IdleHint=no\nIdleSinceHint=0'));
    const { desk, lacks } = await findDesk(wayland);
    expect([desk!.name, lacks]).toEqual(['Sway on Wayland', []]);
    expect(await desk!.front()).toEqual({ title: 'plot-4.lgp', program: 'Plot', pid: 7 });
    expect(await desk!.idle!()).toBe(0);
    program('loginctl', saying(`IdleHint=yes\nIdleSinceHint=${(Date.now() - 120_000) * 1000}`));
    expect(Math.abs((await desk!.idle!()) - 120_000)).toBeLessThan(20_000);
  });

  it('is asked through Hyprland, KDE Plasma and GNOME', async () => {
    program('hyprctl', saying('{"title":"a","class":"A","pid":1}'));
    expect(await (await findDesk(wayland)).desk!.front()).toEqual({ title: 'a', program: 'A', pid: 1 });
    program('hyprctl', 'exit 1');
    program('kdotool', saying('b – b\nB\n22'));
    expect(await (await findDesk(wayland)).desk!.front()).toEqual({ title: 'b – b', program: 'B', pid: 22 });
    program('kdotool', 'exit 1');
    program(
      'gdbus',
      `case "$*" in *IdleMonitor*) echo '(uint64 4200,)';; *) ${saying(`('{"title":"It\\'s c","wm_class":"C","pid":3}',)`)}\n;; esac`,
    );
    const { desk, lacks } = await findDesk(wayland);
    expect([desk!.name, lacks]).toEqual(['GNOME on Wayland', []]);
    expect(await desk!.front()).toEqual({ title: "It's c", program: 'C', pid: 3 });
    expect(await desk!.idle!()).toBe(4200);
  });

  it('that does not tell is said with what to do', async () => {
    const none = await findDesk(wayland);
    expect([none.desk, none.lacks[0]!.how]).toEqual([null, expect.stringContaining('kdotool')]);
    // Behind it, older programs are seen by X11.
    program('xprop', `if [ "$1" = -root ]; then echo '_NET_ACTIVE_WINDOW(WINDOW): window id # 0x0'; fi`);
    const behind = await findDesk({ ...wayland, env: { ...wayland.env, DISPLAY: ':1' } });
    expect([behind.desk!.name, behind.lacks.map((each) => each.what)]).toEqual([
      'X11',
      ['Time away', 'Windows that are Wayland’s own'],
    ]);
  });
});

describe('X11', () => {
  const x11 = { platform: 'linux', env: { DISPLAY: ':1' } } as const;

  it('works without what tells time away, and says how to have it', async () => {
    program('xprop', `if [ "$1" = -root ]; then echo '_NET_ACTIVE_WINDOW(WINDOW): window id # 0x0'; fi`);
    const { desk, lacks } = await findDesk(x11);
    expect([desk!.idle, lacks]).toEqual([
      undefined,
      [{ what: 'Time away', how: expect.stringContaining('xprintidle') }],
    ]);
  });

  it('calls back as the front changes', async () => {
    program('xprop', `case "$1" in -spy) echo one; sleep 0.2; echo two; exec sleep 60;; *) echo '# 0x0';; esac`);
    const { desk } = await findDesk(x11);
    let changes = 0;
    const end = desk!.onChange!(() => changes++);
    await expect.poll(() => changes, { timeout: 30_000 }).toBe(2);
    end();
  });

  it('is not there without a display', async () => {
    expect((await findDesk({ platform: 'linux', env: {} })).lacks[0]!.how).toContain('No display');
  });
});
