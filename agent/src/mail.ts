import type { Activity } from '@half-penny/core/capture';
import { readMail } from '@half-penny/formats/activity';
import { watch, type FSWatcher } from 'chokidar';
import { closeSync, existsSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

/** Heads are at the beginning; more of a mail is never read. */
const HEAD = 200_000;

/** Whether a path can be watched: a Maildir folder, or a file of mails (mbox). */
export const isMailbox = (path: string): boolean =>
  existsSync(path) && (statSync(path).isDirectory() ? existsSync(join(path, 'cur')) : true);

/** What flags of a Maildir file say (its "info": the letters behind ":2,"): seen, and replied to. */
const FLAGS = [
  ['S', 'Mail, read'],
  ['R', 'Mail, answered'],
] as const;

/**
 * Watches mailboxes: what comes from now on is told with its date, from whom and to whom, and what about; of a Maildir also when it was
 * read and answered. Bodies are not read.
 */
export async function watchMail(
  paths: readonly string[],
  record: (activities: Activity[]) => void,
  now: () => number = Date.now,
): Promise<FSWatcher> {
  const flagsOf = new Map<string, string>();
  const lengths = new Map<string, number>();
  let begun = false;
  const told = async (text: string, program: string, at: number | null) => {
    const { activities } = await readMail(text);
    record(activities.map((each) => ({ ...each, program, ...(at === null ? {} : { from: at, to: at }) })));
  };
  const maildir = async (file: string) => {
    const [name = '', info = ''] = basename(file).split(':2,');
    const before = flagsOf.get(name);
    flagsOf.set(name, info);
    if (!begun) return;
    const head = headOf(file);
    if (before === undefined) await told(head, 'Mail', null);
    for (const [flag, program] of FLAGS)
      if (info.includes(flag) && !before?.includes(flag)) await told(head, program, now());
  };
  const mbox = async (file: string) => {
    const before = lengths.get(file) ?? 0;
    const text = readFileSync(file);
    lengths.set(file, text.length);
    // A box that was tidied up is read from its new end on.
    if (begun && text.length > before) await told(text.subarray(before).toString('utf8'), 'Mail', null);
  };
  // What can not be read, as a file that was moved meanwhile, is told by its next name.
  const seen = (file: string) =>
    void (/^(?:new|cur)$/.test(basename(dirname(file))) ? maildir(file) : mbox(file)).catch(() => undefined);
  const places = paths.flatMap((path) =>
    statSync(path).isDirectory() ? [join(path, 'new'), join(path, 'cur')] : [path],
  );
  const watcher = watch(places, { awaitWriteFinish: { stabilityThreshold: 200, pollInterval: 50 } });
  watcher.on('add', seen).on('change', seen);
  // Nothing to watch is never said to be ready.
  if (places.length > 0) await new Promise<void>((done) => watcher.once('ready', done));
  begun = true;
  return watcher;
}

function headOf(file: string): string {
  const bytes = Buffer.alloc(HEAD);
  const open = openSync(file, 'r');
  try {
    return bytes.subarray(0, readSync(open, bytes, 0, HEAD, 0)).toString('utf8');
  } finally {
    closeSync(open);
  }
}
