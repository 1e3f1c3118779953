import { seal, unseal, type SealingKey } from '@half-penny/formats/sealed';
import { readTrail, trailTables, writeTrail, type TrailTableName } from '@half-penny/formats/trail';
import { expose } from 'comlink';
import type { IndexableType } from 'dexie';
import { TrailDatabase } from '../data/trail-database';

// The trail's backup: a long read, a seal for each piece, and a passphrase that takes its time.

const BATCH = 2000;
/** Called with the number of rows that are done. */
type Progress = (rows: number) => void;

async function* rowsOf(
  trail: TrailDatabase,
  onProgress: Progress,
): AsyncGenerator<readonly [TrailTableName, readonly object[]]> {
  let done = 0;
  for (const name of trailTables) {
    const table = trail.table<object>(name);
    const keys = await table.toCollection().primaryKeys();
    for (let from = 0; from < keys.length; from += BATCH) {
      const rows = await table.bulkGet(keys.slice(from, from + BATCH));
      // What was deleted meanwhile is not in it.
      yield [name, rows.filter((row) => row !== undefined)];
      onProgress((done += Math.min(BATCH, keys.length - from)));
    }
  }
}

const work = {
  async seal(sealing: SealingKey, onProgress: Progress): Promise<Blob> {
    const trail = new TrailDatabase();
    try {
      return await seal(writeTrail(rowsOf(trail, onProgress)), sealing);
    } finally {
      trail.close();
    }
  },

  /**
   * Puts what a sealed trail holds and this browser does not into the trail, all of it or nothing. What is here stays as it is.
   *
   * @returns how many rows came
   */
  async bringBack(file: Blob, passphrase: string): Promise<number> {
    const rows = await readTrail(await unseal(file, passphrase));
    const trail = new TrailDatabase();
    try {
      let came = 0;
      await trail.transaction('rw', trail.tables, async () => {
        for (const name of trailTables) {
          const table = trail.table<object>(name);
          const path = table.schema.primKey.keyPath!;
          const keyOf = (row: object): IndexableType => {
            const key = ([] as string[]).concat(path).map((part) => (row as Record<string, string | number>)[part]!);
            return typeof path === 'string' ? key[0]! : key;
          };
          for (let from = 0; from < rows[name].length; from += BATCH) {
            const batch = rows[name].slice(from, from + BATCH);
            const here = await table.bulkGet(batch.map(keyOf));
            const missing = batch.filter((_, place) => here[place] === undefined);
            await table.bulkPut(missing);
            came += missing.length;
          }
        }
      });
      return came;
    } finally {
      trail.close();
    }
  },
};
export type TrailWork = typeof work;

expose(work);
