import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process';
import { createInterface } from 'node:readline';
import * as z from 'zod';
import type { Desk, FrontWindow } from './desk';

// What is asked: one PowerShell that stays, as starting one takes longer than a look may; for each line it is sent it answers with a line
// of JSON out of GetForegroundWindow, GetWindowText, GetWindowThreadProcessId and GetLastInputInfo (user32.dll).

const SCRIPT = `[Console]::OutputEncoding = [Text.Encoding]::UTF8
Add-Type @'
using System; using System.Runtime.InteropServices; using System.Text;
public static class Desk {
  [DllImport("user32.dll")] static extern IntPtr GetForegroundWindow();
  [DllImport("user32.dll", CharSet = CharSet.Unicode)] static extern int GetWindowText(IntPtr window, StringBuilder text, int length);
  [DllImport("user32.dll")] static extern uint GetWindowThreadProcessId(IntPtr window, out uint process);
  struct LastInput { public uint Size; public uint Time; }
  [DllImport("user32.dll")] static extern bool GetLastInputInfo(ref LastInput input);
  public static string Title() { var text = new StringBuilder(2000); GetWindowText(GetForegroundWindow(), text, 2000); return text.ToString(); }
  public static uint Process() { uint process; GetWindowThreadProcessId(GetForegroundWindow(), out process); return process; }
  public static uint Idle() { var input = new LastInput(); input.Size = 8; GetLastInputInfo(ref input); return unchecked((uint)Environment.TickCount - input.Time); }
}
'@
while ($null -ne [Console]::In.ReadLine()) {
  $id = [Desk]::Process()
  $program = if ($id) { (Get-Process -Id $id).ProcessName } else { '' }
  @{ title = [Desk]::Title(); program = $program; pid = $id; idle = [Desk]::Idle() } | ConvertTo-Json -Compress
}`;

const answerSchema = z.object({
  title: z.string().nullable(),
  program: z.string().nullable(),
  pid: z.int().min(0),
  idle: z.number().min(0),
});
type Answer = z.output<typeof answerSchema>;
const PATIENCE = 10_000;

/** A PowerShell that answers line by line. */
class Asked {
  readonly #child: ChildProcessWithoutNullStreams;
  readonly #waiting: { resolve: (answer: Answer) => void; reject: (fault: Error) => void }[] = [];
  ended = false;

  constructor() {
    this.#child = spawn('powershell', ['-NoProfile', '-NonInteractive', '-Command', SCRIPT]);
    const end = () => {
      this.ended = true;
      this.#waiting.splice(0).forEach(({ reject }) => reject(new Error('PowerShell ended.')));
    };
    this.#child.on('error', end).on('exit', end);
    this.#child.stdin.on('error', end);
    createInterface(this.#child.stdout).on('line', (line) => {
      const waiting = this.#waiting.shift();
      try {
        waiting?.resolve(answerSchema.parse(JSON.parse(line)));
      } catch (thrown) {
        waiting?.reject(thrown as Error);
      }
    });
  }

  ask(): Promise<Answer> {
    return new Promise((resolve, reject) => {
      if (this.ended) return reject(new Error('PowerShell ended.'));
      const late = setTimeout(() => this.#child.kill(), PATIENCE);
      const settled =
        <T>(then: (value: T) => void) =>
        (value: T) => (clearTimeout(late), then(value));
      this.#waiting.push({ resolve: settled(resolve), reject: settled(reject) });
      this.#child.stdin.write('\n');
    });
  }

  end(): void {
    this.#child.kill();
  }
}

let asked: Asked | null = null;
/** Answers for both questions of one look. */
let last: Answer | null = null;

async function front(): Promise<FrontWindow | null> {
  if (!asked || asked.ended) asked = new Asked();
  last = await asked.ask();
  const { title, program, pid } = last;
  return pid === 0 ? null : { title: title ?? '', program: program ?? '', pid };
}

async function idle(): Promise<number> {
  if (!last) await front();
  return last!.idle;
}

export const windows: Desk = { name: 'Windows', front, idle };

/** Ends the PowerShell that stays. */
export function endWindows(): void {
  asked?.end();
  asked = null;
  last = null;
}
