import { ask } from './ask';
import type { Desk, FrontWindow } from './desk';

// What is asked: osascript for the process that is frontmost (the person allows it under Privacy & Security → Accessibility), and ioreg
// for the idle time of the HID system, which counts nanoseconds.

const SCRIPT = `tell application "System Events"
  set inFront to first application process whose frontmost is true
  set windowTitle to ""
  try
    set windowTitle to value of attribute "AXTitle" of (value of attribute "AXFocusedWindow" of inFront)
  end try
  return (name of inFront) & linefeed & (unix id of inFront) & linefeed & windowTitle
end tell`;

async function front(): Promise<FrontWindow | null> {
  const [program = '', pid = '', ...title] = (await ask('osascript', ['-e', SCRIPT])).replace(/\n$/, '').split('\n');
  if (program === '') return null;
  return { program, title: title.join(' '), pid: /^\d+$/.test(pid) ? Number(pid) : null };
}

async function idle(): Promise<number> {
  const told = await ask('ioreg', ['-c', 'IOHIDSystem', '-d', '4']);
  const nanoseconds = /"HIDIdleTime" = (\d+)/.exec(told)?.[1];
  if (nanoseconds === undefined) throw new Error('ioreg tells no HIDIdleTime.');
  return Math.round(Number(nanoseconds) / 1e6);
}

export const macos: Desk = { name: 'macOS', front, idle };
