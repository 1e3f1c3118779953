import * as z from 'zod';
import { answers, ask } from './ask';
import type { Desk, FrontWindow } from './desk';

// Wayland has no way of its own to ask for the window in front; each compositor has one: Sway by swaymsg, Hyprland by hyprctl, KDE Plasma by
// kdotool, GNOME by its D-Bus extension "Focused Window D-Bus". Time without input is told by GNOME's idle monitor, or by loginctl.

const pidSchema = z.int().positive().nullish();

/** A node of Sway's tree; the one that is focused has no nodes that are. */
interface SwayNode {
  focused: boolean;
  name: string | null;
  pid?: number | null | undefined;
  app_id?: string | null | undefined;
  window_properties?: { class?: string | undefined } | undefined;
  nodes: SwayNode[];
  floating_nodes: SwayNode[];
}
const swaySchema: z.ZodType<SwayNode> = z.lazy(() =>
  z.object({
    focused: z.boolean(),
    name: z.string().nullable(),
    pid: pidSchema,
    app_id: z.string().nullish(),
    window_properties: z.object({ class: z.string().optional() }).optional(),
    nodes: z.array(swaySchema),
    floating_nodes: z.array(swaySchema),
  }),
);

function focusedIn(node: SwayNode): SwayNode | null {
  if (node.focused) return node;
  for (const each of [...node.nodes, ...node.floating_nodes]) {
    const found = focusedIn(each);
    if (found) return found;
  }
  return null;
}

async function swayFront(): Promise<FrontWindow | null> {
  const focused = focusedIn(swaySchema.parse(JSON.parse(await ask('swaymsg', ['-t', 'get_tree', '-r']))));
  // A workspace has the focus where it holds no window.
  if (!focused?.pid) return null;
  const program = focused.app_id ?? focused.window_properties?.class ?? '';
  return { title: focused.name ?? '', program, pid: focused.pid };
}

const hyprlandSchema = z.object({ title: z.string(), class: z.string(), pid: pidSchema }).partial();

async function hyprlandFront(): Promise<FrontWindow | null> {
  const { title, class: program, pid } = hyprlandSchema.parse(JSON.parse(await ask('hyprctl', ['activewindow', '-j'])));
  return title === undefined ? null : { title, program: program ?? '', pid: pid ?? null };
}

async function plasmaFront(): Promise<FrontWindow | null> {
  const told = await ask('kdotool', ['getactivewindow', 'getwindowname', 'getwindowclassname', 'getwindowpid']);
  const [title = '', program = '', pid = ''] = told.split('\n');
  return program === '' ? null : { title, program, pid: /^\d+$/.test(pid) ? Number(pid) : null };
}

const gnomeSchema = z.object({ title: z.string(), wm_class: z.string(), pid: pidSchema }).partial();

async function gnomeFront(): Promise<FrontWindow | null> {
  const told = await ask('gdbus', [
    'call',
    '--session',
    '--dest=org.gnome.Shell',
    '--object-path=/org/gnome/shell/extensions/FocusedWindow',
    '--method=org.gnome.shell.extensions.FocusedWindow.Get',
  ]);
  // A tuple of one text, in the notation of GVariant: ('{"title":…}',)
  const text = /^\('([\s\S]*)',\)\s*$/.exec(told)?.[1]?.replace(/\\(['\\])/g, '$1');
  const { title, wm_class: program, pid } = gnomeSchema.parse(JSON.parse(text ?? '{}'));
  return title === undefined ? null : { title, program: program ?? '', pid: pid ?? null };
}

/** Each compositor that is known: what it is called, and how it is asked. */
const COMPOSITORS = [
  { name: 'Sway', front: swayFront },
  { name: 'Hyprland', front: hyprlandFront },
  { name: 'KDE Plasma', front: plasmaFront },
  { name: 'GNOME', front: gnomeFront },
] as const;

async function gnomeIdle(): Promise<number> {
  const told = await ask('gdbus', [
    'call',
    '--session',
    '--dest=org.gnome.Mutter.IdleMonitor',
    '--object-path=/org/gnome/Mutter/IdleMonitor/Core',
    '--method=org.gnome.Mutter.IdleMonitor.GetIdletime',
  ]);
  return Number(/\(uint64 (\d+),\)/.exec(told)![1]);
}

/** The session's own hint: since when nobody is there, in microseconds since 1970; coarse, but known to every desktop that locks. */
async function sessionIdle(): Promise<number> {
  const told = await ask('loginctl', ['show-session', 'auto', '-p', 'IdleHint', '-p', 'IdleSinceHint']);
  if (!/^IdleHint=yes$/m.test(told)) {
    if (!/^IdleHint=no$/m.test(told)) throw new Error('loginctl tells no idle hint.');
    return 0;
  }
  return Math.max(0, Date.now() - Number(/^IdleSinceHint=(\d+)$/m.exec(told)![1]) / 1000);
}

/** The compositor that answers, with what tells of time without input; null where none does. */
export async function wayland(): Promise<Desk | null> {
  for (const { name, front } of COMPOSITORS) {
    if (!(await answers(front))) continue;
    const idle = (await answers(gnomeIdle)) ? gnomeIdle : (await answers(sessionIdle)) ? sessionIdle : null;
    return { name: `${name} on Wayland`, front, ...(idle ? { idle } : {}) };
  }
  return null;
}
