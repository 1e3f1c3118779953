import { spawn } from 'node:child_process';
import { ask } from './ask';
import type { Desk, FrontWindow } from './desk';

// What is asked: xprop of the X.Org applications for properties of the Extended Window Manager Hints, and xprintidle.

/** @returns null where no window has the front */
async function front(): Promise<FrontWindow | null> {
  const id = /(?:# |= )(0x[0-9a-f]+|\d+)/i.exec(await ask('xprop', ['-root', '_NET_ACTIVE_WINDOW']))?.[1];
  if (!id || Number(id) === 0) return null;
  const told = await ask('xprop', ['-id', id, '_NET_WM_NAME', 'WM_NAME', 'WM_CLASS', '_NET_WM_PID']);
  const text = (property: string) => new RegExp(`^${property}[^=\\n]* = (.*)$`, 'm').exec(told)?.[1];
  const strings = (list = '') => [...list.matchAll(/"((?:[^"\\]|\\.)*)"/g)].map((found) => unescaped(found[1]!));
  const title = strings(text('_NET_WM_NAME'))[0] ?? strings(text('WM_NAME'))[0] ?? '';
  const pid = Number(text('_NET_WM_PID'));
  return { title, program: strings(text('WM_CLASS')).at(-1) ?? '', pid: Number.isInteger(pid) && pid > 0 ? pid : null };
}

/** xprop writes quotation marks and bytes beyond ASCII with a backslash. */
function unescaped(text: string): string {
  const bytes: number[] = [];
  for (let at = 0; at < text.length; at++) {
    const octal = /^\\([0-7]{3})/.exec(text.slice(at, at + 4))?.[1];
    if (octal) {
      bytes.push(parseInt(octal, 8));
      at += 3;
    } else {
      if (text[at] === '\\') at++;
      bytes.push(...new TextEncoder().encode(text[at] ?? ''));
    }
  }
  return new TextDecoder().decode(Uint8Array.from(bytes));
}

/** Milliseconds since keys or pointer were last touched. */
const idle = async (): Promise<number> => Number((await ask('xprintidle', [])).trim());

/** Calls back when another window comes to the front, or the one that has it is closed. */
function onChange(changed: () => void): () => void {
  const spy = spawn('xprop', ['-spy', '-root', '_NET_ACTIVE_WINDOW'], { stdio: ['ignore', 'pipe', 'ignore'] });
  spy.on('error', () => undefined);
  spy.stdout.on('data', changed);
  return () => spy.kill();
}

export const x11: Desk = { name: 'X11', front, idle, onChange };
