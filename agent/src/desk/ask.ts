import { execFile } from 'node:child_process';

/** What a program of the system answers; it is given two seconds. */
export const ask = (command: string, args: readonly string[]): Promise<string> =>
  new Promise((resolve, reject) => {
    execFile(command, [...args], { timeout: 2000, encoding: 'utf8' }, (fault, out) =>
      fault ? reject(fault) : resolve(out),
    );
  });

/** Whether a question is answered at all. */
export const answers = (question: () => Promise<unknown>): Promise<boolean> =>
  question().then(
    () => true,
    () => false,
  );
