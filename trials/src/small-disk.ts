import { spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmdirSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A file system in memory that is small enough to be filled up. */
export class SmallDisk {
  readonly folder: string;

  private constructor(folder: string) {
    this.folder = folder;
  }

  /** @returns null where it cannot be mounted, as for anybody but root */
  static make(megabytes: number): SmallDisk | null {
    const folder = mkdtempSync(join(tmpdir(), 'half-penny-disk-'));
    const { status } = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m,mode=0755`, 'tmpfs', folder]);
    if (status === 0) return new SmallDisk(folder);
    rmdirSync(folder);
    return null;
  }

  get #filler(): string {
    return join(this.folder, 'filler');
  }

  /** Not a byte more fits. */
  fill(): void {
    const file = openSync(this.#filler, 'w');
    try {
      for (const size of [1_000_000, 1000, 1]) {
        const chunk = Buffer.alloc(size, 1);
        for (;;) if (writeSync(file, chunk) < size) break;
      }
    } catch (thrown) {
      if ((thrown as NodeJS.ErrnoException).code !== 'ENOSPC') throw thrown;
    } finally {
      closeSync(file);
    }
  }

  /** What filled it is gone again. */
  empty(): void {
    rmSync(this.#filler, { force: true });
  }

  remove(): void {
    spawnSync('umount', ['-l', this.folder]);
    rmSync(this.folder, { recursive: true, force: true });
  }
}
