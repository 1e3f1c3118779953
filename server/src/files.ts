import { closeSync, fsyncSync, openSync, renameSync, writeFileSync } from 'node:fs';

/** Whole or not at all: a file that takes the place of the old one only once it is on the disk. */
export function writeSafely(path: string, content: string | Buffer): void {
  const file = openSync(`${path}.new`, 'w', 0o600);
  try {
    writeFileSync(file, content);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(`${path}.new`, path);
}
