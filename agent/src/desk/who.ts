import { execFile } from 'node:child_process';

/** Asks who is at the computer: true for its person, false for somebody else. */
export type AskWho = () => Promise<boolean>;

const QUESTION = 'Is it you at this computer? What is done here is recorded for Half Penny if you say yes.';
const YES = 'It is me';
const NO = 'Somebody else';

/** The programs by which a system asks, each with what makes it ask. They answer 0 for yes and 1 for no (their manuals). */
const ways: Readonly<Record<string, readonly (readonly [program: string, args: readonly string[]])[]>> = {
  linux: [
    ['zenity', ['--question', '--title=Half Penny', `--text=${QUESTION}`, `--ok-label=${YES}`, `--cancel-label=${NO}`]],
    ['kdialog', ['--title', 'Half Penny', '--yes-label', YES, '--no-label', NO, '--yesno', QUESTION]],
  ],
  darwin: [
    [
      'osascript',
      // "No" is the cancel button, upon which osascript ends with 1.
      ['-e', `display dialog "${QUESTION}" with title "Half Penny" buttons {"${NO}", "${YES}"} cancel button "${NO}"`],
    ],
  ],
  win32: [
    [
      'powershell',
      [
        '-NoProfile',
        '-Command',
        `Add-Type -AssemblyName System.Windows.Forms; exit [int]([System.Windows.Forms.MessageBox]::Show('${QUESTION}', 'Half Penny', 'YesNo') -ne 'Yes')`,
      ],
    ],
  ],
};

const exitOf = (program: string, args: readonly string[]): Promise<number | string> =>
  new Promise((resolve) => {
    execFile(program, [...args], (fault) => resolve(fault ? (fault.code ?? 1) : 0));
  });

/** How this system asks; of several programs the first that is there. @throws Error in words where there is none */
export function whoByDialog(platform: string): AskWho {
  return async () => {
    for (const [program, args] of ways[platform] ?? []) {
      const exit = await exitOf(program, args);
      if (exit === 0 || exit === 1) return exit === 0;
    }
    const names = (ways[platform] ?? []).map(([program]) => program).join(' or ');
    throw new Error(`Nobody can be asked who is here${names ? `: install ${names}` : ''}.`);
  };
}
