import { answers } from './ask';
import type { Desk, FoundDesk, Lack } from './desk';
import { macos } from './macos';
import { wayland } from './wayland';
import { endWindows, windows } from './windows';
import { x11 } from './x11';

/** What of the machine tells which desk it is. */
export interface Machine {
  platform: NodeJS.Platform;
  env: Readonly<Record<string, string | undefined>>;
}

const FRONT = 'The window in front';
const AWAY = 'Time away';

/** What is to be done where a system's own way does not answer. */
const HOW: Record<'darwin' | 'win32' | 'x11', { front: string; idle: string }> = {
  darwin: {
    front: 'Allow it under System Settings → Privacy & Security → Accessibility, and start the agent again.',
    idle: 'It takes ioreg, which comes with macOS.',
  },
  win32: { front: 'It takes PowerShell, which comes with Windows.', idle: 'It takes PowerShell.' },
  x11: {
    front: 'Install xprop (on Debian: apt install x11-utils), and start the agent again.',
    idle: 'Install xprintidle (on Debian: apt install xprintidle), and start the agent again.',
  },
};
const ON_WAYLAND =
  'Wayland tells it by the compositor: Sway and Hyprland do by themselves, KDE Plasma with kdotool, GNOME with the extension “Focused Window D-Bus”. A session on X11 needs none of these.';

/** Finds the way this computer's desk can be watched, and what of it cannot be. */
export async function findDesk({ platform, env }: Machine): Promise<FoundDesk> {
  if (platform === 'darwin') return asked(macos, HOW.darwin);
  if (platform === 'win32') return asked(windows, HOW.win32);
  if (env.WAYLAND_DISPLAY) {
    const found = await wayland();
    if (found) return { desk: found, lacks: found.idle ? [] : [{ what: AWAY, how: 'It takes loginctl.' }] };
    if (!env.DISPLAY) return { desk: null, lacks: [{ what: FRONT, how: ON_WAYLAND }] };
    const behind = await asked(x11, HOW.x11);
    // Behind Wayland, X11 knows the windows of older programs alone.
    return { ...behind, lacks: [...behind.lacks, { what: 'Windows that are Wayland’s own', how: ON_WAYLAND }] };
  }
  if (!env.DISPLAY) return { desk: null, lacks: [{ what: FRONT, how: 'No display is open here.' }] };
  return asked(x11, HOW.x11);
}

async function asked(desk: Desk, how: { front: string; idle: string }): Promise<FoundDesk> {
  const lacks: Lack[] = [];
  if (!(await answers(desk.front))) return { desk: null, lacks: [{ what: FRONT, how: how.front }] };
  if (desk.idle && (await answers(desk.idle))) return { desk, lacks };
  const { idle: _, ...withoutIdle } = desk;
  return { desk: withoutIdle, lacks: [{ what: AWAY, how: how.idle }] };
}

/** Ends what was started to watch. */
export const endDesk = (): void => endWindows();
